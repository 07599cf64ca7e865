//! What the tool notices about a plan. Advice, never a lock. One small pure rule each, one file a subject.
//!
//! A rule looks at a [`Plan`] and says what it notices. It stays silent where nobody has said enough, where the school in the brief sees it
//! otherwise, and where the light is an exception.

mod emphasis;
mod hues;
mod light;
mod means;
mod own_hue;
pub mod plan;
mod space;

pub use emphasis::eye::order_of_pull;
pub use means::set::{appears_once, beyond_the_set, read_as_one};
pub use plan::{Plan, PlannedZone};

use crate::light::key::Reach;
use crate::mixes::{Well, ZoneMix};
use crate::requests::{Request, ZoneTarget};
use crate::wording::capital;
use lean_colour::Lab;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// A change that can be taken with one action.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Proposal {
    /// What it does.
    pub help: String,
    /// The change.
    pub request: Request,
}

/// Something noticed, with its reason and what would help.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Finding {
    /// Which rule noticed it.
    pub rule: &'static str,
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
    pub suggestion: Option<Request>,
    /// Other changes that would mend it as well.
    pub also: Vec<Proposal>,
}

impl Finding {
    /// A remark without a suggested change.
    fn remark(rule: &'static str, key: impl Into<String>, zones: Vec<ZoneId>, title: String, why: String, school: &str) -> Self {
        Self { rule, key: key.into(), zones, title, why, school: school.into(), help: String::new(), suggestion: None, also: Vec::new() }
    }

    /// With what would help, in words.
    fn helped(self, help: &str) -> Self {
        Self { help: help.into(), ..self }
    }

    /// With targets that would mend it.
    fn mended(self, help: String, targets: Vec<(ZoneId, Lab)>) -> Self {
        let request = self.changing(targets);
        Self { help, suggestion: Some(request), ..self }
    }

    /// With other targets that would mend it as well.
    fn or(mut self, help: String, targets: Vec<(ZoneId, Lab)>) -> Self {
        let request = self.changing(targets);
        self.also.push(Proposal { help, request });
        self
    }

    fn changing(&self, targets: Vec<(ZoneId, Lab)>) -> Request {
        let targets = targets.into_iter().map(|(zone, target)| ZoneTarget { zone, target }).collect();
        let what = format!("what was suggested: {}", self.title.to_lowercase());
        Request::SetTargets { targets, what: what.chars().take(80).collect() }
    }
}

/// The rules that need nothing but the plan, most pressing first.
const RULES: &[fn(&Plan) -> Vec<Finding>] = &[
    light::overlap::lit_and_shadow,
    light::opposition::of_light_and_shadow,
    light::luminous::outshines,
    light::highlight::above_its_thing,
    light::halftone::between,
    space::planes::in_order,
    space::distance::in_order,
    light::contact::darkest,
    light::reflected::inside_the_shadow,
    light::shadow_chroma::by_school,
    space::water::carries_the_sky,
    hues::whites::one_undertone,
    hues::darks::coloured,
    hues::warranted::by_the_subject,
    emphasis::focal::strongest_where_meant,
    means::range::used,
    means::reserves::bare_paper,
    hues::one_hue::nearly,
    hues::too_much::of_one_hue,
    hues::shimmer::opposites_of_equal_value,
    hues::lone::sticks_out,
    hues::shares::of_the_scheme,
    hues::shares::some_of_the_other,
    emphasis::eye::gets_stuck,
    means::wall::heard,
    means::set::read_as_one,
];

/// What is noticed of a plan by itself, most pressing first.
pub fn of_plan(plan: &Plan) -> Vec<Finding> {
    let mut said: Vec<Finding> = Vec::new();
    for f in RULES.iter().flat_map(|rule| rule(plan)) {
        // Zones that share a name and a colour, as in a line drawing, are spoken of once.
        if !said.iter().any(|s| s.title == f.title) {
            said.push(own_hue::kept(plan, f));
        }
    }
    said
}

/// All findings that are not answered yet, most pressing first.
pub fn findings(piece: &Piece, mixes: &[ZoneMix], wells: &[Well], reach: Option<Reach>) -> Vec<Finding> {
    let plan = Plan::of(piece, mixes, reach);
    let closed = |m: &&ZoneMix| piece.zone(m.zone).is_none_or(|z| !z.open);
    let mut all: Vec<Finding> = mixes.iter().filter(closed).filter_map(|m| beyond_the_set(piece, m)).collect();
    all.extend(of_plan(&plan));
    all.extend(wells.iter().filter_map(|w| appears_once(piece, w, mixes)));
    all.retain(|f| !piece.dismissed.iter().any(|d| d.finding == f.key));
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The piece after the suggestion of a finding was taken.
    pub(super) fn taken(piece: &Piece, finding: &Finding) -> Piece {
        let request = finding.suggestion.clone().unwrap_or_else(|| panic!("{} suggests nothing", finding.key));
        let command = request.into_command(piece, None, None).unwrap_or_else(|e| panic!("{e}"));
        piece.apply(command).unwrap_or_else(|e| panic!("{e}")).0
    }
}
