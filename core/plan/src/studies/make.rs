//! Making studies, each with its own exact lean set.

use super::order::{Held, choose_together, pairs_of};
use super::restraint::ceiling;
use super::variants::{Planned, StudyKind, choose};
use crate::basis::basis;
use crate::drawing::is_drawing;
use crate::mixes::{pigments_of, reach_of, technique_of};
use crate::wheel::Wheel;
use lean_colour::{Lab, Steps};
use lean_media::Pigment;
use lean_piece::paint_box::PaintBox;
use lean_piece::wanted::weight;
use lean_piece::{Asked, Piece, Scheme, Study, StudyMix, StudyNumber, Zone};
use lean_recipes::cost::Within;
use lean_recipes::{Cost, Mix, Target};
use lean_search::NoAnswer;
use lean_search::Recipes;
use lean_search::progress::{Progress, Stage};
use lean_search::{Need, SetFound, Tables, most_in_set, search};

/// Cost in studies whose values must hold.
fn held() -> Cost {
    Cost { hold: Some(Cost::QUARTER_STEP), within: Some(Within::LADDER), ..Cost::default() }
}

/// Size of a study's lean set when the painter has not chosen one: where colours are mixed, and where they are chosen.
const USUAL_SIZE: (usize, usize) = (5, 9);

/// Makes a study of each kind and shows each as soon as it is made. All but those in another light hold the planned values within a quarter step as far as the Box can, and keep
/// warm zones warmer than their neighbours; those in another light hold the values of their own plan.
///
/// # Errors
/// See [`NoAnswer`]: too few pigments, no zones, cancelled.
pub fn make(
    piece: &Piece,
    paint_box: &PaintBox,
    tables: &Tables,
    kinds: &[StudyKind],
    progress: &dyn Progress,
    shown: &dyn Fn(&Study),
) -> Result<Vec<Study>, NoAnswer> {
    let plan = Plan::of(piece, paint_box, tables)?;
    let (piece, paint_box) = (&plan.piece, &plan.paint_box);
    let mut made = Vec::new();
    let mut add = |scheme: Scheme, wanted: &[Lab], stage: &Stage| -> Result<(), NoAnswer> {
        made.push(plan.study(StudyNumber(made.len() as u8 + 1), scheme, wanted, stage)?);
        made.last().into_iter().for_each(shown);
        Ok(())
    };
    // The piece as read is made alone, before anything is chosen: there is something to look at while recipes are evaluated for all the others.
    let early = usize::from(kinds.first() == Some(&StudyKind::AsRead));
    let first = early as f64 / (kinds.len() as f64 + FIRST);
    if early == 1 {
        let wanted: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
        add(Scheme::AsRead, &wanted, &Stage { whole: progress, from: 0.0, span: first })?;
    }
    let chosen = choose(piece, kinds, &Wheel::of(piece, paint_box), reach_of(piece, paint_box), |colours| plan.effort(colours));
    let rest = &chosen[early.min(chosen.len())..];
    let span = (1.0 - first) * PREPARING;
    plan.prepare(rest, &Stage { whole: progress, from: first, span })?;
    for (i, (scheme, wanted)) in rest.iter().enumerate() {
        let share = (1.0 - first - span) / rest.len() as f64;
        add(scheme.clone(), wanted, &Stage { whole: progress, from: first + span + i as f64 * share, span: share })?;
    }
    Ok(made)
}

/// How many studies fewer the rest count for beside the first, which shares its recipes with none. A guess that only moves the bar.
const FIRST: f64 = 3.0;

/// Share of the work that evaluating recipes for all studies at once is, measured.
const PREPARING: f64 = 0.8;

/// Makes one study of colours that are given, in the order of `piece.zones`.
///
/// # Errors
/// See [`make`].
pub fn make_one(
    piece: &Piece,
    paint_box: &PaintBox,
    tables: &Tables,
    (number, scheme, wanted): (StudyNumber, Scheme, &[Lab]),
    progress: &dyn Progress,
) -> Result<Study, NoAnswer> {
    Plan::of(piece, paint_box, tables)?.study(number, scheme, wanted, progress)
}

fn size_of_sets(piece: &Piece, paint_box: &PaintBox) -> usize {
    let owned = paint_box.pigments.iter().filter(|p| !p.white && !piece.excluded.contains(&p.id)).count();
    let chosen = piece.brief.medium.is_chosen();
    let usual = if chosen { USUAL_SIZE.1 } else { USUAL_SIZE.0 };
    let wished = if piece.chosen.pigments.is_empty() { usual } else { piece.chosen.pigments.len() };
    let most = if chosen { most_in_set(piece.brief.medium) } else { 6 };
    let game = piece.intent.games.most_pigments.map_or(usize::MAX, usize::from);
    wished.clamp(2, most).max(piece.locked.len()).min(game).min(owned.max(1))
}

/// Values and colours of every pigment alone and with white.
fn single_colours(piece: &Piece, paint_box: &PaintBox) -> Vec<(f64, Lab)> {
    let coloured = paint_box.pigments.iter().filter(|p| !p.white);
    let colours = |p: &Pigment| Recipes::of(technique_of(piece, paint_box, &[p]).as_ref()).colours().collect::<Vec<_>>();
    coloured.flat_map(colours).map(|c| (c.value().0, c)).collect()
}

struct Plan<'a> {
    piece: Piece,
    /// The Box studies are made from.
    paint_box: PaintBox,
    tables: &'a Tables,
    /// Fingerprint of what they are made from.
    basis: String,
    size: usize,
    /// Value and colour of every pigment alone and with white.
    singles: Vec<(f64, Lab)>,
}

impl<'a> Plan<'a> {
    fn of(piece: &Piece, paint_box: &PaintBox, tables: &'a Tables) -> Result<Self, NoAnswer> {
        if piece.zones.is_empty() {
            return Err(NoAnswer::NoTargets);
        }
        let basis = basis(piece, Some(paint_box));
        let (drawn_on, mut piece) = (paint_box.for_studies(), piece.clone());
        // Studies in acrylic know nothing of what is decided about the oils.
        piece.locked.retain(|id| drawn_on.find(id).is_some());
        piece.excluded.retain(|id| drawn_on.find(id).is_some());
        piece.demands.mother.take_if(|m| drawn_on.find(&m.pigment).is_none());
        let (size, singles) = (size_of_sets(&piece, &drawn_on), single_colours(&piece, &drawn_on));
        Ok(Self { piece, paint_box: drawn_on, tables, basis, size, singles })
    }

    /// What the wanted colours would cost from single pigments and their tints alone: a quick measure of what this Box finds easy,
    /// values and all.
    fn effort(&self, colours: &[Lab]) -> f64 {
        let near = |c: &Lab| {
            let value = c.value().0;
            let cost = |s: &(f64, Lab)| held().of_value(Steps(s.0 - value)) + 0.6 * (s.1.a - c.a).hypot(s.1.b - c.b);
            self.singles.iter().map(cost).fold(f64::INFINITY, f64::min)
        };
        self.piece.zones.iter().zip(colours).map(|(z, c)| z.reading.area.sqrt() * near(c)).sum()
    }

    /// What a study of these colours needs of a set.
    fn need(&self, scheme: &Scheme, wanted: &[Lab]) -> Need {
        let cost = if matches!(scheme, Scheme::AsRead) { self.piece.cost() } else { Cost { ranking: self.piece.cost().ranking, ..held() } };
        let aims = self.piece.zones.iter().zip(wanted).map(|(z, lab)| Target { lab: *lab, weight: weight(z) }).collect();
        self.piece.need(aims, cost)
    }

    /// Evaluates the recipes of all studies at once: they are the same recipes for other colours.
    fn prepare(&self, chosen: &[Planned], progress: &dyn Progress) -> Result<(), NoAnswer> {
        let asked: Vec<Asked> =
            chosen.iter().map(|(s, wanted)| self.piece.ask(&self.paint_box, vec![self.need(s, wanted)], self.size..=self.size)).collect();
        self.tables.prepare(&asked.iter().map(Asked::ask).collect::<Vec<_>>(), progress)
    }

    /// The best set of the usual size, or of the largest that what is asked and the game leave pigments for.
    fn best_set(&self, need: &Need, progress: &dyn Progress) -> Result<SetFound, NoAnswer> {
        let of = |size: usize| {
            let asked = self.piece.ask(&self.paint_box, vec![need.clone()], size..=size);
            search(&asked.ask(), self.tables, progress, &|_| {})
        };
        let mut size = self.size;
        loop {
            match of(size) {
                Err(NoAnswer::TooFew(_)) if size > 1 => size -= 1,
                other => return other?.into_iter().next().ok_or_else(|| NoAnswer::TooFew("no pigment".into())),
            }
        }
    }

    /// The mixes a graded zone hands over to after its first.
    fn handed_over(&self, zone: &Zone, wanted: Lab, recipes: &Recipes, cost: Cost) -> Vec<Mix> {
        let Some(run) = zone.retargeted(wanted).graded else { return Vec::new() };
        let stops = run.stops(wanted).into_iter().skip(1);
        stops.filter_map(|stop| recipes.nearest(stop, cost, 1).first().map(|(_, nth, _)| recipes.recipe(*nth))).collect()
    }

    fn study(&self, number: StudyNumber, scheme: Scheme, wanted: &[Lab], progress: &dyn Progress) -> Result<Study, NoAnswer> {
        let free = matches!(scheme, Scheme::AsRead);
        let need = self.need(&scheme, wanted);
        let cost = need.cost;
        let set = self.best_set(&need, progress)?;
        let technique = technique_of(&self.piece, &self.paint_box, &pigments_of(&self.paint_box, &set.pigments));
        let recipes = Recipes::of(technique.as_ref());
        // Another light and colours from elsewhere have an order of warm and cool of their own.
        let mixes = if free || is_drawing(&self.piece) || matches!(scheme, Scheme::Light { .. } | Scheme::Borrowed { .. } | Scheme::Former)
        {
            let ceilings = vec![f64::INFINITY; wanted.len()];
            choose_together(&recipes, wanted, cost, &Held { pairs: &[], ceilings: &ceilings })
        } else {
            let ceilings: Vec<f64> = self.piece.zones.iter().map(ceiling).collect();
            choose_together(&recipes, wanted, cost, &Held { pairs: &pairs_of(&self.piece, wanted), ceilings: &ceilings })
        };
        Ok(Study {
            number,
            scheme,
            pigments: set.pigments,
            cost: set.pieces.first().copied().unwrap_or(set.cost),
            mixes: self
                .piece
                .zones
                .iter()
                .zip(wanted)
                .zip(mixes)
                .map(|((z, w), mix)| StudyMix { zone: z.id, wanted: *w, mix, then: self.handed_over(z, *w, &recipes, cost) })
                .collect(),
            basis: self.basis.clone(),
            reason: String::new(),
            minutes: 0,
            made: None,
            running_since: None,
        })
    }
}

/// How far the mixes of a study leave the planned values at most, in steps.
pub fn most_off(study: &Study) -> f64 {
    study.mixes.iter().map(|m| (m.mix.lab.value().0 - m.wanted.value().0).abs()).fold(0.0, f64::max)
}
