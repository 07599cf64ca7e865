//! What the search and the mixes of a piece aim at: the colour of every zone, and the further stops of those that run.

use super::Piece;
use crate::light::Graded;
use crate::zones::{Zone, ZoneId};
use lean_colour::Lab;
use lean_recipes::Target;

/// One colour to come near.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Wanted {
    /// Where.
    pub zone: ZoneId,
    /// How far along a graded zone, 0..=1; 0 for the others.
    pub share: f64,
    /// Which colour, and how much it counts.
    pub target: Target,
}

/// Every zone in its order, then the further stops of the graded ones. A graded zone counts no more than another: its stops share its weight.
pub fn wanted(piece: &Piece) -> Vec<Wanted> {
    let ways: Vec<Vec<Lab>> = piece.zones.iter().map(|z| way(piece, z)).collect();
    let aim = |z: &Zone, way: &[Lab], i: usize| Wanted {
        zone: z.id,
        share: if i == 0 { 0.0 } else { i as f64 / (way.len() - 1) as f64 },
        target: Target { lab: way[i], weight: weight(z) / way.len() as f64 },
    };
    let with_ways = || piece.zones.iter().zip(&ways);
    let near = with_ways().map(|(z, way)| aim(z, way, 0));
    let further = with_ways().flat_map(|(z, way)| (1..way.len()).map(move |i| aim(z, way, i)));
    near.chain(further).collect()
}

/// The same, as the search takes them.
pub fn targets(piece: &Piece) -> Vec<Target> {
    wanted(piece).into_iter().map(|a| a.target).collect()
}

/// The zone each of them belongs to.
pub fn aimed_at(piece: &Piece) -> Vec<ZoneId> {
    wanted(piece).into_iter().map(|a| a.zone).collect()
}

/// Weight of a zone: the root of its area, so that small zones still count, times its importance; an open one has none. A choice.
pub fn weight(zone: &Zone) -> f64 {
    if zone.open {
        return 0.0;
    }
    zone.reading.area.max(0.0).sqrt() * zone.importance.factor()
}

/// The colours a zone runs through, its own first.
fn way(piece: &Piece, zone: &Zone) -> Vec<Lab> {
    let own = piece.wanted(zone);
    zone.graded.map_or(vec![own], |g| Graded { to: piece.within_rules(g.to), ..g }.stops(own))
}
