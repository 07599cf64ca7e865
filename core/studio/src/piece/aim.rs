//! What the search for a piece aims at, and how its mixes are made.

use super::state::{Piece, ZoneId};
use crate::intent::schools::{Question, School};
use crate::mixes::{ground_of, targets};
use crate::paint_box::PaintBox;
use lean_media::{Medium, Pigment};
use lean_recipes::Grain;
use lean_recipes::cost::{Colour, Ranking};
use lean_recipes::{Cost, Target};
use lean_search::MOST_IN_SET;
use lean_search::{Ask, Choice, Demands, Need};
use serde::{Deserialize, Serialize};
use std::ops::RangeInclusive;

/// What counts when a mix is matched with its target.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Matching {
    /// A step of value weighs more than any hue.
    #[default]
    ValueFirst,
    /// The whole difference, value no more than the rest.
    Strict,
    /// Values, and warm or cool; the hue is free.
    ValuesOnly,
}

/// Another piece the same set should serve.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Companion {
    /// Its number.
    pub piece: i64,
    /// How much it counts; this piece counts 1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub weight: f64,
}

/// Most other pieces one set serves.
pub const MOST_COMPANIONS: usize = 4;

/// What the search aims at.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Aim {
    /// What counts.
    pub matching: Matching,
    /// Charge per step of value against a colour difference of 1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 100))]
    pub value_weight: f64,
    /// Whether misses too small to be seen cost nothing.
    pub good_enough: bool,
    /// Largest set searched for.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 8))]
    pub largest: u8,
    /// Other pieces to serve.
    pub also_for: Vec<Companion>,
}

impl Default for Aim {
    fn default() -> Self {
        Self {
            matching: Matching::ValueFirst,
            value_weight: Cost::default().value_weight,
            good_enough: false,
            largest: 6,
            also_for: Vec::new(),
        }
    }
}

/// How mixes are made from the set in use.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mixing {
    /// Up to sixteen parts, or a touch of one more pigment.
    pub finer: bool,
    /// Recipes that share pigments where nobody sees the loss.
    pub kin: bool,
    /// Whole parts alone, eight at most: nothing is let down first, and recipes are ranked by their miss alone.
    #[serde(default)]
    pub parts: bool,
    /// Recipes ranked by their miss alone, however unsure a hand is of them.
    #[serde(default)]
    pub by_miss: bool,
    /// Zones mixed by the simpler recipe.
    #[serde(default)]
    pub simple: Vec<ZoneId>,
}

impl Mixing {
    /// How parts of wet mixes are measured.
    pub fn grain(&self) -> Grain {
        match self {
            Self { finer: true, .. } => Grain::Finer,
            Self { parts: true, .. } => Grain::Parts,
            _ => Grain::LetDowns,
        }
    }

    /// What counts besides the miss in a medium. Whole parts are ranked by the miss alone; in layers there is no such choice.
    pub fn ranking(&self, medium: Medium) -> Ranking {
        let in_parts = medium.is_wet_opaque() && (self.parts || self.finer);
        if self.by_miss || in_parts { Ranking::MISS } else { Ranking::SURE }
    }
}

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
        Cost { tolerance, ranking: self.mixing.ranking(self.brief.medium), ..base }
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
        if !games.only_hues.is_empty() {
            let both: Vec<_> = games.only_hues.iter().filter(|h| all.only_hues.is_empty() || all.only_hues.contains(h)).copied().collect();
            all.only_hues = if both.is_empty() { games.only_hues.clone() } else { both };
        }
        all
    }

    /// These targets, on this piece's ground, at a cost.
    pub fn need(&self, targets: Vec<Target>, cost: Cost) -> Need {
        Need { ground: ground_of(self), targets, cost, weight: 1.0 }
    }

    /// What this piece needs of a set.
    pub fn own_need(&self) -> Need {
        self.need(targets(self), self.cost())
    }

    /// Sizes the search goes through: from two, or from one where mixes are of one pigment anyway, as far as the painter wants.
    pub fn sizes(&self) -> RangeInclusive<usize> {
        let game = self.intent.games.most_pigments.unwrap_or(MOST_IN_SET as u8);
        let largest = usize::from(self.aim.largest.min(game)).clamp(1, MOST_IN_SET);
        let smallest = if self.demands.most_in_mix == Some(1) { 1 } else { 2 };
        smallest.min(largest)..=largest
    }

    /// How parts are measured while sets are searched: finer mixes are made of the set that was found with usual ones.
    fn searched_grain(&self) -> Grain {
        if self.mixing.grain() == Grain::LetDowns { Grain::LetDowns } else { Grain::Parts }
    }

    /// What is asked of the search for this piece.
    pub fn ask<'a>(&self, paint_box: &'a PaintBox, needs: Vec<Need>, sizes: RangeInclusive<usize>) -> Asked<'a> {
        let choice =
            Choice { locked: self.locked.clone(), excluded: self.excluded.clone(), demands: self.asked(), grain: self.searched_grain() };
        Asked { pigments: &paint_box.pigments, medium: self.brief.medium, needs, choice, sizes }
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
    use crate::findings::staged::{Staged, staged_in};

    fn under(medium: Medium, question: Question, school: School) -> Piece {
        let mut piece = staged_in(medium, "cold-pressed", &[Staged::vt(6.0, 0.0)]);
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
