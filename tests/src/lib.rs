//! Whole tasks in a real browser: a server on a data file of its own, ChromeDriver, and the words a test is written in.
//!
//! **The three nouns and how they meet.** A [`Server`](server::Server) is the built program on a fresh data file; a
//! [`Driver`](driver::Driver) is ChromeDriver in a process group of its own; and a [`Page`](page::Page) is one window at 1280 × 800 that
//! waits for conditions, never for time.
#![deny(missing_docs)]

pub mod ask;
pub mod driver;
pub mod page;
pub mod pictures;
pub mod server;
pub mod stage;
pub mod views;
