//! Connections: how many there may be, from how many one address, how long a request may take to arrive, and how they end.

use axum::Router;
use axum::http::Request;
use hyper::server::conn::http1::Builder;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use hyper_util::service::TowerToHyperService;
use std::collections::HashMap;
use std::future::Future;
use std::net::IpAddr;
use std::sync::{Arc, Mutex};
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::sync::Semaphore;
use tokio_rustls::TlsAcceptor;
use tower::ServiceExt;
use tower_http::timeout::RequestBodyTimeout;

/// What connections are allowed.
#[derive(Clone, Copy, Debug)]
pub struct Limits {
    /// Connections at once; more wait until one is free.
    pub most: usize,
    /// Connections at once from one address; one more is closed.
    pub each: usize,
    /// How long the head of a request may take to arrive.
    pub head: Duration,
    /// How long it may be silent while a body arrives.
    pub body: Duration,
    /// How long requests under way may go on once the program is asked to stop.
    pub last: Duration,
}

impl Default for Limits {
    fn default() -> Self {
        Self { most: 512, each: 512, head: Duration::from_secs(15), body: Duration::from_secs(20), last: Duration::from_millis(1500) }
    }
}

impl Limits {
    /// Those of the address devices come to: one of them cannot keep the others out.
    pub(crate) fn for_devices() -> Self {
        Self { each: 32, ..Self::default() }
    }
}

/// Where a request comes from.
#[derive(Clone, Copy, Debug)]
pub struct Peer(pub IpAddr);

/// How many connections each address has.
#[derive(Clone, Default)]
struct OpenConnections(Arc<Mutex<HashMap<IpAddr, usize>>>);

impl OpenConnections {
    /// Counts one more of an address; `None` where it has enough.
    fn one_more(&self, from: IpAddr, most: usize) -> Option<ConnectionPlace> {
        let mut open = self.0.lock().unwrap_or_else(|p| p.into_inner());
        let now = open.entry(from).or_default();
        if *now >= most {
            return None;
        }
        *now += 1;
        Some(ConnectionPlace { of: self.clone(), from })
    }
}

/// One connection that is counted until this is dropped.
struct ConnectionPlace {
    of: OpenConnections,
    from: IpAddr,
}

impl Drop for ConnectionPlace {
    fn drop(&mut self) {
        let mut open = self.of.0.lock().unwrap_or_else(|p| p.into_inner());
        if let Some(now) = open.get_mut(&self.from) {
            *now -= 1;
            if *now == 0 {
                open.remove(&self.from);
            }
        }
    }
}

/// How long is waited after a connection could not be taken.
const PAUSE: Duration = Duration::from_millis(50);

/// Serves until `stopped` is done; what is under way then has a moment to end.
/// A connection that cannot be taken is passed over.
pub async fn serve(listener: TcpListener, router: Router, stopped: impl Future<Output = ()>, limits: Limits) {
    serve_over(listener, router, stopped, limits, None).await;
}

/// The same over TLS, where there is an acceptor; a hand that is not shaken in the time a head may take is let go.
pub(crate) async fn serve_over(
    listener: TcpListener,
    router: Router,
    stopped: impl Future<Output = ()>,
    limits: Limits,
    tls: Option<TlsAcceptor>,
) {
    let places = Arc::new(Semaphore::new(limits.most));
    let open = OpenConnections::default();
    let under_way = GracefulShutdown::new();
    let mut builder = Builder::new();
    builder.timer(TokioTimer::new()).header_read_timeout(limits.head).max_buf_size(64 << 10);
    tokio::pin!(stopped);
    loop {
        let next = async {
            let place = places.clone().acquire_owned().await;
            (place, listener.accept().await)
        };
        let (place, accepted) = tokio::select! {
            next = next => next,
            () = &mut stopped => break,
        };
        let Ok((stream, from)) = accepted else {
            // Out of descriptors: those that are open will end.
            tokio::time::sleep(PAUSE).await;
            continue;
        };
        let Some(counted) = open.one_more(from.ip(), limits.each) else { continue };
        let place = (place, counted);
        let peer = Peer(from.ip());
        let known = router.clone().map_request(move |mut request: Request<_>| {
            request.extensions_mut().insert(peer);
            request
        });
        let service = TowerToHyperService::new(RequestBodyTimeout::new(known, limits.body));
        // What goes wrong with one connection is the other side's to see.
        match tls.clone() {
            None => {
                let connection = builder.serve_connection(TokioIo::new(stream), service);
                let watched = under_way.watch(connection);
                tokio::spawn(async move {
                    let _ = watched.await;
                    drop(place);
                });
            }
            Some(tls) => {
                let (builder, watcher) = (builder.clone(), under_way.watcher());
                tokio::spawn(async move {
                    if let Ok(Ok(stream)) = tokio::time::timeout(limits.head, tls.accept(stream)).await {
                        let connection = builder.serve_connection(TokioIo::new(stream), service);
                        let _ = watcher.watch(connection).await;
                    }
                    drop(place);
                });
            }
        }
    }
    drop(listener);
    let _ = tokio::time::timeout(limits.last, under_way.shutdown()).await;
}
