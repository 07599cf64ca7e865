//! Fills a fresh data file with the demo studio, through the same commands a painter would give.

mod bell;
mod bench;
mod field_notes;
mod hen;
mod kite;
mod readings;
mod tram_shed;
mod years;

use crate::pictures::TakenIn;
use crate::problem::Problem;
use lean_colour::Lab;
use lean_picture::Picture;
use lean_picture::places::Survey;
use lean_picture::spot::Spot;
use lean_piece::change::{ChangeZones, KeepSearch, RenameZone, SetImportance, SetLighting, SetTarget};
use lean_piece::light::Key;
use lean_piece::light::{Distance, Facts, Kind, Lighting, Plane, Role};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::wanted::aimed_at;
use lean_piece::{ChosenSet, Command, Importance, MassId, Piece, SearchKept, Zone, ZoneId};
use lean_plan::basis::basis;
use lean_plan::carry_out::targets;
use lean_plan::light::fitting::USUAL_DIFFERENCES;
use lean_plan::light::key::mapped;
use lean_plan::mixes::reach_of;
use lean_plan::requests::OfMass;
use lean_plan::zones::masses;
use lean_plan::zones::{self, PictureFile, Surveyed};
use lean_search::progress::Unwatched;
use lean_search::{Tables, search};
use lean_store::{PieceId, Store};

/// Puts Boxes, pieces at several stages, two years of journal and field notes into an empty data file; a file that has pieces is left alone.
///
/// # Errors
/// When the data file cannot be written.
pub fn fill(store: &Store) -> Result<(), Problem> {
    match begin(store)? {
        Some(rest) => rest.fill(store, ALL_CORES, &|_| Ok(())),
        None => Ok(()),
    }
}

/// Hears the share done, 0..=1, and calls the rest off by a problem.
pub(crate) type GoesOn<'a> = dyn Fn(f64) -> Result<(), Problem> + Sync + 'a;

/// Puts the Boxes and the first piece, ready to look at, into an empty data file, and gives the rest to be filled in; `None` where the file
/// has pieces.
///
/// # Errors
/// When the data file cannot be written.
pub fn begin(store: &Store) -> Result<Option<Rest>, Problem> {
    if !store.pieces()?.is_empty() {
        return Ok(None);
    }
    let pastels = put(store, lean_demo::pastels(), "yard-pastels")?;
    let oils = put(store, lean_demo::oils(), "bench-oils")?;
    let pens = put(store, lean_demo::pens(), "kite-pens")?;
    let pencils = put(store, lean_demo::pencils(), "bell-pencils")?;
    let pans = put_pans(store)?;
    let main = tram_shed::start(store, &pastels)?;
    Ok(Some(Rest { main, pastels, oils, pens, pencils, pans }))
}

/// The pieces, readings and notes that follow the first piece of a demo studio, with the Boxes they are made from.
pub struct Rest {
    main: PieceId,
    pastels: (BoxId, PaintBox),
    oils: (BoxId, PaintBox),
    pens: (BoxId, PaintBox),
    pencils: (BoxId, PaintBox),
    pans: (BoxId, PaintBox),
}

/// Pieces filled in at once where nobody works beside it: more keep two cores no busier.
pub(crate) const ALL_CORES: usize = 2;

/// Share of the work that the pieces in work are.
const IN_WORK: f64 = 0.4;

impl Rest {
    /// Fills in the other pieces, their readings, field notes, and what was finished in the years before, so many pieces of those at once.
    ///
    /// # Errors
    /// When the data file cannot be written, and what `goes_on` says.
    pub fn fill(&self, store: &Store, at_once: usize, goes_on: &GoesOn) -> Result<(), Problem> {
        self.in_work(store, goes_on)?;
        let boxes = years::Boxes { pens: &self.pens, oils: &self.oils, pencils: &self.pencils };
        years::fill(store, &boxes, jiff::Zoned::now().date(), at_once, &|share| goes_on(IN_WORK + (1.0 - IN_WORK) * share))?;
        self.finish(store)
    }

    /// The same without what was finished in the years before.
    ///
    /// # Errors
    /// As [`Rest::fill`].
    pub fn fill_in_work(&self, store: &Store) -> Result<(), Problem> {
        self.in_work(store, &|_| Ok(()))?;
        self.finish(store)
    }

    /// The list shows what changed last first, and numbers follow the same order in every data file: the first piece is also finished last.
    fn finish(&self, store: &Store) -> Result<(), Problem> {
        tram_shed::choose_study(store, self.main)
    }

    fn in_work(&self, store: &Store, goes_on: &GoesOn) -> Result<(), Problem> {
        let steps: [&dyn Fn() -> Result<(), Problem>; 6] = [
            &|| tram_shed::make_studies(store, self.main, &self.pastels),
            &|| hen::fill(store, &self.pans),
            &|| kite::fill(store, &self.pens),
            &|| bench::fill(store, &self.oils),
            &|| bell::fill(store, &self.pencils),
            &|| readings::fill(store, &self.pans).and_then(|()| field_notes::fill(store)),
        ];
        for (done, step) in steps.iter().enumerate() {
            goes_on(IN_WORK * done as f64 / steps.len() as f64)?;
            step()?;
        }
        goes_on(IN_WORK)
    }
}

fn put_pans(store: &Store) -> Result<(BoxId, PaintBox), Problem> {
    put(store, lean_demo::pans(), "hen-pans")
}

/// The pans alone, with what was read of them.
#[cfg(test)]
pub(crate) fn fill_pans(store: &Store) -> Result<(), Problem> {
    readings::fill(store, &put_pans(store)?)
}

fn put(store: &Store, b: lean_demo::DemoBox, id: &str) -> Result<(BoxId, PaintBox), Problem> {
    let (id, paint_box) = (BoxId(id.into()), PaintBox { name: b.name, medium: b.medium, pigments: b.pigments });
    store.put_box(&id, &paint_box)?;
    Ok((id, paint_box))
}

/// Searches and takes the best set of a size into use.
fn put_set(store: &Store, id: PieceId, paint_box: &PaintBox, size: usize, tables: &Tables) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let sizes = search(&piece.ask(paint_box, vec![piece.own_need()], 2..=size).ask(), tables, &Unwatched, &|_| {})?;
    let pigments = sizes.iter().find(|s| s.pigments.len() == size).map(|s| s.pigments.clone()).unwrap_or_default();
    let kept = SearchKept { basis: basis(&piece, Some(paint_box)), zones: aimed_at(&piece), sizes };
    store.apply(id, None, Command::KeepSearch(KeepSearch { search: Some(kept), chosen: ChosenSet { pigments } }))?;
    Ok(())
}

/// A reference and what was found of it.
struct Examined {
    working: Picture,
    survey: Survey,
}

impl Examined {
    fn look(&self) -> Surveyed<'_> {
        Surveyed { working: &self.working, survey: &self.survey }
    }
}

/// Takes a picture in as the reference of a piece, with so many zones, and gives its working copy.
fn take_in(store: &Store, id: PieceId, file: &[u8], name: &str, count: usize) -> Result<Examined, Problem> {
    let TakenIn { digest, full, sharpness, working } = TakenIn::keep(store, file)?;
    let file = PictureFile { digest, file_name: name.into(), full, sharpness };
    let survey = Survey::of(&working);
    store.apply(id, None, zones::set_reference_at(Surveyed { working: &working, survey: &survey }, count, file))?;
    Ok(Examined { working, survey })
}

/// One colour of the plan: what it is called, a spot of it, and how much it matters. Given by spot, so that it holds when the finding of
/// colours is improved.
struct Colour(&'static str, (f64, f64), Importance);

/// Places a painter makes a zone of their own: what it is called, spots of the places, and what it is planned as where that is not what the
/// reference reads.
struct Own(&'static str, &'static [(f64, f64)], Option<Lab>);

/// What a zone plays in the light: its name, plane, distance, role and kind of thing.
struct Part(&'static str, Plane, Distance, Option<Role>, Option<Kind>);

/// A mass of the picture: a spot of it, what it is called, which way it faces and how far off it is.
struct Named((f64, f64), &'static str, Option<Plane>, Option<Distance>);

fn spot((x, y): (f64, f64)) -> Spot {
    Spot { x, y }
}

/// Makes places zones of their own, as a painter would who sees more in them than the colour.
fn make_own(store: &Store, id: PieceId, seen: &Examined, all: &[Own]) -> Result<(), Problem> {
    for Own(name, places, planned) in all {
        let piece = store.piece(id)?.piece;
        store.apply(id, None, zones::own(&piece, seen.look(), spot(places[0])).map_err(Problem::internal)?)?;
        let Some(zone) = zone_at(&store.piece(id)?.piece, places[0]) else { continue };
        for place in &places[1..] {
            let piece = store.piece(id)?.piece;
            if zone_at(&piece, *place) != Some(zone) {
                store.apply(id, None, zones::give(&piece, seen.look(), spot(*place), zone).map_err(Problem::internal)?)?;
            }
        }
        plan_accent(store, id, zone, name, *planned)?;
    }
    Ok(())
}

/// Names a zone as an accent of the piece and says what it is planned as.
fn plan_accent(store: &Store, id: PieceId, zone: ZoneId, name: &str, planned: Option<Lab>) -> Result<(), Problem> {
    store.apply(id, None, Command::RenameZone(RenameZone { zone, name: name.into() }))?;
    store.apply(id, None, Command::SetImportance(SetImportance { zone, importance: Importance::Focal }))?;
    if let Some(target) = planned {
        store.apply(id, None, Command::SetTarget(SetTarget { zone, target }))?;
    }
    Ok(())
}

/// Names the colours as a painter would.
fn name_colours(store: &Store, id: PieceId, colours: &[Colour]) -> Result<(), Problem> {
    for Colour(name, at, importance) in colours {
        let piece = store.piece(id)?.piece;
        let Some(zone) = zone_at(&piece, *at).filter(|z| piece.zone(*z).is_some_and(|z| z.name.is_empty())) else { continue };
        store.apply(id, None, Command::RenameZone(RenameZone { zone, name: (*name).into() }))?;
        if *importance != Importance::Usual {
            store.apply(id, None, Command::SetImportance(SetImportance { zone, importance: *importance }))?;
        }
    }
    Ok(())
}

/// Maps the values into what the Box reaches on this ground, as is done before a set is looked for.
fn map_values(store: &Store, id: PieceId, paint_box: &PaintBox) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let Some(reach) = reach_of(&piece, paint_box) else { return Ok(()) };
    let mapped = mapped(&piece, reach.within_rules(&piece), Key::default(), piece.intent.contrast(), USUAL_DIFFERENCES);
    store.apply(id, None, targets(&piece, mapped, "the values fitted to what can be laid"))?;
    Ok(())
}

/// Says what is known of the big shapes.
fn name_masses(store: &Store, id: PieceId, all: &[Named]) -> Result<(), Problem> {
    for Named(at, name, plane, distance) in all {
        let piece = store.piece(id)?.piece;
        let Some(map) = piece.mass_map.as_ref().and_then(|m| m.map()) else { return Ok(()) };
        let mass = MassId(zones::zone_at(map, spot(*at)).0);
        if piece.mass(mass).is_some_and(|m| m.name.is_empty()) {
            let said = OfMass { name: (*name).into(), plane: *plane, distance: *distance, light: None };
            store.apply(id, None, masses::say(&piece, mass, said).map_err(Problem::internal)?)?;
        }
    }
    Ok(())
}

/// Names the light and gives every named zone its part in it.
fn in_the_light(store: &Store, id: PieceId, lighting: &Lighting, parts: &[Part]) -> Result<(), Problem> {
    store.apply(id, None, Command::SetLighting(SetLighting { lighting: lighting.clone() }))?;
    let piece = store.piece(id)?.piece;
    let with = |z: &Zone| {
        let Part(_, plane, distance, role, kind) = parts.iter().find(|p| p.0 == z.name)?;
        let facts = Facts { plane: Some(*plane), distance: Some(*distance), role: *role, kind: *kind, by_hand: true, ..Facts::default() };
        Some(Zone { facts, ..z.clone() })
    };
    let zones = piece.zones.iter().filter_map(with).collect();
    store.apply(id, None, Command::ChangeZones(ChangeZones { zones, what: "the light at every zone".into() }))?;
    Ok(())
}

fn zone_at(piece: &Piece, at: (f64, f64)) -> Option<ZoneId> {
    Some(zones::zone_at(piece.map()?, spot(at)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_first_piece_that_a_visitor_removed_is_passed_over() {
        let store = Store::in_memory().unwrap();
        let rest = begin(&store).unwrap().expect("an empty data file");
        store.delete_piece(rest.main).unwrap();
        assert!(tram_shed::make_studies(&store, rest.main, &rest.pastels).is_ok());
        assert!(rest.finish(&store).is_ok());
        assert!(store.pieces().unwrap().is_empty());
    }
}
