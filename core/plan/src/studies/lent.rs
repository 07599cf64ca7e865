//! The colours of something else laid on a piece: an old painting, a fabric, a card, an earlier study.

use lean_colour::Lab;
use lean_colour::real::toward_real;
use lean_piece::{Piece, WishedColour};

/// Rounds in which the price of a colour is moved until its share fits.
const ROUNDS: usize = 120;
/// How much faster a price moves at first than a rank is long.
const STEP: f64 = 0.6;

/// Each zone takes the colour whose rank in value and in warmth is nearest to its own, so that the colours keep their proportions as far as
/// whole zones allow; values stay those of the piece. In the order of `piece.zones`; empty without colours.
///
/// A transport of areas to shares solved by prices: a colour that is taken too often grows dearer (Bertsekas 1988, auctions; here with steps that
/// shrink, the best round kept).
pub fn wanted(piece: &Piece, colours: &[WishedColour]) -> Vec<Lab> {
    if colours.is_empty() {
        return Vec::new();
    }
    let areas: Vec<f64> = normed(piece.zones.iter().map(|z| z.reading.area));
    let shares: Vec<f64> = normed(colours.iter().map(|c| c.area));
    let zones: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
    let lent: Vec<Lab> = colours.iter().map(|c| c.lab).collect();
    let of_zones = (ranks(&zones, &areas, |c| c.l), ranks(&zones, &areas, |c| c.temperature().0));
    let of_lent = (ranks(&lent, &shares, |c| c.l), ranks(&lent, &shares, |c| c.temperature().0));
    let far = |z: usize, c: usize| (of_zones.0[z] - of_lent.0[c]).powi(2) + (of_zones.1[z] - of_lent.1[c]).powi(2);
    let mut prices = vec![0.0; lent.len()];
    let mut best: Option<(f64, Vec<usize>)> = None;
    for round in 0..ROUNDS {
        let nearest =
            |z: usize| (0..lent.len()).min_by(|a, b| (far(z, *a) + prices[*a]).total_cmp(&(far(z, *b) + prices[*b]))).unwrap_or(0);
        let taken: Vec<usize> = (0..zones.len()).map(nearest).collect();
        let mut over: Vec<f64> = shares.iter().map(|s| -s).collect();
        taken.iter().zip(&areas).for_each(|(c, a)| over[*c] += a);
        let off =
            over.iter().map(|o| o.abs()).sum::<f64>() + 0.5 * taken.iter().enumerate().map(|(z, c)| areas[z] * far(z, *c)).sum::<f64>();
        if best.as_ref().is_none_or(|(least, _)| off < *least) {
            best = Some((off, taken));
        }
        let step = STEP / (1.0 + round as f64 / 8.0);
        prices.iter_mut().zip(&over).for_each(|(p, o)| *p += step * o);
    }
    let taken = best.map(|(_, t)| t).unwrap_or_default();
    zones.iter().zip(taken).map(|(z, c)| toward_real(Lab::new(z.l, lent[c].a, lent[c].b))).collect()
}

fn normed(of: impl Iterator<Item = f64>) -> Vec<f64> {
    let of: Vec<f64> = of.collect();
    let total = of.iter().sum::<f64>().max(f64::MIN_POSITIVE);
    of.into_iter().map(|n| n / total).collect()
}

/// Where each colour stands from least 0 to most 1 by a measure, by area passed: half its own counted.
fn ranks(colours: &[Lab], areas: &[f64], by: impl Fn(&Lab) -> f64) -> Vec<f64> {
    let measured: Vec<f64> = colours.iter().map(by).collect();
    let below = |i: usize| (0..colours.len()).filter(|j| measured[*j] < measured[i]).map(|j| areas[j]).sum::<f64>();
    (0..colours.len()).map(|i| below(i) + 0.5 * areas[i]).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    #[test]
    fn colours_keep_their_proportions_and_the_piece_its_values() {
        let piece = staged(&[Staged::vt(8.0, -6.0), Staged::vt(6.0, 8.0), Staged::vt(4.0, 2.0), Staged::vt(2.0, -2.0)]);
        let lent = |l, a, b, area| WishedColour { lab: Lab::new(l, a, b), area };
        let laid = wanted(&piece, &[lent(85.0, -4.0, -20.0, 0.25), lent(60.0, 30.0, 30.0, 0.5), lent(20.0, 4.0, -14.0, 0.25)]);
        for (z, lab) in piece.zones.iter().zip(&laid) {
            assert!((z.target.l - lab.l).abs() < 1e-9);
        }
        assert!(laid[0].b < -5.0, "the lightest and coolest takes the pale blue: {laid:?}");
        assert!(laid[1].a > 10.0 && laid[2].a > 10.0, "half of the picture is red: {laid:?}");
        assert!(laid[3].b < 0.0, "{laid:?}");
        assert_eq!(wanted(&piece, &[]), Vec::new());
    }
}
