//! Connections that never finish asking, more of them than there are places, and a server that is told to stop.

use lean_store::Store;
use lean_swatch::router::router;
use lean_swatch::serving::{Limits, serve};
use lean_swatch::state::Studio;
use std::net::SocketAddr;
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::oneshot;
use tokio::task::JoinHandle;

const LIMITS: Limits =
    Limits { most: 6, each: 6, head: Duration::from_millis(300), body: Duration::from_millis(300), last: Duration::from_millis(400) };

async fn served() -> (SocketAddr, oneshot::Sender<()>, JoinHandle<()>) {
    served_with(LIMITS).await
}

async fn served_with(limits: Limits) -> (SocketAddr, oneshot::Sender<()>, JoinHandle<()>) {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    let (stop, stopped) = oneshot::channel::<()>();
    let router = router(Studio::new(Store::in_memory().unwrap()));
    let stopped = async move {
        let _ = stopped.await;
    };
    (address, stop, tokio::spawn(serve(listener, router, stopped, limits)))
}

async fn says(stream: &mut TcpStream, text: &str) {
    stream.write_all(text.as_bytes()).await.unwrap();
}

async fn health(stream: &mut TcpStream, address: SocketAddr) -> String {
    says(stream, &format!("GET /api/health HTTP/1.1\r\nHost: {address}\r\n\r\n")).await;
    let mut answer = vec![0; 2048];
    let n = tokio::time::timeout(Duration::from_secs(20), stream.read(&mut answer)).await.expect("an answer in time").unwrap();
    String::from_utf8_lossy(&answer[..n]).into_owned()
}

#[tokio::test]
async fn half_asked_requests_take_no_place_for_long() {
    let (address, stop, server) = served().await;
    let mut half = Vec::new();
    for _ in 0..LIMITS.most {
        let mut stream = TcpStream::connect(address).await.unwrap();
        says(&mut stream, "GET / HT").await;
        half.push(stream);
    }
    // All places are taken; the next is answered once the heads have run out of time.
    let mut late = TcpStream::connect(address).await.unwrap();
    assert!(health(&mut late, address).await.starts_with("HTTP/1.1 200"));
    let mut rest = Vec::new();
    tokio::time::timeout(Duration::from_secs(20), half[0].read_to_end(&mut rest)).await.expect("closed in time").unwrap();
    drop(stop);
    server.await.unwrap();
}

#[tokio::test]
async fn bodies_that_stop_arriving_are_let_go_with_a_reason() {
    let (address, stop, server) = served().await;
    let mut half = Vec::new();
    for _ in 0..LIMITS.most {
        let mut stream = TcpStream::connect(address).await.unwrap();
        let head =
            format!("POST /api/lists HTTP/1.1\r\nHost: {address}\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n{{");
        says(&mut stream, &head).await;
        half.push(stream);
    }
    let mut late = TcpStream::connect(address).await.unwrap();
    assert!(health(&mut late, address).await.starts_with("HTTP/1.1 200"));
    let mut answer = Vec::new();
    tokio::time::timeout(Duration::from_secs(20), half[0].read_to_end(&mut answer)).await.expect("closed in time").unwrap();
    let answer = String::from_utf8_lossy(&answer);
    assert!(answer.starts_with("HTTP/1.1 408") && answer.contains("stopped arriving"), "{answer}");
    drop(stop);
    server.await.unwrap();
}

#[tokio::test]
async fn one_address_cannot_take_every_place() {
    let (address, stop, server) = served_with(Limits { each: 2, ..LIMITS }).await;
    let mut first = TcpStream::connect(address).await.unwrap();
    assert!(health(&mut first, address).await.starts_with("HTTP/1.1 200"));
    let mut second = TcpStream::connect(address).await.unwrap();
    assert!(health(&mut second, address).await.starts_with("HTTP/1.1 200"));
    let mut third = TcpStream::connect(address).await.unwrap();
    let mut nothing = Vec::new();
    // Closed at once, with or without a word from below.
    let _ = tokio::time::timeout(Duration::from_secs(20), third.read_to_end(&mut nothing)).await.expect("closed in time");
    assert!(nothing.is_empty());
    drop(second);
    assert!(health(&mut first, address).await.starts_with("HTTP/1.1 200"), "those that are open go on");
    drop(stop);
    server.await.unwrap();
}

#[tokio::test]
async fn it_stops_soon_whatever_is_open() {
    let (address, stop, server) = served().await;
    let mut idle = TcpStream::connect(address).await.unwrap();
    assert!(health(&mut idle, address).await.starts_with("HTTP/1.1 200"));
    let mut half = TcpStream::connect(address).await.unwrap();
    says(&mut half, "POST /api/pieces HTTP/1.1\r\nHost: x\r\nContent-Length: 4000\r\n\r\n{").await;
    stop.send(()).unwrap();
    tokio::time::timeout(Duration::from_secs(20), server).await.expect("it ends").unwrap();
    assert!(TcpStream::connect(address).await.is_err(), "nobody listens any more");
}
