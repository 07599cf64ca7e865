//! `lean-swatch words`: what the core calls the things a page lets a painter choose from. Written into the page when it is built.

use lean_media::Medium;
use lean_piece::easel::Outcome;
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

/// All lists.
#[derive(Serialize)]
pub struct Words {
    media: Vec<MediumWord>,
    hues: Vec<Word<HueFamily>>,
    outcomes: Vec<Word<Outcome>>,
}

impl Words {
    /// As the core has them.
    pub fn all() -> Self {
        Self {
            media: Medium::ALL.map(|m| MediumWord { value: m, label: m.name(), unit: m.unit() }).into(),
            hues: HueFamily::ALL.map(|h| Word { value: h, label: h.name() }).into(),
            outcomes: Outcome::ALL.map(|o| Word { value: o, label: o.label() }).into(),
        }
    }
}
