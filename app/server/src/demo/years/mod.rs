//! Two years at Sluice Yard: small pieces that came out, or did not, so that the journal has something to show.

mod days;
mod moments;
mod painted;
mod trials;

use super::{GoesOn, map_values, put, put_set, take_in};
use crate::problem::Problem;
use days::latest;
use jiff::civil::Date;
use lean_media::{Medium, ground};
use lean_piece::change::{KeepStudies, NoteStudy, SetEasel, SetLighting, UseBox};
use lean_piece::easel::Ending;
use lean_piece::intent::occasion::Occasion;
use lean_piece::light::{Falling, Lighting};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Brief, Command, Millimetres, Piece, Size, Study, StudyNumber};
use lean_plan::studies::{StudyKind, make};
use lean_search::Tables;
use lean_search::progress::Unwatched;
use lean_store::{PieceId, Store};
use moments::{MOMENTS, Moment};

/// Colours found in each of the small pictures.
const FOUND: usize = 8;
/// Longer side of each sheet.
const SHEET: Millimetres = Millimetres(160.0);

/// The Boxes the small pieces draw on.
pub(super) struct Boxes<'a> {
    /// Pens.
    pub pens: &'a (BoxId, PaintBox),
    /// Tubes.
    pub oils: &'a (BoxId, PaintBox),
    /// Pencils.
    pub pencils: &'a (BoxId, PaintBox),
}

/// A small piece that is to be filled in.
struct Begun<'a> {
    id: PieceId,
    moment: &'a Moment,
    day: Date,
    nth: usize,
    of: &'a (BoxId, PaintBox),
}

/// Fills them in, the oldest first, so many at once.
pub(super) fn fill(store: &Store, boxes: &Boxes, today: Date, at_once: usize, goes_on: &GoesOn) -> Result<(), Problem> {
    let pans = put(store, lean_demo::field_pans(), "pocket-pans")?;
    let mut all: Vec<(&Moment, Date)> = MOMENTS.iter().map(|m| (m, latest(today, m.month, m.day, m.years_back))).collect();
    all.sort_by_key(|(_, day)| *day);
    let begin_one = |nth: usize| {
        let (moment, day) = all[nth];
        let of = match moment.medium {
            Medium::Marker => boxes.pens,
            Medium::Oil => boxes.oils,
            Medium::Pencil => boxes.pencils,
            _ => &pans,
        };
        Ok::<_, Problem>(Begun { id: begin(store, moment, day, nth)?, moment, day, nth, of })
    };
    let tables = Tables::default();
    let mut begun = Vec::new();
    // Numbers are given in order; what takes time may be done side by side.
    for first in (0..all.len()).step_by(at_once) {
        goes_on(first as f64 / all.len() as f64)?;
        let group = (first..all.len().min(first + at_once)).map(begin_one).collect::<Result<Vec<_>, Problem>>()?;
        std::thread::scope(|threads| {
            let others: Vec<_> = group[1..].iter().map(|b| threads.spawn(|| go_on(store, b, &tables))).collect();
            let own = go_on(store, &group[0], &tables);
            let ended = others.into_iter().map(|o| o.join().unwrap_or_else(|_| Err(Problem::internal("The demo could not be filled."))));
            ended.fold(own, Result::and)
        })?;
        begun.extend(group);
    }
    begun.iter().filter(|b| b.moment.medium == Medium::Watercolour).try_for_each(|b| trials::fill(store, b.id, &b.of.0, (b.day, b.nth)))
}

fn begin(store: &Store, m: &Moment, day: Date, nth: usize) -> Result<PieceId, Problem> {
    let size = Size { width: SHEET, height: Millimetres(SHEET.0 * 0.75) };
    let mut piece = Piece::new(Brief { title: m.title.into(), medium: m.medium, ground: ground::usual(m.medium).id, size });
    piece.intent.occasion = Occasion {
        subject: m.subject.into(),
        at: Some(format!("{day}T{:02}:{:02}", m.hour, 5 * (nth % 12))),
        weather: m.weather.into(),
        light: m.light.into(),
    };
    Ok(store.create_piece(&piece)?.id)
}

/// From its picture to how it came out.
fn go_on(store: &Store, begun: &Begun, tables: &Tables) -> Result<(), Problem> {
    let &Begun { id, moment: m, day, nth, of: (box_id, paint_box) } = begun;
    let apply = |command: Command| store.apply(id, None, command);
    apply(Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    let picture = lean_demo::YEARS.iter().find(|(name, _)| *name == m.picture).map(|(_, bytes)| *bytes).unwrap_or_default();
    take_in(store, id, picture, &format!("{}.jpg", m.picture), FOUND)?;
    let lighting = Lighting { falling: Falling::One { first: m.lamp }, outdoors: m.outdoors, exceptions: Vec::new() };
    apply(Command::SetLighting(SetLighting { lighting }))?;
    map_values(store, id, paint_box)?;
    put_set(store, id, paint_box, m.set, tables)?;

    let made = make(&store.piece(id)?.piece, paint_box, tables, m.studies, &Unwatched, &|_| {})?;
    let studies: Vec<Study> = made.into_iter().map(|s| Study { made: Some(day.to_string()), ..s }).collect();
    apply(Command::KeepStudies(KeepStudies { studies, chosen: Some(StudyNumber(m.chosen)) }))?;
    let reason =
        NoteStudy { number: StudyNumber(m.chosen), reason: m.reason.into(), minutes: 14 + 3 * (nth as u32 % 5), running_since: None };
    apply(reason.into())?;
    painted::at_the_easel(store, id, paint_box, day, nth)?;
    let mut easel = store.piece(id)?.piece.easel;
    easel.ending = Some(Ending { on: day.to_string(), outcome: m.outcome, words: m.learnt.into() });
    apply(SetEasel { easel, what: "how it came out".into() }.into())?;
    Ok(())
}

/// Kinds of study made of a subject out of doors, and of one indoors.
const OUT: &[StudyKind] = &[StudyKind::AsRead, StudyKind::Opposites];
const IN: &[StudyKind] = &[StudyKind::AsRead, StudyKind::OneHue, StudyKind::LateSun];
