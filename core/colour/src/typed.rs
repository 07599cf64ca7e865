//! Colours as they are typed.

use crate::lab::Lab;
use crate::screen::lab_of_srgb;
use crate::words::{self, Worded};

/// A colour from text, and what it was said with.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Typed {
    /// Numbers.
    Exact(Lab),
    /// Words, with their doubt.
    Words(Worded),
}

impl Typed {
    /// The colour.
    pub fn lab(&self) -> Lab {
        match self {
            Self::Exact(lab) => *lab,
            Self::Words(worded) => worded.lab,
        }
    }
}

/// A colour from text: as [`read`] takes it, without its doubt.
///
/// # Errors
/// Says which forms are understood.
pub fn parse(text: &str) -> Result<Lab, String> {
    read(text).map(|t| t.lab())
}

/// A colour from text: `#3a6` or `#33aa66` as a screen shows it, `L a b` as three numbers, `lch 60 30 250` by lightness, chroma and hue angle, or words
/// (see [`words::read`]).
///
/// # Errors
/// Says which forms are understood.
pub fn read(text: &str) -> Result<Typed, String> {
    let worded = if text.trim_start().starts_with('#') { None } else { words::read(text) };
    if let Some(worded) = worded {
        return Ok(Typed::Words(worded));
    }
    in_numbers(text).map(Typed::Exact)
}

fn in_numbers(text: &str) -> Result<Lab, String> {
    let refused = || format!("\"{text}\" is no colour. Type words (pale blue grey), #33aa66, L a b as in 60 20 -10, or lch 60 30 250.");
    let plain = text.trim().to_lowercase();
    if let Some(hex) = plain.strip_prefix('#') {
        return of_hex(hex).ok_or_else(refused);
    }
    let (polar, rest) = match plain.strip_prefix("lch") {
        Some(rest) => (true, rest),
        None => (false, plain.strip_prefix("lab").unwrap_or(&plain)),
    };
    let numbers: Vec<f64> = rest
        .split(|c: char| c.is_whitespace() || ",;()".contains(c))
        .filter(|w| !w.is_empty())
        .map(|w| w.replace('\u{2212}', "-").parse().ok().filter(|n: &f64| n.is_finite()))
        .collect::<Option<_>>()
        .ok_or_else(refused)?;
    match (<[f64; 3]>::try_from(numbers), polar) {
        (Ok([l, a, b]), false) if (0.0..=100.0).contains(&l) && a.abs().max(b.abs()) <= 150.0 => Ok(Lab::new(l, a, b)),
        (Ok([l, c, h]), true) if (0.0..=100.0).contains(&l) && (0.0..=150.0).contains(&c) => Ok(Lab::from_lch(l, c, h.rem_euclid(360.0))),
        _ => Err(refused()),
    }
}

fn of_hex(hex: &str) -> Option<Lab> {
    let digits: Vec<u8> = hex.chars().map(|c| c.to_digit(16).map(|d| d as u8)).collect::<Option<_>>()?;
    match digits[..] {
        [r, g, b] => Some(lab_of_srgb([r * 17, g * 17, b * 17])),
        [r, s, g, h, b, c] => Some(lab_of_srgb([r * 16 + s, g * 16 + h, b * 16 + c])),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_taken_with_their_doubt() {
        assert!(matches!(read("pale blue grey"), Ok(Typed::Words(w)) if w.says_value && w.says_hue));
        assert!(matches!(read("60 20 -10"), Ok(Typed::Exact(_))));
    }

    #[test]
    fn three_ways_to_type_a_colour() {
        assert_eq!(parse("#fff").unwrap(), parse("#ffffff").unwrap());
        assert!((parse("#fff").unwrap().l - 100.0).abs() < 0.01);
        assert_eq!(parse("60 20 -10").unwrap(), Lab::new(60.0, 20.0, -10.0));
        assert_eq!(parse("lab(60, 20, \u{2212}10)").unwrap(), Lab::new(60.0, 20.0, -10.0));
        let polar = parse("lch 60 30 250").unwrap();
        assert!((polar.chroma() - 30.0).abs() < 1e-9 && (polar.hue().0 - 250.0).abs() < 1e-9);
        for bad in ["", "boat", "#12", "#gggggg", "1 2", "1 2 3 4", "200 0 0", "lch 50 -3 0", "nan 0 0"] {
            assert!(parse(bad).unwrap_err().contains("Type"), "{bad}");
        }
    }
}
