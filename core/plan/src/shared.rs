//! One set for several pieces, or for a journey: the proved set that serves them all, and what each of them loses.

use lean_media::PigmentId;
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use lean_search::demands::HueFamily;
use lean_search::progress::{Progress, Stage, Unreported};
use lean_search::{Ask, Choice, NoAnswer, SetFound, Tables, search};
use serde::Serialize;
use std::ops::RangeInclusive;

/// Most pieces one set is looked for. A choice.
pub const MOST_PIECES: usize = 12;
/// Cost that is a step of value: what losses are told in.
const A_STEP: f64 = 20.0;

/// What a piece loses when it is made with the shared set.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Loss {
    /// Number of the piece.
    pub piece: i64,
    /// Its title.
    pub title: String,
    /// Its mean cost with the shared set.
    pub cost: f64,
    /// Its mean cost with the best set of the same size of its own.
    pub own_cost: f64,
    /// That set.
    pub own: Vec<PigmentId>,
    /// Hue families of its plan that the shared set cannot reach.
    pub missing: Vec<HueFamily>,
    /// The same in a sentence.
    pub words: String,
}

/// The best shared set of one size.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SharedSet {
    /// The pigments, white not counted.
    pub pigments: Vec<PigmentId>,
    /// What they are called.
    pub names: Vec<String>,
    /// Mean cost over all pieces.
    pub cost: f64,
    /// Whether every other set of this size is known to cost at least as much.
    pub proved: bool,
    /// What each piece loses, in the order asked.
    pub losses: Vec<Loss>,
}

/// What is asked: the pieces with their numbers, all of one medium, the Box, pigments to do without, and sizes.
pub struct SharedAsk<'a> {
    /// The pieces with their numbers.
    pub pieces: &'a [(i64, Piece)],
    /// The Box.
    pub paint_box: &'a PaintBox,
    /// Pigments to do without.
    pub without: &'a [PigmentId],
    /// Sizes to look at.
    pub sizes: RangeInclusive<usize>,
}

/// The best set of every size that serves all pieces together, each counting the same. What a piece's own brief rules out is ruled out for all; pigments
/// locked in a piece are not: they would be locked in the others too. A piece's own best may use what the shared set does without.
///
/// # Errors
/// When nothing can be found or the work was cancelled.
pub fn shared(ask: &SharedAsk, tables: &Tables, progress: &dyn Progress) -> Result<Vec<SharedSet>, NoAnswer> {
    let parts = ask.pieces.len() + 1;
    let step = |i: usize| Stage { whole: progress, from: i as f64 / parts as f64, span: 1.0 / parts as f64 };
    let of_one = |i: usize, piece: &Piece| found(ask, std::slice::from_ref(piece), Among::All(&[]), tables, &step(i));
    let own: Vec<Vec<SetFound>> = ask.pieces.iter().enumerate().map(|(i, (_, piece))| of_one(i, piece)).collect::<Result<_, _>>()?;
    let pieces: Vec<Piece> = ask.pieces.iter().map(|(_, p)| p.clone()).collect();
    let all = found(ask, &pieces, Among::All(ask.without), tables, &step(ask.pieces.len()))?;
    all.iter().map(|set| told(ask, set, &own, tables, progress)).collect()
}

/// Which sets are looked at.
enum Among<'a> {
    /// All without these pigments.
    All(&'a [PigmentId]),
    /// Only this one.
    Only(&'a [PigmentId]),
}

fn found(ask: &SharedAsk, pieces: &[Piece], among: Among, tables: &Tables, progress: &dyn Progress) -> Result<Vec<SetFound>, NoAnswer> {
    let Some(first) = pieces.first() else { return Ok(Vec::new()) };
    let needs: Vec<_> = pieces.iter().map(Piece::own_need).collect();
    let mut excluded: Vec<PigmentId> = pieces.iter().flat_map(|p| p.excluded.clone()).collect();
    excluded.extend(ask.paint_box.away().cloned());
    let (locked, sizes) = match among {
        Among::All(without) => {
            excluded.extend(without.iter().cloned());
            (Vec::new(), ask.sizes.clone())
        }
        Among::Only(set) => (set.to_vec(), set.len()..=set.len()),
    };
    let mut demands = first.asked();
    demands.no_black = pieces.iter().any(|p| p.asked().no_black);
    // What is lost is told, not forbidden: all sets are compared by the same measure.
    demands.families_may_go = true;
    let choice = Choice { locked, excluded, demands, grain: lean_recipes::Grain::Parts };
    let asked = Ask { pigments: ask.paint_box.searched(), medium: first.brief.medium, needs: &needs, choice: &choice, sizes };
    search(&asked, tables, progress, &|_| {})
}

fn told(ask: &SharedAsk, set: &SetFound, own: &[Vec<SetFound>], tables: &Tables, progress: &dyn Progress) -> Result<SharedSet, NoAnswer> {
    let of_size = |sets: &[SetFound]| sets.iter().find(|s| s.pigments.len() == set.pigments.len()).or(sets.last()).cloned();
    let loss = |i: usize, id: i64, piece: &Piece| -> Result<Loss, NoAnswer> {
        let with_it = found(ask, std::slice::from_ref(piece), Among::Only(&set.pigments), tables, &Unreported(progress))?;
        let missing = with_it.first().map(|s| s.missing.clone()).unwrap_or_default();
        // By the measure sets are chosen by, and not by the misses alone: a mix that slips easily costs more.
        let cost = with_it.first().map_or(set.cost, |s| s.cost);
        let (own_cost, best) = of_size(&own[i]).map_or((cost, Vec::new()), |s| (s.cost, s.pigments));
        let words = words(cost - own_cost, &missing);
        Ok(Loss { piece: id, title: piece.brief.title.clone(), cost, own_cost, own: best, missing, words })
    };
    let losses = ask.pieces.iter().enumerate().map(|(i, (id, piece))| loss(i, *id, piece)).collect::<Result<_, _>>()?;
    let name = |id: &PigmentId| ask.paint_box.name_of(id);
    let names = set.pigments.iter().map(name).collect();
    Ok(SharedSet { names, pigments: set.pigments.clone(), cost: set.cost, proved: set.proved_optimal, losses })
}

/// A rise of the mean cost, and what cannot be reached any more, in words.
fn words(more: f64, missing: &[HueFamily]) -> String {
    let loses = match more {
        m if m < 0.05 => "loses nothing".to_owned(),
        m if m < 0.5 => format!("loses hardly anything ({m:.1} a zone)"),
        m if m < 2.0 => format!("loses a little ({m:.1} a zone, a tenth of a step or so)"),
        m => format!("loses {m:.1} a zone, as much as {:.1} steps of value", m / A_STEP),
    };
    let families: Vec<&str> = missing.iter().map(|f| f.name()).collect();
    if families.is_empty() { loses } else { format!("{loses}; its {} cannot be reached", families.join(" and ")) }
}
