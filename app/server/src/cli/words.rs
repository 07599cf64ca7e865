//! `lean-swatch words`: what the core calls the things a page lets a painter choose from. Written into the page when it is built.

use lean_media::Medium;
use lean_piece::easel::Outcome;
use lean_piece::light::{Distance, Exception, Key, Kind, LampFrom, Plane, Role, Tint};
use lean_search::demands::HueFamily;
use serde::Serialize;

/// One thing to choose.
#[derive(Serialize)]
struct Word<T> {
    value: T,
    label: &'static str,
}

/// A medium, and what one thing of a Box is called in it.
#[derive(Serialize)]
struct MediumWord {
    value: Medium,
    label: &'static str,
    unit: &'static str,
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
pub struct Words {
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
}

fn family(role: Role) -> Option<&'static str> {
    role.is_lit().then_some("lit").or(role.is_shadow().then_some("shadow"))
}

fn worded<T: Copy>(all: &[T], label: impl Fn(T) -> &'static str) -> Vec<Word<T>> {
    all.iter().map(|&value| Word { value, label: label(value) }).collect()
}

impl Words {
    /// As the core has them.
    pub fn all() -> Self {
        Self {
            media: Medium::ALL.map(|m| MediumWord { value: m, label: m.name(), unit: m.unit() }).into(),
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
        }
    }
}
