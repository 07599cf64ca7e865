//! The user's browser.

/// Asks the system to show an address in the user's browser; false where there is no screen or no browser.
pub(crate) fn open_browser(address: &str) -> bool {
    has_screen() && open::that_detached(address).is_ok()
}

/// True where windows can be shown. On Linux a display server tells so in the environment.
pub(super) fn has_screen() -> bool {
    let named = |name: &str| std::env::var_os(name).is_some_and(|value| !value.is_empty());
    !cfg!(target_os = "linux") || named("DISPLAY") || named("WAYLAND_DISPLAY")
}
