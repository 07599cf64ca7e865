//! The studio of a data file, served until it ends: by `serve`, and by a start without a word.

use super::sharing::Shared;
use crate::demo_file::DemoFile;
use crate::launching::{Quit, RunningCopy};
use crate::router::{router, router_for_devices};
use crate::serving::{Limits, serve, serve_over};
use crate::state::Studio;
use crate::visiting::Visiting;
use crate::{daily, handlers};
use directories::ProjectDirs;
use lean_store::{Backups, OlderShape, ReplacedFile, Store};
use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;
use tracing::Level;
use tracing_subscriber::filter::Targets;
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

/// Logs to standard error, a JSON text a line: what `LEAN_SWATCH_LOG` asks for (`warn`, `info,tower_http=debug`), `info` where it does not.
pub(super) fn log() {
    let asked = std::env::var("LEAN_SWATCH_LOG").ok().and_then(|asked| asked.parse::<Targets>().ok());
    let wanted = asked.unwrap_or_else(|| Targets::new().with_default(Level::INFO));
    tracing_subscriber::registry().with(wanted).with(tracing_subscriber::fmt::layer().json().with_writer(std::io::stderr)).init();
}

/// A data file to be served.
pub(super) struct Served {
    /// Where the pages are asked for.
    pub(super) listener: TcpListener,
    pub(super) data: PathBuf,
    /// True for the demo studio.
    pub(super) demo: bool,
    /// True to put a simulated meter and camera into a studio that is no demo.
    pub(super) simulates: bool,
    /// Where devices come to.
    pub(super) shared: Option<Shared>,
    /// The claim on the data file, for as long as it is served.
    pub(super) claimed: Option<RunningCopy>,
}

impl Served {
    /// Serves until the program is interrupted, or asked to end on its page. `listening` hears the address once the studio is open.
    ///
    /// # Errors
    /// A sentence, when the data file cannot be opened.
    pub(super) fn until_ended(self, listening: impl FnOnce(&str)) -> Result<(), String> {
        let Self { listener, data, demo, simulates, shared, claimed } = self;
        listener.set_nonblocking(true).map_err(|e| e.to_string())?;
        let (store, unfilled) = if demo {
            let DemoFile { store, unfilled } = DemoFile::open(&data).map_err(|p| p.detail)?;
            (store, unfilled)
        } else {
            (Store::open(&data).map_err(|e| format!("{}: {e}", data.display()))?, None)
        };
        let runtime = tokio::runtime::Runtime::new().map_err(|e| e.to_string())?;
        runtime.block_on(async move {
            let listener = tokio::net::TcpListener::from_std(listener).map_err(|e| e.to_string())?;
            let address = listener.local_addr().map_err(|e| e.to_string())?;
            tracing::info!(%address, data = %data.display(), "listening");
            println!("Lean Swatch is at http://{address}");
            if let Some(claimed) = &claimed {
                claimed.is_at(address);
            }
            say_what_became_of(&store);
            let quit = Arc::new(Quit::default());
            let mut studio = Studio::new(store);
            if demo || simulates {
                studio = studio.simulated();
            }
            studio.quit = Some(quit.clone());
            studio.visiting = (!demo).then(|| Visiting::beside(&data).door(tokio::runtime::Handle::current()));
            if let Some(unfilled) = unfilled {
                println!("The demo studio is being filled: its first piece is there, the others follow within a minute");
                unfilled.fill_in_background(studio.clone());
            }
            let (ended, _) = tokio::sync::broadcast::channel::<()>(1);
            if let Some(shared) = shared {
                let mut ended = ended.subscribe();
                let stopped = async move {
                    let _ = ended.recv().await;
                };
                serve_devices(shared, &mut studio, stopped)?;
            }
            work_in_background(&studio, demo);
            listening(&format!("http://{address}"));
            let ends = async {
                tokio::select! {
                    () = stopped() => {}
                    () = quit.asked() => println!("Ended from the page. The data lies in {}", data.display()),
                }
            };
            serve(listener, router(studio), ends, Limits::default()).await;
            let _ = ended.send(());
            Ok(())
        })
    }
}

/// Says on standard output where the file was damaged, or of an earlier shape.
fn say_what_became_of(store: &Store) {
    if let Some(ReplacedFile { kept, rescued }) = store.replaced() {
        println!(
            "The data file was damaged. What is sound in it was taken out and is open now; the damaged file is kept: {}",
            kept.display()
        );
        rescued.lost.iter().for_each(|words| println!("  {words}"));
    }
    if let Some(OlderShape { kept }) = store.older_shape() {
        println!("The data file of an earlier version was brought up to date. A copy as it was is kept: {}", kept.display());
    }
}

/// Lets paired devices in until `stopped` is done.
fn serve_devices(shared: Shared, studio: &mut Studio, stopped: impl Future<Output = ()> + Send + 'static) -> Result<(), String> {
    let Shared { listener, sharing, tls } = shared;
    println!("Devices are at {}", sharing.url());
    studio.sharing = Some(Arc::new(sharing));
    let listener = tokio::net::TcpListener::from_std(listener).map_err(|e| e.to_string())?;
    let router = router_for_devices(studio.clone());
    tokio::spawn(async move { serve_over(listener, router, stopped, Limits::for_devices(), tls).await });
    Ok(())
}

fn work_in_background(studio: &Studio, demo: bool) {
    if studio.store.was_not_checked() {
        handlers::keeping::checked(studio);
    }
    if !demo {
        tokio::spawn(backed_up(studio.clone()));
    }
    let reader = studio.clone();
    // On a thread the program does not wait for when it ends.
    std::thread::spawn(move || read_for_the_journal(&reader));
}

/// Refuses to begin an empty studio where backups tell that there was one.
pub(super) fn expect_data_file(path: &Path) -> Result<(), String> {
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

/// Time between two looks for today's backup.
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

pub(super) async fn stopped() {
    // Without a signal handler the server simply runs until it is ended; every acknowledged change is on disk either way.
    let _ = tokio::signal::ctrl_c().await;
}
