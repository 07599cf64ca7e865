//! A server of its own and connections to it, for benchmarks.

use serde_json::Value;
use std::net::SocketAddr;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;

/// One kept connection to the server.
pub(crate) struct Client {
    stream: BufReader<TcpStream>,
    host: SocketAddr,
}

impl Client {
    pub(crate) async fn to(host: SocketAddr) -> Self {
        Self { stream: BufReader::new(TcpStream::connect(host).await.expect("the server listens")), host }
    }

    pub(crate) async fn ask(&mut self, method: &str, path: &str, kind: &str, body: &[u8]) -> (u16, Vec<u8>) {
        let head =
            format!("{method} {path} HTTP/1.1\r\nHost: {}\r\nContent-Type: {kind}\r\nContent-Length: {}\r\n\r\n", self.host, body.len());
        self.stream.get_mut().write_all(&[head.as_bytes(), body].concat()).await.expect("sent");
        let (mut status, mut length, mut chunked, mut line) = (0, 0, false, String::new());
        loop {
            line.clear();
            self.stream.read_line(&mut line).await.expect("a head");
            let lower = line.trim().to_ascii_lowercase();
            match lower.split_once(": ") {
                None if lower.is_empty() => break,
                None => status = lower.split(' ').nth(1).and_then(|s| s.parse().ok()).unwrap_or(0),
                Some(("content-length", n)) => length = n.parse().unwrap_or(0),
                Some(("transfer-encoding", "chunked")) => chunked = true,
                Some(_) => {}
            }
        }
        let mut answer = vec![0; length];
        self.stream.read_exact(&mut answer).await.expect("a body");
        while chunked {
            line.clear();
            self.stream.read_line(&mut line).await.expect("a chunk");
            let n = usize::from_str_radix(line.trim(), 16).expect("its size");
            let mut part = vec![0; n + 2];
            self.stream.read_exact(&mut part).await.expect("all of it");
            answer.extend(&part[..n]);
            chunked = n > 0;
        }
        (status, answer)
    }

    pub(crate) async fn json(&mut self, method: &str, path: &str, body: &Value) -> (u16, Value) {
        let body = if body.is_null() { Vec::new() } else { body.to_string().into_bytes() };
        let (status, answer) = self.ask(method, path, "application/json", &body).await;
        (status, serde_json::from_slice(&answer).unwrap_or(Value::Null))
    }
}

/// Most memory a process had, in megabytes.
pub(crate) fn most_memory(server: &Child) -> f64 {
    let status = std::fs::read_to_string(format!("/proc/{}/status", server.id())).unwrap_or_default();
    let line = status.lines().find(|l| l.starts_with("VmHWM")).unwrap_or("VmHWM: 0 kB");
    line.split_whitespace().nth(1).and_then(|n| n.parse::<f64>().ok()).unwrap_or(0.0) / 1024.0
}

/// The program on a data file, and where it listens: the one built beside, or another build of it that `PROGRAM` names.
pub(crate) fn serve(data: &Path) -> (Child, SocketAddr) {
    let free = std::net::TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port");
    let program = std::env::var_os("PROGRAM").unwrap_or_else(|| env!("CARGO_BIN_EXE_lean-swatch").into());
    let mut command = Command::new(program);
    command.args(["serve", "--listen", &free.to_string(), "--data"]).arg(data).stdout(Stdio::null()).stderr(Stdio::null());
    let server = command.spawn().expect("the server starts");
    let until = Instant::now() + Duration::from_secs(60);
    while std::net::TcpStream::connect(free).is_err() {
        assert!(Instant::now() < until, "the server never listened");
        std::thread::sleep(Duration::from_millis(50));
    }
    (server, free)
}

/// Says how long requests took.
pub(crate) fn told(what: &str, mut times: Vec<Duration>) {
    times.sort();
    let at = |share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1000.0;
    println!(
        "{what}: {} requests, middle {:.1} ms, 95 % {:.1} ms, 99 % {:.1} ms, most {:.1} ms",
        times.len(),
        at(0.5),
        at(0.95),
        at(0.99),
        at(1.0)
    );
}
