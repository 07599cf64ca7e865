//! "Tram shed, first frost".

use super::{Colour, Named, Own, Part, in_the_light, make_own, map_values, name_colours, name_masses, take_in};
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_picture::chart::distinct;
use lean_picture::decode;
use lean_piece::change::{ChooseStudy, KeepChart, KeepSearch, KeepStudies, SetIntent, UseBox};
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Distance, Exception, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::wanted::aimed_at;
use lean_piece::{Brief, ChosenSet, Command, Importance, Millimetres, Piece, SearchKept, Size, StudyNumber};
use lean_plan::basis::basis;
use lean_plan::chart::arranged;
use lean_plan::studies::{StudyKind, make};
use lean_search::progress::Unwatched;
use lean_search::{Tables, search};
use lean_store::{PieceId, Store, StoreError};

/// Colours the painter asks for.
const FOUND: usize = 13;
/// Size of the set the demo piece uses.
const SET: usize = 12;

/// Outdoors in pastel: the piece with its zones in the light.
pub(super) fn start(store: &Store, (box_id, pastels): &(BoxId, PaintBox)) -> Result<PieceId, Problem> {
    let brief = Brief {
        title: "Tram shed, first frost".into(),
        medium: Medium::SoftPastel,
        ground: GroundId("sanded-warm-grey".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    let apply = |command| store.apply(id, None, command);
    apply(Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    // Its cast-iron darks want a soot black: the brief says that one may be used.
    let mut intent = store.piece(id)?.piece.intent;
    intent.schools.insert(Question::Black, School::BlackAllowed);
    apply(Command::SetIntent(SetIntent { intent }))?;

    let seen = take_in(store, id, lean_demo::TRAM_SHED, lean_demo::TRAM_SHED_FILE, FOUND)?;
    map_values(store, id, pastels)?;
    make_own(store, id, &seen, OWN)?;
    name_colours(store, id, COLOURS)?;
    name_masses(store, id, MASSES)?;
    in_the_light(store, id, &lighting(), PARTS)?;

    Ok(id)
}

/// Its set and its studies.
pub(crate) fn make_studies(store: &Store, id: PieceId, (_, pastels): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let apply = |command| store.apply(id, None, command);
    let Some(kept) = still_there(store, id)? else { return Ok(()) };
    let digest = kept.reference.map(|r| r.digest).unwrap_or_default();
    let picture = decode(&store.working(&digest)?)?;
    apply(Command::KeepChart(KeepChart { chart: Some(arranged(&distinct(&picture, None).colours)) }))?;
    let piece = store.piece(id)?.piece;
    let tables = Tables::default();
    let sizes = search(&piece.ask(pastels, vec![piece.own_need()], piece.sizes()).ask(), &tables, &Unwatched, &|_| {})?;
    let pigments = sizes.iter().find(|s| s.pigments.len() == SET).map(|s| s.pigments.clone()).unwrap_or_default();
    let kept = SearchKept { basis: basis(&piece, Some(pastels)), zones: aimed_at(&piece), sizes };
    apply(Command::KeepSearch(KeepSearch { search: Some(kept), chosen: ChosenSet { pigments } }))?;

    let studies = make(&store.piece(id)?.piece, pastels, &tables, &StudyKind::usual(&store.piece(id)?.piece, 6), &Unwatched, &|_| {})?;
    apply(Command::KeepStudies(KeepStudies { studies, chosen: None }))?;
    Ok(())
}

/// The piece; `None` where a visitor removed it while the demo was being filled.
fn still_there(store: &Store, id: PieceId) -> Result<Option<Piece>, Problem> {
    match store.piece(id) {
        Ok(kept) => Ok(Some(kept.piece)),
        Err(StoreError::NotFound(_)) => Ok(None),
        Err(e) => Err(e.into()),
    }
}

/// Chooses a study, unless a visitor already did or left none of that number.
pub(crate) fn choose_study(store: &Store, id: PieceId) -> Result<(), Problem> {
    const CHOSEN: StudyNumber = StudyNumber(2);
    let Some(piece) = still_there(store, id)? else { return Ok(()) };
    if piece.chosen_study.is_none() && piece.studies.iter().any(|s| s.number == CHOSEN) {
        store.apply(id, None, Command::ChooseStudy(ChooseStudy { number: Some(CHOSEN) }))?;
    }
    Ok(())
}

/// What each colour plays in the light.
const PARTS: &[Part] = &[
    Part("sky", Plane::Sky, Distance::Far, None, None),
    Part("slate roof", Plane::Slanted, Distance::Middle, Some(Role::Lit), None),
    Part("shaded front", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("lit wall", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("far, in haze", Plane::Upright, Distance::Far, None, None),
    Part("haze, lower", Plane::Upright, Distance::Far, None, None),
    Part("frosted ground", Plane::Flat, Distance::Near, Some(Role::Lit), None),
    Part("trodden frost", Plane::Flat, Distance::Near, Some(Role::Lit), None),
    Part("pole and gates", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("cool shadow", Plane::Flat, Distance::Middle, Some(Role::Shadow), None),
    Part("mud and rails", Plane::Flat, Distance::Near, Some(Role::Shadow), None),
    Part("tram, red", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("tram, cream", Plane::Upright, Distance::Middle, Some(Role::Lit), Some(Kind::White)),
];

/// One low warm sun from the left on frost.
fn lighting() -> Lighting {
    let first = Lamp { tint: Tint::Warm, from: LampFrom::Left, hard: true };
    Lighting { falling: Falling::One { first }, outdoors: true, exceptions: vec![Exception::Snow, Exception::LowSun] }
}

pub(super) const COLOURS: &[Colour] = &[
    Colour("sky", (0.83, 0.224), Importance::Usual),
    Colour("frosted ground", (0.338, 0.889), Importance::Usual),
    Colour("trodden frost", (0.044, 0.694), Importance::Quiet),
    Colour("far, in haze", (0.789, 0.546), Importance::Quiet),
    Colour("slate roof", (0.298, 0.385), Importance::Usual),
    Colour("shaded front", (0.567, 0.354), Importance::Focal),
    Colour("lit wall", (0.396, 0.586), Importance::Focal),
    Colour("haze, lower", (0.853, 0.573), Importance::Quiet),
    Colour("cool shadow", (0.865, 0.655), Importance::Usual),
    Colour("mud and rails", (0.68, 0.811), Importance::Usual),
    Colour("pole and gates", (0.206, 0.647), Importance::Usual),
    Colour("tram, cream", (0.616, 0.508), Importance::Focal),
    Colour("rust and shade", (0.33, 0.424), Importance::Quiet),
];

/// The tram's dull red: the shade swallows it in the reference, and the piece wants one red.
const OWN: &[Own] = &[Own("tram, red", &[(0.655, 0.604), (0.53, 0.605)], Some(Lab::new(35.5, 27.0, 17.0)))];

const MASSES: &[Named] = &[
    Named((0.60, 0.10), "sky", Some(Plane::Sky), Some(Distance::Far)),
    Named((0.20, 0.87), "frosted ground", Some(Plane::Flat), Some(Distance::Near)),
    Named((0.64, 0.36), "shed front", Some(Plane::Upright), Some(Distance::Middle)),
    Named((0.36, 0.52), "shed side", Some(Plane::Upright), Some(Distance::Middle)),
];
