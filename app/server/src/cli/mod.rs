//! The command line: JSON on standard output, problems on standard error, exit 2 for bad input, 3 where something was left out.

mod difference;
mod findings;
mod keeping;
mod lean;
mod made;
mod mix;
mod plan;
mod serve;
mod targets;
mod values;
mod words;

use clap::{Parser, Subcommand};
use std::process::ExitCode;

/// Few pigments, values first.
#[derive(Parser)]
#[command(name = "lean-swatch", version, about)]
struct Line {
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// Serve the bench to a browser on this machine.
    Serve(serve::Serve),
    /// Serve a school: many painters, each their own studio, behind a proxy that signs them in.
    School(serve::SchoolServe),
    /// Read the values of a picture.
    Values(values::Values),
    /// The colour of a mix.
    Mix(mix::Mix),
    /// What is off between a wanted and a given colour, as a painter says it.
    Difference(difference::Difference),
    /// What would be said of a plan without a picture.
    Findings(findings::Findings),
    /// The fewest pigments of a Box for what is needed.
    Lean(Box<lean::Lean>),
    /// The whole run without a screen: colours, places, set, recipes, and the plan as a picture.
    Plan(Box<plan::Plan>),
    /// Write the whole studio with its pictures as one JSON text.
    Export(keeping::Export),
    /// Make a data file of such a text.
    Import(keeping::Import),
    /// Copy the data file, also while it is in use.
    Backup(keeping::BackUp),
    /// Put a backup in the place of the data file; what was there is kept.
    Restore(keeping::Restore),
    /// Take everything that is sound out of a damaged data file, into a new one.
    Rescue(keeping::Rescue),
    /// Look whether every page, picture and record of the data file is sound.
    Check(keeping::Check),
    /// Fill a demo studio's data file and end.
    #[command(hide = true)]
    FillDemo(serve::FillDemo),
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
    let done = match Line::parse().what {
        What::Serve(a) => serve::run(a),
        What::School(a) => serve::run_school(a),
        What::Values(a) => values::run(a).and_then(|v| print(&v)),
        What::Mix(a) => mix::run(a).and_then(|v| print(&v)),
        What::Difference(a) => difference::run(a).and_then(|v| print(&v)),
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
        #[cfg(feature = "description")]
        What::Openapi => crate::description::description().to_json().map(|t| println!("{t}")).map_err(|e| e.to_string()),
        #[cfg(feature = "description")]
        What::Routes => {
            print!("{}", crate::description::addresses());
            Ok(())
        }
        What::Words => print(&words::Words::all()),
    };
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
