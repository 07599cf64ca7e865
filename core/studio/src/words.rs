//! Differences said in words: value first, temperature second, colour last.

use lean_colour::temperature::SAME;

/// Steps of value in words: `half a step too light`. `None` when nobody would see it.
pub fn value_off(steps: f64) -> Option<String> {
    let amount = match (steps.abs() * 4.0).round() as u32 {
        0 => return (steps.abs() >= 0.08).then(|| format!("a hair too {}", if steps > 0.0 { "light" } else { "dark" })),
        1 => "a quarter step".into(),
        2 => "half a step".into(),
        3 => "three quarters of a step".into(),
        4 | 5 => "a step".into(),
        6 | 7 => "a step and a half".into(),
        n => format!("{} steps", (f64::from(n) / 4.0).round()),
    };
    Some(format!("{amount} too {}", if steps > 0.0 { "light" } else { "dark" }))
}

/// Relative temperature in words: `a touch cool`. `None` when it is the same.
pub fn temperature_off(t: f64) -> Option<String> {
    let side = if t > 0.0 { "warm" } else { "cool" };
    let size = t.abs();
    if size < SAME {
        None
    } else if size < 9.0 {
        Some(format!("a touch {side}"))
    } else if size < 20.0 {
        Some(format!("clearly {side}"))
    } else {
        Some(format!("much too {side}"))
    }
}

/// A colour difference (CIEDE2000) in one word.
pub fn closeness(difference: f64) -> &'static str {
    match difference {
        d if d < 1.5 => "the same",
        d if d < 4.0 => "close",
        d if d < 8.0 => "related",
        _ => "another colour",
    }
}

/// One sentence for a mix: what is off, most important first.
pub fn sentence(value: f64, temperature: f64, difference: f64) -> String {
    let parts: Vec<String> = [value_off(value), temperature_off(temperature)].into_iter().flatten().collect();
    let text = match (parts.is_empty(), difference) {
        (false, _) => parts.join(", "),
        (true, d) if d < 1.5 => "sits".into(),
        (true, d) if d < 4.0 => "value and temperature sit, the hue is a little off".into(),
        (true, _) => "value and temperature sit, the hue is another".into(),
    };
    let mut chars = text.chars();
    chars.next().map(|c| c.to_uppercase().chain(chars).collect::<String>() + ".").unwrap_or_default()
}

/// How far a slip of the hand moves a mix, in words; `slip` in units of cost, twenty a step of value.
pub fn slip(slip: f64) -> String {
    let steps = slip / lean_recipes::cost::STEP;
    match steps {
        s if s < 0.05 => "A slip of the hand does not show.".into(),
        s => format!("A slip of the hand: {s:.1} of a step."),
    }
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
    fn a_painter_would_say_it_so() {
        assert_eq!(sentence(0.5, -4.0, 6.0), "Half a step too light, a touch cool.");
        assert_eq!(sentence(-0.27, 1.0, 2.0), "A quarter step too dark.");
        assert_eq!(sentence(0.02, 0.5, 0.9), "Sits.");
        assert_eq!(sentence(-2.1, 25.0, 30.0), "2 steps too dark, much too warm.");
        assert_eq!(value_off(0.1).unwrap(), "a hair too light");
        assert_eq!(value_off(0.05), None);
    }
}
