//! `lean-swatch difference "L,a,b" "L,a,b"`

use clap::Args;
use lean_colour::Lab;
use lean_plan::wording;

#[derive(Args)]
pub(super) struct Difference {
    /// What is wanted: CIELAB under D65, "L,a,b".
    #[arg(allow_negative_numbers = true)]
    wanted: String,
    /// What is given.
    #[arg(allow_negative_numbers = true)]
    given: String,
}

pub(super) fn run(a: Difference) -> Result<wording::Difference, String> {
    Ok(wording::Difference::of(lab(&a.wanted)?, lab(&a.given)?))
}

pub(super) fn lab(text: &str) -> Result<Lab, String> {
    let numbers: Vec<f64> = text
        .split(',')
        .map(|n| n.trim().parse::<f64>().ok().filter(|n| n.is_finite()).ok_or_else(|| format!("\"{text}\": \"{}\" is no number", n.trim())))
        .collect::<Result<_, _>>()?;
    let [l, a, b] = numbers[..] else { return Err(format!("\"{text}\" is no colour: write three numbers, L,a,b, as in \"52,-8,30\"")) };
    if !(0.0..=100.0).contains(&l) || a.abs() > 200.0 || b.abs() > 200.0 {
        return Err(format!("\"{text}\" is no colour: L lies between 0 and 100, a and b between -200 and 200"));
    }
    Ok(Lab::new(l, a, b))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_colour_is_read_or_said_to_be_none() {
        assert_eq!(lab("52,-8, 30"), Ok(Lab::new(52.0, -8.0, 30.0)));
        assert!(lab("52,-8").unwrap_err().contains("three numbers"));
        assert!(lab("52,x,1").unwrap_err().contains("\"x\" is no number"));
        assert!(lab("120,0,0").unwrap_err().contains("between 0 and 100"));
    }
}
