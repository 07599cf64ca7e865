//! The address devices come to: `serve --share`.

use crate::sharing::{Sharing, tls};
use std::net::{IpAddr, SocketAddr, UdpSocket};
use std::path::Path;
use tokio_rustls::TlsAcceptor;

/// Port devices come to when none is said.
const SHARED_PORT: u16 = 7437;

/// The listener for devices, with what it shares and its TLS.
pub(super) struct Shared {
    pub(super) listener: std::net::TcpListener,
    pub(super) sharing: Sharing,
    pub(super) tls: Option<TlsAcceptor>,
}

/// Listens for devices, after saying so. Without an address at the first of this machine that is found; over TLS where there is a certificate with
/// its key.
pub(super) fn shared(said: Option<SocketAddr>, certificate: Option<&Path>, key: Option<&Path>) -> Result<Shared, String> {
    let address = match said {
        Some(address) => address,
        None => SocketAddr::new(own_address()?, SHARED_PORT),
    };
    if address.ip().is_unspecified() {
        return Err(format!("{address}: say the one address of this machine that devices come to, as 192.168.1.20:{SHARED_PORT}."));
    }
    let tls = match (certificate, key) {
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
    Ok(Shared { listener, sharing: Sharing::at(address, tls.is_some()), tls })
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
