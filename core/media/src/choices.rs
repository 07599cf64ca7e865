//! Every engineering choice of the models in one place, with its reason: what a painter's own readings may later tune.
//!
//! A formula with a source is written where it is used and is not repeated here. What stands here has no published value for artists'
//! materials; the defaults were chosen so that the models behave as painters know their materials to behave.

use crate::opaque::{SurfaceOptics, masstone};
use crate::pigment::Pigment;
use lean_colour::spectrum::wavelength;
use lean_colour::{Light, Reflectance};

/// All choices. [`Choices::default`] is what the product ships.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Choices {
    /// Semi-gloss oil seen in a room.
    pub oil: SurfaceOptics,
    /// Body colour (gouache): lean in binder, so matte and with less light turned back inside.
    pub gouache: SurfaceOptics,
    /// Matte veil of dry body colour: its pores scatter light back before it meets any colour.
    pub gouache_veil: f64,
    /// Share of light that the pores of dry body colour swallow; with the veil this is why its lights dry darker and greyer.
    pub gouache_loss: f64,
    /// Acrylic, wet and dry.
    pub acrylic: SurfaceOptics,
    /// Anything wet: water (n ≈ 1.33) over the colour. The mechanism is that of Lekner & Dorf 1988 and Jensen et al. 1999.
    pub water: SurfaceOptics,
    /// Matte veil of bare ground: share of light scattered back before it meets any colour.
    pub paper_veil: f64,
    /// Dry paper that holds washes or ink: a matte veil, and the light that gum, dye and fibres turn back inside. K and S of the library were
    /// found through [`oil`](Self::oil); without inner reflection every dark would read 10 to 20 L* too light.
    pub paper: SurfaceOptics,
    /// Grey that deep washes and deep wax gain.
    pub dulling: Dulling,
    /// Washes.
    pub wash: WashChoices,
    /// Alcohol markers.
    pub ink: InkChoices,
    /// Coloured pencil.
    pub pencil: PencilChoices,
    /// Soft pastel.
    pub pastel: PastelChoices,
}

/// Grey absorption of a see-through layer: particles and binder shade each other, so that a strong wash, coat or wax is not clear. Without it
/// strong washes come out too colourful (ultramarine C* 90 where painters get about 60).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Dulling {
    /// The most it comes to, as K·X of every band.
    pub most: f64,
    /// [Luminous depth](Dulling::depth) at which half of it is there.
    pub half_at: f64,
}

impl Dulling {
    /// Luminous depth of a layer: its absorption K·X (36 bands, given for its thickness) in the mean that the eye's lightness takes of the bands
    /// (weights of Y under daylight). About 1 reads L* 40 over white paper.
    pub(crate) fn depth(k: &[f64]) -> f64 {
        let weights = Light::Daylight.weights();
        let all: f64 = weights.iter().map(|w| w[1]).sum();
        k.iter().zip(weights).map(|(k, w)| k * w[1]).sum::<f64>() / all
    }

    /// Grey absorption K·X, ≥ 0, of a layer of this luminous depth.
    pub(crate) fn grey(&self, depth: f64) -> f64 {
        self.most * depth / (self.half_at + depth)
    }
}

/// Choices about watercolour and body colour.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WashChoices {
    /// Share of a lower wash that is lost where it is wetted and lifted, staining pigments.
    pub lifted_staining: f64,
    /// The same for all other pigments.
    pub lifted_other: f64,
    /// Spread of thickness of granulating pigments on the roughest paper.
    pub granulation: f64,
    /// The same for all other pigments.
    pub settling: f64,
    /// Scattering of white in dry binder relative to white in water: particles of index 2.7 lose contrast when water (1.33) gives way to
    /// binder (1.5); the square of the Clausius–Mossotti factors gives about 0.70.
    pub white_dries_to: f64,
    /// Scattering S·X of white at 550 nm, no unit, at which all but `1/e` of the surface of a wash is body colour.
    pub body_at: f64,
    /// Haze of wet acrylic binder, in scattering units: it is milky until it has dried.
    pub milky: f64,
}

/// Choices about alcohol markers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct InkChoices {
    /// Dose of a further coat of the same ink relative to the coat before.
    pub further_coat: f64,
    /// Share of the ink beneath that a later ink dissolves and carries off.
    pub redissolved: f64,
    /// The least that is believed of that share.
    pub redissolved_at_least: f64,
    /// The most that is believed of that share.
    pub redissolved_at_most: f64,
    /// The same for a colourless blender.
    pub blender: f64,
    /// The same when the ink beneath is still wet.
    pub wet_in_wet: f64,
    /// Grey that deep ink gains; less than that of washes, as dye is clearer than pigment.
    pub dulling: Dulling,
}

/// Choices about coloured pencil.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PencilChoices {
    /// How fast cover of the tooth grows with pressure.
    pub cover_rate: f64,
    /// The most of the tooth that strokes cover.
    pub most_cover: f64,
    /// Film left by one layer at full pressure.
    pub film: f64,
    /// Scattering in wax relative to oil: wax wets pigment and is laid with clear filler, so that light over dark is a veil and no cover.
    pub in_wax: f64,
    /// Fall of a thin white's scattering with wavelength, `(λ/550)^−x`: white over dark is bluish.
    pub white_slope: f64,
    /// Surface of dry wax strokes.
    pub surface: SurfaceOptics,
    /// Film left in all before wax slides on wax.
    pub most_film: f64,
    /// Cover after burnishing.
    pub burnished_cover: f64,
    /// Film after burnishing relative to before.
    pub burnished_film: f64,
    /// Share of the layer below that burnishing works into the top layer.
    pub burnished_mixing: f64,
    /// Surface of burnished wax.
    pub burnished: SurfaceOptics,
    /// Yule–Nielsen n of paper between the strokes.
    pub spread: f64,
}

/// Choices about soft pastel, the least supported model here.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PastelChoices {
    /// Share of chalk in a stick whose pigment is dark.
    pub chalk: f64,
    /// Share of chalk in a stick whose pigment is as light as white.
    pub chalk_in_pale: f64,
    /// Absorption of chalk.
    pub chalk_k: f64,
    /// Scattering of chalk at 550 nm.
    pub chalk_s: f64,
    /// Its fall with wavelength: `(λ/550)^−x`.
    pub chalk_slope: f64,
    /// A dark pigment in air scatters this many times as much as in a binder.
    pub in_air: f64,
    /// The same of a pigment as light as white, whose loose grains are full of air.
    pub in_air_when_pale: f64,
    /// Surface of dry dust: its veil, and the light its grains turn back inside.
    pub surface: SurfaceOptics,
    /// Share of the dust beneath that joins a rubbed stroke.
    pub rubbed: f64,
    /// The same for a crisp stroke: no stroke picks up nothing.
    pub crisp: f64,
    /// The most that is believed of a crisp stroke; a recipe that leans on less is no recipe.
    pub crisp_at_most: f64,
    /// Share of a stroke that slips off where the tooth is full of other sticks.
    pub slips_off: f64,
    /// Share of chalk in a black stick: blacks are strong and need little.
    pub chalk_in_black: f64,
    /// What is left of the veil with every further stroke of a stick on itself: its dust is pressed together.
    pub pressed_veil: f64,
}

impl PastelChoices {
    /// The surface of a stick laid on itself so many times more.
    pub fn pressed(&self, on_itself: i32) -> SurfaceOptics {
        SurfaceOptics { k1: self.surface.k1 * self.pressed_veil.powi(on_itself), ..self.surface }
    }

    /// Absorption and scattering of the dust of a stick of this pigment, 36 bands each: pigment in air, and the chalk that binds it.
    pub fn dust(&self, pigment: &Pigment) -> (Vec<f64>, Vec<f64>) {
        let masstone = Reflectance(std::array::from_fn(|i| masstone(pigment.k[i], pigment.s[i]))).xyz().y / 100.0;
        let pale = if pigment.is_black() { 0.0 } else { masstone.clamp(0.0, 1.0) };
        let chalk = if pigment.is_black() { self.chalk_in_black } else { self.chalk + (self.chalk_in_pale - self.chalk) * pale };
        let in_air = self.in_air + (self.in_air_when_pale - self.in_air) * pale;
        let white = |i: usize| self.chalk_s * (wavelength(i) / 550.0).powf(self.chalk_slope);
        let k = pigment.k.iter().map(|k| (1.0 - chalk) * k + chalk * self.chalk_k);
        let s = pigment.s.iter().enumerate().map(|(i, s)| (1.0 - chalk) * in_air * s + chalk * white(i));
        (k.collect(), s.collect())
    }
}

impl PencilChoices {
    /// Absorption and scattering of a pigment in wax, 36 bands each, per unit of film: duller and clearer than in oil.
    pub fn in_wax(&self, pigment: &Pigment, dulling: Dulling) -> (Vec<f64>, Vec<f64>) {
        let grey = dulling.grey(Dulling::depth(&pigment.k));
        let slope = if pigment.white { self.white_slope } else { 0.0 };
        let s = pigment.s.iter().enumerate().map(|(i, s)| s * self.in_wax * (wavelength(i) / 550.0).powf(-slope));
        (pigment.k.iter().map(|k| k + grey).collect(), s.collect())
    }
}

impl Choices {
    /// Washes under water: the inner reflection of the paper and that of the water, one after the other.
    pub(crate) fn wet_paper(&self) -> SurfaceOptics {
        SurfaceOptics { k2: self.paper.k2 + self.water.k2 * (1.0 - self.paper.k2), ..self.water }
    }
}

impl Default for Choices {
    fn default() -> Self {
        Self {
            oil: crate::opaque::OIL,
            gouache: SurfaceOptics { k1: 0.04, k2: 0.47, front: 0.6 },
            gouache_veil: 0.06,
            gouache_loss: 0.08,
            acrylic: SurfaceOptics { k1: 0.04, k2: 0.60, front: 0.15 },
            water: SurfaceOptics { k1: 0.02, k2: 0.47, front: 0.25 },
            paper_veil: 0.025,
            paper: SurfaceOptics { k1: 0.025, k2: 0.55, front: 1.0 },
            dulling: Dulling { most: 0.2, half_at: 0.5 },
            wash: WashChoices {
                lifted_staining: 0.05,
                lifted_other: 0.25,
                granulation: 0.4,
                settling: 0.1,
                white_dries_to: 0.70,
                body_at: 0.25,
                milky: 0.03,
            },
            ink: InkChoices {
                further_coat: 0.45,
                redissolved: 0.10,
                redissolved_at_least: 0.05,
                redissolved_at_most: 0.20,
                blender: 0.30,
                wet_in_wet: 0.35,
                dulling: Dulling { most: 0.1, half_at: 0.5 },
            },
            pencil: PencilChoices {
                cover_rate: 0.97,
                most_cover: 0.97,
                film: 0.25,
                in_wax: 0.62,
                white_slope: 1.0,
                surface: SurfaceOptics { k1: 0.012, k2: 0.55, front: 1.0 },
                most_film: 1.2,
                burnished_cover: 0.98,
                burnished_film: 0.8,
                burnished_mixing: 0.3,
                burnished: SurfaceOptics { k1: 0.04, k2: 0.60, front: 0.35 },
                spread: 1.7,
            },
            pastel: PastelChoices {
                chalk: 0.35,
                chalk_in_pale: 0.5,
                chalk_k: 0.0008,
                chalk_s: 0.25,
                chalk_slope: -0.5,
                in_air: 1.4,
                in_air_when_pale: 2.5,
                surface: SurfaceOptics { k1: 0.03, k2: 0.45, front: 1.0 },
                rubbed: 0.45,
                crisp: 0.05,
                crisp_at_most: 0.15,
                slips_off: 0.5,
                chalk_in_black: 0.1,
                pressed_veil: 0.75,
            },
        }
    }
}
