//! `lean-swatch plan PHOTO --medium M [--ground G] [--box FILE | --library] [--colours N] [--brush SHARE] [--size K] [--mixes parts|tints] [--rank sure|miss] [--flat | --wanted] --out PNG`

use super::drawing;
use super::made::{Colour, Made, Recipe, recipe};
use super::mix::owned;
use crate::pictures::png;
use clap::Args;
use lean_colour::difference::ciede2000;
use lean_media::{GroundId, Medium, ground, library};
use lean_picture::line_drawing::is_drawing;
use lean_picture::places::{LARGEST, MIDDLE, SMALLEST, Survey};
use lean_picture::{Picture, decode};
use lean_piece::change::{ChooseSet, SetAim, SetDemands, SetMixing};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Aim, Brief, ChosenSet, Command, Millimetres, Piece, Size};
use lean_plan::mixes::{Further, mixes, pigments_of, technique_of};
use lean_plan::paints::starter::{SIZES, starter};
use lean_plan::planned;
use lean_plan::zones::{COLOUR_RANGE, COLOURS, PictureFile, Surveyed, WORKING_SIDE, set_drawing, set_reference_at};
use lean_search::Recipes;
use lean_search::demands::Demands;
use lean_search::progress::Unwatched;
use lean_search::{Tables, search};
use serde::Serialize;
use std::path::PathBuf;

#[derive(Args)]
pub(super) struct Plan {
    /// JPEG, PNG, WebP or TIFF.
    photo: PathBuf,
    /// What the piece is made in: oil, watercolour, marker, pencil or pastel.
    #[arg(long)]
    medium: Medium,
    /// A shipped ground; the usual one of the medium when left out.
    #[arg(long)]
    ground: Option<String>,
    /// A pigment file: everything owned.
    #[arg(long = "box", conflicts_with = "library", required_unless_present = "library")]
    box_file: Option<PathBuf>,
    /// Every modelled pigment that is shipped; of sticks and pens the largest starter Box, which has its hues in several values.
    #[arg(long)]
    library: bool,
    /// How many colours, 3 to 24.
    #[arg(long, default_value_t = COLOURS)]
    colours: usize,
    /// The smallest mark, as a share of the longer side: 0.0067 to 0.1.
    #[arg(long, default_value_t = MIDDLE)]
    brush: f64,
    /// Pigments in the set: 1 to 8 in oil, to 12 in watercolour, to 24 of sticks, pens and pencils.
    #[arg(long, default_value_t = 5, value_parser = clap::value_parser!(u8).range(1..=24))]
    size: u8,
    /// Layers laid as is not usual in the medium, too: light over dark, lifted, blended, three pens or sticks over each other.
    #[arg(long)]
    unusual_layers: bool,
    #[command(flatten)]
    made: Made,
    /// Zones filled with their mixes, graded ones running, without the hand of the medium.
    #[arg(long)]
    flat: bool,
    /// Zones filled with what is wanted instead of with their mixes.
    #[arg(long, conflicts_with = "flat")]
    wanted: bool,
    /// Reads the file as a drawing in lines and colours its shapes. Without it the file decides.
    #[arg(long)]
    drawing: bool,
    /// Colourings of a drawing, 3 to 12; nine when left out.
    #[arg(long)]
    studies: Option<usize>,
    /// PNG file for the plan, or for the colourings side by side.
    #[arg(long)]
    out: PathBuf,
}

/// The whole answer. See docs/schemas/plan.schema.json.
#[derive(Serialize)]
pub(super) struct Printed {
    recognised: &'static str,
    width: u32,
    height: u32,
    brush: f64,
    zones: Vec<Zone>,
    set: Vec<String>,
    /// Mean CIEDE2000 of what is given from what is wanted, by area.
    miss: f64,
    proved: bool,
}

#[derive(Serialize)]
struct Zone {
    id: u16,
    area: f64,
    places: usize,
    target: Colour,
    given: Colour,
    miss: f64,
    #[serde(skip_serializing_if = "Option::is_none")]
    graded_to: Option<Colour>,
    recipe: Recipe,
    /// Further recipes of a graded zone, from near to far.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    then: Vec<Stop>,
}

/// A recipe further along a graded zone.
#[derive(Serialize)]
struct Stop {
    /// Share of the way, 1 at the far end.
    at: f64,
    target: Colour,
    given: Colour,
    recipe: Recipe,
}

/// The answer to `plan`: of a picture, or of a drawing.
#[derive(Serialize)]
#[serde(untagged)]
pub(super) enum Answer {
    Picture(Printed),
    Drawing(drawing::Printed),
}

pub(super) fn run(a: Plan) -> Result<Answer, String> {
    if !COLOUR_RANGE.contains(&a.colours) {
        return Err(format!("{} colours: ask for {} to {}", a.colours, COLOUR_RANGE.start(), COLOUR_RANGE.end()));
    }
    if !(SMALLEST * 0.98..=LARGEST * 1.02).contains(&a.brush) {
        return Err(format!("a brush of {}: it may be {SMALLEST:.4} to {LARGEST} of the longer side", a.brush));
    }
    let paint_box = paint_box(&a)?;
    let piece = match read(&a)? {
        Read::Picture(piece) => piece,
        Read::Drawing(piece, working) => return drawing::run((a.studies, &a.out), &piece, &paint_box, &working).map(Answer::Drawing),
    };
    let mixing = a.made.mixing();
    let piece = piece.apply(Command::SetMixing(SetMixing { mixing })).map_err(|e| e.to_string())?.0;
    let demands = Demands { unusual_layers: a.unusual_layers, ..piece.demands.clone() };
    let piece = piece.apply(Command::SetDemands(SetDemands { demands })).map_err(|e| e.to_string())?.0;
    let aim = Aim { layer: a.made.layer_cost(), ..piece.aim.clone() };
    let piece = piece.apply(Command::SetAim(SetAim { aim })).map_err(|e| e.to_string())?.0;
    let size = usize::from(a.size);
    let ask = piece.ask(&paint_box, vec![piece.own_need()], 1..=size);
    let found = search(&ask.ask(), &Tables::default(), &Unwatched, &|_| {}).map_err(|e| e.to_string())?;
    let best = found.into_iter().max_by_key(|s| s.pigments.len()).ok_or("no set was found: is the Box empty?")?;
    let piece =
        piece.apply(Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments: best.pigments.clone() } })).map_err(|e| e.to_string())?.0;
    let technique = technique_of(&piece, &paint_box, &pigments_of(&paint_box, &best.pigments));
    let mixes = mixes(&piece, &Recipes::of(technique.as_ref()));
    let across = piece.map().map_or(0, |m| m.width);
    let drawn = match (a.wanted, a.flat) {
        (true, _) => planned::draw(&piece, planned::What::Planned),
        (false, true) => planned::draw_mixed(&piece, &mixes),
        (false, false) => planned::painted_mixes(&piece, &mixes, across),
    };
    let picture = drawn.ok_or("that picture makes no zones")?;
    std::fs::write(&a.out, png(&picture).map_err(|p| p.detail)?).map_err(|e| format!("{}: {e}", a.out.display()))?;
    let zones: Vec<Zone> = mixes
        .iter()
        .filter_map(|m| {
            let zone = piece.zone(m.zone)?;
            Some(Zone {
                id: m.zone.0,
                area: zone.reading.area,
                places: piece.geometry().places_of(m.zone.0).len(),
                target: Colour::of(m.wanted.lab),
                given: Colour::of(m.mix.lab),
                miss: ciede2000(m.wanted.lab, m.mix.lab),
                graded_to: zone.graded.map(|g| Colour::of(g.to)),
                recipe: recipe(&paint_box, &m.mix),
                then: m.then.iter().map(|f| stop(&paint_box, f)).collect(),
            })
        })
        .collect();
    let area: f64 = zones.iter().map(|z| z.area).sum();
    Ok(Answer::Picture(Printed {
        recognised: "picture",
        width: picture.width,
        height: picture.height,
        brush: a.brush,
        miss: zones.iter().map(|z| z.area * z.miss).sum::<f64>() / area.max(1e-12),
        zones,
        set: best.pigments.into_iter().map(|p| p.0).collect(),
        proved: best.proved_optimal,
    }))
}

fn paint_box(a: &Plan) -> Result<PaintBox, String> {
    let pigments = match &a.box_file {
        Some(file) => owned(file)?,
        None if matches!(a.medium, Medium::SoftPastel | Medium::Marker) => starter(a.medium, SIZES[SIZES.len() - 1]).pigments,
        None => library::modelled().to_vec(),
    };
    Ok(PaintBox { name: "from the command line".into(), medium: a.medium, pigments })
}

/// The two readings of a file.
enum Read {
    /// A picture, its colours laid at the brush.
    Picture(Piece),
    /// A drawing, its shapes open, with the drawing itself.
    Drawing(Piece, Picture),
}

fn read(a: &Plan) -> Result<Read, String> {
    let ground = match &a.ground {
        None => ground::usual(a.medium).id,
        Some(name) => ground::find(&GroundId(name.clone())).map(|g| g.id).ok_or_else(|| {
            let all: Vec<&str> = ground::shipped().iter().map(|g| g.id.0.as_str()).collect();
            format!("\"{name}\" is no shipped ground: choose {}", all.join(", "))
        })?,
    };
    let bytes = std::fs::read(&a.photo).map_err(|e| format!("{}: {e}", a.photo.display()))?;
    let full = decode(&bytes).map_err(|e| format!("{}: {e}", a.photo.display()))?;
    let name = a.photo.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
    let file = PictureFile::of(lean_store::Store::digest_of(&bytes), name, &full);
    let working = full.reduced(WORKING_SIDE);
    let side = |n: u32| Millimetres(400.0 * f64::from(n) / f64::from(full.width.max(full.height)));
    let size = Size { width: Millimetres(side(full.width).0.max(10.0)), height: Millimetres(side(full.height).0.max(10.0)) };
    let piece = Piece::new(Brief { title: "from the command line".into(), medium: a.medium, ground, size });
    if a.drawing || is_drawing(&working) {
        let found = set_drawing(&working, file.clone());
        if a.drawing && found.is_none() {
            return Err(format!("{}: no outline closes, so there are no shapes to colour", a.photo.display()));
        }
        if let Some(command) = found {
            return Ok(Read::Drawing(piece.apply(command).map_err(|e| e.to_string())?.0, working));
        }
    }
    let survey = Survey::of(&working);
    let look = Surveyed { working: &working, survey: &survey };
    let piece = piece.apply(set_reference_at(look, a.colours, file)).map_err(|e| e.to_string())?.0;
    let brush = lean_plan::zones::dials::brush(&piece, look, lean_colour::Share(a.brush), "the command line")?;
    piece.apply(brush).map(|p| Read::Picture(p.0)).map_err(|e| e.to_string())
}

fn stop(paint_box: &PaintBox, f: &Further) -> Stop {
    Stop { at: f.at, target: Colour::of(f.wanted.lab), given: Colour::of(f.given.lab), recipe: recipe(paint_box, &f.mix) }
}
