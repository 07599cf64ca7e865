//! The hue families of the plan: none of them should be lost for the mean of the others.

use crate::question::demands::{Arc, HueFamily};
use lean_colour::Value;
use lean_media::lanes::{Colours, LANES};
use lean_recipes::Target;

/// A hue family of the plan.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Planned {
    /// Which.
    pub family: HueFamily,
    /// Half steps of value, one bit each, within [`NEAR`] of a zone of the family: a mix of the family there reaches it.
    pub near: u32,
    /// Where it lies on the hue circle.
    arc: Arc,
    /// Weight of its zones.
    weight: f64,
}

/// Half steps of value that a mix may be off and still stand for a zone's family: one step. A choice.
const NEAR: u32 = 2;

/// The nearest half step of value, 0..=20.
pub(crate) fn half_step(value: Value) -> u32 {
    (2.0 * value.0).round().clamp(0.0, 20.0) as u32
}

/// Families of the targets that count, those of most weight first.
pub(crate) fn planned(targets: &[Target]) -> Vec<Planned> {
    let mut all: Vec<Planned> = Vec::new();
    for t in targets.iter().filter(|t| t.weight > 0.0) {
        let Some(family) = HueFamily::of(t.lab) else { continue };
        let at = half_step(t.lab.value());
        let near = (at.saturating_sub(NEAR)..=at + NEAR).fold(0, |bits, step| bits | 1 << step);
        match all.iter_mut().find(|p| p.family == family) {
            Some(p) => (p.near, p.weight) = (p.near | near, p.weight + t.weight),
            None => all.push(Planned { family, near, arc: family.arc(), weight: t.weight }),
        }
    }
    all.sort_by(|a, b| b.weight.total_cmp(&a.weight).then(a.family.cmp(&b.family)));
    all
}

/// Which of the families these colours reach, one bit each. Families that are known to be reached already need not be looked for.
pub(crate) fn reached(families: &[Planned], colours: &[Colours], known: u8) -> u8 {
    let mut all = known;
    let every = ((1u16 << families.len()) - 1) as u8;
    for eight in colours {
        if all == every {
            break;
        }
        for i in 0..LANES {
            let at = 1u32 << half_step(Value(eight.v[i].into()));
            let open = families.iter().enumerate().filter(|(n, p)| all >> n & 1 == 0 && p.near & at != 0);
            let new = open.filter(|(_, p)| p.arc.holds(eight.a[i], eight.b[i])).fold(0, |bits, (n, _)| bits | 1 << n);
            all |= new;
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::Lab;

    #[test]
    fn families_are_those_of_zones_that_count_with_the_values_they_stand_at() {
        let target = |l, c, h, weight| Target { lab: Lab::from_lch(l, c, h), weight };
        let all = planned(&[
            target(50.0, 30.0, 140.0, 1.0),
            target(80.0, 20.0, 270.0, 3.0),
            target(30.0, 4.0, 20.0, 5.0),
            target(40.0, 40.0, 30.0, 0.0),
        ]);
        assert_eq!(all.iter().map(|p| p.family).collect::<Vec<_>>(), [HueFamily::Blue, HueFamily::Green]);
        let green = half_step(Lab::from_lch(50.0, 30.0, 140.0).value());
        assert!(all[1].near >> green & 1 == 1 && all[1].near.count_ones() == 5);
    }
}
