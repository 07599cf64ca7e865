//! `lean-swatch serve [--data FILE] [--listen ADDR] [--demo]`

use super::running::{Served, data_place, expect_data_file, log};
use super::sharing::shared;
use crate::demo;
use crate::demo_file::DemoFile;
use crate::launching::{Claim, RunningCopy};
use clap::Args;
use std::net::SocketAddr;
use std::path::PathBuf;

#[derive(Args)]
pub(crate) struct Serve {
    /// Data file; made when it is not there. In the user's data directory when left out.
    #[arg(long)]
    data: Option<PathBuf>,
    /// Address on this machine to listen on; port 0 takes any free one.
    #[arg(long, default_value = "127.0.0.1:7436")]
    listen: SocketAddr,
    /// Show the demo studio from a data file of its own.
    #[arg(long)]
    demo: bool,
    /// Put a simulated colour meter and camera into the studio, to try them out. What they read is marked as played, and teaches nothing without this.
    #[arg(long)]
    simulate: bool,
    /// Begin an empty studio although backups of an earlier one lie beside it.
    #[arg(long)]
    empty: bool,
    /// Let paired phones and tablets come in over the local network, at this address of this machine; without one at the first that is found,
    /// port 7437.
    #[arg(long, value_name = "ADDR", num_args = 0..=1)]
    share: Option<Option<SocketAddr>>,
    /// Certificate of this machine as PEM, for the address devices come to.
    #[arg(long, value_name = "FILE", requires_all = ["share", "share_key"])]
    share_certificate: Option<PathBuf>,
    /// The key that belongs to it, as PEM.
    #[arg(long, value_name = "FILE", requires = "share_certificate")]
    share_key: Option<PathBuf>,
}

pub(super) fn run(a: Serve) -> Result<(), String> {
    log();
    if !a.listen.ip().is_loopback() {
        return Err(format!("{} is not on this machine: the server listens on 127.0.0.1 only.", a.listen));
    }
    let data = data_place(a.data.as_deref(), a.demo)?;
    // A port that is taken leaves nothing behind: no file is made before it is held.
    let listener = std::net::TcpListener::bind(a.listen)
        .map_err(|e| format!("{}: {e}. Another Lean Swatch may be running; open it, or choose another port with --listen.", a.listen))?;
    if !a.demo && !a.empty {
        expect_data_file(&data)?;
    }
    // A start without a word then finds this one. Who asks for a second server of the same file gets it.
    let claimed = match RunningCopy::claim(&data) {
        Ok(Claim::Ours(claimed)) => Some(claimed),
        _ => None,
    };
    let shared = a.share.map(|said| shared(said, a.share_certificate.as_deref(), a.share_key.as_deref())).transpose()?;
    Served { listener, data, demo: a.demo, simulates: a.simulate, shared, claimed }.until_ended(|_| ())
}

#[derive(Args)]
pub(crate) struct FillDemo {
    /// The data file of the demo studio.
    file: PathBuf,
}

/// Fills a demo studio to its end before it returns.
pub(crate) fn fill_demo(a: &FillDemo) -> Result<(), String> {
    let DemoFile { store, unfilled } = DemoFile::open(&a.file).map_err(|p| p.detail)?;
    unfilled.map_or(Ok(()), |unfilled| unfilled.fill(&store, demo::ALL_CORES, &|_| Ok(()))).map_err(|p| p.detail)
}
