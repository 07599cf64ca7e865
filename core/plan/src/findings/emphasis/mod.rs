//! Where the eye goes.

pub(super) mod eye;
pub(super) mod focal;
