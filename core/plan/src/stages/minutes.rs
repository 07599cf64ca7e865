//! How long a piece of work takes a hand.

use lean_colour::Share;
use lean_media::Medium;
use lean_piece::Piece;
use lean_piece::easel::Stage;
use lean_schedule::Minutes;

/// Share of the picture from which a zone is a big shape. A choice.
pub(crate) const BIG: f64 = 0.05;

/// Square centimetres a hand lays in a minute with a large brush, by medium. Choices, to be outdone by the painter's own pace.
fn laid_in_a_minute(medium: Medium) -> f64 {
    match medium {
        Medium::Watercolour => 40.0,
        Medium::Marker => 25.0,
        Medium::SoftPastel => 22.0,
        Medium::Oil => 14.0,
        Medium::Pencil => 6.0,
    }
}

/// Minutes to mix or to choose before the first stroke.
fn to_begin(medium: Medium) -> f64 {
    match medium {
        Medium::Oil => 4.0,
        Medium::Watercolour => 3.0,
        _ => 1.0,
    }
}

/// How much slower than with a large brush a stage goes. Choices.
fn care(stage: Stage) -> f64 {
    match stage {
        Stage::GroundTone | Stage::Guard => 0.3,
        Stage::Drawing => 0.5,
        Stage::LayIn | Stage::Glaze => 0.5,
        Stage::BigShapes => 1.0,
        Stage::Parts => 1.8,
        Stage::Accents | Stage::Lights => 3.0,
    }
}

/// Minutes for a share of the picture, `times` over, at the painter's own pace (see [`pace`]).
pub(super) fn minutes(piece: &Piece, stage: Stage, share: Share, times: u8, pace: f64) -> Minutes {
    let size = piece.brief.size;
    let area = size.width.0 * size.height.0 / 100.0 * share.0;
    // Over a big shape any layer goes broadly.
    let care = if share.0 >= BIG && stage == Stage::Parts { care(Stage::BigShapes) } else { care(stage) };
    let each = area / laid_in_a_minute(piece.brief.medium) * care;
    let all = pace * (to_begin(piece.brief.medium) + f64::from(times.max(1)) * each);
    Minutes(all.round().clamp(1.0, 6000.0) as u32)
}

/// How much longer this painter takes than the table says: minutes logged over minutes planned for what is done. 1 until an hour is
/// logged; a third to three times at most.
pub(super) fn pace(piece: &Piece, planned: u32) -> f64 {
    let logged: u32 = piece.sessions.iter().map(|s| s.minutes).sum();
    if logged < 60 || planned < 20 { 1.0 } else { (f64::from(logged) / f64::from(planned)).clamp(1.0 / 3.0, 3.0) }
}
