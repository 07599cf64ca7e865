//! `lean-swatch` without a word: the studio in the browser, started where it does not run yet.

use super::running::{Served, data_place, expect_data_file, log};
use crate::launching::{Claim, RunningCopy, free_port, open_browser, show_problem};
use clap::Args;
use std::path::PathBuf;

#[derive(Args)]
pub(crate) struct Open {
    /// Data file; made when it is not there. In the user's data directory when left out.
    #[arg(long)]
    data: Option<PathBuf>,
    /// Only print the address, and open no browser.
    #[arg(long)]
    no_open: bool,
}

/// Opens the studio. What hinders it is shown in the browser, too, where the program was started by its icon.
pub(super) fn run(a: &Open) -> Result<(), String> {
    log();
    started(a).inspect_err(|problem| {
        if !a.no_open {
            show_problem(problem);
        }
    })
}

fn started(a: &Open) -> Result<(), String> {
    let data = data_place(a.data.as_deref(), false)?;
    let claimed = match RunningCopy::claim(&data)? {
        Claim::Ours(claimed) => claimed,
        Claim::Theirs(address) => {
            println!("Lean Swatch is running: {address}");
            shown(a, &address);
            return Ok(());
        }
    };
    expect_data_file(&data)?;
    let listener = free_port(claimed.last_time())?;
    Served { listener, data, demo: false, simulates: false, shared: None, claimed: Some(claimed) }.until_ended(|address| shown(a, address))
}

fn shown(a: &Open, address: &str) {
    if !a.no_open && !open_browser(address) {
        println!("Open this address in a browser on this machine.");
    }
}
