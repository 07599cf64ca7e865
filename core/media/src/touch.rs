//! How a second medium lies over the first, once that is dry; and the surface of acrylic, for the studies of an oil.

use crate::amount::{Mass, Pressure, Rubbing, Thickness};
use crate::choices::Choices;
use crate::forms::{MASSES, PRESSURES};
use crate::ground::Ground;
use crate::layering::{Binder, Layer};
use crate::medium::Second;
use crate::opaque::SurfaceOptics;
use crate::pigment::{Parts, Pigment};

/// Films a thin and a covering touch of body colour leave, in units of white at 550 nm: over black white sends back a third and six parts in
/// seven. A choice.
const BODY_FILMS: [f64; 2] = [0.5, 6.0];

impl Second {
    /// How much a touch lays, in the unit of its medium ([`crate::amount`]), when the hand lays `hand` times what was meant.
    ///
    /// # Panics
    /// Never for a number below that of [`touches`](Self::touches).
    pub fn amount(self, touch: usize, hand: f64) -> f64 {
        match self {
            Self::Pencil => (PRESSURES[touch] * hand).min(1.0),
            Self::Pastel => MASSES[touch] * hand,
            Self::BodyColour => BODY_FILMS[touch] * hand,
            Self::Acrylic => hand,
        }
    }

    /// So much of it as a layer of the general model.
    pub fn layer(self, of: &Pigment, amount: f64) -> Layer<'_> {
        let body = |binder| Layer::Paint { binder, of: vec![(of, Parts(1.0))], film: Some(Thickness(amount)) };
        match self {
            Self::Pencil => Layer::Pencil { of, pressure: Pressure(amount) },
            Self::Pastel => {
                let rubbing = Rubbing(Choices::default().pastel.crisp);
                Layer::Pastel { of: vec![(of, Parts(1.0))], mass: Mass(amount), rubbing }
            }
            Self::BodyColour => body(Binder::Gouache),
            Self::Acrylic => body(Binder::Acrylic),
        }
    }

    /// Which touches a ground takes over whatever lies there, lightest first.
    pub fn taken_by(self, ground: &Ground) -> usize {
        let fits = |touch: &usize| match self {
            Self::Pencil => {
                let c = Choices::default().pencil;
                ground.takes.pencil > 0 && c.film * PRESSURES[*touch] <= c.most_film.min(ground.pencil_film)
            }
            Self::Pastel => ground.takes.pastel > 0 && MASSES[*touch] <= ground.pastel_mass,
            Self::BodyColour | Self::Acrylic => ground.takes.paint > 0,
        };
        (0..self.touches().len()).take_while(fits).count()
    }
}

/// The surface of opaque paint mixed of these: that of acrylic where all of them are, else that of oil.
pub fn surface_of<'a>(of: impl IntoIterator<Item = &'a Pigment>) -> SurfaceOptics {
    let choices = Choices::default();
    let mut of = of.into_iter().peekable();
    let all_acrylic = of.peek().is_some() && of.all(|p| p.second == Some(Second::Acrylic));
    if all_acrylic { choices.acrylic } else { choices.oil }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Medium;
    use crate::layering::{Layering, State};
    use crate::{ground, library};

    fn value(ground: &Ground, layers: Vec<Layer>) -> f64 {
        Layering { ground, layers }.lay(State::Dry).unwrap().reflectance.xyz().lab().value().0
    }

    #[test]
    fn covering_white_lights_up_a_dark_wash_and_thin_white_veils_it() {
        let paper = ground::usual(Medium::Watercolour);
        let (blue, white) = (library::find("PB29").unwrap(), library::find("PW6").unwrap());
        let wash = || Layer::Wash { of: vec![(blue, Thickness(crate::forms::deepest_wash(blue)))] };
        let touched = |touch| value(&paper, vec![wash(), Second::BodyColour.layer(white, Second::BodyColour.amount(touch, 1.0))]);
        let bare = value(&paper, vec![wash()]);
        assert!(touched(0) > bare + 1.0 && touched(1) > 8.5 && touched(1) > touched(0), "{bare} {} {}", touched(0), touched(1));
    }

    #[test]
    fn a_firm_pencil_changes_a_marker_more_than_a_light_one() {
        let paper = ground::usual(Medium::Marker);
        let (pen, pencil) = (library::find("PY43").unwrap(), library::find("PB29").unwrap());
        let coat = || Layer::Ink { of: vec![(pen, crate::amount::Dose(0.02))], into_wet: false };
        let values: Vec<f64> =
            (0..3).map(|t| value(&paper, vec![coat(), Second::Pencil.layer(pencil, Second::Pencil.amount(t, 1.0))])).collect();
        assert!(values.windows(2).all(|w| w[1] < w[0]), "{values:?}");
        assert_eq!(Second::Pencil.taken_by(&paper), 3);
    }

    #[test]
    fn every_second_is_offered_by_some_medium_and_has_a_box() {
        for second in [Second::Pencil, Second::Pastel, Second::BodyColour, Second::Acrylic] {
            assert!(Medium::ALL.iter().any(|m| Second::beside(*m).contains(&second)), "{second:?}");
            assert_eq!(second.lies_over(), !second.touches().is_empty());
        }
    }

    #[test]
    fn acrylic_shines_less_than_oil_so_its_darks_go_deeper() {
        let black = library::find("PBk7").unwrap();
        let acrylic = Pigment { second: Some(Second::Acrylic), ..black.clone() };
        assert!(surface_of([&acrylic]).front < surface_of([black]).front);
        assert_eq!(surface_of([&acrylic, black]), Choices::default().oil, "one tube of oil makes it oil");
    }
}
