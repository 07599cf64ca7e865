//! Version and commit of a package.

use super::output;
use std::process::Command;

/// Time of files where nobody says one, in seconds since 1970.
const YEAR_2000: u64 = 946_684_800;

/// Version of what is packed.
pub(crate) struct Version {
    /// As in "0.1.0".
    pub(crate) number: String,
    /// First twelve digits of the commit; a plus behind it where files were changed since.
    pub(crate) commit: String,
    /// Time of the commit, in seconds since 1970: every file of a package has it.
    pub(crate) seconds: u64,
}

impl Version {
    /// The commit of the checkout; of sources without one, "no commit" and the time that `SOURCE_DATE_EPOCH` says.
    pub(crate) fn of_these_sources() -> Self {
        Self::of_this_commit().unwrap_or_else(|_| {
            let said = std::env::var("SOURCE_DATE_EPOCH").ok().and_then(|s| s.parse().ok());
            Self { number: env!("CARGO_PKG_VERSION").to_owned(), commit: "no commit".into(), seconds: said.unwrap_or(YEAR_2000) }
        })
    }

    fn of_this_commit() -> Result<Self, String> {
        let git = |args: &[&str]| output(Command::new("git").args(args));
        let changed = !git(&["status", "--porcelain", "--untracked-files=no"])?.trim().is_empty();
        let commit = git(&["rev-parse", "--short=12", "HEAD"])?;
        let seconds = git(&["show", "--no-patch", "--format=%ct", "HEAD"])?;
        Ok(Self {
            number: env!("CARGO_PKG_VERSION").to_owned(),
            commit: format!("{}{}", commit.trim(), if changed { "+" } else { "" }),
            seconds: seconds.trim().parse().map_err(|e| format!("git gives no time of the commit: {e}"))?,
        })
    }

    /// Text that `--version` prints behind the name.
    pub(crate) fn words(&self) -> String {
        format!("{} ({})", self.number, self.commit)
    }
}
