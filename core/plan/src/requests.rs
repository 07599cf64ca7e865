//! What a painter may ask of a piece directly. Facts about pixels and searches come from the work itself, never from outside.

use lean_colour::Lab;
use lean_media::PigmentId;
use lean_picture::spot::Spot;
use lean_piece::easel::{Departure, Easel, ProgressPhoto, TaskId};
use lean_piece::intent::Intent;
use lean_piece::light::{Distance, Facts, Key, Lighting, Plane, Which};
use lean_piece::paint_box::BoxId;
use lean_piece::wall::{Candidate, Heard, Measure};
use lean_piece::{
    Aim, Brief, Compositions, Dismissal, Importance, MassId, Millimetres, Mixing, Other, PlaneShape, Serves, Session, SheetSettings,
    StudyNumber, Together, Wished, Worked, ZoneId,
};
use lean_search::Demands;
use serde::{Deserialize, Serialize};

/// A change asked for by the painter.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "do")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Request {
    /// Title, medium, ground and size.
    SetBrief {
        /// The whole new brief.
        brief: Brief,
    },
    /// Lay a zone in several mixes side by side.
    UseSurface {
        /// The zone.
        zone: ZoneId,
        /// Manner in which they share it.
        worked: Worked,
        /// Number of siblings, 2..=12.
        count: usize,
        /// From where dabs are seen, in millimetres.
        distance: Millimetres,
    },
    /// Lay a zone in one mix again.
    DropSurface {
        /// The zone.
        zone: ZoneId,
    },
    /// Draw on another Box of the same medium.
    UseBox {
        /// Which.
        paint_box: BoxId,
    },
    /// Draw on a second Box, laid over the first medium or taken for the studies; nothing keeps to one medium.
    DrawOnTwo {
        /// What and from which Box.
        together: Option<Together>,
    },
    /// Give a zone a name.
    RenameZone {
        /// Which.
        zone: ZoneId,
        /// At most 80 characters; empty takes the name away.
        name: String,
    },
    /// Say how much a zone matters.
    SetImportance {
        /// Which.
        zone: ZoneId,
        /// How much.
        importance: Importance,
    },
    /// Say what a zone should be.
    SetTarget {
        /// Which.
        zone: ZoneId,
        /// The wanted colour.
        target: Lab,
    },
    /// What it is for and by which rules it is made.
    SetIntent {
        /// All of it.
        intent: Intent,
    },
    /// What falls on it.
    SetLighting {
        /// All of it.
        lighting: Lighting,
    },
    /// Say how a zone stands in the light.
    SetFacts {
        /// Which.
        zone: ZoneId,
        /// All that is known; it counts as said by hand.
        facts: Facts,
    },
    /// Propose plane, distance, role and kind for every zone nothing was said about.
    ProposeFacts,
    /// Say that everything proposed of the light is so: findings go by it from now on.
    ConfirmFacts,
    /// Say what several zones should be.
    SetTargets {
        /// Which and what.
        targets: Vec<ZoneTarget>,
        /// What was done, for the line that says what was undone; at most 200 characters.
        #[cfg_attr(feature = "schema", schema(max_length = 200))]
        what: String,
    },
    /// Map the values of the reference into what can be reached.
    MapValues {
        /// Which part of the range.
        key: Key,
        /// As read: from 0, which keeps lights and middles where they are, to 1, which keeps differences between neighbours; the usual place
        /// between when left out.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
        differences: Option<f64>,
    },
    /// Give the shapes of a drawing the values of one of the proposed plans.
    PlanValues {
        /// 1, 2 or 3.
        #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
        plan: u8,
        /// Shapes that stay as they are planned.
        #[serde(default)]
        keep: Vec<ZoneId>,
    },
    /// Leave shapes of a drawing bare, or take their colour back.
    LeaveBare {
        /// The shapes.
        zones: Vec<ZoneId>,
        /// Bare paper, rather than open.
        bare: bool,
    },
    /// Targets from the rules of light alone.
    TargetsFromRules,
    /// Let a target run to another colour, or not.
    SetGraded {
        /// The zone.
        zone: ZoneId,
        /// Where to and which way; `None` makes it even again.
        graded: Option<Grading>,
    },
    /// Say what is known of a mass. Zones nothing was said of by hand follow it.
    SayOfMass {
        /// Which.
        mass: MassId,
        /// What.
        said: OfMass,
    },
    /// Join two masses.
    JoinMasses {
        /// The one that stays.
        into: MassId,
        /// The other.
        from: MassId,
    },
    /// Part a mass along a drawn line.
    PartMass {
        /// Which.
        mass: MassId,
        /// The line.
        stroke: Vec<Spot>,
    },
    /// Redraw the border of a mass.
    RedrawMass {
        /// Which.
        mass: MassId,
        /// The line.
        stroke: Vec<Spot>,
    },
    /// Keep a zone when zones are proposed anew, or not.
    KeepZone {
        /// Which.
        zone: ZoneId,
        /// Whether it stays.
        kept: bool,
    },
    /// Panels, measure and meaning of the wall.
    SetWall {
        /// What is known about lengths.
        measure: Option<Measure>,
        /// Ways to hang it.
        candidates: Vec<Candidate>,
        /// The one taken.
        taken: Option<usize>,
        /// How it is meant to be heard.
        heard: Option<Heard>,
    },
    /// Take the wall away.
    RemoveWall,
    /// Say what the main reference is for.
    SetServes {
        /// For what; empty for everything.
        serves: Vec<Serves>,
    },
    /// Say what the other references are for, or leave some out.
    SetOthers {
        /// Those that stay.
        others: Vec<Other>,
    },
    /// Choose among compositions and say why.
    SetCompositions {
        /// The sheet, or none.
        compositions: Option<Compositions>,
    },
    /// Planes dragged into place where there is no reference.
    LayPlanes {
        /// The planes, from back to front.
        planes: Vec<PlaneShape>,
    },
    /// Colours of another picture the set should serve too, or none.
    SetWished {
        /// Them.
        wished: Option<Wished>,
    },
    /// Log work done on the piece.
    SetSessions {
        /// All sessions.
        sessions: Vec<Session>,
    },
    /// Log a session just ended, with the tasks that were done in it.
    LogSession {
        /// The session.
        session: Session,
        /// What was done.
        tasks: Vec<TaskId>,
        /// When it ended, in local time as `2025-01-18T19:40`; `None` when nobody knows any more.
        at: Option<String>,
    },
    /// Say which pigments must and must not be in a set.
    SetChoice {
        /// Must be in.
        locked: Vec<PigmentId>,
        /// Must not be in.
        excluded: Vec<PigmentId>,
    },
    /// Say what else is asked of a set.
    SetDemands {
        /// All of it.
        demands: Demands,
    },
    /// Say what the search aims at.
    SetAim {
        /// All of it.
        aim: Aim,
    },
    /// Say how mixes are made.
    SetMixing {
        /// All of it.
        mixing: Mixing,
    },
    /// Take a set into use: at most eight pigments of the Box.
    ChooseSet {
        /// The set.
        pigments: Vec<PigmentId>,
    },
    /// Carry a study forward, or none.
    ChooseStudy {
        /// Which.
        number: Option<StudyNumber>,
    },
    /// Make a study the plan. The plan as it was stays as a study.
    GoOn {
        /// Which study.
        number: StudyNumber,
        /// Pigments the large piece may have beyond those of the study, 0 to 6; `None` leaves locks and sizes alone.
        #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 6))]
        more: Option<u8>,
    },
    /// Keep a reason and the minutes spent with a study.
    NoteStudy {
        /// Which study.
        number: StudyNumber,
        /// Why it was chosen, or what is to be remembered; at most 300 characters.
        reason: String,
        /// Minutes spent painting it.
        minutes: u32,
        /// Since when its clock runs, in seconds of Unix time; `None` while it stands.
        #[serde(default)]
        running_since: Option<i64>,
    },
    /// Give zones a hue and a chroma; their values stay.
    Colour {
        /// Which zones.
        zones: Vec<ZoneId>,
        /// Which colour.
        how: Colouring,
        /// Their local colour instead of what is planned.
        #[serde(default)]
        local: bool,
    },
    /// Say how studies are printed.
    SetSheet {
        /// The settings.
        sheet: SheetSettings,
    },
    /// Answer a finding with a reason.
    Dismiss {
        /// Which and why.
        dismissal: Dismissal,
    },
    /// Take all answers back.
    BringBackFindings,
    /// Say how the piece is carried out. What is done, ordered and photographed stays.
    SetEasel {
        /// All that is decided.
        easel: Easel,
    },
    /// A task is done, or not yet after all.
    DidTask {
        /// Which.
        task: TaskId,
        /// Whether it is done.
        done: bool,
        /// When, in local time as `2025-01-18T19:40`; `None` when nobody knows any more.
        at: Option<String>,
    },
    /// Leave a task out, or not after all.
    SkipTask {
        /// Which.
        task: TaskId,
        /// Whether it is left out.
        skipped: bool,
    },
    /// Do one task before another.
    PutTaskBefore {
        /// The first.
        task: TaskId,
        /// The other.
        before: TaskId,
    },
    /// The order of work is the usual one again, and nothing is left out.
    UsualOrder,
    /// The painting goes its own way.
    Depart {
        /// Where and why.
        departure: Departure,
    },
    /// A departure is taken back.
    TakeBackDeparture {
        /// Its place in the list, from 0.
        at: usize,
    },
    /// Say how a photo of the progress lies over the plan and what stage it shows, or take it off.
    SetProgressPhoto {
        /// Its place in the list, from 0.
        at: usize,
        /// Its corners and its stage; `None` takes it off.
        photo: Option<ProgressPhoto>,
    },
}

/// How a target runs: where its far end lies in the field, and which way it goes.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Grading {
    /// Where the far end lies; what is left out stays as it is.
    pub end: FieldMove,
    /// Degrees clockwise from rightwards.
    pub direction: f64,
}

/// A zone and what it should be.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneTarget {
    /// Which.
    pub zone: ZoneId,
    /// The wanted colour.
    pub target: Lab,
}

/// What is said of a mass.
#[derive(Clone, Debug, Default, PartialEq, serde::Serialize, serde::Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OfMass {
    /// The painter's word for it.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub name: String,
    /// Which way it faces.
    pub plane: Option<Plane>,
    /// How far off it is.
    pub distance: Option<Distance>,
    /// Which light falls on it.
    pub light: Option<Which>,
}

/// Where a mark is dragged to in the field. Either may be left out.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldMove {
    /// The new value, 0..=10.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub value: Option<f64>,
    /// The new temperature relative to the picture's neutral.
    #[cfg_attr(feature = "schema", schema(minimum = -200, maximum = 200))]
    pub temperature: Option<f64>,
}

/// Which hue and chroma zones are given.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "by")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Colouring {
    /// Those of a colour: a mix, a cell of a chart, a patch of a picture.
    Of {
        /// The colour.
        lab: Lab,
    },
    /// Those of a colour as it is typed: `#33aa66`, `60 20 -10`, `lch 60 30 250`.
    Typed {
        /// The text.
        text: String,
    },
    /// Those of a pigment of the Box, alone on the ground.
    Pigment {
        /// Which.
        pigment: PigmentId,
    },
    /// These.
    Set {
        /// Hue angle in CIELAB, degrees.
        hue: f64,
        /// Chroma in CIELAB.
        chroma: f64,
    },
    /// Turned and strengthened by so much, from what each zone has.
    Turn {
        /// Degrees in CIELAB.
        hue: f64,
        /// Chroma in CIELAB.
        chroma: f64,
    },
    /// What the reference reads.
    AsRead,
}
