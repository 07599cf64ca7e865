//! Plane, distance, light role and kind of every zone, proposed from the picture. A guess to be corrected, never more.

use super::{Distance, Facts, Kind, Plane, Role};
use crate::piece::{Piece, Zone, ZoneId};
use lean_picture::ZoneMap;

/// Share of the height above which a zone's lowest place means it is far, and below which near. Choices.
const FAR_ABOVE: f64 = 0.62;
const NEAR_BELOW: f64 = 0.86;
/// Steps either side of the parting of light and shadow within which a zone counts as turning away. A choice.
const TURNING: f64 = 0.35;
/// Least steps between the means of light and shadow for there to be any. A choice.
const PARTED: f64 = 1.0;

/// Where a zone lies in the frame, shares from the top left.
struct Lie {
    top: f64,
    bottom: f64,
    width: f64,
    height: f64,
}

/// Facts for every zone the painter has not spoken about; those said by hand stay as they are.
pub fn propose(piece: &Piece) -> Vec<(ZoneId, Facts)> {
    let Some(map) = &piece.zone_map else { return Vec::new() };
    let lies: Vec<Lie> = piece.zones.iter().map(|z| lie(map, z.id)).collect();
    let sky = sky(piece, map);
    let parting = parting(piece, sky);
    piece
        .zones
        .iter()
        .zip(&lies)
        .map(|(zone, lie)| {
            if zone.facts.by_hand {
                return (zone.id, zone.facts);
            }
            let is_sky = sky == Some(zone.id);
            let plane = if is_sky { Plane::Sky } else { plane(lie) };
            let distance = match lie.bottom {
                _ if is_sky => Distance::Far,
                b if b > NEAR_BELOW => Distance::Near,
                b if b < FAR_ABOVE => Distance::Far,
                _ => Distance::Middle,
            };
            let role = if is_sky { None } else { parting.map(|at| role(piece, zone, at)) };
            (zone.id, Facts { plane: Some(plane), distance: Some(distance), role, kind: kind(zone, is_sky), ..zone.facts })
        })
        .collect()
}

fn lie(map: &ZoneMap, zone: ZoneId) -> Lie {
    let (mut top, mut bottom, mut left, mut right) = (map.height, 0, map.width, 0);
    for (i, _) in map.labels.iter().enumerate().filter(|(_, l)| **l == zone.0) {
        let (x, y) = (i as u32 % map.width, i as u32 / map.width);
        (top, bottom, left, right) = (top.min(y), bottom.max(y + 1), left.min(x), right.max(x + 1));
    }
    let (w, h) = (f64::from(map.width), f64::from(map.height));
    let span = |a: u32, b: u32| f64::from(b.saturating_sub(a));
    Lie { top: f64::from(top) / h, bottom: f64::from(bottom) / h, width: span(left, right) / w, height: span(top, bottom) / h }
}

/// Outdoors: the zone that fills most of the top edge, if it is lighter than the middle of the picture.
fn sky(piece: &Piece, map: &ZoneMap) -> Option<ZoneId> {
    if !piece.lighting.outdoors {
        return None;
    }
    let top = &map.labels[..map.width as usize];
    let most = piece.zones.iter().max_by_key(|z| top.iter().filter(|l| **l == z.id.0).count())?;
    let share = top.iter().filter(|l| **l == most.id.0).count() as f64 / f64::from(map.width);
    let mean: f64 = piece.zones.iter().map(|z| z.reading.area * z.reading.value.0).sum();
    (share > 0.4 && most.reading.value.0 >= mean).then_some(most.id)
}

fn plane(lie: &Lie) -> Plane {
    let low = lie.bottom > 0.97 && lie.top > 0.45;
    let lying = lie.width > 2.2 * lie.height && lie.top > 0.40;
    if low || lying { Plane::Flat } else { Plane::Upright }
}

/// The value that parts light from shadow best: least spread inside both, by area (Otsu 1979). `None` when the picture hardly parts.
fn parting(piece: &Piece, sky: Option<ZoneId>) -> Option<f64> {
    let mut by_value: Vec<(f64, f64)> =
        piece.zones.iter().filter(|z| Some(z.id) != sky).map(|z| (z.reading.value.0, z.reading.area)).collect();
    by_value.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mean = |s: &[(f64, f64)]| s.iter().map(|(v, w)| v * w).sum::<f64>() / s.iter().map(|s| s.1).sum::<f64>().max(1e-12);
    let weight = |s: &[(f64, f64)]| s.iter().map(|s| s.1).sum::<f64>();
    (1..by_value.len())
        .map(|cut| {
            let (dark, light) = by_value.split_at(cut);
            let apart = mean(light) - mean(dark);
            (weight(dark) * weight(light) * apart * apart, apart, (dark[cut - 1].0 + light[0].0) / 2.0)
        })
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .filter(|(_, apart, _)| *apart >= PARTED)
        .map(|(_, _, at)| at)
}

fn role(piece: &Piece, zone: &Zone, parting: f64) -> Role {
    let value = zone.reading.value.0;
    let lightest = piece.zones.iter().map(|z| z.reading.value.0).fold(0.0, f64::max);
    let darkest = piece.zones.iter().map(|z| z.reading.value.0).fold(10.0, f64::min);
    let small = zone.reading.area < 0.015;
    match value {
        v if small && v >= lightest - 0.05 && v > 8.0 => Role::Highlight,
        v if small && v <= darkest + 0.05 => Role::Contact,
        v if (v - parting).abs() < TURNING => Role::Halftone,
        v if v > parting => Role::Lit,
        _ => Role::Shadow,
    }
}

fn kind(zone: &Zone, sky: bool) -> Option<Kind> {
    let lab = zone.reading.lab;
    let value = zone.reading.value.0;
    match lab.hue().rem_euclid(360.0) {
        _ if sky => None,
        _ if value > 7.6 && lab.chroma() < 10.0 => Some(Kind::White),
        _ if value < 2.2 && lab.chroma() < 10.0 => Some(Kind::Dark),
        h if (98.0..165.0).contains(&h) && lab.chroma() > 14.0 => Some(Kind::Foliage),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, staged};

    fn facts(piece: &Piece, id: u16) -> Facts {
        propose(piece).into_iter().find(|(z, _)| z.0 == id).map(|(_, f)| f).unwrap_or_default()
    }

    #[test]
    fn a_landscape_gets_sky_ground_light_and_shadow() {
        let mut piece = staged(&[
            Staged::read(85.0, 0.0, -8.0),
            Staged::read(62.0, 10.0, 20.0),
            Staged::read(30.0, 2.0, -6.0),
            Staged::read(70.0, 3.0, 12.0),
        ]);
        piece.lighting.outdoors = true;
        // Rows from top: sky, lit wall, shaded wall, ground.
        assert_eq!((facts(&piece, 1).plane, facts(&piece, 1).distance), (Some(Plane::Sky), Some(Distance::Far)));
        assert_eq!((facts(&piece, 4).plane, facts(&piece, 4).distance), (Some(Plane::Flat), Some(Distance::Near)));
        assert_eq!((facts(&piece, 2).role, facts(&piece, 3).role), (Some(Role::Lit), Some(Role::Shadow)));
        assert_eq!(facts(&piece, 1).role, None);
    }

    #[test]
    fn indoors_nothing_is_sky_and_what_was_said_stays() {
        let mut piece = staged(&[Staged::read(85.0, 0.0, -8.0), Staged::read(30.0, 2.0, -6.0)]);
        piece.zones[0].facts = Facts { plane: Some(Plane::Slanted), by_hand: true, ..Facts::default() };
        assert_eq!(facts(&piece, 1).plane, Some(Plane::Slanted));
        assert_ne!(facts(&piece, 2).plane, Some(Plane::Sky));
    }

    #[test]
    fn a_picture_of_one_value_has_no_light_and_shadow() {
        let piece = staged(&[Staged::read(60.0, 0.0, -8.0), Staged::read(61.0, 12.0, 6.0)]);
        assert!(propose(&piece).iter().all(|(_, f)| f.role.is_none()));
    }
}
