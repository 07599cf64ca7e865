//! Pieces as they would be after years, without pictures.

use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_picture::Reading;
use lean_piece::easel::{Ending, Outcome};
use lean_piece::{Brief, Millimetres, Piece, Scheme, Session, Size, Study, StudyMix, StudyNumber, Zone, ZoneId};
use lean_recipes::Mix;

/// A piece of two zones that was made in one sitting and came out.
pub(crate) fn finished(title: &str, on: &str, outcome: Outcome) -> Piece {
    let mut piece = Piece::new(Brief {
        title: title.into(),
        medium: Medium::Watercolour,
        ground: GroundId("cold-pressed".into()),
        size: Size { width: Millimetres(160.0), height: Millimetres(120.0) },
    });
    let lab = Lab::new(50.0, 0.0, 0.0);
    piece.zones = [1, 2].map(|n| Zone::read(ZoneId(n), Reading { area: 0.5, value: lab.value(), lab })).into();
    piece.sessions = vec![Session { on: on.into(), minutes: 40, did: "in one sitting".into(), zones: Vec::new() }];
    piece.easel.ending = Some(Ending { on: on.into(), outcome, words: String::new() });
    piece
}

/// A study whose zones have these colours.
pub(crate) fn study(number: u8, colours: &[Lab], on: &str) -> Study {
    let mix = |(i, lab): (usize, &Lab)| StudyMix { zone: ZoneId(i as u16 + 1), wanted: *lab, mix: Mix::bare(*lab), then: Vec::new() };
    Study {
        number: StudyNumber(number),
        scheme: Scheme::AsRead,
        pigments: vec!["ochre".into(), "ultramarine".into()],
        cost: 1.0,
        mixes: colours.iter().enumerate().map(mix).collect(),
        basis: String::new(),
        reason: String::new(),
        minutes: 20,
        made: Some(on.into()),
        running_since: None,
    }
}
