//! Names of how much is laid in one step.

use lean_media::Medium;

/// Names of the amounts of one step in a medium, the least first; empty where a step has no amount of its own.
pub fn amounts(medium: Medium) -> &'static [&'static str] {
    match medium {
        Medium::Watercolour => &["faint wash", "thin wash", "middle wash", "strong wash", "deep wash"],
        Medium::Pencil => &["light", "middle", "firm"],
        Medium::SoftPastel => &["light", "full", "heavy"],
        Medium::Marker | Medium::Oil => &[],
    }
}
