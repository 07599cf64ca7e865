//! The form of a thing in the light: a shape blown up and lit, or the light and dark that are really in it, cut into parts from its shadow side to its light.

mod height;
mod parts;
mod seen;

use crate::Picture;
use crate::spot::Spot;
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use serde::{Deserialize, Serialize};

/// The bulge of a shape.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Bulge {
    /// Like a cushion or a ball.
    #[default]
    Round,
    /// Like a branch or a pipe: across its length only.
    Tube,
    /// Not at all: light runs over it from one side to the other.
    Flat,
    /// Like a roof: sides that meet in an edge.
    Ridge,
}

impl Bulge {
    /// All of them.
    pub const ALL: &[Self] = &[Self::Round, Self::Tube, Self::Flat, Self::Ridge];

    /// Its name on the page.
    pub fn label(self) -> &'static str {
        match self {
            Self::Round => "round",
            Self::Tube => "a tube",
            Self::Flat => "flat",
            Self::Ridge => "a ridge",
        }
    }
}

/// A part of a form.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FormPart {
    /// Its shadow side.
    Base,
    /// The part between shadow and light.
    Middle,
    /// The side that faces the light.
    Light,
    /// Light thrown back into the edge of the shadow.
    Rim,
    /// Where the light itself is mirrored.
    Highlight,
}

impl FormPart {
    /// All of them.
    pub const ALL: [Self; 5] = [Self::Base, Self::Middle, Self::Light, Self::Rim, Self::Highlight];

    /// In a word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Base => "base",
            Self::Middle => "middle",
            Self::Light => "light",
            Self::Rim => "rim",
            Self::Highlight => "highlight",
        }
    }
}

/// Where the light in a shape comes from.
#[derive(Clone, Copy)]
pub enum Lit<'a> {
    /// Blown up, and lit from a direction: to the right, down, and towards the eye.
    From(Bulge, [f64; 3]),
    /// As a picture has it.
    Seen(&'a Picture),
}

/// The cut of a form into its parts.
#[derive(Clone, Debug, PartialEq)]
pub struct Cutting {
    /// Share of the shape that its base has, 0.1..=0.7.
    pub dark: f64,
    /// The mark of the brush, in cells of the map: no part is smaller.
    pub brush: f64,
    /// True to keep a rim of thrown-back light and a highlight.
    pub edges: bool,
}

/// Smallest share of a shape's larger side that a mark takes for the shape to be turned at all. A choice: a bead has no form.
const ROOM: f64 = 3.5;

/// The parts of a zone, place by place; places too small to turn are left out. `shadow` is a line along which the shadow begins, with its base to the side
/// that is darker. Cells of the map with their part, or nothing where no place of the zone is large enough.
///
/// # Errors
/// When the line of the shadow does not part the zone.
pub fn turned(map: &ZoneMap, zone: u16, lit: Lit, cutting: &Cutting, shadow: Option<&[Spot]>) -> Result<Vec<(usize, FormPart)>, String> {
    let sides = shadow.map(|line| crate::borders::parted_by(map, zone, line, u16::MAX)).transpose()?;
    let all = Parts::of(map);
    let of_cells = all.of_cells();
    let mut turned = Vec::new();
    for (number, part) in all.all.iter().enumerate() {
        if part.zone != zone || f64::from(part.cells) < (ROOM * cutting.brush).powi(2) {
            continue;
        }
        let cells: Vec<usize> = (0..of_cells.len()).filter(|i| of_cells[*i] as usize == number).collect();
        let shape = Shape::of(&cells, map.width as usize);
        let light = match lit {
            Lit::From(bulge, from) => height::lit(&shape, bulge, from),
            Lit::Seen(picture) => seen::light(&shape, map, picture, cutting.brush),
        };
        let base = sides.as_ref().and_then(|s| darker_side(&cells, &s.labels, &light));
        turned.extend(cells.iter().copied().zip(parts::cut(&shape, &light, cutting, base.as_deref())));
    }
    Ok(turned)
}

/// True of the cells on the darker side of a line; `None` where the line leaves the place whole.
fn darker_side(cells: &[usize], labels: &[u16], light: &[f32]) -> Option<Vec<bool>> {
    let beyond: Vec<bool> = cells.iter().map(|i| labels[*i] == u16::MAX).collect();
    let mean = |side: bool| {
        let all: Vec<f32> = beyond.iter().zip(light).filter(|(b, _)| **b == side).map(|(_, l)| *l).collect();
        (!all.is_empty()).then(|| all.iter().sum::<f32>() / all.len() as f32)
    };
    let (one, other) = (mean(true)?, mean(false)?);
    Some(if one <= other { beyond } else { beyond.iter().map(|b| !b).collect() })
}

/// The cells of a place in their own rectangle.
struct Shape {
    /// Columns and rows of the rectangle.
    wide: usize,
    high: usize,
    /// Left edge and top on the map.
    left: usize,
    top: usize,
    /// Number of the cell of the list at each place of the rectangle.
    inside: Vec<Option<u32>>,
    /// Place in the rectangle of each cell of the list.
    at: Vec<(usize, usize)>,
}

impl Shape {
    fn of(cells: &[usize], across: usize) -> Self {
        let xs = || cells.iter().map(|i| i % across);
        let ys = || cells.iter().map(|i| i / across);
        let (left, right) = (xs().min().unwrap_or(0), xs().max().unwrap_or(0));
        let (top, foot) = (ys().min().unwrap_or(0), ys().max().unwrap_or(0));
        let (wide, high) = (right - left + 1, foot - top + 1);
        let at: Vec<(usize, usize)> = cells.iter().map(|i| (i % across - left, i / across - top)).collect();
        let mut inside = vec![None; wide * high];
        at.iter().enumerate().for_each(|(n, (x, y))| inside[y * wide + x] = Some(n as u32));
        Self { wide, high, left, top, inside, at }
    }

    /// Cells beside the n-th of the list, in four directions.
    fn beside(&self, n: usize) -> impl Iterator<Item = usize> + '_ {
        let (x, y) = self.at[n];
        let at = move |x: usize, y: usize| self.inside[y * self.wide + x].map(|m| m as usize);
        let left = (x > 0).then(|| (x - 1, y));
        let right = (x + 1 < self.wide).then(|| (x + 1, y));
        let up = (y > 0).then(|| (x, y - 1));
        let down = (y + 1 < self.high).then(|| (x, y + 1));
        [left, right, up, down].into_iter().flatten().filter_map(move |(x, y)| at(x, y))
    }
}
