//! What a newcomer would otherwise type by hand: `cargo xtask demo | dev | test | shots | fuzz | api-types | check`.

mod dev;
mod steps;

use clap::{Parser, Subcommand};
use std::process::ExitCode;

/// Set-up, demo, tests and pictures of Lean Swatch.
#[derive(Parser)]
#[command(name = "xtask")]
struct Line {
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// Install what is missing, build the program with its pages, and serve the demo studio.
    Demo {
        /// Address to listen on.
        #[arg(long, default_value = "127.0.0.1:7436")]
        listen: String,
    },
    /// Serve the demo studio and its pages for work on them: pages reload as they are edited, the server is built and started anew.
    Dev,
    /// Install what is missing and pass every test, the browser's too.
    Test,
    /// Try to break it for longer than the tests do: commands with undo and redo, pictures, reading files.
    Fuzz {
        /// How many cases of each.
        #[arg(long, default_value_t = 20_000)]
        cases: u32,
    },
    /// Take the pictures of the main views anew for docs/screenshots.
    Shots {
        /// Take the one of the parts all stations are built of instead.
        #[arg(long)]
        kit: bool,
    },
    /// Write the API description and its TypeScript types anew.
    ApiTypes,
    /// Formatting, lints, type check, and whether the generated API types are fresh.
    Check,
}

fn main() -> ExitCode {
    let done = match Line::parse().what {
        What::Demo { listen } => steps::demo(&listen),
        What::Dev => dev::dev(),
        What::Test => steps::test(),
        What::Fuzz { cases } => steps::fuzz(cases),
        What::Shots { kit } => steps::shots(kit),
        What::ApiTypes => steps::api_types(),
        What::Check => steps::check(),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(problem) => {
            eprintln!("xtask: {problem}");
            ExitCode::FAILURE
        }
    }
}
