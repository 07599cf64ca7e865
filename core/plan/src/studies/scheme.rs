//! Hues freed, values held, warm kept warmer than its neighbours.

use super::chord::RULES;
pub use super::chord::in_shares;
use super::drawn::coloured;
use super::freed::{FAINT, held, room, strength, turn, warmth};
use super::order::ordered_pairs;
use super::restraint::{families, restrained};
use super::{chord, other_light};
use crate::drawing::is_drawing;
use crate::light::key::Reach;
use crate::wording::hue::hue_word;
use lean_colour::difference::ciede2000;
use lean_colour::moves::with_temperature;
use lean_colour::temperature::WARM_POLE;
use lean_colour::{HueAngle, Lab, Temperature};
use lean_piece::intent::moods::MoodScheme;
use lean_piece::{Chord, HueShare, Piece, Scheme, Zone};

/// Width of a neighbours scheme on the circle, in degrees. A choice.
const STRETCH: f64 = 62.0;
/// Warm–cool units by which a zone planned warmer than its neighbour stays warmer in a study. A choice: just above what reads as
/// the same.
const CLEARLY_WARMER: f64 = 5.0;
/// Mean CIEDE2000 by which a study must leave the others to be another picture. A choice.
pub const REALLY_DIFFERS: f64 = 9.0;
/// Degrees on the circle between the ruling hues of two studies of different mood. A choice.
const OTHER_MOOD: f64 = 75.0;

/// Colours wanted in each zone under a scheme, in the order of `piece.zones`. Another light needs to know what can be reached (`reach`). `None` where
/// the scheme does not say by itself: colours that were borrowed, a plan as it was.
pub fn wanted(piece: &Piece, scheme: &Scheme, reach: Option<Reach>) -> Option<Vec<Lab>> {
    let freed = |colours| Some(in_order(piece, restrained(piece, colours, asked_by_mood(piece, scheme)), turns(scheme)));
    if is_drawing(piece)
        && let Some(colours) = coloured(piece, scheme)
    {
        return Some(colours);
    }
    match scheme {
        Scheme::AsRead => Some(piece.zones.iter().map(|z| piece.wanted(z)).collect()),
        Scheme::OneHue { hue } => freed(neighbours(piece, *hue, *hue)),
        Scheme::Opposites { dominant, other } => freed(opposites(piece, *dominant, *other)),
        Scheme::Neighbours { from, to } => freed(neighbours(piece, *from, *to)),
        Scheme::Chord { hues, .. } => freed(chord::wanted(piece, hues)),
        Scheme::Slide { dark, light } => freed(chord::slid(piece, HueAngle(*dark), HueAngle(*light))),
        Scheme::Light { light } => other_light::wanted(piece, *light, reach?),
        Scheme::Borrowed { .. } | Scheme::Former => None,
    }
}

/// Whether the mood that rules asks for just this scheme.
fn asked_by_mood(piece: &Piece, scheme: &Scheme) -> bool {
    let Some(mood) = piece.intent.scheme() else { return false };
    match scheme {
        Scheme::OneHue { .. } => mood == MoodScheme::OneHue,
        Scheme::Opposites { .. } => mood == MoodScheme::Opposites,
        Scheme::Neighbours { .. } => mood == MoodScheme::Neighbours,
        Scheme::Slide { .. } => mood == MoodScheme::Slide,
        Scheme::Chord { chord, .. } => match chord {
            Chord::Opposites => mood == MoodScheme::Opposites,
            Chord::Neighbours => mood == MoodScheme::Neighbours,
            Chord::SplitOpposite => mood == MoodScheme::SplitOpposite,
            Chord::Three => mood == MoodScheme::Three,
            Chord::Square => mood == MoodScheme::Square,
            Chord::Rectangle => mood == MoodScheme::Rectangle,
            Chord::Game => false,
        },
        Scheme::AsRead | Scheme::Borrowed { .. } | Scheme::Light { .. } | Scheme::Former => false,
    }
}

/// A scheme with all its hues turned by so many degrees, the way they stand to each other kept; `None` where it names no hues.
pub fn turned(scheme: &Scheme, by: f64) -> Option<Scheme> {
    let turn = |hue: f64| (hue + by).rem_euclid(360.0);
    Some(match scheme {
        Scheme::OneHue { hue } => Scheme::OneHue { hue: turn(*hue) },
        Scheme::Opposites { dominant, other } => Scheme::Opposites { dominant: turn(*dominant), other: turn(*other) },
        Scheme::Neighbours { from, to } => Scheme::Neighbours { from: turn(*from), to: turn(*to) },
        Scheme::Slide { dark, light } => Scheme::Slide { dark: turn(*dark), light: turn(*light) },
        Scheme::Chord { chord, hues } => {
            Scheme::Chord { chord: *chord, hues: hues.iter().map(|h| HueShare { hue: turn(h.hue), share: h.share }).collect() }
        }
        Scheme::AsRead | Scheme::Light { .. } | Scheme::Borrowed { .. } | Scheme::Former => return None,
    })
}

/// The hues a scheme lives in; empty where it names none.
pub(crate) fn hues_of(scheme: &Scheme) -> Vec<f64> {
    match scheme {
        Scheme::OneHue { hue } => vec![*hue],
        Scheme::Slide { dark, light } => vec![*dark, *light],
        other => in_shares(other).map(|(_, hues)| hues.iter().map(|h| h.hue).collect()).unwrap_or_default(),
    }
}

/// Whether a scheme keeps the planned values: every one but another light.
pub fn holds_values(scheme: &Scheme) -> bool {
    !matches!(scheme, Scheme::Light { .. })
}

/// Degrees by which zones of a scheme may turn to keep warm zones warmer: of one hue hardly, where two or more share the picture as they must.
fn turns(scheme: &Scheme) -> f64 {
    if matches!(scheme, Scheme::OneHue { .. }) { ONE_HUE_TURNS } else { 180.0 }
}

/// What still is one hue, in degrees to either side. A choice.
const ONE_HUE_TURNS: f64 = 12.0;

/// Puts neighbours whose warm–cool order was lost (a light zone has little room for chroma) back in order: both give way along
/// the warm–cool axis, values staying as they are. White things of one light move together.
/// No colour turns by more than `most` degrees for it: a study is what it is called first.
fn in_order(piece: &Piece, mut colours: Vec<Lab>, most: f64) -> Vec<Lab> {
    const PASSES: usize = 40;
    let hues: Vec<f64> = colours.iter().map(|c| c.hue().0).collect();
    let stays = |zone: usize, c: Lab| ((c.hue().0 - hues[zone] + 180.0).rem_euclid(360.0) - 180.0).abs() <= most;
    let pairs = ordered_pairs(piece);
    let families = families(piece);
    let moved_with = |zone: usize| families.iter().find(|f| f.contains(&zone)).cloned().unwrap_or_else(|| vec![zone]);
    let warm_by = |colours: &mut Vec<Lab>, zone: usize, by: f64| {
        for z in moved_with(zone) {
            let moved = with_temperature(colours[z], Temperature(colours[z].temperature().0 + by));
            if stays(z, moved) {
                colours[z] = moved;
            }
        }
    };
    for _ in 0..PASSES {
        let mut moved = false;
        for (warm, cool) in &pairs {
            let (w, c) = (colours[*warm].temperature().0, colours[*cool].temperature().0);
            if w - c < CLEARLY_WARMER - 0.1 {
                let by = (CLEARLY_WARMER - (w - c)) / 2.0;
                warm_by(&mut colours, *warm, by);
                warm_by(&mut colours, *cool, -by);
                moved = true;
            }
        }
        if !moved {
            break;
        }
    }
    colours
}

/// Candidate schemes of two opposites, as `opposite` has them: every 15°, leaving out axes that lie across warm and cool (they could not keep
/// warm zones warm).
pub fn opposite_schemes(opposite: impl Fn(HueAngle) -> HueAngle) -> Vec<Scheme> {
    hues(15.0)
        .map(|h| (h, opposite(HueAngle(h)).0))
        .filter(|(h, other)| warmth(*h).abs() > 0.45 && warmth(*other) * warmth(*h).signum() < -0.1)
        .map(|(dominant, other)| Scheme::Opposites { dominant, other })
        .collect()
}

/// Candidate schemes of neighbours: stretches that do not pass a pole, so that along them warmer is always one way.
pub fn neighbour_schemes() -> Vec<Scheme> {
    hues(15.0)
        .filter_map(|h| {
            let (a, b) = (h, (h + STRETCH).rem_euclid(360.0));
            let passes = |pole: f64| (pole - h).rem_euclid(360.0) < STRETCH;
            if passes(WARM_POLE) || passes(WARM_POLE + 180.0) {
                return None;
            }
            let (from, to) = if warmth(a) < warmth(b) { (a, b) } else { (b, a) };
            Some(Scheme::Neighbours { from, to })
        })
        .collect()
}

fn hues(step: f64) -> impl Iterator<Item = f64> {
    (0..(360.0 / step) as usize).map(move |i| i as f64 * step)
}

/// Rank of each zone from coolest 0 to warmest 1 by area passed: half its own area counted.
fn warm_rank(zones: &[Zone]) -> Vec<f64> {
    let t: Vec<f64> = zones.iter().map(|z| z.target.temperature().0).collect();
    let total: f64 = zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
    (0..zones.len())
        .map(|i| {
            let cooler: f64 = (0..zones.len()).filter(|j| t[*j] < t[i]).map(|j| zones[j].reading.area).sum();
            (cooler + 0.5 * zones[i].reading.area) / total
        })
        .collect()
}

fn opposites(piece: &Piece, dominant: f64, other: f64) -> Vec<Lab> {
    let ranks = warm_rank(&piece.zones);
    let most = strength(piece);
    let rules_warm = warmth(dominant) > warmth(other);
    // The ruling hue takes the coolest (or warmest) zones until it covers its share of the picture.
    let parting = if rules_warm { 1.0 - RULES } else { RULES };
    piece
        .zones
        .iter()
        .zip(ranks)
        .map(|(z, rank)| {
            let value = z.target.value();
            let warm = rank > parting;
            let hue = if warm == rules_warm { dominant } else { other };
            let span = if warm { 1.0 - parting } else { parting };
            let far = ((rank - parting).abs() / span.max(1e-6)).min(1.0);
            let chroma = FAINT.min(room(value, most)) + (room(value, most) - FAINT).max(0.0) * (0.25 + 0.75 * far);
            held(z, chroma, hue)
        })
        .collect()
}

fn neighbours(piece: &Piece, from: f64, to: f64) -> Vec<Lab> {
    let ranks = warm_rank(&piece.zones);
    let most = strength(piece);
    let turn = turn(from, to);
    let warm_side = warmth(from + turn / 2.0) > 0.0;
    piece
        .zones
        .iter()
        .zip(ranks)
        .map(|(z, rank)| {
            let hue = (from + turn * rank).rem_euclid(360.0);
            // On the warm half stronger is warmer; on the cool half stronger is cooler.
            let strong = if warm_side { rank } else { 1.0 - rank };
            let value = z.target.value();
            let chroma = FAINT.min(room(value, most)) + (room(value, most) - FAINT).max(0.0) * (0.2 + 0.7 * strong);
            held(z, chroma, hue)
        })
        .collect()
}

/// Area-weighted mean CIEDE2000 between two versions of the piece.
pub fn apart(piece: &Piece, a: &[Lab], b: &[Lab]) -> f64 {
    let total: f64 = piece.zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
    piece.zones.iter().zip(a.iter().zip(b)).map(|(z, (x, y))| z.reading.area / total * ciede2000(*x, *y)).sum()
}

/// The hue most of a picture lives in under a scheme.
fn ruling_hue(scheme: &Scheme) -> Option<f64> {
    match scheme {
        Scheme::Opposites { dominant, .. } => Some(*dominant),
        Scheme::Neighbours { from, to } => Some((from + turn(*from, *to) / 2.0).rem_euclid(360.0)),
        _ => None,
    }
}

/// One scheme of opposites and one of neighbours: of the pairs that make, with the piece as read, three pictures that really
/// differ, the one `effort` finds easiest for both; if none does, the one that differs most.
pub(crate) fn choose_two(piece: &Piece, opposite: impl Fn(HueAngle) -> HueAngle, effort: impl Fn(&[Lab]) -> f64) -> [Scheme; 2] {
    struct Candidate {
        scheme: Scheme,
        colours: Vec<Lab>,
        effort: f64,
        from_read: f64,
    }
    let read: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
    let see = |scheme: Scheme| {
        let colours = wanted(piece, &scheme, None).unwrap_or_default();
        Candidate { scheme, effort: effort(&colours), from_read: apart(piece, &colours, &read), colours }
    };
    let opposites: Vec<Candidate> = opposite_schemes(opposite).into_iter().map(see).collect();
    let neighbours: Vec<Candidate> = neighbour_schemes().into_iter().map(see).collect();
    let pairs = opposites.iter().flat_map(|b| neighbours.iter().map(move |c| (b, c)));
    let judged: Vec<(&Candidate, &Candidate, f64, bool)> = pairs
        .map(|(b, c)| {
            let least = apart(piece, &b.colours, &c.colours).min(b.from_read).min(c.from_read);
            let hues = ruling_hue(&b.scheme).zip(ruling_hue(&c.scheme));
            let other_mood = hues.is_some_and(|(h, k)| turn(h, k).abs() >= OTHER_MOOD);
            (b, c, least, least >= REALLY_DIFFERS && other_mood)
        })
        .collect();
    let easiest = judged.iter().filter(|j| j.3).min_by(|x, y| (x.0.effort + x.1.effort).total_cmp(&(y.0.effort + y.1.effort)));
    let farthest = judged.iter().max_by(|x, y| x.2.total_cmp(&y.2));
    easiest.or(farthest).map_or([Scheme::AsRead, Scheme::AsRead], |j| [j.0.scheme.clone(), j.1.scheme.clone()])
}

/// A scheme in words.
pub fn describe(scheme: &Scheme) -> String {
    match scheme {
        Scheme::AsRead => "as measured".into(),
        Scheme::OneHue { hue } => format!("monochromatic: {}", hue_word(HueAngle(*hue))),
        Scheme::Opposites { dominant, other } => {
            format!("complementary: mostly {}, with {}", hue_word(HueAngle(*dominant)), hue_word(HueAngle(*other)))
        }
        Scheme::Neighbours { from, to } => match (hue_word(HueAngle(*from)), hue_word(HueAngle(*to))) {
            (from, to) if from == to => format!("analogous: {from}s"),
            (from, to) => format!("analogous: {from} to {to}"),
        },
        Scheme::Chord { chord, hues } => {
            let words: Vec<&str> = hues.iter().map(|h| hue_word(HueAngle(h.hue))).collect();
            format!("{}: {}", chord_name(*chord), words.join(", "))
        }
        Scheme::Slide { dark, light } => format!("gradient: dark {} to light {}", hue_word(HueAngle(*dark)), hue_word(HueAngle(*light))),
        Scheme::Borrowed { from } => format!("colours of {from}"),
        Scheme::Light { light } => other_light::name(*light).into(),
        Scheme::Former => "the plan before".into(),
    }
}

fn chord_name(chord: Chord) -> &'static str {
    match chord {
        Chord::Opposites => "complementary",
        Chord::Neighbours => "analogous",
        Chord::SplitOpposite => "split complementary",
        Chord::Three => "triadic",
        Chord::Square => "tetradic (square)",
        Chord::Rectangle => "tetradic (rectangle)",
        Chord::Game => "the game",
    }
}
