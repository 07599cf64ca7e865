//! The target file: `{"targets":[{"lab":[L,a,b],"weight":w}]}`, or several pieces: `{"pieces":[{"ground","weight","targets":[…]}]}`.

use lean_colour::Lab;
use lean_recipes::Target;
use serde::Deserialize;
use std::path::Path;

/// One piece a set has to serve.
pub(super) struct Given {
    /// A shipped ground, if it is not the one asked for on the command line.
    pub ground: Option<String>,
    /// How much it counts.
    pub weight: f64,
    /// What it needs.
    pub targets: Vec<Target>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    targets: Option<Vec<Entry>>,
    pieces: Option<Vec<Piece>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Piece {
    ground: Option<String>,
    #[serde(default = "one")]
    weight: f64,
    targets: Vec<Entry>,
}

#[derive(Deserialize)]
struct Entry {
    lab: [f64; 3],
    #[serde(default = "one")]
    weight: f64,
}

fn one() -> f64 {
    1.0
}

/// Reads and checks a target file.
pub(super) fn read(path: &Path) -> Result<Vec<Given>, String> {
    let at = |problem: String| format!("{}: {problem}", path.display());
    let text = std::fs::read_to_string(path).map_err(|e| at(e.to_string()))?;
    parse(&text).map_err(at)
}

fn parse(text: &str) -> Result<Vec<Given>, String> {
    let file: File = serde_json::from_str(text).map_err(|e| {
        format!("this is not a target file: {e}. It should look like {{\"targets\":[{{\"lab\":[50,10,-20],\"weight\":1}}]}}")
    })?;
    let pieces = match (file.targets, file.pieces) {
        (Some(targets), None) => vec![Piece { ground: None, weight: 1.0, targets }],
        (None, Some(pieces)) if !pieces.is_empty() => pieces,
        _ => return Err("a target file holds \"targets\", or \"pieces\" with at least one piece, and not both".into()),
    };
    pieces.into_iter().enumerate().map(|(n, p)| given(n + 1, p)).collect()
}

fn given(number: usize, piece: Piece) -> Result<Given, String> {
    if !(piece.weight.is_finite() && piece.weight >= 0.0) {
        return Err(format!("piece {number} weighs {}: it must be zero or more", piece.weight));
    }
    let target = |(n, e): (usize, Entry)| {
        let [l, a, b] = e.lab;
        if !(0.0..=100.0).contains(&l) || !(-200.0..=200.0).contains(&a) || !(-200.0..=200.0).contains(&b) {
            return Err(format!("target {} of piece {number} is [{l}, {a}, {b}]: L* is 0 to 100, a* and b* are -200 to 200", n + 1));
        }
        Ok(Target { lab: Lab::new(l, a, b), weight: e.weight })
    };
    let targets = piece.targets.into_iter().enumerate().map(target).collect::<Result<_, _>>()?;
    Ok(Given { ground: piece.ground, weight: piece.weight, targets })
}
