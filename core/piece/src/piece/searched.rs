//! What is asked of the search for a piece, and what a miss costs there.

use super::Piece;
use super::nearly_finished::nearly_finished;
use super::wanted::targets;
use crate::intent::schools::{Question, School};
use crate::paint_box::PaintBox;
use crate::set::aim::Matching;
use lean_media::{Medium, Pigment};
use lean_recipes::cost::{Colour, Ranking, Within};
use lean_recipes::{Cost, Grain, Target};
use lean_search::{Ask, Choice, Demands, Need, most_in_set};
use std::ops::RangeInclusive;

impl Piece {
    /// What a miss costs in this piece.
    pub fn cost(&self) -> Cost {
        let base = match self.matching() {
            Matching::ValueFirst => Cost { value_weight: self.aim.value_weight, ..Cost::default() },
            Matching::Strict => Cost::strict(),
            Matching::ValuesOnly => {
                Cost { value_weight: self.aim.value_weight, colour: Colour::SideOnly { neutral: self.neutral() }, ..Cost::default() }
            }
        };
        let tolerance = if self.aim.good_enough { Cost::GOOD_ENOUGH } else { base.tolerance };
        // How far values can be had is told by whoever knows the recipes: the Box in a search, the set in a mix.
        Cost { tolerance, ranking: self.ranking(), within: Some(Within::LADDER), ..base }
    }

    /// Charges that count besides the miss.
    fn ranking(&self) -> Ranking {
        self.mixing.ranking(self.brief.medium, self.aim.layer)
    }

    /// What counts: what the painter chose for the search, or else what the schools of the brief ask for.
    pub fn matching(&self) -> Matching {
        let school = |q| self.intent.school(q, self.brief.medium);
        match self.aim.matching {
            Matching::ValueFirst if school(Question::Reference) == School::ValuesOnly => Matching::ValuesOnly,
            Matching::ValueFirst if school(Question::Begin) == School::HuesFirst => Matching::Strict,
            chosen => chosen,
        }
    }

    /// Everything asked of a set: its demands, the rules of the game, and what the school of laying colour allows.
    pub fn asked(&self) -> Demands {
        let games = &self.intent.games;
        let mut all = self.demands.clone();
        all.no_black |= games.no_black || self.intent.school(Question::Black, self.brief.medium) == School::NeverBlack;
        // Whole parts are searched as they always were.
        all.families_may_go |= self.mixing.grain() != Grain::LetDowns && self.brief.medium.is_wet_opaque();
        // A wash mixed before it is laid is one layer; in the other see-through media mixing happens on the surface.
        if self.brief.medium == Medium::Watercolour && self.intent.school(Question::Laying, Medium::Watercolour) == School::MixedOnPalette {
            all.most_layers = Some(1);
        }
        // Where a third layer has to gain something, one is laid, or one over another.
        if self.brief.medium.is_chosen() && self.ranking().third > 0.0 && !all.unusual_layers {
            all.most_in_mix = Some(all.most_in_mix.unwrap_or(2).min(2));
        }
        if !games.only_hues.is_empty() {
            let both: Vec<_> = games.only_hues.iter().filter(|h| all.only_hues.is_empty() || all.only_hues.contains(h)).copied().collect();
            all.only_hues = if both.is_empty() { games.only_hues.clone() } else { both };
        }
        all
    }

    /// These targets, on this piece's ground, at a cost.
    pub fn need(&self, targets: Vec<Target>, cost: Cost) -> Need {
        Need { ground: self.ground(), targets, cost, weight: 1.0 }
    }

    /// What this piece needs of a set.
    pub fn own_need(&self) -> Need {
        self.need(targets(self), self.cost())
    }

    /// Sizes the search goes through: from two, or from one where mixes are of one pigment anyway, as far as the painter wants.
    pub fn sizes(&self) -> RangeInclusive<usize> {
        let game = self.intent.games.most_pigments.unwrap_or(u8::MAX);
        let largest = usize::from(self.aim.largest.min(game)).clamp(1, most_in_set(self.brief.medium));
        let smallest = if self.demands.most_in_mix == Some(1) { 1 } else { 2 };
        smallest.min(largest)..=largest
    }

    /// How parts are measured while sets are searched: finer mixes are made of the set that was found with usual ones.
    fn searched_grain(&self) -> Grain {
        if self.mixing.grain() == Grain::LetDowns { Grain::LetDowns } else { Grain::Parts }
    }

    /// What is asked of the search for this piece.
    pub fn ask<'a>(&self, paint_box: &'a PaintBox, needs: Vec<Need>, sizes: RangeInclusive<usize>) -> Asked<'a> {
        let mut excluded = self.excluded.clone();
        excluded.extend(paint_box.away().filter(|id| !self.locked.contains(id)).cloned());
        excluded.extend(nearly_finished(self, paint_box).into_iter().map(|n| n.pigment));
        let choice = Choice { locked: self.locked.clone(), excluded, demands: self.asked(), grain: self.searched_grain() };
        Asked { pigments: paint_box.searched(), medium: self.brief.medium, needs, choice, sizes }
    }
}

/// An [`Ask`] that owns what it is about.
pub struct Asked<'a> {
    pigments: &'a [Pigment],
    medium: Medium,
    needs: Vec<Need>,
    choice: Choice,
    sizes: RangeInclusive<usize>,
}

impl Asked<'_> {
    /// What to search for.
    pub fn ask(&self) -> Ask<'_> {
        Ask { pigments: self.pigments, medium: self.medium, needs: &self.needs, choice: &self.choice, sizes: self.sizes.clone() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::brief::Brief;
    use crate::units::{Millimetres, Size};
    use lean_media::ground;

    fn under(medium: Medium, question: Question, school: School) -> Piece {
        let size = Size { width: Millimetres(300.0), height: Millimetres(200.0) };
        let mut piece = Piece::new(Brief { title: "Shed".into(), medium, ground: ground::usual(medium).id, size });
        piece.intent.schools.insert(question, school);
        piece
    }

    #[test]
    fn schools_decide_what_counts_until_the_painter_chooses_for_the_search() {
        assert_eq!(under(Medium::Oil, Question::Reference, School::ValuesOnly).matching(), Matching::ValuesOnly);
        let mut piece = under(Medium::Oil, Question::Begin, School::HuesFirst);
        assert_eq!(piece.matching(), Matching::Strict);
        piece.aim.matching = Matching::ValuesOnly;
        assert_eq!(piece.matching(), Matching::ValuesOnly);
    }

    #[test]
    fn a_wash_mixed_before_it_is_laid_is_one_layer() {
        let layers = |medium, school| under(medium, Question::Laying, school).asked().most_layers;
        assert_eq!(layers(Medium::Watercolour, School::MixedOnPalette), Some(1));
        assert_eq!(layers(Medium::Watercolour, School::Glazes), None);
        assert_eq!(layers(Medium::Pencil, School::MixedOnPalette), None, "pencils mix on the surface");
    }

    #[test]
    fn the_game_and_what_is_asked_narrow_each_other() {
        use lean_search::demands::HueFamily;
        let mut piece = under(Medium::Oil, Question::Begin, School::ValuePlan);
        piece.demands.only_hues = vec![HueFamily::Blue, HueFamily::Red];
        piece.intent.games.only_hues = vec![HueFamily::Red, HueFamily::Yellow];
        piece.intent.games.no_black = true;
        let asked = piece.asked();
        assert_eq!((asked.only_hues, asked.no_black), (vec![HueFamily::Red], true));
    }
}
