//! Several hues in stated shares: which zone lives in which, and how strong it is there.

use super::freed::{FAINT, held, room, strength, turn, warmth};
use lean_colour::{HueAngle, Lab};
use lean_piece::{Chord, HueShare, Piece, Scheme};

/// Which of the hues every zone lives in, in the order of `piece.zones`. Warm zones take warm hues: zones from the coolest to the warmest are
/// parted at the places where the shares of the picture come nearest to those asked for. Every hue gets a zone while there are enough.
pub fn laid(piece: &Piece, hues: &[HueShare]) -> Vec<usize> {
    let mut zones: Vec<usize> = (0..piece.zones.len()).collect();
    zones.sort_by(|a, b| piece.zones[*a].target.temperature().0.total_cmp(&piece.zones[*b].target.temperature().0));
    let mut by_warmth: Vec<usize> = (0..hues.len()).collect();
    by_warmth.sort_by(|a, b| warmth(hues[*a].hue).total_cmp(&warmth(hues[*b].hue)));
    let total: f64 = piece.zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
    let areas: Vec<f64> = zones.iter().map(|z| piece.zones[*z].reading.area / total).collect();
    let asked: f64 = hues.iter().map(|h| h.share).sum::<f64>().max(f64::MIN_POSITIVE);
    let shares: Vec<f64> = by_warmth.iter().map(|h| hues[*h].share / asked).collect();
    let ends = parted(&areas, &shares);
    let mut of = vec![0; zones.len()];
    for (place, zone) in zones.iter().enumerate() {
        let block = ends.iter().position(|end| place < *end).unwrap_or(ends.len() - 1);
        of[*zone] = by_warmth[block];
    }
    of
}

/// Where a row of areas is parted so that its stretches come nearest to some shares: the end of each stretch. Exact, by dynamic programming.
fn parted(areas: &[f64], shares: &[f64]) -> Vec<usize> {
    let (n, k) = (areas.len(), shares.len());
    let least = usize::from(n >= k);
    let sums: Vec<f64> = std::iter::once(0.0)
        .chain(areas.iter().scan(0.0, |sum, a| {
            *sum += a;
            Some(*sum)
        }))
        .collect();
    // best[j][i]: the first j stretches cover the first i areas.
    let mut best = vec![vec![(f64::INFINITY, 0usize); n + 1]; k + 1];
    best[0][0].0 = 0.0;
    for j in 1..=k {
        for end in j * least..=n {
            for start in (j - 1) * least..=end.saturating_sub(least) {
                let off = best[j - 1][start].0 + (sums[end] - sums[start] - shares[j - 1]).abs();
                if off < best[j][end].0 {
                    best[j][end] = (off, start);
                }
            }
        }
    }
    let mut ends = vec![n; k];
    for j in (1..k).rev() {
        ends[j - 1] = best[j + 1][ends[j]].1;
    }
    ends
}

/// Share of the picture that the ruling hue of two opposites should cover. A choice.
pub(super) const RULES: f64 = 0.68;

/// The hues of a scheme with the share of the picture each covers, the ruling one first, and how they stand to each other; `None` where a scheme has
/// no shares to be moved: one hue, a slide, another light, colours from elsewhere.
pub fn in_shares(scheme: &Scheme) -> Option<(Chord, Vec<HueShare>)> {
    match scheme {
        Scheme::Opposites { dominant, other } => {
            Some((Chord::Opposites, vec![HueShare { hue: *dominant, share: RULES }, HueShare { hue: *other, share: 1.0 - RULES }]))
        }
        Scheme::Neighbours { from, to } => {
            let middle = (from + turn(*from, *to) / 2.0).rem_euclid(360.0);
            let share = |hue: f64, share: f64| HueShare { hue, share };
            Some((Chord::Neighbours, vec![share(middle, 0.5), share(*from, 0.25), share(*to, 0.25)]))
        }
        Scheme::Chord { chord, hues } => Some((*chord, hues.clone())),
        _ => None,
    }
}

/// Colours wanted under a chord, values held: the ruling hue quiet, the accent strong.
pub fn wanted(piece: &Piece, hues: &[HueShare]) -> Vec<Lab> {
    let most = strength(piece);
    let strongest = piece.zones.iter().map(|z| z.target.chroma()).fold(1.0, f64::max);
    let rank = |h: usize| hues.iter().filter(|o| o.share > hues[h].share).count() as f64 / (hues.len() - 1).max(1) as f64;
    let of = laid(piece, hues);
    let zones = piece.zones.iter().zip(of);
    zones
        .map(|(z, h)| {
            let room = room(z.target.value(), most);
            let keen = 0.35 + 0.3 * z.target.chroma() / strongest + 0.3 * rank(h);
            held(z, FAINT.min(room) + (room - FAINT).max(0.0) * keen, hues[h].hue)
        })
        .collect()
}

/// Colours wanted when one hue slides into another from dark to light, values held.
pub(crate) fn slid(piece: &Piece, dark: HueAngle, light: HueAngle) -> Vec<Lab> {
    let most = strength(piece);
    let values: Vec<f64> = piece.zones.iter().map(|z| z.target.l).collect();
    let total: f64 = piece.zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
    let turn = turn(dark.0, light.0);
    let rank = |i: usize| {
        let below: f64 = (0..values.len()).filter(|j| values[*j] < values[i]).map(|j| piece.zones[j].reading.area).sum();
        (below + 0.5 * piece.zones[i].reading.area) / total
    };
    let zones = piece.zones.iter().enumerate();
    zones.map(|(i, z)| held(z, 0.6 * room(z.target.value(), most), dark.turned(HueAngle(turn * rank(i))).0)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_row_is_parted_where_its_stretches_come_nearest() {
        assert_eq!(parted(&[0.1, 0.2, 0.3, 0.4], &[0.6, 0.4]), [3, 4]);
        assert_eq!(parted(&[0.25; 4], &[0.1, 0.3, 0.6]), [1, 2, 4]);
        assert_eq!(parted(&[1.0], &[0.5, 0.5]).last(), Some(&1), "fewer zones than hues");
    }
}
