//! How much paint is mixed, and what is let down once for several mixes.

use super::ZoneMix;
use lean_media::PigmentId;
use lean_piece::{Piece, ZoneId};
use lean_recipes::{Heap, Mix, telling};
use serde::Serialize;

/// Thickness of a coat of mixed paint, in millimetres. A choice.
pub(super) const FILM: f64 = 0.15;
/// How much more is mixed than is laid: what stays on palette and brush. A choice.
pub(crate) const SPARE: f64 = 1.3;

/// Millilitres from which a heap for one mix alone is worth being made beforehand: two peas. A choice.
const LEAST_ALONE: f64 = 0.6;

/// Paint a painter mixes.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Amount {
    /// Millilitres.
    pub millilitres: f64,
    /// The same in peas and nuts: "a hazelnut".
    pub words: String,
}

impl Amount {
    fn of(millilitres: f64) -> Self {
        Self { millilitres, words: in_nuts(millilitres) }
    }
}

/// A heap that is let down before anything is mixed from it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LetDown {
    /// How it is made.
    pub words: String,
    /// Zones mixed from it, in the order of the mixes.
    pub zones: Vec<ZoneId>,
    /// How much of it they need.
    pub amount: Amount,
}

/// Millilitres in the painter's measures: a pea, a hazelnut, a walnut. What they hold is a choice.
pub(crate) fn in_nuts(millilitres: f64) -> String {
    const MEASURES: [(f64, &str, &str); 3] = [(8.0, "a walnut", "walnuts"), (1.5, "a hazelnut", "hazelnuts"), (0.3, "a pea", "peas")];
    let (holds, one, many) = MEASURES.into_iter().find(|(holds, ..)| millilitres >= 0.75 * holds).unwrap_or(MEASURES[2]);
    match (millilitres / holds).round() as u32 {
        0 => "less than a pea".into(),
        1 => one.into(),
        n => format!("{n} {many}"),
    }
}

/// How much paint a zone needs.
pub fn amount_of(piece: &Piece, zone: ZoneId) -> Amount {
    Amount::of(millilitres(piece, zone))
}

fn millilitres(piece: &Piece, zone: ZoneId) -> f64 {
    let size = piece.brief.size;
    let share = piece.zone(zone).map_or(0.0, |z| z.reading.area);
    share * size.width.0 * size.height.0 * FILM * SPARE / 1000.0
}

/// What is let down for the mixes of a piece, what serves most zones first.
pub fn let_downs(piece: &Piece, mixes: &[ZoneMix], name: &dyn Fn(&PigmentId) -> String) -> Vec<LetDown> {
    let mut found: Vec<(Vec<Heap>, Vec<ZoneId>, f64)> = Vec::new();
    for zone in mixes {
        let all: Vec<&Mix> = std::iter::once(&zone.mix).chain(zone.then.iter().map(|f| &f.mix)).collect();
        let each = millilitres(piece, zone.zone) / all.len() as f64;
        for mix in all.iter().filter(|m| m.heaps.len() > 1) {
            let needed = each * mix.share_of_first_heap();
            let first = &mix.heaps[..1];
            match found.iter_mut().find(|f| f.0 == first) {
                Some((_, zones, sum)) => {
                    if !zones.contains(&zone.zone) {
                        zones.push(zone.zone);
                    }
                    *sum += needed;
                }
                None => found.push((first.to_vec(), vec![zone.zone], needed)),
            }
        }
    }
    // A heap for one mix alone and smaller than a pea is made on the way, not beforehand.
    found.retain(|f| f.1.len() > 1 || f.2 >= LEAST_ALONE);
    found.sort_by(|a, b| b.1.len().cmp(&a.1.len()).then(b.2.total_cmp(&a.2)));
    let told = |(heaps, zones, sum): (Vec<Heap>, Vec<ZoneId>, f64)| LetDown {
        words: telling::heap(&heaps[0], name),
        zones,
        amount: Amount::of(sum),
    };
    found.into_iter().map(told).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::mixes::compare;
    use crate::staged::{Staged, staged};
    use lean_colour::{Lab, Temperature};
    use lean_recipes::Part;

    #[test]
    fn paint_is_told_in_peas_and_nuts() {
        let told = [0.02, 0.3, 0.6, 1.5, 3.1, 8.2, 26.0].map(in_nuts);
        assert_eq!(told, ["less than a pea", "a pea", "2 peas", "a hazelnut", "2 hazelnuts", "a walnut", "3 walnuts"]);
    }

    #[test]
    fn what_two_mixes_are_made_of_is_let_down_once() {
        let piece = staged(&[Staged::vt(6.0, 0.0), Staged::vt(7.0, 0.0)]);
        let part = |id: &str, parts| Part { pigment: id.into(), parts, touch: false };
        let heap = |of_last, with| Heap { of_last, with };
        let blue = || heap(0, vec![part("blue", 1), part("white", 16)]);
        let mix = |parts| Mix {
            parts: vec![part("white", 9), part("blue", 1)],
            heaps: vec![blue(), heap(1, vec![part("white", parts)])],
            ..Mix::bare(Lab::new(60.0, 0.0, -10.0))
        };
        let zone = |id, parts| compare(ZoneId(id), Lab::new(60.0, 0.0, -10.0), mix(parts), Temperature(0.0));
        let all = let_downs(&piece, &[zone(1, 1), zone(2, 3)], &|id| id.0.clone());
        assert_eq!(all.len(), 1);
        assert_eq!((all[0].words.as_str(), all[0].zones.as_slice()), ("blue 1:16 in white", [ZoneId(1), ZoneId(2)].as_slice()));
        let whole = amount_of(&piece, ZoneId(1)).millilitres;
        assert!((all[0].amount.millilitres - whole * (0.5 + 0.25)).abs() < 1e-9, "half of the one, a quarter of the other");
        // 400 by 300 mm, half of it, a coat of 0.15 mm and what stays on the brush.
        assert!((whole - 60_000.0 * 0.15 * 1.3 / 1000.0).abs() < 1e-9);
    }
}
