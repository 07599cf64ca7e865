//! What is asked of the search, what it found, and the set in use.

use super::{Change, Refusal};
use crate::Piece;
use crate::set::aim::{Aim, MOST_COMPANIONS, Mixing};
use crate::set::{ChosenSet, SearchKept};
use lean_media::PigmentId;
use lean_search::{Demands, MOST_IN_SET};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// Say which pigments must and must not be in a set.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetChoice {
    /// Must be in.
    pub locked: Vec<PigmentId>,
    /// Must not be in.
    pub excluded: Vec<PigmentId>,
}

impl Change for SetChoice {
    fn describe(&self) -> String {
        "locks and exclusions".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_distinct(&self.locked)?;
        check_distinct(&self.excluded)?;
        match self.locked.iter().find(|p| self.excluded.contains(p)) {
            Some(p) => Err(Refusal::Contradiction(format!("\"{p}\" cannot be both locked and excluded."))),
            None => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        (piece.locked, piece.excluded) = (self.locked, self.excluded);
    }
}

/// Say what else is asked of a set.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetDemands {
    /// All of it.
    pub demands: Demands,
}

impl Change for SetDemands {
    fn describe(&self) -> String {
        "what is asked of the set".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        self.demands.check().map_err(Refusal::Contradiction)
    }

    fn apply(self, piece: &mut Piece) {
        piece.demands = self.demands;
    }
}

/// Say what the search aims at.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetAim {
    /// All of it.
    pub aim: Aim,
}

impl Change for SetAim {
    fn describe(&self) -> String {
        "what the search aims at".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_aim(&self.aim)
    }

    fn apply(self, piece: &mut Piece) {
        piece.aim = self.aim;
    }
}

/// Say how mixes are made.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetMixing {
    /// All of it.
    pub mixing: Mixing,
}

impl Change for SetMixing {
    fn describe(&self) -> String {
        "how mixes are made".into()
    }

    fn apply(self, piece: &mut Piece) {
        piece.mixing = self.mixing;
    }
}

/// Keep the result of a search and take one of its sets into use.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct KeepSearch {
    /// The result.
    pub search: Option<SearchKept>,
    /// The set to use.
    pub chosen: ChosenSet,
}

impl Change for KeepSearch {
    fn describe(&self) -> String {
        "the search".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_distinct(&self.chosen.pigments)
    }

    fn apply(self, piece: &mut Piece) {
        (piece.search, piece.chosen) = (self.search, self.chosen);
    }
}

/// Take a set into use.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct ChooseSet {
    /// The set.
    pub chosen: ChosenSet,
}

impl Change for ChooseSet {
    fn describe(&self) -> String {
        format!("the set of {}", self.chosen.pigments.len())
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_distinct(&self.chosen.pigments)
    }

    fn apply(self, piece: &mut Piece) {
        piece.chosen = self.chosen;
    }
}

fn check_aim(aim: &Aim) -> Result<(), Refusal> {
    if !(0.0..=100.0).contains(&aim.value_weight) {
        return Err(Refusal::Range(format!("A value weight of {} is out of range; it may be 0 to 100.", aim.value_weight)));
    }
    if let Some(layer) = aim.layer.filter(|l| !(0.0..=2.0).contains(l)) {
        return Err(Refusal::Range(format!("A layer that costs {layer} steps of value is out of range; it may cost 0 to 2.")));
    }
    if !(1..=MOST_IN_SET as u8).contains(&aim.largest) {
        return Err(Refusal::Range(format!("A largest set of {} is out of range; it may be 1 to {MOST_IN_SET}.", aim.largest)));
    }
    if aim.also_for.len() > MOST_COMPANIONS {
        return Err(Refusal::Range(format!("One set serves {MOST_COMPANIONS} other pieces at most. Leave some out.")));
    }
    let mut pieces: Vec<i64> = aim.also_for.iter().map(|c| c.piece).collect();
    pieces.sort_unstable();
    pieces.dedup();
    if pieces.len() < aim.also_for.len() {
        return Err(Refusal::Contradiction("A piece is named twice. Name each once.".into()));
    }
    match aim.also_for.iter().find(|c| !(0.0..=10.0).contains(&c.weight)) {
        Some(c) => Err(Refusal::Range(format!("A weight of {} for another piece is out of range; it may be 0 to 10.", c.weight))),
        None => Ok(()),
    }
}

fn check_distinct(pigments: &[PigmentId]) -> Result<(), Refusal> {
    let distinct: BTreeSet<&PigmentId> = pigments.iter().collect();
    if distinct.len() == pigments.len() { Ok(()) } else { Err(Refusal::Contradiction("A pigment is named twice. Name each once.".into())) }
}
