//! Plain requests to a running server, each over a connection of its own.

use serde_json::Value;
use std::io::{Read, Write};
use std::net::TcpStream;

/// What the server answers to words; `None` when it refused, or was killed meanwhile.
pub fn ask(address: &str, method: &str, path: &str, body: &Value) -> Option<Value> {
    let body = if body.is_null() { String::new() } else { body.to_string() };
    let answer = send(address, method, path, "application/json", body.as_bytes())?;
    serde_json::from_slice(&answer).ok()
}

/// What the server answers to a file; as [`ask`].
pub fn put(address: &str, path: &str, file: &[u8]) -> Option<Value> {
    serde_json::from_slice(&send(address, "PUT", path, "application/octet-stream", file)?).ok()
}

/// The bytes of an answer; `None` when the server refused, or was killed before all of it had come.
pub fn send(address: &str, method: &str, path: &str, kind: &str, body: &[u8]) -> Option<Vec<u8>> {
    let host = address.trim_start_matches("http://");
    let mut stream = TcpStream::connect(host).ok()?;
    let head = format!(
        "{method} {path} HTTP/1.0\r\nHost: {host}\r\nContent-Type: {kind}\r\nConnection: close\r\nContent-Length: {}\r\n\r\n",
        body.len()
    );
    stream.write_all(head.as_bytes()).and_then(|()| stream.write_all(body)).ok()?;
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).ok()?;
    let end = answer.windows(4).position(|w| w == b"\r\n\r\n")?;
    let head = std::str::from_utf8(&answer[..end]).ok()?;
    head.split(' ').nth(1).filter(|status| status.starts_with('2'))?;
    Some(answer.split_off(end + 4))
}
