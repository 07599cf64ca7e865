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

/// Where a zone lies in the frame, shares from the top left.
struct Lie {
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
}

/// Facts for every zone the painter has not spoken about; those said by hand stay as they are.
pub fn propose(piece: &Piece) -> Vec<(ZoneId, Facts)> {
    let Some(map) = piece.map() else { return Vec::new() };
    let lies: Vec<Lie> = piece.zones.iter().map(|z| lie(map, z.id)).collect();
    let sky = sky(piece, map);
    let parting = parting(piece, sky);
    let sky_zone = sky.and_then(|id| piece.zone(id));
    let ground = ground(piece, &lies, sky);
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
            (zone.id, Facts { plane: Some(plane), distance: Some(distance), role, kind: kind(zone, plane, sky_zone, ground), ..zone.facts })
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
    let Axis { middle, long, leans } = axis(map, zone);
    let middle = middle / h;
    Lie {
        top: f64::from(top) / h,
        bottom: f64::from(bottom) / h,
        width: span(left, right) / w,
        height: span(top, bottom) / h,
        middle,
        long,
        leans,
    }
}

/// The row of a zone's middle, its length against its width, and the lean of its length in degrees.
struct Axis {
    middle: f64,
    long: f64,
    leans: f64,
}

/// By the first and second moments of its cells.
fn axis(map: &ZoneMap, zone: ZoneId) -> Axis {
    let cells = || {
        let of_zone = map.labels.iter().enumerate().filter(move |(_, l)| **l == zone.0);
        of_zone.map(|(i, _)| (f64::from(i as u32 % map.width), f64::from(i as u32 / map.width)))
    };
    let n = (cells().count() as f64).max(1.0);
    let (mx, my) = cells().fold((0.0, 0.0), |(x, y), c| (x + c.0 / n, y + c.1 / n));
    let moment = |f: &dyn Fn(f64, f64) -> f64| cells().map(|(x, y)| f(x - mx, y - my)).sum::<f64>() / n;
    let (xx, yy, xy) = (moment(&|x, _| x * x), moment(&|_, y| y * y), moment(&|x, y| x * y));
    let (mean, apart) = ((xx + yy) / 2.0, ((xx - yy) / 2.0).hypot(xy));
    let leans = (0.5 * (2.0 * xy).atan2(xx - yy)).to_degrees().abs();
    Axis { middle: my, long: ((mean + apart) / (mean - apart).max(1e-9)).sqrt(), leans }
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
    let slanted = lie.long >= LONG && LEANS.contains(&lie.leans) && lie.bottom < NEAR_BELOW;
    match () {
        () if low || lying => Plane::Flat,
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
    let flat = || piece.zones.iter().zip(lies).filter(|(z, lie)| sky != Some(z.id) && plane(lie) == Plane::Flat);
    let area: f64 = flat().map(|(z, _)| z.reading.area).sum();
    (area > 0.0).then(|| flat().map(|(z, _)| z.reading.area * z.reading.value.0).sum::<f64>() / area)
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
    match lab.hue().rem_euclid(360.0) {
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
