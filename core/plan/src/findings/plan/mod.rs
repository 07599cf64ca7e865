//! A plan as the rules see it: of a piece, or written down without a picture.

mod partners;
pub mod written;

pub use partners::{made_warmer, plainly, turn, warmer, warmer_at_like_chroma};

use crate::light::key::Reach;
use crate::mixes::ZoneMix;
use crate::wall::loudness::{self, Voice};
use crate::zones::masses;
use lean_colour::Lab;
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::neighbours::Border;
use lean_colour::{Temperature, Value};
use lean_media::Medium;
use lean_piece::intent::Intent;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Exception, Facts, Falling, Kind, Lamp, Lighting, Role, Which};
use lean_piece::wall::Wall;
use lean_piece::{Importance, MassId, Piece, Zone, ZoneId};
use std::collections::BTreeMap;

/// A zone as it is planned.
pub struct PlannedZone {
    /// Which.
    pub id: ZoneId,
    /// What it is called.
    pub label: String,
    /// The planned colour.
    pub lab: Lab,
    /// Its value.
    pub value: f64,
    /// Its temperature, against grey.
    pub temperature: f64,
    /// The chroma its reference reads, which is witness enough that it can be; 0 without a reference.
    pub read_chroma: f64,
    /// Its share of the picture.
    pub area: f64,
    /// How it stands in the light.
    pub facts: Facts,
    /// How much it matters.
    pub importance: Importance,
}

impl PlannedZone {
    /// Its colour at another value.
    pub(crate) fn at_value(&self, value: Value) -> Lab {
        with_value(self.lab, Value(value.0.clamp(0.2, 9.9)))
    }

    /// Its colour warmer (+) or cooler (−).
    pub fn warmer(&self, by: Temperature) -> Lab {
        with_temperature(self.lab, Temperature(self.temperature + by.0))
    }

    /// Whether it has this role.
    pub fn is(&self, role: Role) -> bool {
        self.facts.role == Some(role)
    }

    /// Whether it is in shadow of any sort.
    pub(crate) fn in_shadow(&self) -> bool {
        self.facts.role.is_some_and(Role::is_shadow)
    }

    /// Whether it is lit or turning away.
    pub(crate) fn in_light(&self) -> bool {
        self.facts.role.is_some_and(Role::is_lit)
    }

    /// Whether it gives or mirrors light, so that the rules of what light falls on do not hold.
    pub(crate) fn shines(&self) -> bool {
        matches!(self.facts.role, Some(Role::Highlight | Role::SelfLuminous))
    }

    /// Whether it is of this kind.
    pub fn kind(&self, kind: Kind) -> bool {
        self.facts.kind == Some(kind)
    }
}

/// A plan as the rules see it.
pub struct Plan<'a> {
    /// Its medium.
    pub medium: Medium,
    /// Its light.
    pub lighting: Lighting,
    /// Moods, schools and games it is made by.
    pub intent: Intent,
    /// Its zones.
    pub zones: Vec<PlannedZone>,
    /// Their borders.
    pub borders: Vec<Border>,
    /// The recipes, if there is a set.
    pub mixes: &'a [ZoneMix],
    /// What can be reached, if it is known.
    pub reach: Option<Reach>,
    /// Its wall, with how it speaks there.
    pub wall: Option<(Wall, Voice)>,
    /// Masses the painter named, each with the zones that lie in it.
    masses: Vec<(String, Vec<ZoneId>)>,
}

impl<'a> Plan<'a> {
    /// The plan of a piece.
    pub fn of(piece: &'a Piece, mixes: &'a [ZoneMix], reach: Option<Reach>) -> Self {
        let of = masses::mass_of(piece);
        let zones: Vec<PlannedZone> = piece
            .zones
            .iter()
            .filter(|z| !z.open)
            .map(|z| {
                let lab = piece.wanted(z);
                PlannedZone {
                    id: z.id,
                    label: piece.zone_label(z.id),
                    lab,
                    value: lab.value().0,
                    temperature: lab.temperature().0,
                    read_chroma: if piece.reference.is_some() { z.reading.lab.chroma() } else { 0.0 },
                    area: z.reading.area,
                    facts: known(piece, &of, z),
                    importance: z.importance,
                }
            })
            .collect();
        let at = |id: u16| zones.iter().position(|z| z.id.0 == id);
        let borders = piece.geometry().borders.clone();
        let borders = borders.into_iter().filter_map(|(a, b, n)| Some(Border { one: at(a)?, other: at(b)?, length: n as f64 })).collect();
        Self {
            medium: piece.brief.medium,
            lighting: piece.lighting.clone(),
            intent: piece.intent.clone(),
            zones,
            borders,
            mixes,
            reach,
            wall: piece.wall.as_ref().and_then(|w| Some((w.clone(), loudness::voice(piece, &w.reading)?))),
            masses: named_masses(piece),
        }
    }

    /// Zones joined for a sentence about planes, distance or light, where a painter thinks in masses: a named mass stands for its zones
    /// when all of them are spoken of. With it, how many things are named.
    pub fn spoken(&self, zones: &[&PlannedZone]) -> (String, usize) {
        let is_whole = |members: &[ZoneId]| members.len() > 1 && members.iter().all(|m| zones.iter().any(|z| z.id == *m));
        let whole: Vec<&(String, Vec<ZoneId>)> = self.masses.iter().filter(|(_, members)| is_whole(members)).collect();
        let alone = zones.iter().filter(|z| !whole.iter().any(|(_, members)| members.contains(&z.id)));
        let labels: Vec<&str> = whole.iter().map(|(name, _)| name.as_str()).chain(alone.map(|z| z.label.as_str())).collect();
        (joined(&labels), labels.len())
    }

    /// The school on a question.
    pub fn school(&self, question: Question) -> School {
        self.intent.school(question, self.medium)
    }

    /// How this school calms a colour, in a sentence.
    pub(crate) fn calming(&self) -> &'static str {
        match self.school(Question::Greying) {
            School::GreyWithGrey => "A grey of its own undertone calms it.",
            School::GreyWithMother => "A little more of the mother colour calms it.",
            _ => "A little of its opposite calms it.",
        }
    }

    /// Whether the light is an exception of one of these sorts.
    pub(crate) fn excepted(&self, any: &[Exception]) -> bool {
        self.lighting.has(any)
    }

    /// Whether light falls on the piece at all.
    pub fn is_lit(&self) -> bool {
        matches!(self.lighting.falling, Falling::One { .. } | Falling::Two { .. })
    }

    /// The lamps of the piece.
    pub fn lamps(&self) -> Vec<(Which, Lamp)> {
        match self.lighting.falling {
            Falling::One { first } => vec![(Which::First, first)],
            Falling::Two { first, second } => vec![(Which::First, first), (Which::Second, second)],
            Falling::Unnamed | Falling::Flat => Vec::new(),
        }
    }

    /// Zones that stand in a lamp's light; with one lamp, all.
    pub fn under(&self, which: Which) -> Vec<&PlannedZone> {
        let two = matches!(self.lighting.falling, Falling::Two { .. });
        self.zones.iter().filter(|z| !two || z.facts.light == which).collect()
    }

    /// Zones that share a border with one.
    pub fn beside(&self, zone: &PlannedZone) -> Vec<&PlannedZone> {
        self.around(zone).into_iter().map(|(z, _)| z).collect()
    }

    /// Zones that share a border with one, and how long it is.
    pub fn around(&self, zone: &PlannedZone) -> Vec<(&PlannedZone, f64)> {
        self.borders
            .iter()
            .filter_map(|b| {
                let (one, other) = (&self.zones[b.one], &self.zones[b.other]);
                if one.id == zone.id { Some((other, b.length)) } else { (other.id == zone.id).then_some((one, b.length)) }
            })
            .collect()
    }
}

/// Mean of something over zones by area; `None` without any.
pub fn mean(zones: &[&PlannedZone], of: impl Fn(&PlannedZone) -> f64) -> Option<f64> {
    let area: f64 = zones.iter().map(|z| z.area).sum();
    (area > 0.0).then(|| zones.iter().map(|z| z.area * of(z)).sum::<f64>() / area)
}

/// Labels joined for a sentence: "sky", "sky and wall", "sky, wall and 2 more".
pub fn listed(zones: &[&PlannedZone]) -> String {
    joined(&zones.iter().map(|z| z.label.as_str()).collect::<Vec<_>>())
}

fn joined(labels: &[&str]) -> String {
    match labels {
        [] => String::new(),
        [a] => (*a).to_owned(),
        [a, b] => format!("{a} and {b}"),
        [a, b, rest @ ..] => format!("{a}, {b} and {} more", rest.len()),
    }
}

/// What the painter said of a zone, or of the mass it lies in. What was only proposed is a guess, and nobody is advised by a guess.
fn known(piece: &Piece, mass_of: &BTreeMap<ZoneId, MassId>, zone: &Zone) -> Facts {
    let mass = mass_of.get(&zone.id).and_then(|m| piece.mass(*m));
    match (zone.facts.by_hand, mass) {
        (true, _) => zone.facts,
        (false, Some(mass)) => masses::told(Facts { local: zone.facts.local, light: zone.facts.light, ..Facts::default() }, mass),
        (false, None) => Facts { local: zone.facts.local, light: zone.facts.light, ..Facts::default() },
    }
}

fn named_masses(piece: &Piece) -> Vec<(String, Vec<ZoneId>)> {
    let of = masses::mass_of(piece);
    let zones_in = |mass| of.iter().filter(|(_, m)| **m == mass).map(|(z, _)| *z).collect();
    piece.masses.iter().filter(|m| !m.name.is_empty()).map(|m| (m.label(), zones_in(m.id))).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::light::Plane;

    #[test]
    fn nobody_is_advised_by_a_guess_until_it_is_said_to_be_so() {
        let mut piece = staged(&[Staged::vt(6.0, 0.0).role(Role::Lit).plane(Plane::Flat)]);
        piece.zones[0].facts.by_hand = false;
        assert!(piece.zones[0].facts.is_guess());
        assert_eq!(Plan::of(&piece, &[], None).zones[0].facts, Facts::default());
        let command = crate::requests::Request::ConfirmFacts.into_command(&piece, None, None).unwrap();
        let said = piece.apply(command).unwrap().0;
        assert_eq!(Plan::of(&said, &[], None).zones[0].facts.role, Some(Role::Lit));
    }
}
