//! Everything that is said in words about colours: value first, then chroma and hue, temperature last.

use lean_colour::Steps;

mod difference;
pub mod grammar;
pub mod hue;
pub mod known;

pub use difference::{Chroma, Difference, Hue, Warmth, turns};

/// Steps of value in words, to the nearest quarter: `half a step too light`. `None` when nobody would see it.
pub fn value_off(by: Steps) -> Option<String> {
    let Steps(steps) = by;
    let side = if steps > 0.0 { "light" } else { "dark" };
    let quarters = (steps.abs() * 4.0).round() as usize;
    if quarters == 0 {
        return (steps.abs() >= HAIR).then(|| format!("a hair too {side}"));
    }
    Some(format!("{} too {side}", in_quarters(quarters)))
}

/// A number of steps in words, to the nearest quarter, above 0.
pub fn steps(steps: Steps) -> String {
    match (steps.0 * 4.0).round() as usize {
        0 => "a hair".into(),
        quarters => in_quarters(quarters),
    }
}

/// Steps of value that are just seen side by side. A choice.
const HAIR: f64 = 0.08;

/// So many quarters of a step: `a step and a half`, `two and a quarter steps`.
fn in_quarters(quarters: usize) -> String {
    const WHOLE: [&str; 11] = ["no", "a", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"];
    const PART: [&str; 4] = ["", "a quarter", "a half", "three quarters"];
    let (whole, part) = (WHOLE[(quarters / 4).min(10)], PART[quarters % 4]);
    match (quarters / 4, quarters % 4) {
        (0, 1) => "a quarter step".into(),
        (0, 2) => "half a step".into(),
        (0, _) => "three quarters of a step".into(),
        (1, 0) => "a step".into(),
        (1, _) => format!("a step and {part}"),
        (_, 0) => format!("{whole} steps"),
        (_, _) => format!("{whole} and {part} steps"),
    }
}

/// A colour difference (CIEDE2000) in one word.
pub(crate) fn closeness(difference: f64) -> &'static str {
    match difference {
        d if d < 1.5 => "the same",
        d if d < 4.0 => "close",
        d if d < 8.0 => "related",
        _ => "another colour",
    }
}

/// How far a slip of the hand moves a mix, in words; `slip` in units of cost, twenty a step of value.
pub fn slip(slip: f64) -> String {
    let steps = slip / lean_recipes::cost::STEP;
    match steps {
        s if s < 0.05 => "If your measure is 20 % off, nobody sees it.".into(),
        s => format!("If your measure is 20 % off: {s:.1} value steps."),
    }
}

/// A sentence to go on with: its first letter small.
pub(crate) fn lowered(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |c| c.to_lowercase().chain(chars).collect())
}

/// The text with its first letter large.
pub fn capital(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map(|c| c.to_uppercase().chain(chars).collect()).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn steps_are_said_to_the_nearest_quarter() {
        let said = |steps| value_off(Steps(steps)).unwrap_or_default();
        for (steps, words) in [
            (0.05, ""),
            (0.1, "a hair too light"),
            (-0.27, "a quarter step too dark"),
            (0.5, "half a step too light"),
            (-0.76, "three quarters of a step too dark"),
            (1.02, "a step too light"),
            (1.25, "a step and a quarter too light"),
            (1.6, "a step and a half too light"),
            (-1.75, "a step and three quarters too dark"),
            (2.0, "two steps too light"),
            (-2.3, "two and a quarter steps too dark"),
            (3.5, "three and a half steps too light"),
        ] {
            assert_eq!(said(steps), words, "{steps}");
        }
    }
}
