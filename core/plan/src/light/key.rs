//! The values of the reference mapped into what medium and ground reach: monotonically, so that lighter stays lighter.

use super::fitting::fitted;
use lean_colour::moves::with_value;
use lean_colour::{Lab, Share, Value};
use lean_piece::light::Key;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// Share of the range a high or low key uses. A choice.
const PART: f64 = 0.6;
/// A relation counts as squeezed when less than this share of it is left. A choice.
const SQUEEZED: f64 = 0.6;
/// Relations smaller than this many steps are not worth a word. A choice.
const WORTH: f64 = 0.5;

/// What values can be reached.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reach {
    /// Darkest value.
    pub darkest: f64,
    /// Lightest value, bare ground counted.
    pub lightest: f64,
    /// Lightest value that something laid can have.
    pub lightest_layer: f64,
}

impl Reach {
    /// The reach of colours, those of bare ground or free white in `free`; `None` without any.
    pub fn of(laid: impl Iterator<Item = Lab>, free: impl Iterator<Item = Lab>) -> Option<Self> {
        let laid: Vec<f64> = laid.map(|l| l.value().0).collect();
        let least = laid.iter().copied().fold(f64::INFINITY, f64::min);
        let most = laid.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        let bare = free.map(|l| l.value().0).fold(most, f64::max);
        laid.first().map(|_| Self { darkest: least, lightest: bare, lightest_layer: most })
    }

    /// Within the rules of the game: nothing below its limit.
    pub fn within_rules(self, piece: &Piece) -> Self {
        let limit = piece.intent.games.nothing_below.unwrap_or(0.0);
        Self { darkest: self.darkest.max(limit).min(self.lightest), ..self }
    }
}

/// Two neighbours whose difference shrank.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Squeezed {
    /// The lighter one in the reference.
    pub light: ZoneId,
    /// The darker one.
    pub dark: ZoneId,
    /// Steps between them as read.
    pub read: f64,
    /// Steps between them as planned; negative when turned round.
    pub planned: f64,
}

/// Maps values into a range.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Mapping {
    from: (f64, f64),
    to: (f64, f64),
}

impl Mapping {
    /// The mapping of a picture whose values run from `read.0` to `read.1` into what can be reached. `contrast` from −1 (soft) to 1 (strong)
    /// narrows the range about its middle or leaves it whole.
    pub(crate) fn of(read: (Value, Value), reach: Reach, key: Key, contrast: f64) -> Self {
        let read = (read.0.0, read.1.0);
        let (dark, light) = (reach.darkest, reach.lightest);
        let part = (light - dark) * PART;
        let to = match key {
            // Fitted with the least movement; here its contrast alone.
            Key::AsRead => return Self { from: read, to: read }.narrowed(contrast, read),
            Key::Full => (dark, light),
            Key::High => (light - part, light),
            Key::Low => (dark, dark + part),
        };
        Self { from: read, to }.narrowed(contrast, read)
    }

    /// A soft contrast uses less of the range, a fifth less at −0.5; a strong one all of it.
    fn narrowed(self, contrast: f64, read: (f64, f64)) -> Self {
        let keep = 1.0 + 0.4 * contrast.clamp(-1.0, 0.0);
        let middle = self.at(Value((read.0 + read.1) / 2.0)).0;
        let toward = |v: f64| middle + (v - middle) * keep;
        Self { from: self.from, to: (toward(self.to.0), toward(self.to.1)) }
    }

    /// Where a value goes. A picture of one value goes to the middle of the range.
    pub(crate) fn at(&self, value: Value) -> Value {
        let ((a, b), Value(value)) = (self.from, value);
        if b - a < 1e-9 {
            return Value(if self.from == self.to { value } else { (self.to.0 + self.to.1) / 2.0 });
        }
        Value(self.to.0 + (value - a).clamp(0.0, b - a) / (b - a) * (self.to.1 - self.to.0))
    }
}

/// Targets of all zones: what the reference reads, its values mapped. As read they are [fitted] with the least movement, `differences`
/// saying how much those between neighbours count; for a key they are stretched into its part of the range.
pub fn mapped(piece: &Piece, reach: Reach, key: Key, contrast: f64, differences: Share) -> Vec<(ZoneId, Lab)> {
    if key == Key::AsRead {
        let fit = fitted(piece, (reach.darkest, reach.lightest), differences);
        let ends = fit.iter().fold((10.0, 0.0), |(a, b): (f64, f64), v| (a.min(v.0), b.max(v.0)));
        let contrasted = Mapping::of((Value(ends.0), Value(ends.1)), reach, key, contrast);
        return piece.zones.iter().zip(fit).map(|(z, v)| (z.id, with_value(z.reading.lab, contrasted.at(v)))).collect();
    }
    let values = piece.zones.iter().map(|z| z.reading.value.0);
    let read = (values.clone().fold(10.0, f64::min), values.fold(0.0, f64::max));
    if read.0 > read.1 {
        return Vec::new();
    }
    let mapping = Mapping::of((Value(read.0), Value(read.1)), reach, key, contrast);
    piece.zones.iter().map(|z| (z.id, with_value(z.reading.lab, mapping.at(z.reading.value)))).collect()
}

/// Neighbours whose difference in value shrank from reference to plan.
pub fn squeezed(piece: &Piece) -> Vec<Squeezed> {
    let borders = piece.geometry().borders.clone();
    let pairs = borders.into_iter().filter_map(|(a, b, _)| Some((piece.zone(ZoneId(a))?, piece.zone(ZoneId(b))?)));
    pairs
        .map(|(a, b)| if a.reading.value.0 >= b.reading.value.0 { (a, b) } else { (b, a) })
        .map(|(light, dark)| Squeezed {
            light: light.id,
            dark: dark.id,
            read: light.reading.value.steps_above(dark.reading.value),
            planned: piece.wanted(light).value().steps_above(piece.wanted(dark).value()),
        })
        .filter(|s| s.read >= WORTH && s.planned < SQUEEZED * s.read)
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const KEYS: [Key; 4] = [Key::AsRead, Key::Full, Key::High, Key::Low];

    proptest! {
        #[test]
        fn lighter_stays_lighter_and_everything_is_reachable(
            a in 0.0..9.0f64, span in 0.1..9.0f64, dark in 0.0..4.0f64, width in 2.0..6.0f64, v in 0.0..1.0f64, w in 0.0..1.0f64, key in 0usize..4, contrast in -1.0..1.0f64,
        ) {
            let read = (a, (a + span).min(10.0));
            let reach = Reach { darkest: dark, lightest: dark + width, lightest_layer: dark + width };
            prop_assume!(KEYS[key] != Key::AsRead);
            let m = Mapping::of((Value(read.0), Value(read.1)), reach, KEYS[key], contrast);
            let at = |s: f64| m.at(Value(read.0 + s * (read.1 - read.0))).0;
            let (lo, hi) = if v < w { (v, w) } else { (w, v) };
            prop_assert!(at(lo) <= at(hi) + 1e-9);
            if hi - lo > 1e-3 && read.1 - read.0 > 1e-3 { prop_assert!(at(hi) > at(lo)); }
            prop_assert!(at(lo) >= reach.darkest - 1e-9 && at(hi) <= reach.lightest + 1e-9, "{} {}", at(lo), at(hi));
        }
    }

    #[test]
    fn what_is_within_reach_stays_as_read() {
        let m = Mapping::of((Value(3.0), Value(7.0)), Reach { darkest: 1.5, lightest: 9.0, lightest_layer: 9.0 }, Key::AsRead, 0.0);
        assert!((m.at(Value(5.0)).0 - 5.0).abs() < 1e-12 && (m.at(Value(3.0)).0 - 3.0).abs() < 1e-12);
    }

    #[test]
    fn keys_live_in_their_part_of_the_range() {
        let reach = Reach { darkest: 2.0, lightest: 9.0, lightest_layer: 9.0 };
        let ends = |key| {
            let m = Mapping::of((Value(1.0), Value(8.0)), reach, key, 0.0);
            (m.at(Value(1.0)).0, m.at(Value(8.0)).0)
        };
        assert_eq!(ends(Key::Full), (2.0, 9.0));
        assert!((ends(Key::High).0 - 4.8).abs() < 1e-9 && (ends(Key::High).1 - 9.0).abs() < 1e-9);
        assert!((ends(Key::Low).0 - 2.0).abs() < 1e-9 && (ends(Key::Low).1 - 6.2).abs() < 1e-9);
    }

    #[test]
    fn one_value_goes_to_the_middle_of_its_range() {
        let m = Mapping::of((Value(4.0), Value(4.0)), Reach { darkest: 2.0, lightest: 9.0, lightest_layer: 9.0 }, Key::Full, 0.0);
        assert_eq!(m.at(Value(4.0)).0, 5.5);
    }
}
