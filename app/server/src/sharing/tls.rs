//! Certificate files for the address devices come to.

use std::path::Path;
use std::sync::Arc;
use tokio_rustls::TlsAcceptor;
use tokio_rustls::rustls::ServerConfig;
use tokio_rustls::rustls::pki_types::pem::PemObject;
use tokio_rustls::rustls::pki_types::{CertificateDer, PrivateKeyDer};

/// What speaks for this machine, from a chain of certificates and a key, both as PEM.
///
/// # Errors
/// Names the file that cannot be used, and why.
pub(crate) fn acceptor(certificate: &Path, key: &Path) -> Result<TlsAcceptor, String> {
    let bad = |file: &Path, why: String| format!("{}: {why}. It is to be a PEM file.", file.display());
    let chain: Vec<CertificateDer> =
        CertificateDer::pem_file_iter(certificate).and_then(Iterator::collect).map_err(|e| bad(certificate, e.to_string()))?;
    if chain.is_empty() {
        return Err(bad(certificate, "no certificate is in it".into()));
    }
    let key = PrivateKeyDer::from_pem_file(key).map_err(|e| bad(key, e.to_string()))?;
    let config = ServerConfig::builder().with_no_client_auth().with_single_cert(chain, key).map_err(|e| bad(certificate, e.to_string()))?;
    Ok(TlsAcceptor::from(Arc::new(config)))
}
