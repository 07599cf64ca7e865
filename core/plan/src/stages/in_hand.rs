//! While a pigment is up: every zone that wants it, largest first, and one more use that would tie the picture.

use super::smudging::middle;
use super::tasks::Task;
use crate::mixes::ZoneMix;
use lean_colour::difference::ciede2000;
use lean_media::PigmentId;
use lean_piece::light::{Kind, Plane, Role};
use lean_piece::{Importance, Piece, ZoneId};
use serde::Serialize;

/// CIEDE2000 within which a mix in hand will nearly do for another zone. A choice.
const NEARLY: f64 = 7.0;

/// A pigment in the hand.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct InHand {
    /// Which.
    pub pigment: PigmentId,
    /// Zones with a layer of it still to be laid, largest first.
    pub wants: Vec<ZoneId>,
    /// Zones of another recipe whose colour is so near to one of these that the same mix would nearly do.
    pub nearly: Vec<ZoneId>,
    /// Where one more touch of it would tie the picture; none when it occurs on every side already.
    pub echo: Option<Echo>,
}

/// One more use of a pigment.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Echo {
    /// Where.
    pub zone: ZoneId,
    /// Why, in a sentence.
    pub words: String,
}

/// Every pigment of the set, with what wants it now.
pub fn in_hand(piece: &Piece, mixes: &[ZoneMix], tasks: &[Task]) -> Vec<InHand> {
    let open = |zone: ZoneId| tasks.iter().any(|t| t.id.zone == Some(zone) && !piece.easel.is_done(t.id));
    let area = |z: &ZoneId| piece.zone(*z).map_or(0.0, |z| z.reading.area);
    piece
        .chosen
        .pigments
        .iter()
        .map(|pigment| {
            let holds = |m: &ZoneMix| m.mix.parts.iter().any(|p| p.pigment == *pigment);
            let mut wants: Vec<ZoneId> = mixes.iter().filter(|m| holds(m) && open(m.zone)).map(|m| m.zone).collect();
            wants.sort_by(|a, b| area(b).total_cmp(&area(a)));
            let near = |m: &ZoneMix| mixes.iter().any(|o| wants.contains(&o.zone) && ciede2000(o.given.lab, m.wanted.lab) <= NEARLY);
            let mut nearly: Vec<ZoneId> = mixes.iter().filter(|m| !holds(m) && open(m.zone) && near(m)).map(|m| m.zone).collect();
            nearly.sort_by(|a, b| area(b).total_cmp(&area(a)));
            let used: Vec<ZoneId> = mixes.iter().filter(|m| holds(m)).map(|m| m.zone).collect();
            InHand { pigment: pigment.clone(), wants, nearly, echo: echo(piece, mixes, &used) }
        })
        .collect()
}

/// A pigment that is used on one side only is tied to the other by a touch of it where it costs least: in a quiet zone of its own
/// lightness, far from where it is.
fn echo(piece: &Piece, mixes: &[ZoneMix], used: &[ZoneId]) -> Option<Echo> {
    let at: Vec<(f64, f64)> = used.iter().filter_map(|z| middle(piece, *z)).collect();
    let far = |z: ZoneId| {
        let m = middle(piece, z)?;
        at.iter().map(|p| (p.0 - m.0).hypot(p.1 - m.1)).min_by(f64::total_cmp)
    };
    let spread = at.iter().flat_map(|a| at.iter().map(move |b| (a.0 - b.0).hypot(a.1 - b.1))).fold(0.0, f64::max);
    if used.is_empty() || spread > 0.5 {
        return None;
    }
    let takes = |z: &&lean_piece::Zone| {
        let spared = matches!(z.facts.kind, Some(Kind::White | Kind::Skin))
            || z.facts.plane == Some(Plane::Sky)
            || z.facts.role == Some(Role::Highlight);
        !used.contains(&z.id) && !spared && z.importance != Importance::Focal
    };
    let near = |z: &lean_piece::Zone| {
        let own = piece.wanted(z);
        mixes.iter().filter(|m| used.contains(&m.zone)).map(|m| ciede2000(m.given.lab, own)).min_by(f64::total_cmp).unwrap_or(100.0)
    };
    let best =
        piece.zones.iter().filter(takes).filter_map(|z| Some((far(z.id)? - near(z) / 60.0, z))).max_by(|a, b| a.0.total_cmp(&b.0))?;
    let (worth, zone) = best;
    let from = piece.zone_label(*used.first()?);
    let words = format!("It lies on one side only. A touch of it in {} would tie that to {from}.", piece.zone_label(zone.id));
    (worth > 0.0).then_some(Echo { zone: zone.id, words })
}
