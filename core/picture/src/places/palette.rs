//! One colour more, one colour less: zones parted and joined along the order in which their shades join.

use super::laid::Laid;
use std::collections::BTreeSet;

/// Joins in order of shades to their kept shade, step by step.
struct Joining {
    into: Vec<usize>,
}

impl Joining {
    fn new(shades: usize) -> Self {
        Self { into: (0..shades).collect() }
    }

    fn root(&self, mut i: usize) -> usize {
        while self.into[i] != i {
            i = self.into[i];
        }
        i
    }

    fn join(&mut self, (kept, gone): (usize, usize)) {
        let (kept, gone) = (self.root(kept), self.root(gone));
        self.into[gone] = kept;
    }
}

fn of_zone(shades: &[Laid], zone: u16) -> Vec<usize> {
    (0..shades.len()).filter(|i| shades[*i].zone == zone).collect()
}

/// The zone that one colour more parts, and the shades that leave it: the lighter-weighing side of the last join among its shades. Zones in
/// `locked` stay. `None` when no zone has two shades.
pub fn parted(shades: &[Laid], joins: &[(usize, usize)], locked: &[u16]) -> Option<(u16, Vec<usize>)> {
    let zones: BTreeSet<u16> = shades.iter().map(|s| s.zone).filter(|z| !locked.contains(z)).collect();
    let last_join = |zone: u16| {
        let inside = of_zone(shades, zone);
        let mut joining = Joining::new(shades.len());
        let mut last = None;
        for (k, join) in joins.iter().enumerate() {
            let (a, b) = (joining.root(join.0), joining.root(join.1));
            let holds = |root: usize| inside.iter().any(|i| joining.root(*i) == root);
            if holds(a) && holds(b) {
                let side = |root: usize| inside.iter().copied().filter(|i| joining.root(*i) == root).collect::<Vec<_>>();
                last = Some((k, side(a), side(b)));
            }
            joining.join(*join);
        }
        last
    };
    let (zone, (_, one, other)) =
        zones.into_iter().filter_map(|z| last_join(z).map(|l| (z, l))).max_by_key(|(z, l)| (l.0, std::cmp::Reverse(*z)))?;
    let weight = |side: &[usize]| side.iter().map(|i| shades[*i].weight).sum::<f32>();
    Some((zone, if weight(&other) > weight(&one) { one } else { other }))
}

/// The two zones that one colour less joins: the first whose shades the order brings together whole; the one that weighs more comes first.
/// Zones in `locked` stay. `None` when there are no two.
pub fn joined(shades: &[Laid], joins: &[(usize, usize)], locked: &[u16]) -> Option<(u16, u16)> {
    let zones: Vec<u16> = shades.iter().map(|s| s.zone).filter(|z| !locked.contains(z)).collect::<BTreeSet<_>>().into_iter().collect();
    let members: Vec<Vec<usize>> = zones.iter().map(|z| of_zone(shades, *z)).collect();
    let mut joining = Joining::new(shades.len());
    for join in joins {
        joining.join(*join);
        let root = joining.root(join.0);
        let whole: Vec<usize> = (0..zones.len()).filter(|z| members[*z].iter().all(|i| joining.root(*i) == root)).collect();
        if let [one, other, ..] = whole[..] {
            let weight = |z: usize| members[z].iter().map(|i| shades[*i].weight).sum::<f32>();
            return Some(if weight(other) > weight(one) { (zones[other], zones[one]) } else { (zones[one], zones[other]) });
        }
    }
    None
}

/// Shades and joins with one more shade, which joins the others last of all.
pub fn with_shade(mut shades: Vec<Laid>, mut joins: Vec<(usize, usize)>, shade: Laid) -> (Vec<Laid>, Vec<(usize, usize)>) {
    let number = shades.len();
    shades.push(shade);
    if number > 0 {
        joins.push((0, number));
    }
    (shades, joins)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn shade(weight: f32, zone: u16) -> Laid {
        Laid { look: [0.0; 3], run: None, weight, zone, within: None }
    }

    /// A random order of joining `n` shades.
    fn order(n: usize, picks: &[usize]) -> Vec<(usize, usize)> {
        let mut alive: Vec<usize> = (0..n).collect();
        let mut joins = Vec::new();
        for p in picks.iter().take(n - 1) {
            let gone = alive.remove(1 + p % (alive.len() - 1));
            let kept = alive[p % alive.len()];
            joins.push((kept.min(gone), kept.max(gone)));
            if gone < kept {
                let at = alive.iter().position(|a| *a == kept).unwrap();
                alive[at] = gone;
                alive.sort_unstable();
            }
        }
        joins
    }

    proptest! {
        #[test]
        fn one_more_and_one_less_is_the_identity(picks in prop::collection::vec(0usize..100, 11), weights in prop::collection::vec(0.1f32..2.0, 12), more in 1usize..10) {
            let joins = order(12, &picks);
            let mut shades: Vec<Laid> = weights.iter().map(|w| shade(*w, 1)).collect();
            for n in 0..more {
                let before = shades.clone();
                let (zone, leave) = parted(&shades, &joins, &[]).unwrap();
                leave.iter().for_each(|i| shades[*i].zone = n as u16 + 2);
                let (kept, gone) = joined(&shades, &joins, &[]).unwrap();
                prop_assert_eq!((kept, gone), (zone, n as u16 + 2));
                let mut back = shades.clone();
                back.iter_mut().filter(|s| s.zone == gone).for_each(|s| s.zone = kept);
                prop_assert_eq!(back, before);
            }
        }
    }

    #[test]
    fn locked_zones_and_single_shades_stay() {
        let joins = vec![(0, 1), (2, 3), (0, 2)];
        let shades = vec![shade(1.0, 1), shade(1.0, 1), shade(1.0, 2), shade(1.0, 3)];
        assert_eq!(parted(&shades, &joins, &[]).map(|p| p.0), Some(1));
        assert_eq!(parted(&shades, &joins, &[1]), None);
        assert_eq!(joined(&shades, &joins, &[]), Some((2, 3)));
        assert_eq!(joined(&shades, &joins, &[2]), Some((1, 3)));
        let (more, joins) = with_shade(shades, joins, shade(0.0, 4));
        assert_eq!((more.len(), joins.len()), (5, 4));
    }
}
