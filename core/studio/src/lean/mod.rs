//! The lean search: the fewest pigments that will do, exactly.
//!
//! **How it works.** A [`Craft`] lists every recipe a hand can repeat in a medium; the search knows nothing else of it. [`table`] finds, for
//! every one, two or three pigments, the least cost each target can be met at. [`prove`] then finds the best sets of a size: [`climb`] finds good ones,
//! [`bound`] shows which pigments can be in no set as good, [`subsets`] goes through every set of the rest and adds up. All this works in single
//! precision with lanes; [`judge`] re-judges every set that could be best in double precision, so the answer does not depend on rounding. [`search`] puts
//! these together under a painter's [`demands`] and explains the result; [`ready`] remembers tables for the next search.

mod answer;
mod bound;
mod climb;
pub mod cost;
pub mod craft;
pub mod demands;
mod dense;
pub mod exact;
mod field;
mod judge;
mod kernel;
pub mod measured;
pub mod next;
mod no_answer;
mod octets;
mod prove;
mod ready;
pub mod search;
mod subsets;
mod table;
mod top;

pub use answer::{NearTie, SetFound, knee};
pub use cost::{Cost, Target};
pub use craft::{Craft, Mix, MixLayer, Part};
pub use demands::Demands;
pub use no_answer::NoAnswer;
pub use ready::Tables;
pub use search::{Ask, Choice, Need, search};
pub use table::{Errand, Table};
