//! How sure a hand is of a recipe.

/// How sure a hand is of a recipe.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Hand {
    /// How far the mix is expected to move, in units of cost (twenty a step of value), when the hand errs by a fifth in every amount:
    /// `sqrt(Σ over amounts of d(×0.8)²)`. Nine hands in ten stay within 1.4 of it. In wet mixes the amounts are all a hand measures in its heaps,
    /// and what is seen is followed to first order. Where crisp strokes of pastel lie over others, what is not known of the dust they pick up
    /// counts as one more slip.
    pub slip: f64,
    /// Layers or heaps beyond the first: work, and one more thing to get wrong. A further coat of the same thing counts for a part of one.
    pub more_layers: f64,
}

pub use lean_media::forms::ERRING;
