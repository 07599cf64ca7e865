//! Where colours lie in the field.

use lean_colour::screen::DisplayP3;
use lean_colour::{Lab, Srgb8, Temperature, Value};
use lean_piece::ZoneId;
use serde::Serialize;

/// Where a colour lies in the field, and how the screen shows it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mark {
    /// The colour.
    pub lab: Lab,
    /// Up and down, 0..=10.
    #[cfg_attr(feature = "schema", schema(value_type = f64))]
    pub value: Value,
    /// Across: warmer (+) or cooler (−) than the picture's own neutral.
    pub temperature: Temperature,
    /// For the screen.
    pub screen: Srgb8,
    /// For a screen with a wide gamut, where the usual one cannot show it.
    pub wide: Option<DisplayP3>,
    /// The grey of the same value, for looking at values only.
    pub values_only: Srgb8,
    /// One value, warmer or cooler than the picture's neutral, for looking at warm and cool only.
    pub warm_cool: Srgb8,
}

/// A zone with its mark.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneMark {
    /// Which zone.
    pub zone: ZoneId,
    /// Its colour.
    pub mark: Mark,
}

impl Mark {
    /// The mark of a colour in a field whose middle is `neutral`.
    pub fn of(lab: Lab, neutral: Temperature) -> Self {
        let temperature = Temperature(lab.temperature().warmer_than(neutral));
        Self {
            lab,
            value: lab.value(),
            temperature,
            screen: lab.xyz().srgb(),
            wide: (!lab.xyz().srgb().in_gamut).then(|| lab.xyz().display_p3()),
            values_only: Lab::new(lab.l, 0.0, 0.0).xyz().srgb(),
            warm_cool: lean_picture::views::warm_cool_colour(temperature),
        }
    }
}
