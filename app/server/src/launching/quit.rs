//! The end of the program, asked for on its page.

use tokio::sync::Notify;

/// Ends the program once it is asked to.
#[derive(Default)]
pub(crate) struct Quit(Notify);

impl Quit {
    /// Asks the program to end. Requests under way are answered first.
    pub(crate) fn ask(&self) {
        self.0.notify_one();
    }

    /// Waits until the program is asked to end.
    pub(crate) async fn asked(&self) {
        self.0.notified().await;
    }
}
