//! The colour that the words at a mark and its guess of a pigment say.

use super::FieldMark;
use crate::paints::learned::{predicted, swatches_of};
use lean_colour::Lab;
use lean_colour::words::{self, Worded};
use lean_media::layering::State;
use lean_piece::paint_box::PaintBox;

/// A colour that was said, not measured.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SaidColour {
    /// The colour most likely meant.
    pub lab: Lab,
    /// Expected error of its lightness: one standard deviation in L*.
    pub value_error: f64,
    /// Expected error of a* and of b*: one standard deviation in CIELAB units.
    pub colour_error: f64,
}

/// Expected errors of a colour that is said to be laid with a pigment: it may be a tint of it, or a mix. Choices.
const OF_PIGMENT: (f64, f64) = (18.0, 14.0);

impl From<Worded> for SaidColour {
    fn from(w: Worded) -> Self {
        Self { lab: w.lab, value_error: w.value_error, colour_error: w.colour_error }
    }
}

impl SaidColour {
    /// Two sayings of one colour taken together, each weighed by its errors.
    pub(super) fn and(self, other: Self) -> Self {
        let joined = |a: f64, e: f64, b: f64, f: f64| {
            let (w, v) = (e.powi(-2), f.powi(-2));
            ((a * w + b * v) / (w + v), (w + v).powf(-0.5))
        };
        let (l, value_error) = joined(self.lab.l, self.value_error, other.lab.l, other.value_error);
        let (a, colour_error) = joined(self.lab.a, self.colour_error, other.lab.a, other.colour_error);
        let (b, _) = joined(self.lab.b, self.colour_error, other.lab.b, other.colour_error);
        Self { lab: Lab::new(l, a, b), value_error, colour_error }
    }
}

/// The colour a mark says in words, and by the pigment it may be: of the Box, else by what its name says. `None` where neither is understood.
pub fn colour_said(mark: &FieldMark, paint_box: Option<&PaintBox>) -> Option<SaidColour> {
    let words = words::read(&mark.word).map(SaidColour::from);
    let (value_error, colour_error) = OF_PIGMENT;
    let of_box = paint_box.and_then(|b| guessed(b, &mark.pigment));
    let pigment = of_box.or_else(|| words::read(&mark.pigment).map(|w| w.lab)).map(|lab| SaidColour { lab, value_error, colour_error });
    match (words, pigment) {
        (Some(words), Some(pigment)) => Some(words.and(pigment)),
        (one, other) => one.or(other),
    }
}

/// The colour of the pigment of a Box that a guess names: by its whole name, else the first whose name has every word of the guess.
fn guessed(paint_box: &PaintBox, guess: &str) -> Option<Lab> {
    let guess = guess.trim().trim_end_matches('?').to_lowercase();
    let words: Vec<&str> = guess.split_whitespace().collect();
    if words.is_empty() {
        return None;
    }
    let named = |p: &&lean_media::Pigment| p.name.eq_ignore_ascii_case(&guess) || p.id.0.eq_ignore_ascii_case(&guess);
    let has_all = |p: &&lean_media::Pigment| {
        let name = p.name.to_lowercase();
        words.iter().all(|w| name.split_whitespace().any(|n| n == *w))
    };
    let pigment = paint_box.pigments.iter().find(named).or_else(|| paint_box.pigments.iter().find(has_all))?;
    let (_, swatch) = swatches_of(paint_box, pigment).into_iter().next()?;
    Some(predicted(paint_box, &swatch, State::Dry)?.xyz().lab())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::field_note::FieldMark;
    use lean_picture::spot::Spot;

    fn mark(word: &str, pigment: &str) -> FieldMark {
        FieldMark { place: Spot { x: 0.5, y: 0.5 }, word: word.into(), value: None, side: None, pigment: pigment.into() }
    }

    fn pens() -> PaintBox {
        let b = lean_demo::pens();
        PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
    }

    #[test]
    fn a_guess_is_looked_up_in_the_box_before_it_is_read_as_words() {
        let pens = pens();
        let moss = pens.pigments.iter().find(|p| p.name.to_lowercase().contains("moss")).unwrap();
        let by_box = colour_said(&mark("", &format!("{}?", moss.name)), Some(&pens)).unwrap();
        let (_, swatch) = swatches_of(&pens, moss).remove(0);
        assert_eq!(by_box.lab, predicted(&pens, &swatch, State::Dry).unwrap().xyz().lab());
        let by_words = colour_said(&mark("", "yellow ochre?"), None).unwrap();
        assert_eq!(by_words.lab, words::read("yellow ochre").unwrap().lab);
    }

    #[test]
    fn words_and_guess_are_surer_together_than_alone() {
        let [word, both] = ["", "burnt sienna"].map(|p| colour_said(&mark("dull orange", p), None).unwrap());
        assert!(both.value_error < word.value_error && both.colour_error < word.colour_error);
        assert!(both.lab.l < word.lab.l, "the guess draws it darker");
    }

    #[test]
    fn what_is_not_understood_says_nothing() {
        assert_eq!(colour_said(&mark("far bank", "no idea"), None), None);
    }
}
