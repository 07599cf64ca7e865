//! A port on this machine for the pages.

use std::net::{Ipv4Addr, TcpListener};

/// Port of the pages where nothing else was taken before.
pub(crate) const USUAL_PORT: u16 = 7436;

/// Listens on this machine: on the port of the last time, so that bookmarks still lead there; else on the usual one; else on any that is free.
///
/// # Errors
/// A sentence, when no port can be had.
pub(crate) fn free_port(last_time: Option<u16>) -> Result<TcpListener, String> {
    let wanted = last_time.into_iter().chain([USUAL_PORT]);
    let bound = wanted.filter_map(|port| TcpListener::bind((Ipv4Addr::LOCALHOST, port)).ok()).next();
    bound.map_or_else(|| TcpListener::bind((Ipv4Addr::LOCALHOST, 0)), Ok).map_err(|e| format!("no port of this machine is free: {e}"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_port_of_the_last_time_comes_first_and_a_taken_one_is_passed_over() {
        let port = |l: &TcpListener| l.local_addr().unwrap().port();
        let taken = TcpListener::bind((Ipv4Addr::LOCALHOST, 0)).unwrap();
        let other = free_port(Some(port(&taken))).unwrap();
        assert_ne!(port(&other), port(&taken));
        let left = port(&other);
        drop(other);
        assert_eq!(port(&free_port(Some(left)).unwrap()), left);
    }
}
