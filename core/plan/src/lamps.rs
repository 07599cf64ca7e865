//! A study under another lamp than daylight: what the optics say of its mixes there.
//!
//! Only mixes are looked at, whose spectra follow from their pigments; what was wanted is a colour without a spectrum, and none is made up for it.
//! What counts is how a mix looks to an eye that is used to the lamp.

use crate::mark::Mark;
use crate::wording::{Difference, capital};
use lean_colour::difference::ciede2000;
use lean_colour::light::Light;
use lean_colour::{Lab, Reflectance};
use lean_media::opaque::Paint;
use lean_media::touch::surface_of;
use lean_media::{Ground, Layering, Medium, Parts, Pigment, State};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Study, ZoneId};
use lean_recipes::Mix;
use serde::Serialize;

/// CIEDE2000 from which a mix is said to change under a lamp. A choice: plainly seen side by side.
const CHANGES: f64 = 4.0;

/// A study as one lamp shows it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct UnderLamp {
    /// What the lamp is called.
    pub lamp: &'static str,
    /// Every zone it can say something of.
    pub zones: Vec<ZoneUnder>,
    /// What changes most there, in sentences, the largest change first.
    pub changes: Vec<String>,
}

/// A zone of a study under a lamp.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneUnder {
    /// Which zone.
    pub zone: ZoneId,
    /// What its mix looks like there.
    pub mark: Mark,
}

/// A study under every lamp but daylight. Zones whose mix was kept before its amounts were are left out.
pub fn under_lamps(piece: &Piece, paint_box: &PaintBox, study: &Study) -> Vec<UnderLamp> {
    let ground = piece.ground();
    let spectra: Vec<(ZoneId, Lab, Reflectance)> =
        study.mixes.iter().filter_map(|m| Some((m.zone, m.mix.lab, spectrum(piece.brief.medium, &ground, paint_box, &m.mix)?))).collect();
    let under = |light: Light| {
        let zones: Vec<(ZoneId, Lab, Lab)> = spectra
            .iter()
            .map(|(zone, day, r)| {
                let there = r.xyz_under(light).lab_under(light);
                (*zone, *day, Lab::new(there.l, there.a, there.b))
            })
            .collect();
        let mut moved: Vec<(f64, String)> = zones
            .iter()
            .map(|(zone, day, there)| {
                (ciede2000(*day, *there), format!("{}: {}", capital(&piece.zone_label(*zone)), Difference::of(*day, *there).words))
            })
            .filter(|(far, _)| *far >= CHANGES)
            .collect();
        moved.sort_by(|a, b| b.0.total_cmp(&a.0));
        UnderLamp {
            lamp: light.name(),
            zones: zones.iter().map(|(zone, _, there)| ZoneUnder { zone: *zone, mark: Mark::of(*there, piece.neutral()) }).collect(),
            changes: moved.into_iter().map(|(_, words)| words).collect(),
        }
    };
    [Light::Tungsten, Light::WarmLed].map(under).into()
}

/// What a mix sends back of every band; `None` when a pigment or an amount is not known any more.
fn spectrum(medium: Medium, ground: &Ground, paint_box: &PaintBox, mix: &Mix) -> Option<Reflectance> {
    if mix.is_bare_ground() {
        return Some(Layering { ground, layers: Vec::new() }.lay(State::Dry).ok()?.reflectance);
    }
    if mix.layers.is_empty() {
        let of: Vec<(&Pigment, Parts)> =
            mix.amounts().into_iter().map(|(id, n)| Some((paint_box.find(id)?, Parts(n)))).collect::<Option<_>>()?;
        return Some(Paint::mixed(&of).ok()?.opaque(surface_of(of.iter().map(|(p, _)| *p))));
    }
    let find = |id: &lean_media::PigmentId| paint_box.find(id);
    let layers = mix.layers.iter().map(|l| l.general(medium, &find)).collect::<Option<Vec<_>>>()?.concat();
    Some(Layering { ground, layers }.lay(State::Dry).ok()?.reflectance)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use crate::studies::{StudyKind, make};
    use lean_search::Tables;
    use lean_search::progress::Unwatched;

    #[test]
    fn by_daylight_the_spectrum_is_the_mix_and_a_filament_lamp_moves_something() {
        let oils = lean_demo::oils();
        let paint_box = PaintBox { name: oils.name, medium: oils.medium, pigments: oils.pigments };
        let piece = staged(&[Staged::read(60.0, 8.0, -28.0), Staged::read(45.0, -20.0, 20.0), Staged::read(80.0, 2.0, 10.0)]);
        let study = make(&piece, &paint_box, &Tables::default(), &StudyKind::ALL[..1], &Unwatched, &|_| {}).unwrap().remove(0);
        for m in &study.mixes {
            let own = spectrum(piece.brief.medium, &piece.ground(), &paint_box, &m.mix).unwrap();
            assert!(ciede2000(own.xyz().lab(), m.mix.lab) < 0.05, "{:?}", m.zone);
        }
        let lamps = under_lamps(&piece, &paint_box, &study);
        assert_eq!(lamps.len(), 2);
        assert!(lamps.iter().all(|l| l.zones.len() == 3));
        let moved = |l: &UnderLamp| l.zones.iter().zip(&study.mixes).map(|(z, m)| ciede2000(z.mark.lab, m.mix.lab)).fold(0.0, f64::max);
        assert!(moved(&lamps[0]) > 1.0, "a blue is another one by a filament lamp");
    }
}
