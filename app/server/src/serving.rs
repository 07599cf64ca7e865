//! Connections: how many there may be, how long a head may take, and how they end.

use axum::Router;
use hyper::server::conn::http1::Builder;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use hyper_util::service::TowerToHyperService;
use std::future::Future;
use std::sync::Arc;
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::sync::Semaphore;
use tokio_rustls::TlsAcceptor;

/// What connections are allowed.
#[derive(Clone, Copy, Debug)]
pub struct Limits {
    /// Connections at once; more wait until one is free.
    pub most: usize,
    /// How long the head of a request may take to arrive.
    pub head: Duration,
    /// How long requests under way may go on once the program is asked to stop.
    pub last: Duration,
}

impl Default for Limits {
    fn default() -> Self {
        Self { most: 512, head: Duration::from_secs(15), last: Duration::from_millis(1500) }
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
pub async fn serve_over(
    listener: TcpListener,
    router: Router,
    stopped: impl Future<Output = ()>,
    limits: Limits,
    tls: Option<TlsAcceptor>,
) {
    let places = Arc::new(Semaphore::new(limits.most));
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
        let Ok((stream, _)) = accepted else {
            // Out of descriptors: those that are open will end.
            tokio::time::sleep(PAUSE).await;
            continue;
        };
        let service = TowerToHyperService::new(router.clone());
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
