//! `lean-swatch difference "L,a,b" "L,a,b"`

use clap::Args;
use lean_colour::typed;
use lean_plan::wording;

#[derive(Args)]
pub(super) struct Difference {
    /// The wanted colour: CIELAB under D65, "L,a,b", or as typed anywhere: "#7a6f8c", "dull blue green".
    #[arg(allow_negative_numbers = true)]
    wanted: String,
    /// What is given.
    #[arg(allow_negative_numbers = true)]
    given: String,
}

pub(super) fn run(a: Difference) -> Result<wording::Difference, String> {
    Ok(wording::Difference::of(typed::parse(&a.wanted)?, typed::parse(&a.given)?))
}
