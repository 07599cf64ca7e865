//! Zones lighter than any layer of the medium on this ground have to stay bare paper.

use crate::findings::plan::{Plan, listed};
use crate::findings::{Finding, capital};
use lean_media::Medium;
use lean_piece::intent::schools::{Question, School};

/// Zones that only bare paper can give, in media without white. Silent where opaque white is allowed.
pub(crate) fn bare_paper(plan: &Plan) -> Vec<Finding> {
    let medium = plan.medium;
    let Some(reach) = plan.reach.filter(|_| !medium.has_white()) else { return Vec::new() };
    if medium == Medium::Watercolour && plan.school(Question::WhiteInWatercolour) == School::OpaqueWhite {
        return Vec::new();
    }
    let bare: Vec<_> = plan.zones.iter().filter(|z| z.value > reach.lightest_layer).collect();
    if bare.is_empty() {
        return Vec::new();
    }
    let it = if bare.len() == 1 { "has" } else { "have" };
    let found = Finding::remark(
        "reserve",
        format!("reserve-{}", bare.iter().map(|z| z.id.0.to_string()).collect::<Vec<_>>().join("-")),
        bare.iter().map(|z| z.id).collect(),
        format!("{} {it} to stay bare paper", capital(&listed(&bare))),
        format!(
            "The lightest layer of this {} gives {:.1} here; what is lighter is the paper itself.",
            medium.unit(),
            reach.lightest_layer
        ),
        "paper only",
    );
    vec![found.helped("Keep it dry and clean from the first layer on, or mask it.")]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::light::key::Reach;
    use crate::staged::{Staged, staged_in};

    const REACH: Reach = Reach { darkest: 2.0, lightest: 9.4, lightest_layer: 9.0 };

    #[test]
    fn what_only_paper_can_give_is_said() {
        let zones = [Staged::vt(9.3, 0.0), Staged::vt(7.0, 4.0)];
        let mut piece = staged_in(Medium::Watercolour, "cold-pressed", &zones);
        let of = |p: &lean_piece::Piece| bare_paper(&Plan::of(p, &[], Some(REACH)));
        assert_eq!(of(&piece)[0].zones.len(), 1);
        piece.intent.schools.insert(Question::WhiteInWatercolour, School::OpaqueWhite);
        assert!(of(&piece).is_empty());
    }

    #[test]
    fn media_with_white_and_darker_zones_need_no_reserve() {
        let light = [Staged::vt(9.3, 0.0), Staged::vt(7.0, 4.0)];
        assert!(bare_paper(&Plan::of(&staged_in(Medium::Oil, "panel-white", &light), &[], Some(REACH))).is_empty());
        let dark = [Staged::vt(8.0, 0.0), Staged::vt(7.0, 4.0)];
        assert!(bare_paper(&Plan::of(&staged_in(Medium::Marker, "smooth", &dark), &[], Some(REACH))).is_empty());
    }
}
