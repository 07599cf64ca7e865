//! The `lean-swatch` program.

fn main() -> std::process::ExitCode {
    lean_swatch::cli::run()
}
