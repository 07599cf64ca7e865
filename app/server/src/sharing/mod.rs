//! Phones and tablets at the easel: an address on the local network for devices that were paired, and for nobody else.
//!
//! **How it goes.** The owner asks for a code on this machine ([`Sharing::new_code`]); the device that shows it within ten minutes is given a
//! secret of its own in a cookie; only the digest of that is kept. What a device may then see and do is a short list, kept by the guard.

pub mod tls;

use lean_store::Store;
use std::collections::HashMap;
use std::net::{IpAddr, SocketAddr};
use std::sync::{Mutex, MutexGuard};
use std::time::{Duration, Instant};

/// How long a code may be used.
pub(crate) const CODE_LASTS: Duration = Duration::from_secs(600);
/// Wrong codes after which an address is heard no more while the code is open: nobody guesses 128 bits, and nobody is to try.
const MOST_WRONG: u32 = 10;
/// Addresses with wrong codes after which the code is void for all.
const MOST_ADDRESSES: usize = 1000;

/// The address devices come to, and the code that is open.
pub struct Sharing {
    address: SocketAddr,
    encrypted: bool,
    open: Mutex<Option<Open>>,
}

struct Open {
    code: String,
    until: Instant,
    /// Wrong codes by the address they came from.
    wrong: HashMap<IpAddr, u32>,
}

impl Sharing {
    /// Devices come to this address; `encrypted` when certificate files were given.
    pub fn at(address: SocketAddr, encrypted: bool) -> Self {
        Self { address, encrypted, open: Mutex::default() }
    }

    /// Whether what goes to and fro is encrypted.
    pub(crate) fn encrypted(&self) -> bool {
        self.encrypted
    }

    /// `https` or `http`.
    pub fn scheme(&self) -> &'static str {
        if self.encrypted { "https" } else { "http" }
    }

    /// Where devices come to, as an address for a browser.
    pub fn url(&self) -> String {
        format!("{}://{}", self.scheme(), self.address)
    }

    /// What a browser that came here says its host is. With a certificate it may be the name that stands in it.
    pub(crate) fn is_own_host(&self, host: &str) -> bool {
        host == self.address.to_string() || (self.encrypted && host.rsplit(':').next() == Some(&self.address.port().to_string()))
    }

    fn open(&self) -> MutexGuard<'_, Option<Open>> {
        self.open.lock().unwrap_or_else(|p| p.into_inner())
    }

    /// A new code of 128 bits, used once within ten minutes; the one before is void.
    ///
    /// # Errors
    /// When this machine gives no random numbers.
    pub(crate) fn new_code(&self) -> Result<String, String> {
        let code = secret::<16>()?;
        *self.open() = Some(Open { code: code.clone(), until: Instant::now() + CODE_LASTS, wrong: HashMap::new() });
        Ok(code)
    }

    /// Uses a code up that came from an address. `None` when it is not the one that is open; else the secret for the device, whose digest was kept.
    ///
    /// # Errors
    /// When the device cannot be kept.
    pub fn pair(&self, store: &Store, code: &str, name: &str, from: IpAddr) -> Result<Option<String>, String> {
        if !self.used(code, from, Instant::now()) {
            return Ok(None);
        }
        let carries = secret::<32>()?;
        store.pair_device(name, &Store::digest_of(carries.as_bytes())).map_err(|e| e.to_string())?;
        Ok(Some(carries))
    }

    fn used(&self, code: &str, from: IpAddr, now: Instant) -> bool {
        let mut open = self.open();
        let Some(held) = open.as_mut() else { return false };
        let heard = held.wrong.get(&from).is_none_or(|n| *n < MOST_WRONG);
        let right = heard && same(&held.code, code) && now < held.until;
        if !right && heard {
            *held.wrong.entry(from).or_default() += 1;
        }
        if right || held.wrong.len() > MOST_ADDRESSES || now >= held.until {
            *open = None;
        }
        right
    }
}

/// Whether two texts are the same, in a time that does not tell where they part.
fn same(a: &str, b: &str) -> bool {
    a.len() == b.len() && a.bytes().zip(b.bytes()).fold(0, |apart, (x, y)| apart | (x ^ y)) == 0
}

/// So many random bytes in hexadecimal digits.
fn secret<const BYTES: usize>() -> Result<String, String> {
    let mut bytes = [0; BYTES];
    getrandom::fill(&mut bytes).map_err(|e| format!("this machine gives no random numbers: {e}"))?;
    Ok(bytes.iter().map(|b| format!("{b:02x}")).collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    const HERE: IpAddr = IpAddr::V4(std::net::Ipv4Addr::new(192, 168, 7, 30));

    fn sharing() -> Sharing {
        Sharing::at("192.168.7.20:7437".parse().unwrap(), false)
    }

    #[test]
    fn a_code_is_used_once_and_the_next_one_makes_it_void() {
        let s = sharing();
        let (first, second) = (s.new_code().unwrap(), s.new_code().unwrap());
        assert_eq!((first.len(), first == second), (32, false));
        assert!(!s.used(&first, HERE, Instant::now()));
        assert!(s.used(&second, HERE, Instant::now()));
        assert!(!s.used(&second, HERE, Instant::now()));
    }

    #[test]
    fn a_code_is_void_after_ten_minutes_and_whoever_says_ten_wrong_ones_is_heard_no_more() {
        let s = sharing();
        let code = s.new_code().unwrap();
        assert!(!s.used(&code, HERE, Instant::now() + CODE_LASTS));
        let code = s.new_code().unwrap();
        (0..MOST_WRONG).for_each(|_| assert!(!s.used(&"0".repeat(32), HERE, Instant::now())));
        assert!(!s.used(&code, HERE, Instant::now()));
        // The painter's own tablet is somebody else.
        assert!(s.used(&code, IpAddr::from([192, 168, 7, 31]), Instant::now()));
    }

    #[test]
    fn only_the_digest_of_a_secret_is_kept() {
        let (s, store) = (sharing(), Store::in_memory().unwrap());
        let code = s.new_code().unwrap();
        let carries = s.pair(&store, &code, "phone", HERE).unwrap().unwrap();
        assert!(store.knows_device(&Store::digest_of(carries.as_bytes())).unwrap());
        assert!(!store.knows_device(&carries).unwrap());
        let id = store.devices().unwrap()[0].id;
        store.send_device_away(id).unwrap();
        assert!(!store.knows_device(&Store::digest_of(carries.as_bytes())).unwrap());
    }
}
