//! The colour of a pigment as it is usually tried.

use crate::forms;
use crate::ground::Ground;
use crate::layering::{Layering, State};
use crate::medium::Medium;
use crate::opaque::Paint;
use crate::pigment::{Parts, Pigment};
use crate::touch::surface_of;
use lean_colour::Lab;

/// Colour of a pigment alone as it is usually tried: opaque in oil, one layer on the ground elsewhere.
pub fn swatch(medium: Medium, ground: &Ground, pigment: &Pigment) -> Lab {
    if let Some(touch) = pigment.second.filter(|s| s.lies_over()) {
        let layers = vec![touch.layer(pigment, touch.amount(touch.touches().len() - 1, 1.0))];
        return Layering { ground, layers }.lay(State::Dry).map_or(ground.lab, |l| l.reflectance.xyz().lab());
    }
    let laid = forms::swatch(medium).zip(forms::Prepared::<f64>::of(medium, &[pigment], ground));
    match laid {
        Some((form, prepared)) => prepared.colour(&[0], &form),
        None => Paint::mixed(&[(pigment, Parts(1.0))]).map_or(Lab::new(0.0, 0.0, 0.0), |p| p.opaque(surface_of([pigment])).xyz().lab()),
    }
}
