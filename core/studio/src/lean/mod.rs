//! The lean search: the fewest pigments that will do, exactly.
//!
//! **How it works.** [`patterns`] lists every recipe a hand can measure. [`table`] finds, for every one, two or three
//! pigments, the least cost each target can be met at. [`subsets`] goes through every set of a size and adds up, never
//! guessing. Both work in single precision with lanes; [`exact`] then re-judges every set that could be best in double
//! precision, so the answer does not depend on rounding. [`search`] puts these together and explains the result.

pub mod cost;
pub mod exact;
mod kernel;
pub mod patterns;
pub mod search;
mod subsets;
mod table;

pub use cost::{Cost, Target};
pub use exact::{Mix, Part};
pub use search::{Choice, SetFound, search};
pub use table::Table;
