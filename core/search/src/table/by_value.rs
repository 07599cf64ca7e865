//! Recipes of a group in the order of their value, eight at a time: a target looks only at those about as light as it.

use lean_media::lanes::{Colours, LANES, Lane};
use lean_recipes::technique::Quick;

/// Drawers recipes are sorted into by value.
const DRAWERS: usize = 1024;

/// Colours in the order of their value.
#[derive(Default)]
pub(crate) struct ByValue {
    /// Number of each recipe in what was sorted.
    pub order: Vec<u32>,
    /// Their colours.
    pub colours: Vec<Colours>,
    /// Layers beyond the first.
    pub more_layers: Vec<Lane>,
    /// Least and greatest value of each eight.
    ends: Vec<(f32, f32)>,
}

impl ByValue {
    /// Sorts the recipes of a group.
    pub(super) fn sort(&mut self, mixed: &Quick) {
        let count = mixed.colours.len() * LANES;
        let drawer = |v: f32| (v * (DRAWERS as f32 / 10.5)) as usize % DRAWERS;
        let mut starts = [0u32; DRAWERS + 1];
        for c in &mixed.colours {
            c.v.iter().for_each(|v| starts[drawer(*v) + 1] += 1);
        }
        (0..DRAWERS).for_each(|d| starts[d + 1] += starts[d]);
        self.order.resize(count, 0);
        for (eight, c) in mixed.colours.iter().enumerate() {
            for (lane, v) in c.v.iter().enumerate() {
                let at = &mut starts[drawer(*v)];
                self.order[*at as usize] = (eight * LANES + lane) as u32;
                *at += 1;
            }
        }
        self.colours.clear();
        self.more_layers.clear();
        self.ends.clear();
        for eight in self.order.chunks_exact(LANES) {
            let which: [usize; LANES] = std::array::from_fn(|i| eight[i] as usize);
            let c = mixed.gathered(&which);
            let (least, most) = c.v.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(a, b), v| (a.min(*v), b.max(*v)));
            self.ends.push((least, most));
            self.colours.push(c);
            if !mixed.more_layers.is_empty() {
                self.more_layers.push(which.map(|n| mixed.more_layers[n / LANES][n % LANES]));
            }
        }
    }

    /// The eights in which a value within `reach` of `value` may be, by their places.
    pub(super) fn near(&self, value: f32, reach: f32) -> std::ops::Range<usize> {
        // Within a drawer values are in no order: one of its neighbours may reach a little further.
        let slack = 2.0 * 10.5 / DRAWERS as f32;
        let from = self.ends.partition_point(|(_, most)| *most < value - reach - slack);
        let to = self.ends.partition_point(|(least, _)| *least <= value + reach + slack);
        from..to.max(from)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn whatever_is_near_is_shown_with_its_own_number() {
        let value = |n: usize| ((n * 7919) % 1000) as f32 / 100.0;
        let eights = (0..40).map(|e| Colours { v: std::array::from_fn(|i| value(e * LANES + i)), ..Colours::NONE });
        let mixed = Quick { colours: eights.collect(), ..Quick::default() };
        let mut sorted = ByValue::default();
        sorted.sort(&mixed);
        let mut numbers = sorted.order.clone();
        numbers.sort_unstable();
        assert!(numbers.iter().enumerate().all(|(i, n)| i == *n as usize), "each stands there once");
        for (target, reach) in [(5.0, 0.3), (0.0, 1.0), (9.9, 0.05), (3.3, 0.0)] {
            let eights = sorted.near(target, reach);
            for n in (0..320).filter(|n| (value(*n) - target).abs() <= reach) {
                let at = sorted.order.iter().position(|o| *o as usize == n).unwrap();
                assert!(eights.contains(&(at / LANES)), "recipe {n} of value {} lies near {target}", value(n));
                assert_eq!(sorted.colours[at / LANES].v[at % LANES], value(n));
            }
        }
    }
}
