//! How long paint stays wet, by medium, film, ground and air.

use lean_media::{Ground, Medium, Pigment};
use lean_piece::easel::{Air, Stage};
use lean_schedule::Minutes;
use serde::Serialize;

/// How long one layer stays wet. Modelled: tables of drying differ by half, and a finger at the edge knows better.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Drying {
    /// Until what lies beside it may be touched.
    pub beside: Minutes,
    /// Until the next layer may go over it.
    pub over: Minutes,
    /// Until it can no longer be lifted or wiped off without a trace.
    pub lift: Minutes,
}

/// The same in minutes, for the screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DryingLine {
    /// Minutes until what lies beside it may be touched.
    pub beside: u32,
    /// Minutes until the next layer may go over it.
    pub over: u32,
    /// Minutes until it can no longer be lifted or wiped off.
    pub lift: u32,
}

impl From<Drying> for DryingLine {
    fn from(d: Drying) -> Self {
        Self { beside: d.beside.0, over: d.over.0, lift: d.lift.0 }
    }
}

const DAY: f64 = 1440.0;

/// Saturation pressure of water vapour in kPa at `warmth` °C (Tetens 1930, as given by Monteith & Unsworth, Principles of Environmental Physics).
fn saturation(warmth: f64) -> f64 {
    0.6108 * (17.27 * warmth / (warmth + 237.3)).exp()
}

/// How much longer water takes than at 20 °C and 50 %: evaporation goes with what the air can still take up (Dalton 1802). At most ten times.
pub(crate) fn of_water(air: Air) -> f64 {
    let takes = |warmth: f64, damp: f64| saturation(warmth) * (1.0 - damp / 100.0);
    let usual = Air::default();
    (takes(usual.warmth, usual.damp) / takes(air.warmth, air.damp)).clamp(0.2, 10.0)
}

/// How much longer oil takes than at 20 °C and 50 %: it does not dry but takes up oxygen, about twice as fast with every ten degrees (the usual rule
/// for reactions), and a little slower in damp air. A choice.
pub(crate) fn of_oil(air: Air) -> f64 {
    2f64.powf((20.0 - air.warmth) / 10.0) * (1.0 + (air.damp - 50.0) / 150.0).max(0.5)
}

/// Days a usual film of oil takes to be touch-dry with a pigment alone, at 20 °C: earths and cobalts help it along, carbon blacks and cadmiums
/// hold it back. Choices, in the order painters' handbooks agree on.
fn days_of(pigment: &Pigment) -> f64 {
    let any = |of: &[&str]| pigment.colour_index.iter().any(|c| of.contains(&c.as_str()));
    match () {
        () if any(&["PBr7", "PBr8", "PB28", "PB36", "PW1"]) => 1.5,
        () if any(&["PY42", "PY43", "PR101", "PR102", "PG23", "PB29", "PB27"]) => 3.0,
        () if any(&["PBk6", "PBk7", "PBk9", "PR83", "PR108", "PY35", "PY37", "PO20", "PV19", "PR122"]) => 6.0,
        () => 4.0,
    }
}

/// How long a layer stays wet. `strength` is how much lies there beside a usual layer of its kind, and `of` what it is made of with shares.
pub fn drying(medium: Medium, ground: &Ground, air: Air, stage: Stage, strength: f64, of: &[(&Pigment, f64)]) -> Drying {
    let minutes = |m: f64| Minutes(m.max(0.0).round() as u32);
    match (medium, stage) {
        (_, Stage::Guard) if medium != Medium::Oil => Drying { beside: minutes(15.0), over: minutes(30.0), lift: Minutes(0) },
        (Medium::Watercolour, Stage::Drawing) | (Medium::Marker | Medium::Pencil | Medium::SoftPastel, Stage::Drawing) => Drying::default(),
        (Medium::Watercolour, _) => {
            let wet = ground.dry_minutes * (0.7 + 0.3 * strength) * of_water(air);
            // Beside it may be touched once the shine has gone; over it only when it is dry through.
            Drying { beside: minutes(0.8 * wet), over: minutes(wet), lift: minutes(0.4 * wet) }
        }
        (Medium::Marker, _) => Drying { beside: Minutes(1), over: Minutes(2), lift: Minutes(1) },
        (Medium::Pencil | Medium::SoftPastel, _) => Drying::default(),
        (Medium::Oil, stage) => {
            let total: f64 = of.iter().map(|(_, n)| n).sum();
            let usual = if total > 0.0 { of.iter().map(|(p, n)| n / total * days_of(p)).sum() } else { 4.0 };
            let film = match stage {
                Stage::GroundTone | Stage::Drawing => 0.15,
                Stage::LayIn => 0.3,
                Stage::Glaze => 0.6,
                Stage::Lights => 1.5,
                _ => 1.0,
            };
            let over = DAY * usual * film * of_oil(air);
            // Wet beside wet is how oil is painted: only what goes over it has to wait.
            Drying { beside: Minutes(0), over: minutes(over), lift: minutes(0.25 * over) }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{GroundId, ground, library};

    fn wash(air: Air, strength: f64) -> u32 {
        let paper = ground::usual(Medium::Watercolour);
        drying(Medium::Watercolour, &paper, air, Stage::BigShapes, strength, &[]).over.0
    }

    #[test]
    fn warm_and_dry_air_dries_sooner() {
        let air = |warmth, damp| Air { warmth, damp };
        assert!(wash(air(30.0, 30.0), 1.0) < wash(Air::default(), 1.0));
        assert!(wash(air(12.0, 85.0), 1.0) > 2 * wash(Air::default(), 1.0));
        assert!((of_water(Air::default()) - 1.0).abs() < 1e-12 && (of_oil(Air::default()) - 1.0).abs() < 1e-12);
        assert!((of_oil(air(30.0, 50.0)) - 0.5).abs() < 1e-12);
        // Monteith & Unsworth give 2.34 kPa at 20 °C.
        assert!((saturation(20.0) - 2.34).abs() < 0.01);
    }

    #[test]
    fn a_deeper_wash_stays_wet_longer_and_may_be_gone_beside_before_it_may_be_gone_over() {
        assert!(wash(Air::default(), 2.0) > wash(Air::default(), 0.5));
        let paper = ground::usual(Medium::Watercolour);
        let d = drying(Medium::Watercolour, &paper, Air::default(), Stage::Parts, 1.0, &[]);
        assert!(d.lift < d.beside && d.beside < d.over);
    }

    #[test]
    fn oil_waits_for_days_and_by_its_pigment() {
        let panel = ground::find(&GroundId("panel-white".into())).unwrap();
        let of = |id: &str, stage| {
            let p = library::find(id).unwrap();
            drying(Medium::Oil, &panel, Air::default(), stage, 1.0, &[(p, 1.0)])
        };
        let (umber, black) = (of("PBr7-burnt-umber", Stage::BigShapes), of("PBk9", Stage::BigShapes));
        assert!(umber.over.0 >= 1440 && umber.over < black.over);
        assert!(of("PBk9", Stage::LayIn).over < black.over, "thin dries first: fat over lean");
        assert_eq!(black.beside, Minutes(0), "wet beside wet");
    }
}
