//! The server of the bench and the `lean-swatch` command line.
//!
//! **The three nouns and how they meet.** A [`Studio`](state::Studio) is one open data file with its running jobs; the
//! [`router`](mod@router) answers pages and API over it, each handler extracting, calling the core and responding; and every error
//! leaves as a [`Problem`](problem::Problem) that says what to do.
#![deny(missing_docs)]

pub mod backup_outcome;
pub mod cli;
pub mod daily;
pub mod demo;
pub mod demo_file;
#[cfg(feature = "description")]
pub mod description;
pub mod extract;
pub mod frontend;
pub mod guard;
pub mod handlers;
pub mod jobs;
pub mod lessons;
pub mod limits;
mod paths;
pub mod pictures;
pub mod print;
pub mod problem;
pub mod router;
pub mod school;
pub mod seen_version;
pub mod serving;
pub mod sharing;
pub mod state;
pub mod turns;
pub mod views;
pub mod visiting;
