//! Plane, distance, light role and kind of every zone, proposed from the picture. A guess to be corrected, never more.

use crate::zones::masses::{mass_of, told};
use lean_picture::ZoneMap;
use lean_picture::zone_map::parts::Parts;
use lean_piece::light::{Distance, Facts, Kind, Plane, Role};
use lean_piece::{MassId, Piece, Zone, ZoneId};
use std::collections::BTreeMap;

/// Share of the height above which a zone's lowest place means it is far, and below which near. Choices.
const FAR_ABOVE: f64 = 0.62;
const NEAR_BELOW: f64 = 0.86;
/// Steps either side of the parting of light and shadow within which a zone counts as turning away. A choice.
const TURNING: f64 = 0.35;
/// Least steps between the means of light and shadow for there to be any. A choice.
const PARTED: f64 = 1.0;

/// How many times as long as wide a zone is at least, and how many degrees its length leans from the level at least and at most, to be slanted.
/// Choices.
const LONG: f64 = 2.0;
const LEANS: std::ops::Range<f64> = 15.0..60.0;
/// Share of the height below which the middle of what is wide and reaches the foot of the picture makes it ground. A choice.
const LOW: f64 = 0.62;
/// Steps a water lies below the sky at most and at least, and CIELAB units its colour is off the sky's at most, to be proposed. Choices.
const BELOW_SKY: std::ops::Range<f64> = 0.2..2.5;
const LIKE_SKY: f64 = 9.0;
/// Steps by which water must be darker than the ground around it: frost and wet sand carry the sky too. A choice.
const BELOW_GROUND: f64 = 0.5;
/// Hue (CIELAB, degrees), chroma, value and largest area of what may be skin. Choices.
const SKIN_HUE: std::ops::Range<f64> = 38.0..68.0;
const SKIN_CHROMA: std::ops::Range<f64> = 14.0..32.0;
const SKIN_VALUE: std::ops::Range<f64> = 4.5..8.3;
const SKIN_AREA: f64 = 0.08;

/// Share of a place's border that runs level from which, below the middle, it lies rather than stands. A choice.
const LEVEL: f64 = 0.68;
/// Places down to this share of a zone's largest have a say in how the zone faces. A choice.
const TELLING: f64 = 0.2;
/// Steps by which what lies in the sky may be darker than the sky and still be of it: a cloud. A choice.
const CLOUD: f64 = 1.5;

/// Where a place lies in the frame, shares from the top left.
#[derive(Clone, Copy, Debug)]
struct Lie {
    zone: u16,
    cells: f64,
    top: f64,
    bottom: f64,
    width: f64,
    height: f64,
    /// How far down its middle is.
    middle: f64,
    /// How many times as long as wide it is, along its own axis.
    long: f64,
    /// Degrees between its length and the level, 0..=90.
    leans: f64,
    /// Share of its border that runs level.
    level: f64,
}

/// Facts for every zone the painter has not spoken about; those said by hand stay as they are, and what was said of a mass holds for its zones.
/// How a zone faces is judged place by place, how far off it is by the foot of the mass it belongs to.
pub fn propose(piece: &Piece) -> Vec<(ZoneId, Facts)> {
    let Some(map) = piece.map() else { return Vec::new() };
    let lies = lies(map);
    let of = |zone: ZoneId| lies.iter().filter(move |l| l.zone == zone.0);
    let sky = sky(piece, map);
    let masses = mass_of(piece);
    let sky_mass = sky.and_then(|s| masses.get(&s)).copied();
    let sky_zone = sky.and_then(|id| piece.zone(id));
    let in_sky = |zone: &Zone| {
        let cloud = sky_zone.is_some_and(|s| zone.reading.value.0 > s.reading.value.0 - CLOUD);
        sky == Some(zone.id) || (sky_mass.is_some() && masses.get(&zone.id).copied() == sky_mass && cloud)
    };
    let parting = parting(piece, sky);
    let ground = ground(piece, &lies, sky);
    let feet = feet(piece);
    piece
        .zones
        .iter()
        .map(|zone| {
            if zone.facts.by_hand {
                return (zone.id, zone.facts);
            }
            let mass = masses.get(&zone.id).copied();
            let is_sky = in_sky(zone);
            let plane = if is_sky { Plane::Sky } else { faces(of(zone.id)) };
            let own_foot = of(zone.id).map(|l| l.bottom).fold(0.0, f64::max);
            // What lies stands nowhere: it is as near as it comes; what stands is as far off as its mass.
            let foot = mass.and_then(|m| feet.get(&m)).filter(|_| plane != Plane::Flat).map_or(own_foot, |f| f.max(own_foot));
            let distance = match foot {
                _ if is_sky => Distance::Far,
                b if b > NEAR_BELOW => Distance::Near,
                b if b < FAR_ABOVE => Distance::Far,
                _ => Distance::Middle,
            };
            let role = if is_sky { None } else { parting.map(|at| role(piece, zone, at)) };
            let found =
                Facts { plane: Some(plane), distance: Some(distance), role, kind: kind(zone, plane, sky_zone, ground), ..zone.facts };
            (zone.id, mass.and_then(|m| piece.mass(m)).map_or(found, |m| told(found, m)))
        })
        .collect()
}

/// How most of a zone faces, by the cells of its telling places.
fn faces<'a>(places: impl Iterator<Item = &'a Lie> + Clone) -> Plane {
    let largest = places.clone().map(|l| l.cells).fold(0.0, f64::max);
    let mut votes: Vec<(Plane, f64)> = Vec::new();
    for l in places.filter(|l| l.cells >= TELLING * largest) {
        let facing = plane(l);
        match votes.iter_mut().find(|v| v.0 == facing) {
            Some(v) => v.1 += l.cells,
            None => votes.push((facing, l.cells)),
        }
    }
    votes.into_iter().max_by(|a, b| a.1.total_cmp(&b.1)).map_or(Plane::Upright, |v| v.0)
}

/// How far down the foot of each mass is, as a share of the height.
fn feet(piece: &Piece) -> BTreeMap<MassId, f64> {
    let Some(map) = piece.mass_map.as_ref().and_then(|m| m.map()) else { return BTreeMap::new() };
    let mut feet = BTreeMap::new();
    for (y, row) in map.labels.chunks_exact(map.width as usize).enumerate() {
        for run in row.chunk_by(|a, b| a == b) {
            feet.insert(MassId(run[0]), (y + 1) as f64 / f64::from(map.height));
        }
    }
    feet
}

/// Every place of a map, in one pass over its cells.
fn lies(map: &ZoneMap) -> Vec<Lie> {
    #[derive(Clone, Default)]
    struct Sums {
        n: f64,
        sum: [f64; 5],
        frame: Option<(usize, usize, usize, usize)>,
        level: f64,
        border: f64,
    }
    let parts = Parts::of(map);
    let of = parts.of_cells();
    let w = map.width as usize;
    let mut sums = vec![Sums::default(); parts.all.len()];
    for (run, part) in parts.stretches() {
        let (y, from, to) = (run.start / w, run.start % w, run.start % w + run.len());
        let s = &mut sums[part as usize];
        for x in from..to {
            let (x, y) = (x as f64, y as f64);
            [x, y, x * x, x * y, y * y].iter().zip(&mut s.sum).for_each(|(v, sum)| *sum += v);
        }
        s.n += run.len() as f64;
        let f = s.frame.get_or_insert((from, to, y, y + 1));
        *f = (f.0.min(from), f.1.max(to), f.2.min(y), f.3.max(y + 1));
        s.border += if from > 0 { 1.0 } else { 0.0 } + if to < w { 1.0 } else { 0.0 };
        for i in run {
            let across = [i.checked_sub(w), Some(i + w).filter(|j| *j < of.len())];
            let edges = across.into_iter().flatten().filter(|j| of[*j] != part).count() as f64;
            s.level += edges;
            s.border += edges;
        }
    }
    let (width, height) = (f64::from(map.width), f64::from(map.height));
    parts
        .all
        .iter()
        .zip(sums)
        .map(|(part, s)| {
            let (left, right, top, bottom) = s.frame.unwrap_or_default();
            let (mx, my) = (s.sum[0] / s.n, s.sum[1] / s.n);
            let (xx, xy, yy) = (s.sum[2] / s.n - mx * mx, s.sum[3] / s.n - mx * my, s.sum[4] / s.n - my * my);
            let (mean, apart) = ((xx + yy) / 2.0, ((xx - yy) / 2.0).hypot(xy));
            Lie {
                zone: part.zone,
                cells: s.n,
                top: top as f64 / height,
                bottom: bottom as f64 / height,
                width: (right - left) as f64 / width,
                height: (bottom - top) as f64 / height,
                middle: my / height,
                long: ((mean + apart) / (mean - apart).max(1e-9)).sqrt(),
                leans: (0.5 * (2.0 * xy).atan2(xx - yy)).to_degrees().abs(),
                level: s.level / s.border.max(1.0),
            }
        })
        .collect()
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
    let wide_and_low = lie.width > 0.5 && lie.middle > LOW;
    let low = lie.bottom > 0.97 && (lie.top > 0.45 || wide_and_low);
    let lying = lie.width > 2.2 * lie.height && lie.top > 0.40;
    let level = lie.level > LEVEL && lie.middle > LOW;
    let slanted = lie.long >= LONG && LEANS.contains(&lie.leans) && lie.bottom < NEAR_BELOW;
    match () {
        () if low || lying || level => Plane::Flat,
        () if slanted => Plane::Slanted,
        () => Plane::Upright,
    }
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

/// Mean value of what lies flat, by area; `None` where nothing does.
fn ground(piece: &Piece, lies: &[Lie], sky: Option<ZoneId>) -> Option<f64> {
    let flat: Vec<&Zone> =
        piece.zones.iter().filter(|z| sky != Some(z.id) && faces(lies.iter().filter(|l| l.zone == z.id.0)) == Plane::Flat).collect();
    let area: f64 = flat.iter().map(|z| z.reading.area).sum();
    (area > 0.0).then(|| flat.iter().map(|z| z.reading.area * z.reading.value.0).sum::<f64>() / area)
}

fn kind(zone: &Zone, plane: Plane, sky: Option<&Zone>, ground: Option<f64>) -> Option<Kind> {
    let lab = zone.reading.lab;
    let value = zone.reading.value.0;
    let water = |sky: &Zone| {
        let s = sky.reading.lab;
        let below = BELOW_SKY.contains(&(sky.reading.value.0 - value));
        below && (lab.a - s.a).hypot(lab.b - s.b) < LIKE_SKY && ground.is_some_and(|g| value < g - BELOW_GROUND)
    };
    let skin = SKIN_CHROMA.contains(&lab.chroma()) && SKIN_VALUE.contains(&value) && zone.reading.area <= SKIN_AREA;
    match lab.hue().0.rem_euclid(360.0) {
        _ if plane == Plane::Sky => None,
        _ if plane == Plane::Flat && sky.is_some_and(water) => Some(Kind::Water),
        _ if value > 7.6 && lab.chroma() < 10.0 => Some(Kind::White),
        _ if value < 2.2 && lab.chroma() < 10.0 => Some(Kind::Dark),
        h if (98.0..165.0).contains(&h) && lab.chroma() > 14.0 => Some(Kind::Foliage),
        h if plane == Plane::Upright && skin && SKIN_HUE.contains(&h) => Some(Kind::Skin),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

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
    fn water_carries_the_sky_and_lies_below_the_ground_in_value() {
        let kind_of = |water: Staged| {
            let mut piece = staged(&[Staged::read(82.0, -1.0, -9.0), Staged::read(35.0, 6.0, 8.0), Staged::read(90.0, 2.0, 8.0), water]);
            piece.lighting.outdoors = true;
            facts(&piece, 4).kind
        };
        assert_eq!(kind_of(Staged::read(70.0, -2.0, -12.0)), Some(Kind::Water));
        assert_eq!(kind_of(Staged::read(70.0, 8.0, 20.0)), None, "sand is not the colour of the sky");
        assert_ne!(kind_of(Staged::read(95.0, -1.0, -9.0)), Some(Kind::Water), "frost is lighter than the sky");
    }

    #[test]
    fn a_small_upright_of_its_colour_may_be_skin_and_a_large_one_is_not() {
        let skin = Staged::read(68.0, 13.0, 17.0);
        let mut piece = staged(&[Staged::read(40.0, 0.0, -8.0), skin, Staged::read(30.0, 2.0, -6.0), Staged::read(70.0, 3.0, 12.0)]);
        assert_eq!(facts(&piece, 2).kind, None, "a quarter of the picture is a wall");
        piece.zones[1].reading.area = 0.05;
        assert_eq!(facts(&piece, 2).kind, Some(Kind::Skin));
    }

    #[test]
    fn what_leans_along_its_length_is_slanted() {
        let mut piece = staged(&[Staged::read(85.0, 0.0, -8.0), Staged::read(40.0, 10.0, 20.0)]);
        let (w, h) = (120u32, 90u32);
        let roof = |i: u32| (i % w + 2 * (i / w)).abs_diff(110) < 12 && i / w < 60;
        piece.zone_map = Some(ZoneMap { width: w, height: h, labels: (0..w * h).map(|i| 1 + u16::from(roof(i))).collect() }.into());
        assert_eq!(facts(&piece, 2).plane, Some(Plane::Slanted));
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
