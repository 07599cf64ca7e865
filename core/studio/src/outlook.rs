//! Everything the bench shows of a piece that follows from it: marks, mixes, tray, reach, findings.

use crate::findings::{Finding, Plan, findings, order_of_pull};
use crate::intent::fit::{Carries, Lies, Proportion, carries, proportion};
use crate::intent::grounds::{Suits, suits};
use crate::lean::exact::Recipes;
use crate::light::key::{Key, Reach, Squeezed, squeezed};
use crate::mixes::{self, Mark, ReachRow, Well, ZoneMix};
use crate::order_of_work::{OrderOfWork, order_of_work};
use crate::paint_box::PaintBox;
use crate::piece::{Piece, ZoneId};
use crate::wall::loudness;
use lean_picture::outline::{self, Arc, TOLERANCE};
use serde::Serialize;

/// A zone where it lies on the picture and in the field.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneShape {
    /// Which zone.
    pub zone: ZoneId,
    /// SVG path data in cells of the zone grid; fill by the even–odd rule.
    pub path: String,
    /// Where its number is written, in cells.
    pub heart_x: f64,
    /// Where its number is written, in cells.
    pub heart_y: f64,
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
pub struct Outlook {
    /// Cells across the zone grid; 0 without zones.
    pub grid_width: u32,
    /// Cells down the zone grid.
    pub grid_height: u32,
    /// Every zone.
    pub shapes: Vec<ZoneShape>,
    /// Pairs of zones that share a border.
    pub borders: Vec<[ZoneId; 2]>,
    /// A recipe for every zone; empty without a set.
    pub mixes: Vec<ZoneMix>,
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
    /// In which order the zones are laid.
    pub order: OrderOfWork,
    /// How light orders the plan.
    pub light: LightOutlook,
    /// What was noticed.
    pub findings: Vec<Finding>,
    /// Fingerprint of zones, locks and Box: compare with that of a search or study.
    pub basis: String,
}

/// Works out what follows from `piece` with the Box it draws on.
pub fn outlook(piece: &Piece, paint_box: Option<&PaintBox>) -> Outlook {
    let neutral = piece.neutral();
    let (arcs, grid) = arcs(piece);
    let shapes = piece
        .zones
        .iter()
        .map(|z| {
            let heart = piece.zone_map.as_ref().and_then(|m| m.heart(z.id.0)).unwrap_or((0, 0));
            ZoneShape {
                zone: z.id,
                path: outline::path_data(&outline::rings(&arcs, z.id.0)),
                heart_x: f64::from(heart.0) + 0.5,
                heart_y: f64::from(heart.1) + 0.5,
                reading: Mark::of(z.reading.lab, neutral),
                target: Mark::of(piece.wanted(z), neutral),
                graded_to: z.graded.map(|g| Mark::of(piece.within_rules(g.to), neutral)),
            }
        })
        .collect();
    let borders = piece.zone_map.as_ref().map(|m| m.borders()).unwrap_or_default();
    let mut outlook = Outlook {
        grid_width: grid.0,
        grid_height: grid.1,
        shapes,
        borders: borders.into_iter().map(|(a, b, _)| [ZoneId(a), ZoneId(b)]).collect(),
        mixes: Vec::new(),
        wells: Vec::new(),
        reach: Vec::new(),
        cost: None,
        finer_gain: None,
        kin_loss: None,
        order: order_of_work(piece),
        light: LightOutlook::default(),
        findings: Vec::new(),
        basis: basis(piece, paint_box),
    };
    let mut reach = None;
    if let Some(paint_box) = paint_box.filter(|_| !piece.chosen.pigments.is_empty()) {
        let craft = mixes::craft_of(piece, paint_box, &mixes::pigments_of(paint_box, &piece.chosen.pigments));
        let recipes = Recipes::of(craft.as_ref());
        outlook.mixes = mixes::mixes(piece, &recipes);
        outlook.wells = mixes::wells(piece, paint_box, &recipes, &outlook.mixes);
        outlook.reach = mixes::reach(&recipes, neutral);
        reach = mixes::reach_within(&recipes).map(|r| r.within_rules(piece));
        let targets = mixes::targets(piece);
        if targets.iter().map(|t| t.weight).sum::<f64>() > 0.0 {
            let cost = recipes.cost_of(&targets, piece.cost());
            outlook.cost = Some(cost);
            outlook.finer_gain = (piece.mixing.finer && piece.brief.medium.is_wet_opaque()).then(|| usual_cost(piece, paint_box) - cost);
            outlook.kin_loss = piece.mixing.kin.then(|| mixes::cost_of(piece, &outlook.mixes) - cost);
        }
    }
    if reach.is_none() {
        reach = paint_box.and_then(|b| mixes::reach_of(piece, b)).map(|r| r.within_rules(piece));
    }
    outlook.light = LightOutlook::of(piece, &outlook.mixes, reach);
    outlook.findings = findings(piece, &outlook.mixes, &outlook.wells, reach);
    outlook
}

/// How light orders a plan.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LightOutlook {
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
    /// How the plan speaks on its wall, in a sentence; empty without a wall.
    pub on_the_wall: String,
    /// The ground the school would take; `None` where that cannot be told yet.
    pub suits: Option<Suits>,
    /// Its proportion against the reference's.
    pub proportion: Proportion,
    /// How the piece lies on its sheet.
    pub lies: Option<Lies>,
    /// How far the reference carries; `None` without one.
    pub carries: Option<Carries>,
}

impl LightOutlook {
    fn of(piece: &Piece, mixes: &[ZoneMix], reach: Option<Reach>) -> Self {
        let plan = Plan::of(piece, mixes, reach);
        let voice = piece.wall.as_ref().and_then(|w| loudness::voice(piece, &w.reading));
        Self {
            words: piece.lighting.describe(),
            key: piece.intent.key(),
            reach,
            squeezed: squeezed(piece),
            eye: order_of_pull(&plan).into_iter().map(|(z, _)| z).collect(),
            on_the_wall: voice.map(|v| loudness::sentence(&v)).unwrap_or_default(),
            suits: suits(piece),
            proportion: proportion(piece.brief.size, piece.reference.as_ref().map(|r| (r.width, r.height))),
            lies: Some(piece.intent.fit.lies(piece.brief.size, piece.intent.units)),
            carries: piece.reference.as_ref().map(|r| carries((r.width, r.height), piece.brief.size, r.sharpness, piece.intent.units)),
        }
    }
}

/// What the set in use costs with mixes of the usual eight parts.
fn usual_cost(piece: &Piece, paint_box: &PaintBox) -> f64 {
    let usual = Piece { mixing: crate::piece::Mixing { finer: false, ..piece.mixing }, ..piece.clone() };
    let craft = mixes::craft_of(&usual, paint_box, &mixes::pigments_of(paint_box, &piece.chosen.pigments));
    Recipes::of(craft.as_ref()).cost_of(&mixes::targets(piece), piece.cost())
}

/// Simplified edges of a piece's zones and the size of their grid.
pub fn arcs(piece: &Piece) -> (Vec<Arc>, (u32, u32)) {
    piece.zone_map.as_ref().map_or((Vec::new(), (0, 0)), |m| (outline::arcs(m, TOLERANCE), (m.width, m.height)))
}

/// Fingerprint of what a search or study depends on (FNV-1a, 64 bits).
pub fn basis(piece: &Piece, paint_box: Option<&PaintBox>) -> String {
    let zones: Vec<_> = piece.zones.iter().map(|z| (z.id, piece.wanted(z), z.importance, z.reading.area)).collect();
    let pigments: Vec<_> = paint_box.map(|b| b.pigments.iter().map(|p| (&p.id, &p.k, &p.s, p.white)).collect()).unwrap_or_default();
    let asked = (
        &piece.locked,
        &piece.excluded,
        &piece.asked(),
        piece.matching(),
        piece.intent.games.most_pigments,
        &piece.wished,
        &piece.aim,
        &piece.brief.medium,
        &piece.brief.ground,
    );
    let text = serde_json::to_string(&(zones, asked, pigments)).unwrap_or_default();
    let hash = text.bytes().fold(0xcbf2_9ce4_8422_2325u64, |h, b| (h ^ u64::from(b)).wrapping_mul(0x0100_0000_01b3));
    format!("{hash:016x}")
}
