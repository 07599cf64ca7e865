//! The server of the bench and the `lean-swatch` command line.
//!
//! **The three nouns and how they meet.** A [`Studio`](state::Studio) is one open data file with its running jobs; the
//! [`router`](mod@router) answers pages and API over it, each handler extracting, calling the core and responding; and every error
//! leaves as a [`Problem`](problem::Problem) that says what to do.
#![deny(missing_docs)]

mod backup_outcome;
pub mod cli;
mod daily;
pub mod demo;
mod demo_file;
#[cfg(feature = "description")]
pub mod description;
mod extract;
mod filling;
mod frontend;
mod guard;
mod handlers;
mod jobs;
mod launching;
mod lessons;
pub mod limits;
mod paths;
mod pictures;
mod print;
mod problem;
pub mod router;
pub mod school;
mod seen_version;
pub mod serving;
pub mod sharing;
pub mod state;
mod turns;
mod views;
mod visiting;
