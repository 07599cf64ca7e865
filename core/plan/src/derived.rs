//! Everything the bench shows of a piece that follows from it: marks, mixes, tray, reach, findings.

use crate::basis::basis;
use crate::findings::{Finding, Plan, findings, order_of_pull};
use crate::fit::{Carries, Lies, Proportion, carries, lies, proportion};
use crate::grounds::{Suits, suits};
use crate::light::key::{Reach, Squeezed, squeezed};
use crate::mark::Mark;
use crate::mixes::{self, Among, LetDown, MixInWords, Pan, ReachRow, Riskiest, Well, ZoneMix};
use crate::next::{NextStep, next};
use crate::order_of_work::{OrderOfWork, order_of_work};
use crate::paints::second::{SecondOffer, offers};
use crate::paints::too_little::{TooLittle, too_little};
use crate::studies::loosened::loosened;
use crate::travels::{Travels, travels};
use crate::wall::loudness;
use crate::zones::COLOUR_RANGE;
use crate::zones::masses::{Straddles, mass_of, shares, straddling};
use lean_colour::{Lab, Temperature};
use lean_media::Medium;
use lean_picture::KeptMap;
use lean_picture::places::{LARGEST, MIDDLE, SMALLEST};
use lean_piece::light::Key;
use lean_piece::paint_box::PaintBox;
use lean_piece::wanted::targets;
use lean_piece::{MassId, Millimetres, Piece, Reference, ZoneId};
use lean_search::{Demands, RecipeLists};
use serde::Serialize;

/// A zone in the field.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneShape {
    /// Which zone.
    pub zone: ZoneId,
    /// How many places it has at this brush.
    pub places: usize,
    /// The mass most of it lies in.
    pub mass: Option<MassId>,
    /// What the reference reads.
    pub reading: Mark,
    /// What is planned.
    pub target: Mark,
    /// The far end of a target that runs.
    pub graded_to: Option<Mark>,
}

/// What follows from a piece.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Derived {
    /// The map of places, to be fetched by its digest; `None` without zones.
    pub map: Option<MapLine>,
    /// The map of masses.
    pub mass_map: Option<MapLine>,
    /// The two dials; `None` where zones do not come from colours.
    pub dials: Option<Dials>,
    /// The masses as marks in the field: the mean of what lies in each.
    pub masses: Vec<MassMark>,
    /// Zones that lie in two masses of different light.
    pub straddling: Vec<Straddles>,
    /// Every zone.
    pub shapes: Vec<ZoneShape>,
    /// Pairs of zones that share a border.
    pub borders: Vec<[ZoneId; 2]>,
    /// A recipe for every zone; empty without a set.
    pub mixes: Vec<ZoneMix>,
    /// The same in words, in the same order.
    pub told: Vec<MixInWords>,
    /// The tray.
    pub wells: Vec<Well>,
    /// What the set can reach, darkest first.
    pub reach: Vec<ReachRow>,
    /// Cost of the set in use.
    pub cost: Option<f64>,
    /// By how much finer mixes lower the cost, when they are asked for.
    pub finer_gain: Option<f64>,
    /// By how much mixes that share pigments raise it, when they are asked for.
    pub kin_loss: Option<f64>,
    /// What is let down once before the mixes are made.
    pub let_downs: Vec<LetDown>,
    /// How thin each pan is made, in watercolour.
    pub pans: Vec<Pan>,
    /// How zones read among their neighbours, where that is worth a word.
    pub among: Vec<Among>,
    /// The mix to rehearse first; `None` where none is risky.
    pub riskiest: Option<Riskiest>,
    /// Pigments of the set that loosen the scheme of the study the piece went on with, in a sentence; empty where none does.
    pub loosened: String,
    /// What to do next; none once it is finished.
    pub next: Option<NextStep>,
    /// In which order the zones are laid.
    pub order: OrderOfWork,
    /// How light orders the plan.
    pub light: DerivedLight,
    /// What was noticed.
    pub findings: Vec<Finding>,
    /// Everything asked of a set, by the piece's demands, its games and its schools.
    pub asked: Demands,
    /// Fingerprint of zones, locks and Box: compare with that of a search or study.
    pub basis: String,
    /// Pigments that the search leaves out by itself, and why.
    pub too_little: Vec<TooLittle>,
    /// What may join its medium.
    pub seconds: Vec<SecondOffer>,
}

/// A map of places or masses by its digest.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MapLine {
    /// What it is fetched by.
    pub digest: String,
    /// Cells across.
    pub width: u32,
    /// Cells down.
    pub height: u32,
}

impl MapLine {
    fn of(map: &KeptMap) -> Self {
        let (width, height) = map.size();
        Self { digest: map.digest().to_owned(), width, height }
    }
}

/// A mass in the field.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MassMark {
    /// Which.
    pub mass: MassId,
    /// Share of the picture.
    pub area: f64,
    /// Mean of what is planned in it.
    pub target: Mark,
    /// Zones that lie mostly in it.
    pub zones: Vec<ZoneId>,
}

fn mass_marks(piece: &Piece, neutral: Temperature) -> Vec<MassMark> {
    let shares = shares(piece);
    let mostly = mass_of(piece);
    let mark = |id: MassId| {
        let parts: Vec<(f64, Lab)> =
            piece.zones.iter().filter_map(|z| Some((shares.get(&(z.id, id))? * z.reading.area, piece.wanted(z)))).collect();
        let area: f64 = parts.iter().map(|p| p.0).sum();
        let mean = |f: fn(&Lab) -> f64| parts.iter().map(|(n, lab)| n * f(lab)).sum::<f64>() / area.max(1e-12);
        let target = Mark::of(Lab::new(mean(|l| l.l), mean(|l| l.a), mean(|l| l.b)), neutral);
        MassMark { mass: id, area, target, zones: mostly.iter().filter(|(_, m)| **m == id).map(|(z, _)| *z).collect() }
    };
    piece.masses.iter().map(|m| mark(m.id)).collect()
}

/// Where the two dials stand.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dials {
    /// Colours of the plan.
    pub colours: usize,
    /// Fewest colours the dial asks for.
    pub fewest: usize,
    /// Most colours the dial asks for.
    pub most: usize,
    /// The brush in millimetres on the piece.
    pub brush: Millimetres,
    /// The smallest brush.
    pub smallest: Millimetres,
    /// The largest brush.
    pub largest: Millimetres,
    /// Places at this brush.
    pub places: usize,
    /// Zones that have no place as large as the brush.
    pub too_small: Vec<ZoneId>,
    /// Whether the zones were cut by the dials; otherwise a turn of the dial of colours finds them anew.
    pub cut: bool,
}

impl Dials {
    fn of(piece: &Piece) -> Option<Self> {
        let reference = piece.reference.as_ref().filter(|r| !r.lines)?;
        piece.zone_map.as_ref()?;
        let longer = longer_side(piece, reference);
        let here = piece.geometry();
        Some(Self {
            colours: piece.zones.len(),
            fewest: *COLOUR_RANGE.start(),
            most: *COLOUR_RANGE.end(),
            brush: Millimetres(piece.cut.as_ref().map_or(MIDDLE, |c| c.brush) * longer),
            smallest: Millimetres(SMALLEST * longer),
            largest: Millimetres(LARGEST * longer),
            places: here.places.len(),
            too_small: piece.zones.iter().map(|z| z.id).filter(|z| here.places_of(z.0).is_empty()).collect(),
            cut: piece.cut.is_some(),
        })
    }
}

/// Millimetres that the longer side of the reference takes on the piece: it is laid as large as the piece holds it.
pub fn longer_side(piece: &Piece, reference: &Reference) -> f64 {
    let (w, h) = (f64::from(reference.width.max(1)), f64::from(reference.height.max(1)));
    let size = piece.brief.size;
    (size.width.0 / w).min(size.height.0 / h) * w.max(h)
}

/// What of a piece is shown anew many times a second while a mark is dragged.
pub struct Glimpse {
    /// Every mix.
    pub mixes: Vec<ZoneMix>,
    /// The same in words.
    pub told: Vec<MixInWords>,
    /// The tray.
    pub wells: Vec<Well>,
    /// What would be noticed.
    pub findings: Vec<Finding>,
    /// Cost of the set in use.
    pub cost: Option<f64>,
}

/// Works out of `piece` only what a drag shows: the same as [`derived`], without the rest. `lists` keeps recipes from one question to the next.
pub fn glimpse(piece: &Piece, paint_box: Option<&PaintBox>, lists: &RecipeLists) -> Glimpse {
    let mut seen = Glimpse { mixes: Vec::new(), told: Vec::new(), wells: Vec::new(), findings: Vec::new(), cost: None };
    let mut reach = None;
    if let Some(paint_box) = paint_box.filter(|_| !piece.chosen.pigments.is_empty()) {
        let listing = lists.of(&mixes::palette_of(piece, paint_box, &mixes::pigments_of(paint_box, &piece.chosen.pigments)));
        let recipes = listing.recipes();
        seen.mixes = mixes::mixes(piece, recipes);
        seen.told = mixes::told(&seen.mixes, paint_box);
        seen.wells = mixes::wells(piece, paint_box, recipes, &seen.mixes);
        reach = mixes::reach_within(recipes).map(|r| r.within_rules(piece));
        let targets = targets(piece);
        seen.cost = (targets.iter().map(|t| t.weight).sum::<f64>() > 0.0).then(|| recipes.cost_of(&targets, piece.cost()));
    }
    if reach.is_none() {
        reach = paint_box.and_then(|b| mixes::reach_of(piece, b)).map(|r| r.within_rules(piece));
    }
    seen.findings = findings(piece, &seen.mixes, &seen.wells, reach);
    seen
}

/// Works out what follows from `piece` with the Box it draws on. `lists` keeps recipes from one question to the next.
pub fn derived(piece: &Piece, paint_box: Option<&PaintBox>, lists: &RecipeLists) -> Derived {
    let neutral = piece.neutral();
    let masses = mass_of(piece);
    let shapes = piece
        .zones
        .iter()
        .map(|z| ZoneShape {
            zone: z.id,
            places: piece.geometry().places_of(z.id.0).len(),
            mass: masses.get(&z.id).copied(),
            reading: Mark::of(z.reading.lab, neutral),
            target: Mark::of(piece.wanted(z), neutral),
            graded_to: z.graded.map(|g| Mark::of(piece.within_rules(g.to), neutral)),
        })
        .collect();
    let mut derived = Derived {
        map: piece.zone_map.as_ref().map(MapLine::of),
        mass_map: piece.mass_map.as_ref().map(MapLine::of),
        dials: Dials::of(piece),
        masses: mass_marks(piece, neutral),
        straddling: straddling(piece),
        shapes,
        borders: piece.geometry().borders.iter().map(|(a, b, _)| [ZoneId(*a), ZoneId(*b)]).collect(),
        mixes: Vec::new(),
        told: Vec::new(),
        wells: Vec::new(),
        reach: Vec::new(),
        cost: None,
        finer_gain: None,
        kin_loss: None,
        let_downs: Vec::new(),
        pans: Vec::new(),
        among: Vec::new(),
        riskiest: None,
        loosened: paint_box.and_then(|b| loosened(piece, b)).unwrap_or_default(),
        next: None,
        order: order_of_work(piece),
        light: DerivedLight::default(),
        findings: Vec::new(),
        asked: piece.asked(),
        basis: basis(piece, paint_box),
        too_little: paint_box.map(|b| too_little(piece, b)).unwrap_or_default(),
        seconds: offers(piece.brief.medium),
    };
    let mut reach = None;
    if let Some(paint_box) = paint_box.filter(|_| !piece.chosen.pigments.is_empty()) {
        let listing = lists.of(&mixes::palette_of(piece, paint_box, &mixes::pigments_of(paint_box, &piece.chosen.pigments)));
        let recipes = listing.recipes();
        derived.mixes = mixes::mixes(piece, recipes);
        derived.told = mixes::told(&derived.mixes, paint_box);
        let name = mixes::named(Some(paint_box));
        derived.let_downs = mixes::let_downs(piece, &derived.mixes, &name);
        if piece.brief.medium == Medium::Watercolour {
            let pans: Vec<_> = mixes::pigments_of(paint_box, &piece.chosen.pigments).into_iter().filter(|p| p.second.is_none()).collect();
            derived.pans = mixes::pans(&pans);
        }
        derived.among = mixes::among(piece, &derived.mixes, &derived.order.zones, recipes, &name);
        derived.riskiest = mixes::riskiest(piece, &derived.mixes);
        derived.wells = mixes::wells(piece, paint_box, recipes, &derived.mixes);
        derived.reach = mixes::reach(recipes, neutral);
        reach = mixes::reach_within(recipes).map(|r| r.within_rules(piece));
        let targets = targets(piece);
        if targets.iter().map(|t| t.weight).sum::<f64>() > 0.0 {
            let cost = recipes.cost_of(&targets, piece.cost());
            derived.cost = Some(cost);
            derived.finer_gain =
                (piece.mixing.finer && piece.brief.medium.is_wet_opaque()).then(|| usual_cost(piece, paint_box, lists) - cost);
            derived.kin_loss = piece.mixing.kin.then(|| mixes::cost_of(piece, &derived.mixes, recipes.fitted(piece.cost())) - cost);
        }
    }
    if reach.is_none() {
        reach = paint_box.and_then(|b| mixes::reach_of(piece, b)).map(|r| r.within_rules(piece));
    }
    derived.next = next(piece, paint_box, reach);
    derived.light = DerivedLight::of(piece, &derived.mixes, reach);
    derived.findings = findings(piece, &derived.mixes, &derived.wells, reach);
    derived
}

/// How light orders a plan.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DerivedLight {
    /// The light in a few words.
    pub words: String,
    /// The key the moods ask for.
    pub key: Key,
    /// What values can be reached; `None` without a Box.
    pub reach: Option<Reach>,
    /// Neighbours whose difference shrank from reference to plan.
    pub squeezed: Vec<Squeezed>,
    /// Zones in the order in which they catch the eye.
    pub eye: Vec<ZoneId>,
    /// Colours that light thrown back, or what lies under a surface, would give zones.
    pub travels: Vec<Travels>,
    /// How the plan speaks on its wall, in a sentence; empty without a wall.
    pub on_the_wall: String,
    /// The balance of the room in the photo of the wall, in a sentence; empty where it was not read.
    pub room: String,
    /// The ground the school would take; `None` where that cannot be told yet.
    pub suits: Option<Suits>,
    /// Its proportion against the reference's.
    pub proportion: Proportion,
    /// How the piece lies on its sheet.
    pub lies: Option<Lies>,
    /// How far the reference carries; `None` without one.
    pub carries: Option<Carries>,
}

impl DerivedLight {
    fn of(piece: &Piece, mixes: &[ZoneMix], reach: Option<Reach>) -> Self {
        let plan = Plan::of(piece, mixes, reach);
        let voice = piece.wall.as_ref().and_then(|w| loudness::voice(piece, &w.reading));
        Self {
            words: piece.lighting.describe(),
            key: piece.intent.key(),
            reach,
            squeezed: squeezed(piece),
            travels: travels(&plan, piece.neutral()),
            eye: order_of_pull(&plan).into_iter().map(|(z, _)| z).collect(),
            on_the_wall: voice.map(|v| loudness::sentence(&v)).unwrap_or_default(),
            room: piece.wall.as_ref().and_then(|w| w.reading.room).map(|r| crate::wall::room::sentence(&r)).unwrap_or_default(),
            suits: suits(piece),
            proportion: proportion(piece.brief.size, piece.reference.as_ref().map(|r| (r.width, r.height))),
            lies: Some(lies(&piece.intent.fit, piece.brief.size, piece.intent.units)),
            carries: piece.reference.as_ref().map(|r| carries((r.width, r.height), piece.brief.size, r.sharpness, piece.intent.units)),
        }
    }
}

/// What the set in use costs with mixes of the usual eight parts.
fn usual_cost(piece: &Piece, paint_box: &PaintBox, lists: &RecipeLists) -> f64 {
    let usual = Piece { mixing: lean_piece::Mixing { finer: false, parts: true, ..piece.mixing.clone() }, ..piece.clone() };
    let listing = lists.of(&mixes::palette_of(&usual, paint_box, &mixes::pigments_of(paint_box, &piece.chosen.pigments)));
    listing.recipes().cost_of(&targets(piece), piece.cost())
}
