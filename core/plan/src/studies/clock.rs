//! The phases of a study painted against the clock.

use lean_media::Medium;
use serde::Serialize;

/// One phase of a study.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Phase {
    /// What is done in it.
    pub name: &'static str,
    /// Its share of the time, 0..=1.
    pub share: f64,
}

/// The phases of a study in a medium, in their order; shares add up to 1. Shares are choices: most time for the big shapes, least for accents.
pub fn phases(medium: Medium) -> [Phase; 3] {
    let [a, b, c] = match medium {
        Medium::SoftPastel => [("darks, large and light-handed", 0.4), ("middles, then lights", 0.4), ("accents", 0.2)],
        Medium::Marker => [("bases of the big shapes", 0.4), ("darks, blended outward", 0.4), ("accents", 0.2)],
        Medium::Pencil => [("a light layer over everything", 0.45), ("darks in further layers", 0.4), ("accents", 0.15)],
        Medium::Watercolour => [("light washes over everything", 0.4), ("middle washes, each on dry", 0.4), ("darks and accents", 0.2)],
        Medium::Oil => [("big shapes in the middle tones", 0.45), ("darks, then lights", 0.35), ("accents", 0.2)],
    };
    [a, b, c].map(|(name, share)| Phase { name, share })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn phases_fill_the_time() {
        for medium in Medium::ALL {
            assert!((phases(medium).iter().map(|p| p.share).sum::<f64>() - 1.0).abs() < 1e-9, "{medium:?}");
        }
    }
}
