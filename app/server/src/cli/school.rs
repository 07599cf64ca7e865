//! `lean-swatch school --folder DIR --trust-user-header HEADER`

use super::running::{log, stopped};
use crate::school::{self, School};
use crate::serving::{Limits, serve};
use clap::Args;
use std::net::SocketAddr;
use std::path::PathBuf;

/// A school behind a proxy.
#[derive(Args)]
pub(crate) struct SchoolServe {
    /// Folder of the data files, one a painter; made when it is not there.
    #[arg(long)]
    folder: PathBuf,
    /// Header in which the proxy says who asks. It is believed: the proxy must set it itself, and take away what a browser sends.
    #[arg(long, value_name = "HEADER")]
    trust_user_header: String,
    /// Address on this machine the proxy comes to; port 0 takes any free one.
    #[arg(long, default_value = "127.0.0.1:7436")]
    listen: SocketAddr,
    /// Searches and studies worked at side by side; the others wait their turn.
    #[arg(long, default_value_t = 2)]
    together: usize,
}

/// Serves many painters, each their own studio.
pub(crate) fn run_school(a: SchoolServe) -> Result<(), String> {
    log();
    if !a.listen.ip().is_loopback() {
        return Err(format!("{} is not on this machine: only the proxy may come here, and it is to run on this machine.", a.listen));
    }
    let header = a.trust_user_header.parse().map_err(|_| format!("\"{}\" is no name of a header", a.trust_user_header))?;
    std::fs::create_dir_all(&a.folder).map_err(|e| format!("{}: {e}", a.folder.display()))?;
    let router = school::router(School::at(a.folder, header, a.together));
    let runtime = tokio::runtime::Runtime::new().map_err(|e| e.to_string())?;
    runtime.block_on(async move {
        let listener = tokio::net::TcpListener::bind(a.listen).await.map_err(|e| format!("{}: {e}. Choose another port.", a.listen))?;
        println!("The school is at http://{} for its proxy", listener.local_addr().map_err(|e| e.to_string())?);
        serve(listener, router, stopped(), Limits::default()).await;
        Ok(())
    })
}
