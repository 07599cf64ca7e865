//! Fineness of an eye for two colours that touch, from what the drills know of it.

use crate::kinds::Drill;
use crate::schedule::Answered;
use crate::threshold::Threshold;
use lean_piece::paint_box::EyeDoubt;

/// CIELAB units of L* in a step of value.
const STEP: f64 = 10.0;
/// Share of the size a drill asks that remains as an error where two colours touch: the value drill asks for a value by itself, the drill of warm
/// and cool for two patches that lie apart. Choices: where edges touch, an eye of no practice then sees an eighth of a step.
const TOUCHING: (f64, f64) = (1.0 / 6.0, 1.0 / 4.0);
/// Error of an answer in quarter steps: a quarter step over the root of twelve, in CIELAB units of value and of colour.
const QUARTERS: (f64, f64) = (0.72, 0.87);
/// Answers that count: an eye changes.
const COUNTED: usize = 60;

/// The expected errors of a judgement in quarter steps by the eye that gave these answers, the oldest first; those of an eye without practice where there
/// are none.
pub fn eye_doubt(answers: &[Answered]) -> EyeDoubt {
    let size = |drill: Drill| {
        let own: Vec<&Answered> = answers.iter().filter(|a| a.drill == drill).collect();
        Threshold::of(drill, own[own.len().saturating_sub(COUNTED)..].iter().map(|a| (a.size, a.right))).size()
    };
    EyeDoubt {
        value: (TOUCHING.0 * STEP * size(Drill::Value)).hypot(QUARTERS.0),
        colour: (TOUCHING.1 * size(Drill::Warmer)).hypot(QUARTERS.1),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn answers(drill: Drill, size: f64, right: bool) -> Vec<Answered> {
        vec![Answered { drill, on: "2026-03-01".into(), size, right, off: 0.0 }; 30]
    }

    #[test]
    fn a_fine_eye_is_doubted_less_and_only_in_what_it_is_fine_in() {
        let usual = eye_doubt(&[]);
        assert!((1.0..2.0).contains(&usual.value) && (2.0..3.0).contains(&usual.colour), "{usual:?}");
        let fine = eye_doubt(&answers(Drill::Value, 0.2, true));
        assert!(fine.value < 0.7 * usual.value && fine.colour == usual.colour, "{fine:?}");
        assert!(eye_doubt(&answers(Drill::Warmer, 20.0, false)).colour > 1.5 * usual.colour);
    }
}
