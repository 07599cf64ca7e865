//! Which studies are made: of every kind asked for the one this Box finds easiest among those that really differ from the others.

use super::freed::warmth;
use super::scheme::{self, REALLY_DIFFERS, apart, choose_two};
use crate::drawing::is_drawing;
use crate::light::key::Reach;
use crate::wheel::Wheel;
use lean_colour::{HueAngle, Lab};
use lean_piece::intent::moods::MoodScheme;
use lean_piece::{Chord, HueShare, OtherLight, Piece, Scheme};
use serde::{Deserialize, Serialize};

/// A kind of study to make.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StudyKind {
    /// As read.
    AsRead,
    /// Two opposites, one ruling.
    Opposites,
    /// Neighbours.
    Neighbours,
    /// One hue and the two beside its opposite.
    SplitOpposite,
    /// Three even hues.
    Three,
    /// One hue in all its values.
    OneHue,
    /// One hue sliding into another from dark to light.
    Slide,
    /// Four even hues.
    Square,
    /// Two pairs of opposites.
    Rectangle,
    /// The hues the game allows.
    Game,
    /// In high key.
    HighKey,
    /// In low key.
    LowKey,
    /// In a low warm sun.
    LateSun,
    /// What matters pale on dark.
    PaleOnDark,
}

/// Fewest and most studies made in one go.
pub const COUNT: std::ops::RangeInclusive<usize> = 3..=12;
/// Shares of three hues, and of four, the ruling one first. Choices.
const OF_THREE: [f64; 3] = [0.6, 0.3, 0.1];
const OF_FOUR: [f64; 4] = [0.5, 0.25, 0.15, 0.1];

impl StudyKind {
    /// All of them, in the order in which they are made when nobody says which.
    pub const ALL: [Self; 14] = [
        Self::AsRead,
        Self::Opposites,
        Self::Neighbours,
        Self::SplitOpposite,
        Self::Three,
        Self::OneHue,
        Self::Slide,
        Self::HighKey,
        Self::LateSun,
        Self::LowKey,
        Self::Rectangle,
        Self::Square,
        Self::PaleOnDark,
        Self::Game,
    ];

    /// The kinds for a drawing: every scheme over the plan of its values, and one with the darks and lights turned about.
    const OF_DRAWING: [Self; 9] = [
        Self::Opposites,
        Self::Neighbours,
        Self::SplitOpposite,
        Self::Three,
        Self::OneHue,
        Self::Slide,
        Self::Rectangle,
        Self::Square,
        Self::PaleOnDark,
    ];

    /// The kinds of so many studies of a piece when nobody says which: those its moods ask for before the others.
    pub fn usual(piece: &Piece, count: usize) -> Vec<Self> {
        let mut all: Vec<Self> = if is_drawing(piece) { Self::OF_DRAWING.to_vec() } else { Self::ALL.to_vec() };
        if !piece.intent.games.only_hues.is_empty() {
            all.retain(|k| *k != Self::Game);
            all.insert(1, Self::Game);
        }
        let moods = piece.intent.moods.iter().filter_map(|m| m.scheme);
        let asked: Vec<Self> = moods.rev().map(Self::of_mood).collect();
        let first = all.iter().position(|k| *k == Self::Opposites).unwrap_or(1);
        for kind in asked.into_iter().rev() {
            all.retain(|k| *k != kind);
            all.insert(first, kind);
        }
        all.truncate(count.clamp(*COUNT.start(), *COUNT.end()));
        all
    }

    /// The kind a mood asks for.
    pub(crate) fn of_mood(mood: MoodScheme) -> Self {
        match mood {
            MoodScheme::Neighbours => Self::Neighbours,
            MoodScheme::Opposites => Self::Opposites,
            MoodScheme::OneHue => Self::OneHue,
            MoodScheme::SplitOpposite => Self::SplitOpposite,
            MoodScheme::Three => Self::Three,
            MoodScheme::Square => Self::Square,
            MoodScheme::Rectangle => Self::Rectangle,
            MoodScheme::Slide => Self::Slide,
        }
    }

    /// What it is called.
    pub fn name(self) -> &'static str {
        match self {
            Self::AsRead => "as measured",
            Self::Opposites => "complementary",
            Self::Neighbours => "analogous",
            Self::SplitOpposite => "split complementary",
            Self::Three => "triadic",
            Self::OneHue => "monochromatic",
            Self::Slide => "gradient",
            Self::Square => "tetradic (square)",
            Self::Rectangle => "tetradic (rectangle)",
            Self::Game => "the hues of the game",
            Self::HighKey => "high key",
            Self::LowKey => "low key",
            Self::LateSun => "late sun",
            Self::PaleOnDark => "pale on dark",
        }
    }

    fn schemes(self, piece: &Piece, wheel: &Wheel) -> Vec<Scheme> {
        let every = |step: usize| (0..360 / step).map(move |i| (i * step) as f64);
        let chord = |chord: Chord, turns: &[f64], shares: &[f64], step: usize| {
            let hues = |h: f64| {
                turns
                    .iter()
                    .zip(shares)
                    .map(|(t, share)| HueShare { hue: wheel.turned(HueAngle(h), HueAngle(*t)).0, share: *share })
                    .collect()
            };
            every(step).map(|h| Scheme::Chord { chord, hues: hues(h) }).collect()
        };
        let light = |light| vec![Scheme::Light { light }];
        match self {
            Self::AsRead => vec![Scheme::AsRead],
            Self::Opposites => scheme::opposite_schemes(|h| wheel.opposite(h)),
            Self::Neighbours => scheme::neighbour_schemes(),
            // A hue that is neither warm nor cool cannot keep warm zones warm by its strength.
            Self::OneHue => every(15).filter(|h| warmth(*h).abs() > 0.45).map(|hue| Scheme::OneHue { hue }).collect(),
            Self::Slide => {
                let slide = |h: f64| [70.0, -70.0, 120.0, -120.0].map(|by| Scheme::Slide { dark: h, light: (h + by).rem_euclid(360.0) });
                every(30).flat_map(slide).collect()
            }
            Self::SplitOpposite => chord(Chord::SplitOpposite, &[0.0, 150.0, 210.0], &OF_THREE, 15),
            Self::Three => chord(Chord::Three, &[0.0, 120.0, 240.0], &OF_THREE, 15),
            Self::Square => chord(Chord::Square, &[0.0, 180.0, 90.0, 270.0], &OF_FOUR, 15),
            Self::Rectangle => chord(Chord::Rectangle, &[0.0, 180.0, 60.0, 240.0], &OF_FOUR, 15),
            Self::Game => game(piece),
            Self::HighKey => light(OtherLight::HighKey),
            Self::LowKey => light(OtherLight::LowKey),
            Self::LateSun => light(OtherLight::LateSun),
            Self::PaleOnDark => light(OtherLight::PaleOnDark),
        }
    }
}

/// The families a game allows, each in turn ruling.
fn game(piece: &Piece) -> Vec<Scheme> {
    let hues: Vec<f64> = piece.intent.games.only_hues.iter().map(|f| f.middle()).collect();
    let shares: &[f64] = match hues.len() {
        0 => return Vec::new(),
        1 => return vec![Scheme::OneHue { hue: hues[0] }],
        2 => &[0.68, 0.32],
        3 => &OF_THREE,
        _ => &OF_FOUR,
    };
    let turned = |by: usize| {
        let in_turn = (0..hues.len()).map(|i| hues[(i + by) % hues.len()]);
        in_turn.zip(shares).map(|(hue, share)| HueShare { hue, share: *share }).collect()
    };
    (0..hues.len()).map(|by| Scheme::Chord { chord: Chord::Game, hues: turned(by) }).collect()
}

/// A scheme with the colours it wants.
pub type Planned = (Scheme, Vec<Lab>);

/// The schemes of the studies of some kinds, in their order. A kind a piece gives no ground for is left out: a game without hues, pale on dark
/// where nothing matters more than the rest. `effort` says how hard colours are for the Box.
pub fn choose(piece: &Piece, kinds: &[StudyKind], wheel: &Wheel, reach: Option<Reach>, effort: impl Fn(&[Lab]) -> f64) -> Vec<Planned> {
    let planned = |s: Scheme| scheme::wanted(piece, &s, reach).map(|colours| (s, colours));
    // Opposites and neighbours are looked for together: each is easier to find beside the other.
    let pair: Option<[Scheme; 2]> = [StudyKind::Opposites, StudyKind::Neighbours]
        .iter()
        .all(|k| kinds.contains(k))
        .then(|| choose_two(piece, |hue| wheel.opposite(hue), &effort));
    let mut chosen: Vec<Planned> = Vec::new();
    let mut paired = [false; 2];
    for kind in kinds {
        if let (Some(pair), Some(at)) = (&pair, [StudyKind::Opposites, StudyKind::Neighbours].iter().position(|k| k == kind))
            && !std::mem::replace(&mut paired[at], true)
        {
            chosen.extend(planned(pair[at].clone()));
            continue;
        }
        let candidates = kind.schemes(piece, wheel).into_iter().filter(|s| chosen.iter().all(|(c, _)| c != s)).filter_map(planned);
        let judged: Vec<(Planned, f64, f64)> = candidates
            .map(|p| {
                let nearest = chosen.iter().map(|(_, other)| apart(piece, &p.1, other)).fold(f64::INFINITY, f64::min);
                let hard = effort(&p.1);
                (p, nearest, hard)
            })
            .collect();
        let easiest = judged.iter().filter(|j| j.1 >= REALLY_DIFFERS).min_by(|a, b| a.2.total_cmp(&b.2));
        let farthest = judged.iter().max_by(|a, b| a.1.total_cmp(&b.1));
        chosen.extend(easiest.or(farthest).map(|j| j.0.clone()));
    }
    chosen
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    #[test]
    fn moods_and_games_come_before_what_is_usual() {
        let mut piece = staged(&[Staged::vt(6.0, 4.0), Staged::vt(3.0, -4.0)]);
        assert_eq!(StudyKind::usual(&piece, 3), [StudyKind::AsRead, StudyKind::Opposites, StudyKind::Neighbours]);
        let mood = |scheme| lean_piece::intent::moods::Mood { word: "festive".into(), scheme: Some(scheme), key: None, contrast: 0.0 };
        piece.intent.moods = vec![mood(MoodScheme::Three)];
        assert_eq!(StudyKind::usual(&piece, 3), [StudyKind::AsRead, StudyKind::Three, StudyKind::Opposites]);
        piece.intent.games.only_hues = vec![lean_search::demands::HueFamily::Blue];
        assert_eq!(StudyKind::usual(&piece, 12)[..3], [StudyKind::AsRead, StudyKind::Game, StudyKind::Three]);
        assert_eq!(StudyKind::usual(&piece, 12).len(), 12);
    }
}
