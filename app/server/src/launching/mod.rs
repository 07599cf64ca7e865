//! Starting like any other program: one running copy for each data file, a port that is free, the browser opened at it, and an end from the page.

mod browser;
mod ports;
mod problem_page;
mod quit;
mod running_copy;

pub(crate) use browser::open_browser;
pub(crate) use ports::free_port;
pub(crate) use problem_page::show_problem;
pub(crate) use quit::Quit;
pub(crate) use running_copy::{Claim, RunningCopy};
