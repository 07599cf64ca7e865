//! The light of one picture lifted off its colours and laid on the local colours of another.

use super::propose::propose;
use crate::zones::found::cut;
use crate::zones::{COLOURS, Surveyed, fresh};
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::{Lab, Temperature, Value};
use lean_picture::Picture;
use lean_picture::places::Survey;
use lean_piece::light::Role;
use lean_piece::{Piece, ZoneId};
use serde::{Deserialize, Serialize};

/// Steps from the lit passage of a picture to one role.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LightStep {
    /// Steps of value, negative when darker than the lit passage.
    pub value: f64,
    /// Units of temperature, negative when cooler.
    pub temperature: f64,
}

/// What was lifted.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lifted {
    /// To where things turn away.
    pub halftone: LightStep,
    /// Into the shadow.
    pub shadow: LightStep,
    /// To what is lit back by a neighbour.
    pub reflected: LightStep,
    /// To where things touch.
    pub contact: LightStep,
    /// Up to the highlight.
    pub highlight: LightStep,
}

/// Lifts the light of a picture whose zones have roles. Roles it does not have are taken between those it has.
///
/// # Errors
/// When it has no lit zone or no zone in shadow.
pub fn lift(source: &Piece) -> Result<Lifted, String> {
    let mean = |role: Role| mean_of(source, role);
    let missing = |what: &str| format!("\"{}\" has no zone marked as {what}. Give its zones their light roles first.", source.brief.title);
    let lit = mean(Role::Lit).ok_or_else(|| missing("lit"))?;
    let shadow = mean(Role::Shadow).ok_or_else(|| missing("shadow"))?;
    let step = |(v, t): (f64, f64)| LightStep { value: v - lit.0, temperature: t - lit.1 };
    let dark = step(shadow);
    let share = |s: f64| LightStep { value: dark.value * s, temperature: dark.temperature * s };
    Ok(Lifted {
        halftone: mean(Role::Halftone).map_or(share(0.45), step),
        shadow: dark,
        reflected: mean(Role::Reflected).map_or(share(0.7), step),
        contact: mean(Role::Contact).map_or(LightStep { value: dark.value * 1.4, temperature: dark.temperature }, step),
        highlight: mean(Role::Highlight).map_or(LightStep { value: 1.0, temperature: 0.0 }, step),
    })
}

/// Lifts the light of a picture nobody has spoken about: its big shapes and their roles are proposed, in the light named for `piece`.
///
/// # Errors
/// When no light and shadow can be told apart in it.
pub fn lift_from_picture(piece: &Piece, picture: &Picture, name: &str) -> Result<Lifted, String> {
    let survey = Survey::of(picture);
    let look = Surveyed { working: picture, survey: &survey };
    let cut = cut(&survey, COLOURS);
    let map = look.laid(&cut);
    let mut source = Piece {
        zones: fresh(picture, &map),
        zone_map: Some(map.into()),
        cut: Some(cut),
        masses: Vec::new(),
        mass_map: None,
        ..piece.clone()
    };
    for (zone, (_, facts)) in propose(&source).into_iter().enumerate() {
        source.zones[zone].facts = facts;
    }
    lift(&source).map_err(|_| {
        format!(
            "No light and shadow can be told apart in {name}. Choose a picture with both, or a piece whose zones have their light roles."
        )
    })
}

/// Mean value and temperature of the zones of a role, by area.
fn mean_of(piece: &Piece, role: Role) -> Option<(f64, f64)> {
    let of: Vec<_> = piece.zones.iter().filter(|z| z.facts.role == Some(role)).collect();
    let area: f64 = of.iter().map(|z| z.reading.area).sum();
    let mean = |f: &dyn Fn(Lab) -> f64| of.iter().map(|z| z.reading.area * f(z.reading.lab)).sum::<f64>() / area;
    (area > 0.0).then(|| (mean(&|l| l.value().0), mean(&|l| l.temperature().0)))
}

/// Targets of a piece: each zone's local colour, moved by the step its role was lifted with. Zones without a role keep their target.
pub fn lay(piece: &Piece, light: &Lifted) -> Vec<(ZoneId, Lab)> {
    piece
        .zones
        .iter()
        .map(|z| {
            let local = z.facts.local.unwrap_or(z.reading.lab);
            let step = match z.facts.role {
                Some(Role::Lit) => LightStep::default(),
                Some(Role::Halftone) => light.halftone,
                Some(Role::Shadow) => light.shadow,
                Some(Role::Reflected) => light.reflected,
                Some(Role::Contact) => light.contact,
                Some(Role::Highlight) => light.highlight,
                Some(Role::SelfLuminous) | None => return (z.id, z.target),
            };
            let lab = with_value(local, Value((local.value().0 + step.value).clamp(0.3, 9.9)));
            (z.id, with_temperature(lab, Temperature(lab.temperature().0 + step.temperature)))
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_colour::screen::lab_of_srgb;

    #[test]
    fn steps_of_one_picture_hold_on_the_colours_of_another() {
        let source = staged(&[Staged::read(70.0, 10.0, 30.0).role(Role::Lit), Staged::read(35.0, 4.0, -12.0).role(Role::Shadow)]);
        let light = lift(&source).unwrap();
        let blue = Lab::new(65.0, -5.0, -30.0);
        let cloth = staged(&[
            Staged::read(60.0, 0.0, 0.0).role(Role::Lit).local(blue),
            Staged::read(60.0, 0.0, 0.0).role(Role::Shadow).local(blue),
        ]);
        let t = lay(&cloth, &light);
        let read = source.zones[0].reading.lab.value().0 - source.zones[1].reading.lab.value().0;
        assert!((t[0].1.value().0 - t[1].1.value().0 - read).abs() < 0.05);
        assert_eq!(t[0].1, blue);
        assert!(t[1].1.temperature().0 < t[0].1.temperature().0 - 10.0, "the shadow went as cool as there");
    }

    fn halves(light: [u8; 3], dark: [u8; 3]) -> Picture {
        Picture { width: 320, height: 200, rgb: (0..320 * 200).flat_map(|i| if i % 320 < 160 { light } else { dark }).collect() }
    }

    #[test]
    fn a_picture_nobody_spoke_about_lends_its_light_too() {
        let piece = staged(&[Staged::read(60.0, 0.0, 0.0).role(Role::Lit), Staged::read(60.0, 0.0, 0.0).role(Role::Shadow)]);
        let light = lift_from_picture(&piece, &halves([210, 170, 120], [60, 66, 92]), "folds.jpg").unwrap();
        let apart = lab_of_srgb([210, 170, 120]).value().0 - lab_of_srgb([60, 66, 92]).value().0;
        assert!((light.shadow.value + apart).abs() < 0.2, "{light:?} against {apart}");
        assert!(light.shadow.temperature < -10.0, "warm light, cool shadow");
        let flat = lift_from_picture(&piece, &halves([120, 120, 120], [124, 124, 124]), "fog.jpg").unwrap_err();
        assert!(flat.contains("fog.jpg"), "{flat}");
    }

    #[test]
    fn a_picture_without_shadow_lends_no_light() {
        let source = staged(&[Staged::read(70.0, 10.0, 30.0).role(Role::Lit)]);
        assert!(lift(&source).unwrap_err().contains("shadow"));
    }
}
