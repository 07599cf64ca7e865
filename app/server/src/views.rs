//! What goes over the wire: core types, and what a page needs beside them.

use crate::filling::DemoFilling;
use crate::seen_version::version_of;
use lean_colour::{Srgb8, Steps, Value};
use lean_media::pigment::Owned;
use lean_media::{Ground, Medium, Pigment, PigmentId, Provenance, Second, ground};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::wall::Drawn;
use lean_piece::{Piece, ZoneId};
use lean_plan::cautions::{Caution, cautions};
use lean_plan::compare;
use lean_plan::derived::{Derived, derived};
use lean_plan::field_note::{FieldNote, SaidColour, colour_said};
use lean_plan::mark::Mark;
use lean_plan::mixes::swatch;
use lean_plan::studies::StudyNote;
use lean_plan::studies::note::note;
use lean_plan::wording::known::{known, known_in_full};
use lean_search::RecipeLists;
use lean_store::{Damaged, Kept, KeptNote, Line, Record, Summary};
use serde::{Deserialize, Serialize};

/// A piece with everything the bench shows of it.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PieceView {
    /// Its number.
    pub id: i64,
    /// Counts every change; send it back with the next one.
    pub revision: i64,
    /// The piece. Its zone map is left out: the derived has the shapes.
    pub piece: Piece,
    /// What follows from it.
    pub derived: Derived,
    /// The ground it lies on.
    pub ground: Ground,
    /// Ways to hang it as they look in the photo of the wall; none for one that cannot be drawn.
    pub on_wall: Vec<Option<Drawn>>,
    /// Zones from light to dark, those of equal value together.
    pub equal_values: Vec<Vec<ZoneId>>,
    /// Chart cells for the screen, in their order.
    pub chart_marks: Vec<Mark>,
    /// Studies in words.
    pub study_notes: Vec<StudyNote>,
    /// What undo would take back.
    pub undo: Option<String>,
    /// What redo would bring back.
    pub redo: Option<String>,
}

impl PieceView {
    /// The view of a kept piece with the Box it draws on.
    pub(crate) fn of(kept: Kept, paint_box: Option<&PaintBox>, lists: &RecipeLists) -> Self {
        let derived = derived(&kept.piece, paint_box, lists);
        let neutral = kept.piece.neutral();
        let study_notes = kept.piece.studies.iter().map(|s| note(&kept.piece, paint_box, s, &derived.basis)).collect();
        let on_wall = kept.piece.wall.as_ref().map(|w| w.candidates.iter().map(|c| w.drawn(c)).collect()).unwrap_or_default();
        let equal_values = compare::equal_values(&kept.piece);
        let chart_marks = kept.piece.chart.iter().flat_map(|c| &c.cells).map(|c| Mark::of(c.lab, neutral)).collect();
        let ground = kept.piece.ground();
        let mut piece = kept.piece;
        (piece.zone_map, piece.mass_map, piece.cut) = (None, None, None);
        Self {
            id: kept.id,
            revision: kept.revision,
            piece,
            derived,
            ground,
            on_wall,
            equal_values,
            chart_marks,
            study_notes,
            undo: kept.undo,
            redo: kept.redo,
        }
    }
}

/// A field note with its number.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NoteView {
    /// Its number.
    pub id: i64,
    /// Counts every change: what a change is written over.
    pub revision: i64,
    /// The note.
    pub note: FieldNote,
    /// The colour that each mark says, in their order; `None` where none is understood.
    pub said: Vec<Option<SaidView>>,
    /// When it last changed, UTC.
    pub changed: String,
}

/// A colour that words say.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct SaidView {
    /// For the screen.
    pub screen: Srgb8,
    /// Its value, 0..=10.
    #[cfg_attr(feature = "description", schema(value_type = f64))]
    pub value: Value,
    /// Expected error of the value, in steps.
    #[cfg_attr(feature = "description", schema(value_type = f64))]
    pub give_or_take: Steps,
}

impl From<SaidColour> for SaidView {
    fn from(said: SaidColour) -> Self {
        Self { screen: said.lab.xyz().srgb(), value: said.lab.value(), give_or_take: Steps(said.value_error / 10.0) }
    }
}

impl From<KeptNote> for NoteView {
    fn from(k: KeptNote) -> Self {
        let said = k.note.marks.iter().map(|m| colour_said(m, None).map(SaidView::from)).collect();
        Self { id: k.id, revision: k.revision, note: k.note, said, changed: k.changed }
    }
}

/// A record that cannot be read.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct DamagedLine {
    /// What it was.
    pub what: RecordKind,
    /// Its number or id.
    pub id: String,
    /// Why it cannot be read.
    pub why: String,
}

/// Which kind of record.
#[derive(Clone, Copy, Debug, Serialize, Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum RecordKind {
    /// A piece.
    Piece,
    /// A Box.
    Box,
    /// A field note.
    FieldNote,
    /// A reading of a swatch.
    Reading,
    /// A ground of one's own.
    Ground,
    /// An answer given in a drill.
    Answer,
    /// A paired device.
    Device,
}

impl From<RecordKind> for Record {
    fn from(kind: RecordKind) -> Self {
        match kind {
            RecordKind::Piece => Self::Piece,
            RecordKind::Box => Self::PaintBox,
            RecordKind::FieldNote => Self::FieldNote,
            RecordKind::Reading => Self::Reading,
            RecordKind::Ground => Self::Ground,
            RecordKind::Answer => Self::Answer,
            RecordKind::Device => Self::Device,
        }
    }
}

impl From<Damaged> for DamagedLine {
    fn from(d: Damaged) -> Self {
        let what = match d.record {
            Record::Piece => RecordKind::Piece,
            Record::PaintBox => RecordKind::Box,
            Record::FieldNote => RecordKind::FieldNote,
            Record::Reading => RecordKind::Reading,
            Record::Ground => RecordKind::Ground,
            Record::Answer => RecordKind::Answer,
            Record::Device => RecordKind::Device,
        };
        Self { what, id: d.id, why: d.why }
    }
}

/// A line in the list of pieces.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PieceLine {
    /// Its number.
    pub id: i64,
    /// Its title.
    pub title: String,
    /// Its medium.
    pub medium: Medium,
    /// Zones it has.
    pub zones: usize,
    /// Studies made.
    pub studies: usize,
    /// Whether it has a reference.
    pub has_reference: bool,
    /// The day it must be finished.
    pub due: Option<String>,
    /// The day it came out, or was given up.
    pub ended: Option<String>,
    /// When it last changed, UTC.
    pub changed: String,
}

impl From<Summary> for PieceLine {
    fn from(s: Summary) -> Self {
        let Line { title, medium, zones, studies, has_reference, due, ended } = s.line;
        Self { id: s.id, title, medium, zones, studies, has_reference, due, ended, changed: s.changed }
    }
}

/// A pigment without its spectra.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PigmentView {
    /// Which.
    pub id: PigmentId,
    /// Plain name.
    pub name: String,
    /// Colour Index generic names.
    pub colour_index: Vec<String>,
    /// White is free in every mix.
    pub white: bool,
    /// How it looks alone.
    pub mark: Mark,
    /// Light-fastness as commonly stated.
    pub lightfastness: String,
    /// What calls for a caution.
    pub hazard: String,
    /// Where its numbers come from.
    pub provenance: Provenance,
    /// How sure its own colour is, in CIELAB units; `None` while nothing was read of it.
    pub doubt: Option<f64>,
    /// Where they come from and whether it is at hand, in a word or two; empty of what is only modelled.
    pub known: String,
    /// Where they come from, in a sentence.
    pub known_in_full: String,
    /// What the painter says of it.
    pub owned: Owned,
    /// Bites into paper and hardly lifts.
    pub staining: bool,
    /// Gathers in the hollows of the paper.
    pub granulating: bool,
    /// What it is laid as, where it comes from a second Box.
    pub second: Option<Second>,
    /// The state it is in: sent back with a change of what is said of it.
    pub version: String,
    /// Pieces whose set it is in; counted for a Box alone.
    pub used_in: u32,
    /// How strong it is beside the others of its Box, from its absorption, 0 weak to 1 strong.
    pub strength: f64,
}

impl PigmentView {
    /// A pigment for the screen, as it looks in a medium on its usual ground.
    pub(crate) fn of(p: &Pigment, medium: Medium) -> Self {
        Self {
            id: p.id.clone(),
            name: p.name.clone(),
            colour_index: p.colour_index.clone(),
            white: p.white,
            version: version_of(p),
            mark: Mark::of(swatch(medium, &ground::usual(medium), p), lean_colour::Temperature(0.0)),
            lightfastness: p.lightfastness.clone(),
            hazard: p.hazard.clone(),
            provenance: p.provenance.clone(),
            doubt: p.doubt,
            known: known(p),
            known_in_full: known_in_full(p),
            owned: p.owned.clone(),
            staining: p.staining,
            granulating: p.granulating,
            second: p.second,
            used_in: 0,
            strength: strength(p),
        }
    }
}

/// How strong a pigment tints, from its absorption where it absorbs most, on a scale that evens out the many orders of size.
fn strength(p: &Pigment) -> f64 {
    let (peak, scatters) = (p.peak(), p.s.iter().sum::<f64>() / p.s.len().max(1) as f64);
    (((peak / (1.0 + scatters)).ln() + 3.0) / 7.0).clamp(0.0, 1.0)
}

/// A Box for the screen.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct BoxView {
    /// Its id.
    pub id: BoxId,
    /// Its name.
    pub name: String,
    /// Its medium.
    pub medium: Medium,
    /// The state it is in: sent back with an inventory.
    pub version: String,
    /// What is in it, lightest first.
    pub pigments: Vec<PigmentView>,
    /// Cautions for working with it.
    pub cautions: Vec<Caution>,
}

impl BoxView {
    /// A Box for the screen.
    pub(crate) fn of(id: BoxId, b: &PaintBox) -> Self {
        let mut pigments: Vec<PigmentView> = b.pigments.iter().map(|p| PigmentView::of(p, b.medium)).collect();
        pigments.sort_by(|a, b| b.mark.value.0.total_cmp(&a.mark.value.0));
        let cautions = cautions(b.medium, &b.pigments.iter().collect::<Vec<_>>());
        Self { id, name: b.name.clone(), medium: b.medium, version: version_of(b), pigments, cautions }
    }
}

/// A line in the list of Boxes.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct BoxLine {
    /// Its id.
    pub id: BoxId,
    /// Its name.
    pub name: String,
    /// Its medium.
    pub medium: Medium,
    /// How many pigments it holds.
    pub pigments: usize,
}

/// A Box in a studio without instruments that holds readings a simulated one made up.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PlayedReadings {
    /// The Box.
    pub paint_box: BoxId,
    /// Its name.
    pub name: String,
    /// Number of such readings that are not set aside.
    pub readings: usize,
}

/// Everything there is to choose from.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct StudioView {
    /// Pieces, the one changed last first.
    pub pieces: Vec<PieceLine>,
    /// Boxes by name.
    pub boxes: Vec<BoxLine>,
    /// Records that cannot be read.
    pub damaged: Vec<DamagedLine>,
    /// Problems of the data file and its backups, a sentence each; empty where there is none.
    pub troubles: Vec<String>,
    /// Shipped grounds, and those of one's own.
    pub grounds: Vec<Ground>,
    /// Whether the demo studio can be visited from here.
    pub demo: bool,
    /// In a demo studio that is visited: the address it is left to.
    pub home: Option<String>,
    /// True where a simulated colour meter and camera stand here.
    pub simulates: bool,
    /// Boxes with readings that a simulated instrument made up, where there is none.
    pub played: Vec<PlayedReadings>,
    /// True where the program can be ended from the page.
    pub can_quit: bool,
    /// Where the data file of an earlier version is kept as it was before this one opened it; none where it was not.
    pub earlier_data: Option<String>,
    /// While a demo studio is being filled: its progress.
    pub filling: Option<DemoFilling>,
}
