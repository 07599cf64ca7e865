//! Tasks a newcomer would otherwise type by hand: `cargo xtask demo | dev | test | package | shots | fuzz | api-types | check`.
//!
//! It is built before anything else can be, so it needs nothing but the standard library.

mod dev;
mod package;
mod steps;

use std::process::ExitCode;

const TASKS: &str = "\
cargo xtask demo [--listen 127.0.0.1:7436]  install what is missing, build the program with its pages, and serve the demo studio
cargo xtask dev        serve the demo studio and its pages for work on them: pages reload as they are edited, the server is built and started anew
cargo xtask test       install what is missing and pass every test, the browser's too
cargo xtask package [--program FILE] [--out FOLDER] [--quick]
                       make a Debian package and a plain archive in target/package, of a program built for release or of one that is there (docs/PACKAGES.md)
cargo xtask fuzz [--cases 20000 | --long]  try to break it for longer than the tests do: commands with undo and redo, pictures, reading files;
                       --long also kills it a thousand times at its work and damages its data file (docs/TRUST.md)
cargo xtask shots [--kit]         take the pictures of the main views anew for docs/screenshots; or the one of the parts all stations are built of
cargo xtask api-types  write the API description and its TypeScript types anew
cargo xtask check      formatting, lints, type check, and whether the generated API types are fresh";

fn done(line: &[&str]) -> steps::Done {
    match line {
        ["demo"] => steps::demo("127.0.0.1:7436"),
        ["demo", "--listen", address] => steps::demo(address),
        ["dev"] => dev::dev(),
        ["test"] => steps::test(),
        ["package", rest @ ..] => package::package(&package::Wanted::of(rest)?),
        ["fuzz"] => steps::fuzz(20_000),
        ["fuzz", "--cases", n] => steps::fuzz(n.parse().map_err(|e| format!("--cases {n}: {e}"))?),
        ["fuzz", "--long"] => steps::fuzz(20_000).and_then(|()| steps::kill_often()),
        ["shots"] => steps::shots(false),
        ["shots", "--kit"] => steps::shots(true),
        ["api-types"] => steps::api_types(),
        ["check"] => steps::check(),
        ["help" | "--help" | "-h"] => {
            println!("{TASKS}");
            Ok(())
        }
        [] => Err(format!("say what to do\n{TASKS}")),
        _ => Err(format!("\"{}\" is no task\n{TASKS}", line.join(" "))),
    }
}

fn main() -> ExitCode {
    let line: Vec<String> = std::env::args().skip(1).collect();
    match done(&line.iter().map(String::as_str).collect::<Vec<_>>()) {
        Ok(()) => ExitCode::SUCCESS,
        Err(problem) => {
            eprintln!("xtask: {problem}");
            ExitCode::FAILURE
        }
    }
}
