//! "Beetle kite".

use super::{Examined, put_set, take_in};
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_picture::line_drawing::Lines;
use lean_piece::change::{ChangeZones, RenameZone, SetIntent, SetLighting, SetTarget, UseBox};
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Falling, Lighting};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Brief, Command, Millimetres, Piece, Size, Zone};
use lean_plan::zones;
use lean_search::Tables;
use lean_store::{PieceId, Store};

/// Size of its set.
const SET: usize = 9;

/// A line drawing for marker: closed outlines are its zones, and its colours are the painter's own. It stands at Mixes.
pub(super) fn fill(store: &Store, (box_id, pens): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Beetle kite".into(),
        medium: Medium::Marker,
        ground: GroundId("marker-white".into()),
        size: Size { width: Millimetres(210.0), height: Millimetres(297.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    let seen = take_in(store, id, lean_demo::KITE, lean_demo::KITE_FILE, 1)?;
    let piece = store.piece(id)?.piece;
    store.apply(id, None, zones::from_lines(&piece, &seen.working, Lines::Given).map_err(Problem::internal)?)?;
    let mut intent = store.piece(id)?.piece.intent;
    intent.schools.insert(Question::Outline, School::DrawnContours);
    intent.schools.insert(Question::Emphasis, School::WholeAlive);
    store.apply(id, None, Command::SetIntent(SetIntent { intent }))?;
    store.apply(id, None, Command::SetLighting(SetLighting { lighting: Lighting { falling: Falling::Flat, ..Lighting::default() } }))?;
    let coloured = coloured(&store.piece(id)?.piece);
    store.apply(id, None, Command::ChangeZones(ChangeZones { zones: coloured, what: "the colours of the kite".into() }))?;
    join_spots(store, id, &seen)?;
    put_set(store, id, pens, SET, &Tables::default())
}

/// The spots look alike and are coloured alike: one zone in six places.
fn join_spots(store: &Store, id: PieceId, seen: &Examined) -> Result<(), Problem> {
    let spots = |piece: &Piece| piece.zones.iter().filter(|z| z.name == "spot").map(|z| z.id).collect::<Vec<_>>();
    let first = spots(&store.piece(id)?.piece);
    let Some((kept, others)) = first.split_first() else { return Ok(()) };
    let target = store.piece(id)?.piece.zone(*kept).map(|z| z.target);
    for other in others {
        let piece = store.piece(id)?.piece;
        store.apply(id, None, zones::merge(&piece, seen.look(), *other, *kept).map_err(Problem::internal)?)?;
    }
    if let Some(target) = target {
        store.apply(id, None, Command::SetTarget(SetTarget { zone: *kept, target }))?;
    }
    store.apply(id, None, Command::RenameZone(RenameZone { zone: *kept, name: "spots".into() }))?;
    Ok(())
}

/// Strong hues by where a shape lies: warm wing cases, a dark head, cool spots and vanes, ribbons between. Paired shapes share a colour.
fn coloured(piece: &Piece) -> Vec<Zone> {
    let Some(map) = piece.map() else { return Vec::new() };
    let largest = piece.zones.iter().max_by(|a, b| a.reading.area.total_cmp(&b.reading.area)).map(|z| z.id);
    let colour = |z: &Zone| -> Option<(&'static str, Lab)> {
        let (x, y) = piece.geometry().places_of(z.id.0).first()?.label_at;
        let off = (f64::from(x) / f64::from(map.width) - 0.5).abs();
        let down = f64::from(y) / f64::from(map.height);
        let small = z.reading.area < 0.0075;
        Some(match () {
            () if Some(z.id) == largest => ("paper", Lab::new(94.0, 0.0, 3.0)),
            () if off > 0.30 => ("vane", Lab::new(62.0, -24.0, -18.0)),
            () if down < 0.16 && small => ("eye", Lab::new(86.0, -4.0, 42.0)),
            () if down < 0.20 => ("head", Lab::new(27.0, 9.0, -16.0)),
            () if down < 0.29 && small => ("collar patch", Lab::new(84.0, 0.0, 52.0)),
            () if down < 0.29 => ("collar", Lab::new(36.0, 10.0, -26.0)),
            () if down > 0.69 => ("ribbon", Lab::new(74.0, 14.0, 48.0)),
            () if small => ("spot", Lab::new(30.0, 12.0, -22.0)),
            () if down < 0.42 => ("upper wing", Lab::new(62.0, 38.0, 44.0)),
            () if down < 0.55 => ("middle wing", Lab::new(50.0, 48.0, 36.0)),
            () => ("lower wing", Lab::new(40.0, 42.0, 24.0)),
        })
    };
    piece.zones.iter().filter_map(|z| colour(z).map(|(name, target)| Zone { name: name.into(), target, ..z.clone() })).collect()
}
