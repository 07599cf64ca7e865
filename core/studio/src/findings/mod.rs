//! What the tool notices about a plan. Advice, never a lock. One small pure rule each, one file a subject.
//!
//! A rule looks at a [`Plan`] and says what it notices. It stays silent where nobody has said enough, where the school in the brief sees it
//! otherwise, and where the light is an exception.

mod contact;
mod darks;
mod distance;
mod eye;
mod focal;
mod one_hue;
mod opposition;
mod overlap;
mod plan;
mod planes;
mod range;
mod reflected;
mod reserves;
mod set;
#[cfg(test)]
pub(crate) mod staged;
mod wall;
mod water;
mod whites;

pub use eye::order_of_pull;
pub use plan::{Plan, Seen};
pub use set::{appears_once, beyond_the_set, read_as_one};

use crate::light::key::Reach;
use crate::mixes::{Well, ZoneMix};
use crate::piece::{Piece, ZoneId};
use crate::wishes::{Wish, ZoneTarget};
use crate::wording::capital;
use lean_colour::Lab;
use serde::Serialize;

/// Something noticed, with its reason and what would help.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Finding {
    /// Stays the same while the finding is about the same thing.
    pub key: String,
    /// Zones it speaks of; may be empty.
    pub zones: Vec<ZoneId>,
    /// What.
    pub title: String,
    /// Why.
    pub why: String,
    /// Whose view it is.
    pub school: String,
    /// What the suggested change does; empty when there is none.
    pub help: String,
    /// The suggested change.
    pub suggestion: Option<Wish>,
}

impl Finding {
    /// A remark without a suggested change.
    fn remark(key: impl Into<String>, zones: Vec<ZoneId>, title: String, why: String, school: &str) -> Self {
        Self { key: key.into(), zones, title, why, school: school.into(), help: String::new(), suggestion: None }
    }

    /// With what would help, in words.
    fn helped(self, help: &str) -> Self {
        Self { help: help.into(), ..self }
    }

    /// With targets that would mend it.
    fn mended(self, help: String, targets: Vec<(ZoneId, Lab)>) -> Self {
        let targets = targets.into_iter().map(|(zone, target)| ZoneTarget { zone, target }).collect();
        let what = format!("what was suggested: {}", self.title.to_lowercase());
        Self { help, suggestion: Some(Wish::SetTargets { targets, what: what.chars().take(80).collect() }), ..self }
    }
}

/// All findings that are not answered yet, most pressing first.
pub fn findings(piece: &Piece, mixes: &[ZoneMix], wells: &[Well], reach: Option<Reach>) -> Vec<Finding> {
    let plan = Plan::of(piece, mixes, reach);
    let rules: &[fn(&Plan) -> Vec<Finding>] = &[
        overlap::lit_and_shadow,
        opposition::of_light_and_shadow,
        planes::in_order,
        distance::in_order,
        contact::darkest,
        reflected::inside_the_shadow,
        water::carries_the_sky,
        whites::one_undertone,
        darks::coloured,
        focal::strongest_where_meant,
        range::used,
        reserves::bare_paper,
        one_hue::nearly,
        eye::gets_stuck,
        wall::heard,
    ];
    let mut all = Vec::new();
    all.extend(mixes.iter().filter_map(|m| beyond_the_set(piece, m)));
    all.extend(rules.iter().flat_map(|rule| rule(&plan)));
    all.extend(read_as_one(piece));
    all.extend(wells.iter().filter_map(|w| appears_once(piece, w, mixes)));
    all.retain(|f| !piece.dismissed.iter().any(|d| d.finding == f.key));
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The piece after the suggestion of a finding was taken.
    pub fn taken(piece: &Piece, finding: &Finding) -> Piece {
        let wish = finding.suggestion.clone().unwrap_or_else(|| panic!("{} suggests nothing", finding.key));
        let command = wish.into_command(piece, None, None).unwrap_or_else(|e| panic!("{e}"));
        piece.apply(command).unwrap_or_else(|e| panic!("{e}")).0
    }
}
