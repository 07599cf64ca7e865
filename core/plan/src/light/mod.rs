//! Targets and facts that follow from the light of a piece.
//!
//! [`key`] maps what the reference reads into what the medium reaches, [`fitting`] with the least movement, [`rules`] work without a reference, [`borrowed`] lays the steps of
//! another picture's light on this one's local colours, [`propose`](mod@propose) guesses facts from the picture, and [`credible`] says how strong a colour may be there.

pub mod borrowed;
pub mod credible;
pub mod fitting;
pub mod key;
pub mod propose;
pub mod rules;
