//! Judgements by eye: how something laid differs from a colour it is held against, in quarter steps.

use lean_colour::Lab;
use lean_colour::temperature::WARM_POLE;
use lean_colour::words::Worded;
use lean_media::learn::Judged;
use serde::{Deserialize, Serialize};

/// CIELAB units of L* in a quarter step of value: a whole step is ten.
const QUARTER_VALUE: f64 = 2.5;
/// CIELAB units of a* and b* in a quarter step of temperature, chroma or hue: the least difference of temperature that is told in words.
const QUARTER_COLOUR: f64 = 3.0;
/// Most quarter steps that can be judged, either way.
pub const MOST_QUARTERS: i8 = 16;
/// Chroma below which a colour has no hue along which it could be stronger. A choice.
const GREY: f64 = 4.0;
/// Weight of a row of answers that was left at "matches", against one that was answered: a stronger orange is warmer, too, whether that was said or not.
/// A choice.
const UNSAID: f64 = 0.3;
/// Weight that keeps a shift small where the answers leave it open. A choice.
const STAY: f64 = 0.02;
/// Share of a difference by which it is misjudged, beside the doubt of the eye. A choice.
const MISJUDGED: f64 = 0.2;

/// Fineness of an eye for two colours that touch.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EyeDoubt {
    /// Expected error of a difference of L*, one standard deviation in CIELAB units.
    pub value: f64,
    /// Expected error of a difference of a* or b*, one standard deviation in CIELAB units.
    pub colour: f64,
}

/// A judgement by eye. Each number is in quarter steps, 0 where it matches.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EyeJudgement {
    /// The colour it was held against, under daylight.
    pub against: Lab,
    /// Quarter steps it is lighter; negative where it is darker.
    #[cfg_attr(feature = "schema", schema(minimum = -16, maximum = 16))]
    pub lighter: i8,
    /// Quarter steps it is warmer; negative where it is cooler.
    #[cfg_attr(feature = "schema", schema(minimum = -16, maximum = 16))]
    pub warmer: i8,
    /// Quarter steps it is stronger; negative where it is duller.
    #[cfg_attr(feature = "schema", schema(minimum = -16, maximum = 16))]
    pub stronger: i8,
    /// Quarter steps its hue is turned towards larger hue angles: from red to yellow, green and blue; negative the other way.
    #[cfg_attr(feature = "schema", schema(minimum = -16, maximum = 16))]
    pub turned: i8,
    /// Fineness of the eye that judged it.
    pub doubt: EyeDoubt,
}

impl EyeJudgement {
    /// A colour said in words alone, held against nothing: it is as doubtful as the words are.
    pub fn worded(words: &Worded) -> Self {
        let doubt = EyeDoubt { value: words.value_error, colour: words.colour_error };
        Self { against: words.lab, lighter: 0, warmer: 0, stronger: 0, turned: 0, doubt }
    }

    /// The colour that was judged, with the errors expected of it.
    pub fn judged(&self) -> Judged {
        let from = self.against;
        let value = QUARTER_VALUE * f64::from(self.lighter);
        let (da, db) = self.shift();
        Judged {
            lab: Lab::new((from.l + value).clamp(0.0, 100.0), from.a + da, from.b + db),
            value_error: self.doubt.value.hypot(MISJUDGED * value),
            colour_error: self.doubt.colour.hypot(MISJUDGED * da.hypot(db)),
        }
    }

    /// The least shift of a* and b* that agrees with the answers, in the sense of least squares.
    fn shift(&self) -> (f64, f64) {
        let own = self.against.hue().0.to_radians();
        let warm = WARM_POLE.to_radians();
        let has_hue = self.against.chroma() >= GREY;
        // Direction, quarter steps along it, and whether the question has a meaning.
        let rows = [
            (warm, self.warmer, true),
            (own, self.stronger, has_hue),
            (own + std::f64::consts::FRAC_PI_2, self.turned, has_hue && self.turned != 0),
        ];
        let (mut aa, mut ab, mut bb, mut a, mut b) = (STAY, 0.0, STAY, 0.0, 0.0);
        for (angle, quarters, _) in rows.into_iter().filter(|r| r.2) {
            let (y, x) = angle.sin_cos();
            let weight = if quarters == 0 { UNSAID * UNSAID } else { 1.0 };
            let along = QUARTER_COLOUR * f64::from(quarters);
            (aa, ab, bb) = (aa + weight * x * x, ab + weight * x * y, bb + weight * y * y);
            (a, b) = (a + weight * x * along, b + weight * y * along);
        }
        let determinant = aa * bb - ab * ab;
        ((a * bb - b * ab) / determinant, (b * aa - a * ab) / determinant)
    }

    /// Checks the numbers.
    ///
    /// # Errors
    /// Says what is wrong and what would be right.
    pub fn check(&self) -> Result<(), String> {
        let answers = [("lighter", self.lighter), ("warmer", self.warmer), ("stronger", self.stronger), ("turned", self.turned)];
        if let Some((name, n)) = answers.into_iter().find(|(_, n)| n.abs() > MOST_QUARTERS) {
            return Err(format!("{name} by {n} quarter steps is too far to be judged by eye; at most {MOST_QUARTERS} can be."));
        }
        let EyeDoubt { value, colour } = self.doubt;
        if ![value, colour].iter().all(|d| d.is_finite() && *d > 0.0) {
            return Err(format!("A doubt of {value} and {colour} is none: both are CIELAB units above 0."));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn eye(against: Lab, [lighter, warmer, stronger, turned]: [i8; 4]) -> EyeJudgement {
        EyeJudgement { against, lighter, warmer, stronger, turned, doubt: EyeDoubt { value: 2.0, colour: 4.0 } }
    }

    fn near(a: f64, b: f64, by: f64) {
        assert!((a - b).abs() < by, "{a} is not {b}");
    }

    #[test]
    fn what_sits_is_the_colour_it_was_held_against() {
        let green = Lab::new(50.0, -30.0, 20.0);
        let judged = eye(green, [0; 4]).judged();
        assert_eq!((judged.lab, judged.value_error, judged.colour_error), (green, 2.0, 4.0));
    }

    #[test]
    fn each_answer_moves_its_own_coordinate() {
        let green = Lab::from_lch(50.0, 40.0, 140.0);
        near(eye(green, [-2, 0, 0, 0]).judged().lab.l, 45.0, 1e-9);
        near(eye(green, [0, 2, 0, 0]).judged().lab.temperature().0, 6.0, 0.2);
        near(eye(green, [0, 0, -2, 0]).judged().lab.chroma(), 34.0, 0.2);
        let turned = eye(green, [0, 0, 0, 2]).judged().lab;
        assert!(turned.hue().0 > 145.0 && turned.chroma() > 38.0, "{turned:?}");
    }

    #[test]
    fn a_stronger_orange_is_warmer_too_and_is_not_counted_twice() {
        let orange = Lab::from_lch(65.0, 50.0, 50.0);
        let said_once = eye(orange, [0, 0, 2, 0]).judged().lab.chroma();
        let said_twice = eye(orange, [0, 2, 2, 0]).judged().lab.chroma();
        near(said_once, 56.0, 0.7);
        near(said_twice, 56.0, 0.3);
    }

    #[test]
    fn a_grey_has_no_hue_to_be_stronger_in() {
        let grey = Lab::new(50.0, 0.5, -0.5);
        assert_eq!(eye(grey, [0, 0, 4, 2]).judged().lab, grey);
        assert!(eye(grey, [0, 4, 0, 0]).judged().lab.temperature().0 > 11.0);
    }

    #[test]
    fn what_lies_far_off_is_judged_less_surely_and_what_is_too_far_is_refused() {
        let wide = eye(Lab::new(50.0, 0.0, 0.0), [8, 0, 0, 0]).judged();
        assert!(wide.value_error > 4.0);
        let refused = eye(Lab::new(50.0, 0.0, 0.0), [0, 40, 0, 0]).check().unwrap_err();
        assert!(refused.contains("40") && refused.contains("warmer"));
    }
}
