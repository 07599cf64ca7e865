//! `lean-swatch serve [--data FILE] [--listen ADDR] [--demo]`

use crate::demo;
use crate::demo_file::DemoFile;
use crate::router::{router, router_for_devices};
use crate::school::{self, School};
use crate::serving::{Limits, serve, serve_over};
use crate::sharing::{Sharing, tls};
use crate::state::Studio;
use crate::visiting::Visiting;
use crate::{daily, handlers};
use clap::Args;
use directories::ProjectDirs;
use lean_store::{Backups, ReplacedFile, Store};
use std::net::{IpAddr, SocketAddr, UdpSocket};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;
use tokio_rustls::TlsAcceptor;
use tracing::Level;
use tracing_subscriber::filter::Targets;
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

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

/// Port devices come to when none is said.
const SHARED_PORT: u16 = 7437;

/// What is listened on for devices.
struct Shared {
    listener: std::net::TcpListener,
    sharing: Sharing,
    tls: Option<TlsAcceptor>,
}

/// Listens for devices, after saying so.
fn shared(a: &Serve) -> Result<Option<Shared>, String> {
    let Some(said) = a.share else { return Ok(None) };
    let address = match said {
        Some(address) => address,
        None => SocketAddr::new(own_address()?, SHARED_PORT),
    };
    if address.ip().is_unspecified() {
        return Err(format!("{address}: say the one address of this machine that devices come to, as 192.168.1.20:{SHARED_PORT}."));
    }
    let tls = match (&a.share_certificate, &a.share_key) {
        (Some(certificate), Some(key)) => Some(tls::acceptor(certificate, key)?),
        _ => None,
    };
    println!("Sharing at {address}: devices on this network may ask to be paired, and see pieces, Boxes and notes once they are.");
    if tls.is_none() {
        println!("Nothing that goes to and fro is encrypted: share on a network you trust, or give --share-certificate and --share-key.");
    }
    let listener = std::net::TcpListener::bind(address).map_err(|e| format!("{address}: {e}. Give --share an address of this machine."))?;
    listener.set_nonblocking(true).map_err(|e| e.to_string())?;
    let address = listener.local_addr().map_err(|e| e.to_string())?;
    Ok(Some(Shared { listener, sharing: Sharing::at(address, tls.is_some()), tls }))
}

/// The address of this machine on its network: the one a packet to elsewhere would leave from. None is sent.
fn own_address() -> Result<IpAddr, String> {
    let asked = || -> std::io::Result<IpAddr> {
        let socket = UdpSocket::bind("0.0.0.0:0")?;
        socket.connect("192.0.2.1:9")?;
        Ok(socket.local_addr()?.ip())
    };
    let found = asked().ok().filter(|ip| !ip.is_loopback() && !ip.is_unspecified());
    found.ok_or_else(|| format!("this machine seems to be on no network: say its address, as --share 192.168.1.20:{SHARED_PORT}"))
}

/// Logs to standard error, a JSON text a line: what `LEAN_SWATCH_LOG` asks for (`warn`, `info,tower_http=debug`), `info` where it does not.
pub(super) fn log() {
    let asked = std::env::var("LEAN_SWATCH_LOG").ok().and_then(|asked| asked.parse::<Targets>().ok());
    let wanted = asked.unwrap_or_else(|| Targets::new().with_default(Level::INFO));
    tracing_subscriber::registry().with(wanted).with(tracing_subscriber::fmt::layer().json().with_writer(std::io::stderr)).init();
}

pub(super) fn run(a: Serve) -> Result<(), String> {
    log();
    if !a.listen.ip().is_loopback() {
        return Err(format!("{} is not on this machine: the server listens on 127.0.0.1 only.", a.listen));
    }
    let path = data_place(a.data.as_deref(), a.demo)?;
    // A port that is taken leaves nothing behind: no file is made before it is held.
    let listener = std::net::TcpListener::bind(a.listen)
        .map_err(|e| format!("{}: {e}. Another Lean Swatch may be running; open it, or choose another port with --listen.", a.listen))?;
    listener.set_nonblocking(true).map_err(|e| e.to_string())?;
    if !a.demo && !a.empty {
        expect_data_file(&path)?;
    }
    let (store, unfilled) = if a.demo {
        let DemoFile { store, unfilled } = DemoFile::open(&path).map_err(|p| p.detail)?;
        (store, unfilled)
    } else {
        (Store::open(&path).map_err(|e| format!("{}: {e}", path.display()))?, None)
    };
    let shared = shared(&a)?;
    let runtime = tokio::runtime::Runtime::new().map_err(|e| e.to_string())?;
    runtime.block_on(async move {
        let listener = tokio::net::TcpListener::from_std(listener).map_err(|e| e.to_string())?;
        let address = listener.local_addr().map_err(|e| e.to_string())?;
        tracing::info!(%address, data = %path.display(), "listening");
        println!("Lean Swatch is at http://{address}");
        if let Some(ReplacedFile { kept, rescued }) = store.replaced() {
            println!(
                "The data file was damaged. What is sound in it was taken out and is open now; the damaged file is kept: {}",
                kept.display()
            );
            rescued.lost.iter().for_each(|words| println!("  {words}"));
        }
        let mut studio = Studio::new(store);
        studio.visiting = (!a.demo).then(|| Visiting::beside(&path).door(tokio::runtime::Handle::current()));
        if let Some(unfilled) = unfilled {
            println!("The demo studio is being filled: its first piece is there, the others follow within a minute");
            unfilled.fill_in_background(studio.clone());
        }
        let (ended, _) = tokio::sync::broadcast::channel::<()>(1);
        if let Some(Shared { listener, sharing, tls }) = shared {
            println!("Devices are at {}", sharing.url());
            studio.sharing = Some(Arc::new(sharing));
            let listener = tokio::net::TcpListener::from_std(listener).map_err(|e| e.to_string())?;
            let (router, mut ended) = (router_for_devices(studio.clone()), ended.subscribe());
            tokio::spawn(async move {
                let stopped = async move {
                    let _ = ended.recv().await;
                };
                serve_over(listener, router, stopped, Limits::for_devices(), tls).await;
            });
        }
        if studio.store.was_not_checked() {
            handlers::keeping::checked(&studio);
        }
        if !a.demo {
            tokio::spawn(backed_up(studio.clone()));
        }
        let reader = studio.clone();
        // On a thread the program does not wait for when it ends.
        std::thread::spawn(move || read_for_the_journal(&reader));
        serve(listener, router(studio), stopped(), Limits::default()).await;
        let _ = ended.send(());
        Ok(())
    })
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

/// Refuses to begin an empty studio where backups tell that there was one.
fn expect_data_file(path: &Path) -> Result<(), String> {
    if std::fs::metadata(path).is_ok_and(|m| m.len() > 0) {
        return Ok(());
    }
    let Some(last) = Backups::of(path).everything().pop() else { return Ok(()) };
    Err(format!(
        "{data}: there is no data file here, but there are backups of one; the last is {last}. Nothing was changed. Put it in its place with\n  lean-swatch restore {last} --data {data}\nor begin an empty studio with lean-swatch serve --empty --data {data}.",
        data = path.display(),
        last = last.display(),
    ))
}

/// Where a data file lies: where it was said, or in the user's data directory.
pub(crate) fn data_place(said: Option<&Path>, demo: bool) -> Result<PathBuf, String> {
    if let Some(path) = said {
        return Ok(path.to_owned());
    }
    let dirs =
        ProjectDirs::from("", "", "lean-swatch").ok_or("there is no user data directory: say where the data file is with --data FILE")?;
    Ok(dirs.data_dir().join(if demo { "demo.db" } else { "studio.db" }))
}

/// How often it is looked whether today's backup is there.
const LOOKED: Duration = Duration::from_secs(3600);

/// A backup a day.
async fn backed_up(studio: Studio) {
    loop {
        let looked = studio.run(|s| {
            // The problem is logged and shown there.
            let _ = daily::back_up(s);
            Ok(())
        });
        let _ = looked.await;
        tokio::time::sleep(LOOKED).await;
    }
}

/// Reads what the journal does not know yet, a while at a time so that nobody waits for it.
fn read_for_the_journal(studio: &Studio) {
    /// Time for others between two whiles.
    const BETWEEN: Duration = Duration::from_millis(50);
    while studio.store.index_a_while().is_ok_and(|left| left > 0) {
        std::thread::sleep(BETWEEN);
    }
}

async fn stopped() {
    // Without a signal handler the server simply runs until it is ended; every acknowledged change is on disk either way.
    let _ = tokio::signal::ctrl_c().await;
}
