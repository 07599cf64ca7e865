//! Why a search has no answer, in the painter's words.

use crate::progress::Cancelled;
use crate::question::MOST_TARGETS;
use lean_media::PigmentId;
use thiserror::Error;

/// Why there is no answer.
#[derive(Debug, Error, PartialEq)]
pub enum NoAnswer {
    /// Fewer pigments than the smallest size.
    #[error("Only {0} can be chosen from, which is too few to choose a set. Add pigments to the Box or take back an exclusion.")]
    TooFew(String),
    /// Nothing at all is left.
    #[error("No pigment is left to choose from: {0}. Take one of these back.")]
    NothingLeft(String),
    /// A pigment is both locked and excluded.
    #[error("\"{0}\" is both locked and excluded. Take one of the two back.")]
    Contradiction(PigmentId),
    /// A pigment is locked but forbidden.
    #[error("\"{0}\" is locked, but \"{1}\" leaves it out. Take one of the two back.")]
    LockedForbidden(PigmentId, &'static str),
    /// A named pigment is not in the Box.
    #[error("\"{0}\" is not in this Box. Leave it out of the search or choose the Box that holds it.")]
    NotInBox(PigmentId),
    /// A pigment is named twice.
    #[error("Two pigments are both called \"{0}\". Give each an id of its own.")]
    Duplicate(PigmentId),
    /// A white is locked or excluded.
    #[error("\"{0}\" is white: it is free in every mix and never counted. Leave it out of locks and exclusions.")]
    White(PigmentId),
    /// More pigments are locked than the largest set holds.
    #[error("{0} pigments are locked, but the largest set asked for has {1}. Unlock some.")]
    TooManyLocked(usize, usize),
    /// A size that cannot be.
    #[error("Sizes {0} to {1} cannot be searched: a set in this medium has 1 to {2} pigments, the smaller size first.")]
    Sizes(usize, usize, usize),
    /// A demand is out of range or contradicts another.
    #[error("{0}")]
    Demand(String),
    /// The demands cannot be met together by sets of the sizes asked for.
    #[error("No set of {0} to {1} pigments does all that is asked ({2}). Allow more pigments or ask for less.")]
    Demanding(usize, usize, String),
    /// The same where not every set could be tried.
    #[error(
        "No set of {0} to {1} pigments was found that does all that is asked ({2}), though not every one could be tried. Allow more pigments or ask for less."
    )]
    NoneFound(usize, usize, String),
    /// No zone counts.
    #[error("There is nothing to match: no zone has any weight. Find zones first, or raise the importance of one.")]
    NoTargets,
    /// A weight is no weight.
    #[error("Target {0} has a weight of {1}: weights are zero or more.")]
    Weight(usize, f64),
    /// More zones than the search takes.
    #[error("{0} zones are more than the {MOST_TARGETS} one search takes. Merge some, or serve fewer pieces at once.")]
    TooManyTargets(usize),
    /// The painter cancelled; nothing was changed.
    #[error("The search was cancelled. Nothing was changed.")]
    Cancelled,
}

impl From<Cancelled> for NoAnswer {
    fn from(_: Cancelled) -> Self {
        Self::Cancelled
    }
}
