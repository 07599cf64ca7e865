//! The command line: JSON on standard output, problems on standard error, exit 2 for bad input, 3 where something was left out.

mod difference;
mod drawing;
mod findings;
mod keeping;
mod lean;
mod made;
mod matched;
mod mix;
mod open;
#[cfg(feature = "package")]
mod package_files;
mod plan;
mod running;
mod school;
mod serve;
mod sharing;
mod targets;
mod values;
mod words;

use clap::{Parser, Subcommand};
use std::process::ExitCode;

/// Plan a painting from your own pigments: few of them, values first. Without a command it opens the studio in the browser.
#[derive(Parser)]
#[command(name = "lean-swatch", version = VERSION, about, args_conflicts_with_subcommands = true)]
#[command(after_help = "Example:\n  lean-swatch\nopens your studio in the browser, and starts it first where it does not run yet.")]
struct Line {
    #[command(subcommand)]
    what: Option<What>,
    #[command(flatten)]
    open: open::Open,
}

/// The version, with the commit a package was made of.
const VERSION: &str = match option_env!("LEAN_SWATCH_VERSION") {
    Some(version) => version,
    None => concat!(env!("CARGO_PKG_VERSION"), " (built from source)"),
};

/// The commands with all their arguments.
#[cfg(feature = "package")]
fn described() -> clap::Command {
    <Line as clap::CommandFactory>::command()
}

#[derive(Subcommand)]
enum What {
    /// Serve a studio at a fixed address, with its demo or for phones where asked.
    #[command(after_help = "Example:\n  lean-swatch serve --listen 127.0.0.1:8000 --share")]
    Serve(serve::Serve),
    /// Serve a school: a studio for each painter, behind a proxy that signs them in.
    #[command(after_help = "Example:\n  lean-swatch school --folder /srv/studios --trust-user-header X-User")]
    School(school::SchoolServe),
    /// Read the values of a picture, and group them.
    #[command(after_help = "Example:\n  lean-swatch values PHOTO.jpg --groups 5 --out greys.png")]
    Values(values::Values),
    /// Compute the colour of a mix or of layers.
    #[command(after_help = "Example:\n  lean-swatch mix --medium oil \"PB29*1 + PBr7-burnt-umber*1\"")]
    Mix(mix::Mix),
    /// Say what is off between a wanted and a given colour.
    #[command(after_help = "Example:\n  lean-swatch difference \"65,9,61\" \"65,5,38\"")]
    Difference(difference::Difference),
    /// Match one colour with a Box: the nearest pigments as they are, and the best mixes.
    #[command(after_help = "Example:\n  lean-swatch match --library --medium pastel \"65,9,61\"")]
    Match(matched::Match),
    /// Check a plan without a picture: what is wrong, why, and what to change.
    #[command(after_help = "Example:\n  lean-swatch findings PLAN.json")]
    Findings(findings::Findings),
    /// Find the best small sets of a Box for some target colours.
    #[command(after_help = "Example:\n  lean-swatch lean --box BOX.json --targets TARGETS.json --sizes 2..6 --medium oil")]
    Lean(Box<lean::Lean>),
    /// Plan a picture from colours to recipes, and write the plan as a picture.
    #[command(after_help = "Example:\n  lean-swatch plan PHOTO.jpg --medium oil --library --colours 12 --size 6 --out plan.png")]
    Plan(Box<plan::Plan>),
    /// Write the whole studio with its pictures as one JSON text.
    #[command(after_help = "Example:\n  lean-swatch export studio.json")]
    Export(keeping::Export),
    /// Make a data file from an exported studio.
    #[command(after_help = "Example:\n  lean-swatch import studio.json --data new.db")]
    Import(keeping::Import),
    /// Copy the data file, also while it is in use.
    #[command(after_help = "Example:\n  lean-swatch backup /media/stick/studio.db")]
    Backup(keeping::BackUp),
    /// Put a backup in the place of the data file, which is kept.
    #[command(after_help = "Example:\n  lean-swatch restore /media/stick/studio.db")]
    Restore(keeping::Restore),
    /// Take everything sound out of a damaged data file, into a new one.
    #[command(after_help = "Example:\n  lean-swatch rescue studio.db --data rescued.db")]
    Rescue(keeping::Rescue),
    /// Check every page, picture and record of the data file.
    #[command(after_help = "Example:\n  lean-swatch check")]
    Check(keeping::Check),
    /// Fill a demo studio's data file and end.
    #[command(hide = true)]
    FillDemo(serve::FillDemo),
    /// Write the manual pages and shell completions that a package holds.
    #[cfg(feature = "package")]
    #[command(hide = true)]
    PackageFiles(package_files::PackageFiles),
    /// Print the generated description of the API.
    #[cfg(feature = "description")]
    #[command(hide = true)]
    Openapi,
    /// Print the handlers of the API with their addresses.
    #[cfg(feature = "description")]
    #[command(hide = true)]
    Routes,
    /// Print what the core calls what a page lets a painter choose from.
    #[command(hide = true)]
    Words,
}

/// Runs what the arguments ask for.
pub fn run() -> ExitCode {
    let Line { what, open } = Line::parse();
    let Some(what) = what else { return code(open::run(&open)) };
    let done = match what {
        What::Serve(a) => serve::run(a),
        What::School(a) => school::run_school(a),
        What::Values(a) => values::run(a).and_then(|v| print(&v)),
        What::Mix(a) => mix::run(a).and_then(|v| print(&v)),
        What::Difference(a) => difference::run(a).and_then(|v| print(&v)),
        What::Match(a) => matched::run(a).and_then(|v| print(&v)),
        What::Findings(a) => findings::run(a).and_then(|v| print(&v)),
        What::Lean(a) => lean::run(*a).and_then(|v| print(&v)),
        What::Plan(a) => plan::run(*a).and_then(|v| print(&v)),
        What::Export(a) => return ended(keeping::export(a)),
        What::Import(a) => return ended(keeping::import(a)),
        What::Rescue(a) => return ended(keeping::rescue(a)),
        What::Backup(a) => keeping::back_up(a).and_then(|v| print(&v)),
        What::Restore(a) => keeping::restore(a).and_then(|v| print(&v)),
        What::Check(a) => keeping::check(a).and_then(|v| print(&v)),
        What::FillDemo(a) => serve::fill_demo(&a),
        #[cfg(feature = "package")]
        What::PackageFiles(a) => package_files::write(&a),
        #[cfg(feature = "description")]
        What::Openapi => crate::description::description().to_json().map(|t| println!("{t}")).map_err(|e| e.to_string()),
        #[cfg(feature = "description")]
        What::Routes => {
            print!("{}", crate::description::addresses());
            Ok(())
        }
        What::Words => print(&words::Words::all()),
    };
    code(done)
}

/// The exit code; a problem goes to standard error.
fn code(done: Result<(), String>) -> ExitCode {
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(problem) => {
            eprintln!("lean-swatch: {problem}");
            ExitCode::from(2)
        }
    }
}

/// Prints what was done; 3 where something of it was left out, which is told on standard error.
fn ended(done: Result<keeping::Put, String>) -> ExitCode {
    let said = done.and_then(|put| print(&put).map(|()| put.left_out));
    match said {
        Ok(left_out) if left_out.is_empty() => ExitCode::SUCCESS,
        Ok(left_out) => {
            left_out.iter().for_each(|words| eprintln!("lean-swatch: {words}"));
            ExitCode::from(3)
        }
        Err(problem) => {
            eprintln!("lean-swatch: {problem}");
            ExitCode::from(2)
        }
    }
}

fn print(value: &impl serde::Serialize) -> Result<(), String> {
    let text = serde_json::to_string(value).map_err(|e| e.to_string())?;
    use std::io::Write;
    // Whoever reads may have heard enough: that is no fault.
    match writeln!(std::io::stdout(), "{text}") {
        Err(e) if e.kind() != std::io::ErrorKind::BrokenPipe => Err(e.to_string()),
        _ => Ok(()),
    }
}
