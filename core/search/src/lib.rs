//! The lean search: the fewest pigments that will do, exactly.
//!
//! **How it works.** A [`Technique`] lists every recipe a hand can repeat in a medium; the search knows nothing else of it. [`table`] finds, for
//! every one, two or three pigments, the least cost each target can be met at. [`proof`] then finds the best sets of a size: its `climb` finds good
//! ones, its `bound` shows which pigments can be in no set as good, its `subsets` goes through every set of the rest and adds up. All this works in
//! single precision with lanes; [`answer`] judges every set that could be best again in double precision, so that it does not depend on rounding, and
//! explains it. [`question`] is what a painter asks and what follows from it; [`search()`] puts these together.
//!
//! [`Technique`]: lean_recipes::Technique
//!
//! ```
//! use lean_colour::Lab;
//! use lean_media::{Medium, ground, library};
//! use lean_recipes::{Cost, Target};
//! use lean_search::{Ask, Choice, Need, Tables, progress::Unwatched, search};
//!
//! let owned: Vec<_> = ["PB29", "PY43", "PR101", "PW6"].iter().filter_map(|id| library::find(id)).cloned().collect();
//! // A warm grey and a pale blue.
//! let targets = [Lab::new(45.0, 6.0, 9.0), Lab::new(75.0, -2.0, -12.0)].map(|lab| Target { lab, weight: 1.0 }).to_vec();
//! let needs = [Need { ground: ground::usual(Medium::Oil), targets, cost: Cost::default(), weight: 1.0 }];
//! let ask = Ask { pigments: &owned, medium: Medium::Oil, needs: &needs, choice: &Choice::default(), sizes: 1..=2 };
//! let sets = search(&ask, &Tables::default(), &Unwatched, &|_| {})?;
//! assert_eq!(sets.len(), 2);
//! assert!(sets[1].cost <= sets[0].cost, "two pigments are never worse than one");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
#![deny(missing_docs)]

mod answer;
mod judge;
mod prepared;
pub mod progress;
mod proof;
mod question;
mod search;
mod table;

pub use answer::next::{Next, next};
pub use answer::{NearTie, Roles, SetFound, knee};
pub use judge::exact::Recipes;
pub use judge::kept::{Listing, Palette, RecipeLists};
pub use prepared::Tables;
pub use proof::measured;
pub use question::demands::{self, Demands};
pub use question::no_answer::NoAnswer;
pub use question::{Ask, Choice, MOST_IN_SET, Need, most_in_set, white_of};
pub use search::{best_in_twos, search};
pub use table::{Served, Table};
