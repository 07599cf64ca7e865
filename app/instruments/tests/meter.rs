//! The simulated meter behaves as a real one: it must be calibrated, it drifts, it fails, and it says what to do.

use lean_colour::Reflectance;
use lean_instruments::{ColourMeter, Refused, SimulatedMeter, World, own_pigment};
use lean_media::library;

fn on_tile(seed: u64) -> SimulatedMeter {
    let mut m = SimulatedMeter::seeded(seed);
    m.world.tile = true;
    m
}

fn calibrated(seed: u64) -> SimulatedMeter {
    let mut m = on_tile(seed);
    (0..5).for_each(|_| m.calibrate().unwrap());
    m.world = World::default();
    m
}

#[test]
fn it_reads_what_lies_under_it_once_it_is_warm_and_calibrated() {
    let mut m = SimulatedMeter::seeded(3);
    assert_eq!(m.read(), Err(Refused::OutOfCalibration));
    assert!(m.state().warm_in > 0);
    let mut m = calibrated(3);
    assert_eq!(m.state().warm_in, 0);
    let true_one = Reflectance(std::array::from_fn(|i| 0.2 + 0.015 * i as f64));
    m.world.under = Some(true_one);
    let readings: Vec<Reflectance> = (0..8).map(|_| m.read().unwrap()).collect();
    for r in &readings {
        assert!(r.0.iter().zip(true_one.0).all(|(a, b)| (a - b).abs() < 0.02), "{r:?}");
    }
    assert!(readings[0] != readings[1], "there is noise");
    let again: Vec<Reflectance> = {
        let mut m = calibrated(3);
        m.world.under = Some(true_one);
        (0..8).map(|_| m.read().unwrap()).collect()
    };
    assert_eq!(readings, again, "the same steps give the same readings");
}

#[test]
fn a_calibration_wears_off_and_only_the_tile_will_do() {
    let mut m = calibrated(9);
    m.world.under = Some(Reflectance::flat(0.3));
    assert_eq!(m.calibrate(), Err(Refused::NotTheTile));
    let read = (0..100).take_while(|_| m.read().is_ok()).count();
    assert!((20..60).contains(&read), "{read}");
    assert_eq!(m.read(), Err(Refused::OutOfCalibration));
    m.world.tile = true;
    m.calibrate().unwrap();
    assert!(m.read().is_ok());
}

#[test]
fn unplugged_or_busy_it_says_what_to_do() {
    let mut m = calibrated(4);
    m.world.busy = true;
    assert_eq!(m.read(), Err(Refused::Busy));
    m.world.busy = false;
    m.fails_in = Some(1);
    assert!(m.read().is_ok());
    assert_eq!(m.read(), Err(Refused::LostMidway));
    assert_eq!(m.read(), Err(Refused::Unplugged));
    m.world.unplugged = false;
    assert_eq!(m.read(), Err(Refused::OutOfCalibration), "plugged in again it has to be calibrated");
    for refused in [Refused::Unplugged, Refused::LostMidway, Refused::Busy, Refused::OutOfCalibration, Refused::NotTheTile] {
        assert!(refused.to_string().ends_with('.') && refused.to_string().split(". ").count() >= 2, "it says what to do: {refused}");
    }
}

#[test]
fn own_pigments_differ_from_their_models_by_about_a_quarter_and_stay_the_same() {
    let all = library::modelled();
    let off: Vec<f64> = all.iter().filter(|p| !p.white).map(|p| (own_pigment(p, 7).k[18] / p.k[18]).ln().abs()).collect();
    let mean = off.iter().sum::<f64>() / off.len() as f64;
    assert!((0.08..0.3).contains(&mean), "{mean}");
    assert_eq!(own_pigment(&all[3], 7), own_pigment(&all[3], 7));
    assert!(own_pigment(&all[3], 7) != own_pigment(&all[3], 8));
}
