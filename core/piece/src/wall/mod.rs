//! The place a piece will hang: its photo measured, candidate panels to scale, and how loud it is.
//!
//! **The three nouns and how they meet.** A [`Wall`] is a photo with a [`Measure`] in it; the measure makes a [`Scale`] between places
//! in the photo and millimetres on the wall; and [`Candidate`]s are panels on the wall, drawn back into the photo through it.

pub mod scale;

use crate::brief::MOST_NAME;
use crate::units::{Millimetres, Size};
use lean_colour::Lab;
use lean_picture::spot::Spot;
pub use scale::Scale;
use serde::{Deserialize, Serialize};

/// Most candidates on one wall.
pub const MOST_CANDIDATES: usize = 8;

/// What is known about lengths on the wall.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "by")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measure {
    /// One length, seen straight on.
    Line {
        /// One end.
        from: Spot,
        /// The other.
        to: Spot,
        /// How long it is.
        length: Millimetres,
    },
    /// Four corners of something rectangular on the wall, from the top left clockwise: also sets a slanted view right.
    Corners {
        /// The corners.
        corners: [Spot; 4],
        /// Width between them.
        width: Millimetres,
        /// Height between them.
        height: Millimetres,
    },
}

/// How many panels a candidate has.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Panels {
    /// One.
    Single,
    /// Two of a size.
    Pair,
    /// Three of a size.
    Triptych,
}

crate::worded! { Panels { Single: "one panel", Pair: "a pair", Triptych: "three" } }

impl Panels {
    /// How many.
    pub fn count(self) -> usize {
        match self {
            Self::Single => 1,
            Self::Pair => 2,
            Self::Triptych => 3,
        }
    }
}

/// How a piece is meant to be heard on its wall.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Heard {
    /// Quiet on this wall.
    Quiet,
    /// It speaks up.
    SpeaksUp,
}

/// A way the piece could hang: panels of one size in a row.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Candidate {
    /// How many.
    pub panels: Panels,
    /// Size of each.
    pub size: Size,
    /// Between panels, 0..=500 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 500))]
    pub gap: Millimetres,
    /// Middle of the row in the photo.
    pub at: Spot,
}

/// A photo of the place with what was measured and tried in it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wall {
    /// SHA-256 of the photo.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// What is known; `None` until something was measured.
    pub measure: Option<Measure>,
    /// Ways to hang it.
    pub candidates: Vec<Candidate>,
    /// The one taken, from 0.
    pub taken: Option<usize>,
    /// What the bare wall reads.
    pub reading: WallReading,
    /// How the piece is meant to be heard there; `None` while nobody said.
    #[serde(default)]
    pub heard: Option<Heard>,
}

/// A panel drawn in the photo.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Drawn {
    /// Corners of every panel from the top left clockwise, shares of the photo.
    pub panels: Vec<[Spot; 4]>,
    /// Whole width with gaps.
    pub width: Millimetres,
    /// Height.
    pub height: Millimetres,
    /// How high the middle hangs above the lower edge of the photo.
    pub middle_height: Millimetres,
}

impl Wall {
    /// A photo nothing was measured in yet.
    pub fn of(digest: String, file_name: String, (width, height): (u32, u32), reading: WallReading) -> Self {
        Self { digest, file_name, width, height, measure: None, candidates: Vec::new(), taken: None, reading, heard: None }
    }

    /// The scale of the photo; `None` until something was measured.
    pub fn scale(&self) -> Option<Scale> {
        self.measure.as_ref().and_then(|m| Scale::of(m, (self.width, self.height)).ok())
    }

    /// A candidate as it looks in the photo; `None` without a measure.
    pub fn drawn(&self, c: &Candidate) -> Option<Drawn> {
        let scale = self.scale()?;
        let middle = scale.on_wall(c.at)?;
        let count = c.panels.count() as f64;
        let width = count * c.size.width.0 + (count - 1.0) * c.gap.0;
        let panels = (0..c.panels.count())
            .map(|i| {
                let left = middle.0 - width / 2.0 + i as f64 * (c.size.width.0 + c.gap.0);
                let top = middle.1 - c.size.height.0 / 2.0;
                let corner = |dx: f64, dy: f64| scale.in_photo((left + dx, top + dy));
                Some([
                    corner(0.0, 0.0)?,
                    corner(c.size.width.0, 0.0)?,
                    corner(c.size.width.0, c.size.height.0)?,
                    corner(0.0, c.size.height.0)?,
                ])
            })
            .collect::<Option<Vec<_>>>()?;
        let foot = scale.on_wall(Spot { x: c.at.x, y: 1.0 })?;
        Some(Drawn { panels, width: Millimetres(width), height: c.size.height, middle_height: Millimetres(foot.1 - middle.1) })
    }

    /// Says what is out of range or contradicts itself.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        let name = self.file_name.chars().count();
        if name > 3 * MOST_NAME {
            return Err(format!("The photo's name has {name} characters; {} fit.", 3 * MOST_NAME));
        }
        if let Some(m) = &self.measure {
            Scale::of(m, (self.width, self.height))?;
        }
        if self.candidates.len() > MOST_CANDIDATES {
            return Err(format!("{MOST_CANDIDATES} ways to hang it are enough to compare. Take one off first."));
        }
        for c in &self.candidates {
            let (w, h) = (c.size.width.0, c.size.height.0);
            if [w, h].iter().any(|side| !(10.0..=3000.0).contains(side)) {
                return Err(format!("A panel of {w:.0} × {h:.0} mm is out of range; each side may be 10 to 3000 mm."));
            }
            if !(0.0..=500.0).contains(&c.gap.0) {
                return Err(format!("A gap of {} mm is out of range; it may be 0 to 500 mm.", c.gap.0));
            }
            if !(0.0..=1.0).contains(&c.at.x) || !(0.0..=1.0).contains(&c.at.y) {
                return Err("A panel hangs outside the photo. Move it back in.".into());
            }
        }
        match self.taken {
            Some(i) if i >= self.candidates.len() => Err("That way of hanging is not there any more. Choose another.".into()),
            _ => Ok(()),
        }
    }
}

/// What else is seen in the photo of the wall, as shares of it, 0..=1.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoomReading {
    /// The wall itself.
    pub wall: f64,
    /// Wood: floors, furniture.
    pub wood: f64,
    /// Leaves.
    pub plants: f64,
    /// Plainly warm.
    pub warm: f64,
    /// Plainly cool.
    pub cool: f64,
}

/// What the bare wall reads.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WallReading {
    /// Its colour: the median of the photo's lightness, and the colour around it.
    pub lab: Lab,
    /// Its value.
    pub value: f64,
    /// Warm (+) or cool (−), against grey.
    pub temperature: f64,
    /// Its own chroma and spread of values, together: 0 a blank wall, 1 a loud one.
    pub loudness: f64,
    /// What else is in the room; `None` in photos taken in before it was read.
    #[serde(default)]
    pub room: Option<RoomReading>,
}

impl Default for WallReading {
    /// A middle grey that says nothing.
    fn default() -> Self {
        Self { lab: Lab::new(50.0, 0.0, 0.0), value: 4.9, temperature: 0.0, loudness: 0.0, room: None }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn wall(measure: Option<Measure>) -> Wall {
        Wall { measure, ..Wall::of("d".into(), "stair.jpg".into(), (2000, 1000), WallReading::default()) }
    }

    fn line(x: f64, length: f64) -> Measure {
        Measure::Line { from: Spot { x: 0.1, y: 0.5 }, to: Spot { x: 0.1 + x, y: 0.5 }, length: Millimetres(length) }
    }

    #[test]
    fn panels_are_drawn_to_scale_wherever_they_hang() {
        // 0.5 of 2000 pixels is one metre: a pixel a millimetre.
        let w = wall(Some(line(0.5, 1000.0)));
        let c = Candidate {
            panels: Panels::Triptych,
            size: Size { width: Millimetres(300.0), height: Millimetres(400.0) },
            gap: Millimetres(50.0),
            at: Spot { x: 0.5, y: 0.4 },
        };
        let d = w.drawn(&c).unwrap();
        assert_eq!((d.panels.len(), d.width), (3, Millimetres(1000.0)));
        let p = d.panels[0];
        assert!(((p[1].x - p[0].x) * 2000.0 - 300.0).abs() < 1e-6 && ((p[2].y - p[1].y) * 1000.0 - 400.0).abs() < 1e-6);
        assert!((d.middle_height.0 - 600.0).abs() < 1e-6);
    }

    #[test]
    fn a_line_without_length_is_refused() {
        assert!(wall(Some(line(0.0, 1000.0))).check().unwrap_err().contains("no length"));
        assert!(wall(Some(line(0.5, 0.0))).check().unwrap_err().contains("longer than 0"));
        assert!(wall(None).check().is_ok());
        assert!(
            wall(None)
                .drawn(&Candidate {
                    panels: Panels::Single,
                    size: Size { width: Millimetres(100.0), height: Millimetres(100.0) },
                    gap: Millimetres(0.0),
                    at: Spot { x: 0.5, y: 0.5 }
                })
                .is_none()
        );
    }
}
