//! The same colours in another light, each with its own plan of values.

use crate::light::fitting::USUAL_DIFFERENCES;
use crate::light::key::{Mapping, Reach, mapped};
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::{Lab, Temperature, Value};
use lean_piece::light::Key;
use lean_piece::{Importance, OtherLight, Piece, Zone};

/// What a low sun does to warm and cool, in units of temperature, and to the value of what is lit and what is in shadow, in steps. Choices.
const SUN_WARMS: f64 = 12.0;
const SHADE_COOLS: f64 = 10.0;
const SUN_LOWERS: f64 = 0.4;
const SHADE_LOWERS: f64 = 0.9;
/// Part of the range that what matters takes when it stands pale on dark, and that of everything else. Choices.
const PALE: (f64, f64) = (0.62, 1.0);
const DARK: (f64, f64) = (0.0, 0.48);

/// The colours of a piece in another light, in the order of `piece.zones`; `None` where nothing says what would change: pale on dark needs a
/// zone where the eye goes.
pub fn wanted(piece: &Piece, light: OtherLight, reach: Reach) -> Option<Vec<Lab>> {
    let keyed = |key| {
        Some(
            mapped(piece, reach, key, piece.intent.contrast(), USUAL_DIFFERENCES)
                .into_iter()
                .map(|(_, lab)| piece.within_rules(lab))
                .collect(),
        )
    };
    match light {
        OtherLight::HighKey => keyed(Key::High),
        OtherLight::LowKey => keyed(Key::Low),
        OtherLight::LateSun => Some(late_sun(piece, reach)),
        OtherLight::PaleOnDark => pale_on_dark(piece, reach),
    }
}

fn late_sun(piece: &Piece, reach: Reach) -> Vec<Lab> {
    let middle = middle_value(piece);
    let lit = |z: &Zone| z.facts.role.map_or(z.target.value().0 >= middle, |r| !r.is_shadow());
    let zone = |z: &Zone| {
        let own = piece.wanted(z);
        let (warmer, lower) = if lit(z) { (SUN_WARMS, SUN_LOWERS) } else { (-SHADE_COOLS, SHADE_LOWERS) };
        let value = (own.value().0 - lower).clamp(reach.darkest, reach.lightest);
        piece.within_rules(with_temperature(with_value(own, Value(value)), Temperature(own.temperature().0 + warmer)))
    };
    piece.zones.iter().map(zone).collect()
}

fn middle_value(piece: &Piece) -> f64 {
    let total: f64 = piece.zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
    piece.zones.iter().map(|z| z.reading.area * z.target.value().0).sum::<f64>() / total
}

fn pale_on_dark(piece: &Piece, reach: Reach) -> Option<Vec<Lab>> {
    let matters = |z: &&Zone| z.importance == Importance::Focal;
    let focal = piece.zones.iter().filter(matters).count();
    if focal == 0 || focal == piece.zones.len() {
        return None;
    }
    let part = |of: (f64, f64)| {
        let at = |share: f64| reach.darkest + share * (reach.lightest - reach.darkest);
        Reach { darkest: at(of.0), lightest: at(of.1), lightest_layer: at(of.1) }
    };
    let mapping = |focal: bool, of| {
        let values = piece.zones.iter().filter(|z| matters(z) == focal).map(|z| z.target.value().0);
        Mapping::of((Value(values.clone().fold(10.0, f64::min)), Value(values.fold(0.0, f64::max))), part(of), Key::Full, 0.0)
    };
    let (pale, dark) = (mapping(true, PALE), mapping(false, DARK));
    let zone = |z: &Zone| {
        let mapping = if matters(&z) { &pale } else { &dark };
        piece.within_rules(with_value(z.target, mapping.at(z.target.value())))
    };
    Some(piece.zones.iter().map(zone).collect())
}

/// What the light is called.
pub fn name(light: OtherLight) -> &'static str {
    match light {
        OtherLight::HighKey => "high key",
        OtherLight::LowKey => "low key",
        OtherLight::LateSun => "late sun",
        OtherLight::PaleOnDark => "pale on dark",
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    const REACH: Reach = Reach { darkest: 1.5, lightest: 9.2, lightest_layer: 9.0 };

    fn values(colours: &[Lab]) -> Vec<f64> {
        colours.iter().map(|c| c.value().0).collect()
    }

    #[test]
    fn keys_keep_the_order_of_values_in_their_part_of_the_range() {
        let piece = staged(&[Staged::vt(8.0, 3.0), Staged::vt(5.0, -3.0), Staged::vt(2.0, 0.0)]);
        let high = values(&wanted(&piece, OtherLight::HighKey, REACH).unwrap());
        let low = values(&wanted(&piece, OtherLight::LowKey, REACH).unwrap());
        assert!(high[0] > high[1] && high[1] > high[2] && high[2] > 4.0, "{high:?}");
        assert!(low[0] > low[1] && low[1] > low[2] && low[0] < 6.5, "{low:?}");
    }

    #[test]
    fn a_low_sun_warms_what_is_lit_and_cools_the_shade() {
        use lean_piece::light::Role;
        let piece = staged(&[Staged::vt(7.0, 0.0).role(Role::Lit), Staged::vt(4.0, 0.0).role(Role::Shadow)]);
        let late = wanted(&piece, OtherLight::LateSun, REACH).unwrap();
        assert!(late[0].temperature().0 > 8.0 && late[1].temperature().0 < -6.0);
        assert!(late[1].value().0 < 3.3);
    }

    #[test]
    fn what_matters_stands_pale_on_dark_or_nothing_is_offered() {
        let mut piece = staged(&[Staged::vt(3.0, 0.0), Staged::vt(8.0, 0.0), Staged::vt(6.0, 0.0)]);
        assert_eq!(wanted(&piece, OtherLight::PaleOnDark, REACH), None);
        piece.zones[0].importance = Importance::Focal;
        let pale = values(&wanted(&piece, OtherLight::PaleOnDark, REACH).unwrap());
        assert!(pale[0] > pale[1] + 1.0 && pale[1] > pale[2], "{pale:?}");
    }
}
