//! Every engineering choice of the models in one place, with its reason: what a painter's own readings may later tune.
//!
//! A formula with a source is written where it is used and is not repeated here. What stands here has no published value for artists'
//! materials; the defaults were chosen so that the models behave as painters know their materials to behave.

use crate::opaque::SurfaceOptics;
use crate::pigment::Pigment;

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
    /// Matte veil of dry paper and marker surfaces: share of light scattered back before it meets any colour.
    pub paper_veil: f64,
    /// Washes.
    pub wash: WashChoices,
    /// Alcohol markers.
    pub ink: InkChoices,
    /// Coloured pencil.
    pub pencil: PencilChoices,
    /// Soft pastel.
    pub pastel: PastelChoices,
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
    /// Absorption K·X, in the mean of all bands and washes, above which pigment lies so thick that its surface veils it.
    pub deep: f64,
    /// The most that veil of deep washes comes to.
    pub deep_veil: f64,
    /// Absorption beyond [`deep`](Self::deep) at which all but `1/e` of it is there.
    pub deep_over: f64,
    /// Scattering of white in dry binder relative to white in water: particles of index 2.7 lose contrast when water (1.33) gives way to
    /// binder (1.5); the square of the Clausius–Mossotti factors gives about 0.70.
    pub white_dries_to: f64,
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
    /// The same for a colourless blender.
    pub blender: f64,
    /// The same when the ink beneath is still wet.
    pub wet_in_wet: f64,
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
    /// Film left in all before wax slides on wax.
    pub most_film: f64,
    /// Cover after burnishing.
    pub burnished_cover: f64,
    /// Film after burnishing relative to before.
    pub burnished_film: f64,
    /// Share of the layer below that burnishing works into the top layer.
    pub burnished_mixing: f64,
    /// Front reflection of burnished wax that reaches the eye.
    pub burnished_front: f64,
    /// Yule–Nielsen n of paper between the strokes.
    pub spread: f64,
}

/// Choices about soft pastel, the least supported model here.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PastelChoices {
    /// Share of chalk in a stick of one pigment.
    pub chalk: f64,
    /// Absorption of chalk.
    pub chalk_k: f64,
    /// Scattering of chalk at 550 nm.
    pub chalk_s: f64,
    /// Its fall with wavelength: `(λ/550)^−x`.
    pub chalk_slope: f64,
    /// Pigment in air scatters this many times as much as in a binder.
    pub in_air: f64,
    /// Veil of dry dust.
    pub veil: f64,
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
    /// Share of chalk in a stick of this pigment.
    pub fn chalk_with(&self, pigment: &Pigment) -> f64 {
        if pigment.is_black() { self.chalk_in_black } else { self.chalk }
    }
}

impl Choices {
    /// Matte veil of paper under washes of so much absorption K·X in the mean: where much pigment lies its own surface scatters too, so that
    /// deep washes stay calm.
    pub fn paper_veil_under(&self, load: f64) -> f64 {
        let beyond = (load - self.wash.deep).max(0.0);
        self.paper_veil + (self.wash.deep_veil - self.paper_veil) * (1.0 - (-beyond / self.wash.deep_over).exp())
    }
}

impl Default for Choices {
    fn default() -> Self {
        Self {
            oil: crate::opaque::OIL,
            gouache: SurfaceOptics { k1: 0.04, k2: 0.40, front: 0.6 },
            gouache_veil: 0.02,
            gouache_loss: 0.05,
            acrylic: SurfaceOptics { k1: 0.04, k2: 0.60, front: 0.15 },
            water: SurfaceOptics { k1: 0.02, k2: 0.47, front: 0.25 },
            paper_veil: 0.025,
            wash: WashChoices {
                lifted_staining: 0.05,
                lifted_other: 0.25,
                granulation: 0.4,
                settling: 0.1,
                deep: 2.0,
                deep_veil: 0.045,
                deep_over: 1.0,
                white_dries_to: 0.70,
                milky: 0.03,
            },
            ink: InkChoices { further_coat: 0.45, redissolved: 0.15, blender: 0.30, wet_in_wet: 0.35 },
            pencil: PencilChoices {
                cover_rate: 1.1,
                most_cover: 0.97,
                film: 0.25,
                most_film: 1.2,
                burnished_cover: 0.98,
                burnished_film: 0.8,
                burnished_mixing: 0.3,
                burnished_front: 0.35,
                spread: 1.7,
            },
            pastel: PastelChoices {
                chalk: 0.5,
                chalk_k: 0.0008,
                chalk_s: 0.25,
                chalk_slope: -0.5,
                in_air: 2.0,
                veil: 0.03,
                rubbed: 0.45,
                crisp: 0.08,
                crisp_at_most: 0.15,
                slips_off: 0.5,
                chalk_in_black: 0.1,
                pressed_veil: 0.75,
            },
        }
    }
}
