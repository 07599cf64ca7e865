//! `lean-swatch words`: what the core calls the things a page lets a painter choose from. Written into the page when it is built.

use lean_journal::{DayTime, EntryKind, Season};
use lean_media::Medium;
use lean_picture::form::Bulge;
use lean_piece::easel::Outcome;
use lean_piece::light::{Distance, Exception, Key, Kind, LampFrom, Plane, Role, Tint};
use lean_piece::wall::Panels;
use lean_piece::{Importance, Matching, PlaneKind, Serves};
use lean_plan::field_note::Side;
use lean_plan::paints::card::CardKind;
use lean_search::demands::HueFamily;
use serde::Serialize;

/// One thing to choose.
#[derive(Serialize)]
struct Word<T> {
    value: T,
    label: String,
}

/// A medium, and what one thing of a Box is called in it.
#[derive(Serialize)]
struct MediumWord {
    value: Medium,
    label: &'static str,
    unit: &'static str,
    /// Names of the amounts of one layer, the least first; none where a layer has no amount of its own.
    amounts: &'static [&'static str],
}

/// A part in the light, and the family it belongs to: `lit`, `shadow` or neither.
#[derive(Serialize)]
struct RoleWord {
    value: Role,
    label: &'static str,
    family: Option<&'static str>,
}

/// All lists.
#[derive(Serialize)]
pub(super) struct Words {
    media: Vec<MediumWord>,
    hues: Vec<Word<HueFamily>>,
    outcomes: Vec<Word<Outcome>>,
    roles: Vec<RoleWord>,
    planes: Vec<Word<Plane>>,
    distances: Vec<Word<Distance>>,
    kinds: Vec<Word<Kind>>,
    tints: Vec<Word<Tint>>,
    lamps_from: Vec<Word<LampFrom>>,
    exceptions: Vec<Word<Exception>>,
    keys: Vec<Word<Key>>,
    seasons: Vec<Word<Season>>,
    day_times: Vec<Word<DayTime>>,
    entry_kinds: Vec<Word<EntryKind>>,
    importance: Vec<Word<Importance>>,
    serves: Vec<Word<Serves>>,
    plane_kinds: Vec<Word<PlaneKind>>,
    matching: Vec<Word<Matching>>,
    panels: Vec<Word<Panels>>,
    sides: Vec<Word<Side>>,
    bulges: Vec<Word<Bulge>>,
    card_kinds: Vec<Word<CardKind>>,
}

fn family(role: Role) -> Option<&'static str> {
    role.is_lit().then_some("lit").or(role.is_shadow().then_some("shadow"))
}

fn worded<T: Copy, L: Into<String>>(all: &[T], label: impl Fn(T) -> L) -> Vec<Word<T>> {
    all.iter().map(|&value| Word { value, label: label(value).into() }).collect()
}

impl Words {
    /// As the core has them.
    pub(super) fn all() -> Self {
        Self {
            media: Medium::ALL.map(|m| MediumWord { value: m, label: m.name(), unit: m.unit(), amounts: lean_recipes::amounts(m) }).into(),
            hues: worded(&HueFamily::ALL, HueFamily::name),
            outcomes: worded(&Outcome::ALL, Outcome::label),
            roles: Role::ALL.iter().map(|&r| RoleWord { value: r, label: r.label(), family: family(r) }).collect(),
            planes: worded(Plane::ALL, Plane::label),
            distances: worded(Distance::ALL, Distance::label),
            kinds: worded(Kind::ALL, Kind::label),
            tints: worded(Tint::ALL, Tint::label),
            lamps_from: worded(LampFrom::ALL, LampFrom::label),
            exceptions: worded(Exception::ALL, Exception::label),
            keys: worded(Key::ALL, Key::label),
            seasons: worded(&Season::ALL, |s| s.name().to_lowercase()),
            day_times: worded(&DayTime::ALL, DayTime::label),
            entry_kinds: worded(EntryKind::ALL, EntryKind::label),
            importance: worded(Importance::ALL, Importance::label),
            serves: worded(Serves::ALL, Serves::label),
            plane_kinds: worded(PlaneKind::ALL, PlaneKind::label),
            matching: worded(Matching::ALL, Matching::label),
            panels: worded(Panels::ALL, Panels::label),
            sides: worded(Side::ALL, Side::label),
            bulges: worded(Bulge::ALL, Bulge::label),
            card_kinds: worded(CardKind::ALL, CardKind::label),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    #[test]
    fn no_list_says_the_same_twice() {
        let lists = serde_json::to_value(Words::all()).unwrap();
        for (name, list) in lists.as_object().unwrap() {
            for of in ["label", "value"] {
                let said: Vec<&str> = list.as_array().unwrap().iter().map(|w| w[of].as_str().unwrap()).collect();
                assert_eq!(said.iter().collect::<BTreeSet<_>>().len(), said.len(), "{of} of {name}: {said:?}");
                assert!(said.len() > 1 && said.iter().all(|w| !w.is_empty()), "{name}");
            }
        }
        assert_eq!(lists["day_times"][0]["label"], "early, 4 to 9");
    }
}
