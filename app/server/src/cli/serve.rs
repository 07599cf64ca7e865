//! `lean-swatch serve [--data FILE] [--listen ADDR] [--demo]`

use crate::router::router;
use crate::state::Studio;
use clap::Args;
use directories::ProjectDirs;
use lean_store::Store;
use std::net::SocketAddr;
use std::path::PathBuf;
use tracing_subscriber::EnvFilter;

#[derive(Args)]
pub struct Serve {
    /// Data file; made when it is not there. In the user's data directory when left out.
    #[arg(long)]
    data: Option<PathBuf>,
    /// Address on this machine to listen on; port 0 takes any free one.
    #[arg(long, default_value = "127.0.0.1:7436")]
    listen: SocketAddr,
    /// Show the demo studio from a data file of its own.
    #[arg(long)]
    demo: bool,
}

pub fn run(a: Serve) -> Result<(), String> {
    tracing_subscriber::fmt()
        .json()
        .with_writer(std::io::stderr)
        .with_env_filter(EnvFilter::try_from_env("LEAN_SWATCH_LOG").unwrap_or_else(|_| EnvFilter::new("info")))
        .init();
    if !a.listen.ip().is_loopback() {
        return Err(format!("{} is not on this machine: the server listens on 127.0.0.1 only.", a.listen));
    }
    let path = data_file(&a)?;
    let store = Store::open(&path).map_err(|e| format!("{}: {e}", path.display()))?;
    if a.demo {
        crate::demo::fill(&store).map_err(|p| p.detail)?;
    }
    let runtime = tokio::runtime::Runtime::new().map_err(|e| e.to_string())?;
    runtime.block_on(async move {
        let listener = tokio::net::TcpListener::bind(a.listen).await.map_err(|e| {
            format!("{}: {e}. Another Lean Swatch may be running; open it, or choose another port with --listen.", a.listen)
        })?;
        let address = listener.local_addr().map_err(|e| e.to_string())?;
        tracing::info!(%address, data = %path.display(), "listening");
        println!("Lean Swatch is at http://{address}");
        axum::serve(listener, router(Studio::new(store))).with_graceful_shutdown(stopped()).await.map_err(|e| e.to_string())
    })
}

fn data_file(a: &Serve) -> Result<PathBuf, String> {
    if let Some(path) = &a.data {
        return Ok(path.clone());
    }
    let dirs =
        ProjectDirs::from("", "", "lean-swatch").ok_or("there is no user data directory: say where the data file is with --data FILE")?;
    Ok(dirs.data_dir().join(if a.demo { "demo.db" } else { "studio.db" }))
}

async fn stopped() {
    // Without a signal handler the server simply runs until it is ended; every acknowledged change is on disk either way.
    let _ = tokio::signal::ctrl_c().await;
}
