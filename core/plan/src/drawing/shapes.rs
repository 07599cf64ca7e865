//! Shapes of a drawing as they lie: what borders on what, what is the background, and which mirror each other.

use lean_picture::kept_map::Extent;
use lean_piece::{Importance, Piece, ZoneId};
use std::collections::BTreeMap;

/// Difference of area within which two shapes may mirror each other, as a share of the larger. A choice.
const ALIKE: f64 = 0.14;
/// Distance from its mirrored place within which a shape may lie, as a share of the longer side. A choice.
const OFF: f64 = 0.025;

/// Shapes that are given one colour: one shape, or several that mirror each other.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Group {
    /// Its shapes, by their places in the piece.
    pub members: Vec<usize>,
    /// Its share of the picture.
    pub area: f64,
    /// True where the eye is to go there.
    pub focal: bool,
}

/// A drawing by its groups.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Shapes {
    /// All but the background, in the order of their first shapes.
    pub groups: Vec<Group>,
    /// The place in the piece of the background, where there is one.
    pub background: Option<usize>,
    /// Length of the border between two groups, both ways.
    pub borders: Vec<Vec<f64>>,
    /// Length of the border of each group with the background.
    pub on_background: Vec<f64>,
}

impl Shapes {
    /// The shapes of a piece; `None` without a map.
    pub(crate) fn of(piece: &Piece) -> Option<Self> {
        let map = piece.map()?;
        let (w, h) = (f64::from(map.width), f64::from(map.height));
        let at: BTreeMap<u16, usize> = piece.zones.iter().enumerate().map(|(i, z)| (z.id.0, i)).collect();
        let mut seen = vec![Extent::default(); piece.zones.len()];
        piece.geometry().extents.iter().filter_map(|e| Some((*at.get(&e.zone)?, e))).for_each(|(i, e)| seen[i] = *e);
        let background = (0..seen.len()).filter(|i| 3.0 * seen[*i].on_edge as f64 > 2.0 * (w + h)).max_by_key(|i| seen[*i].cells);
        let mut own: Vec<usize> = (0..piece.zones.len()).collect();
        join_mirrored(&seen, background, w.max(h), &mut own);
        let mut groups: Vec<Group> = Vec::new();
        let mut group_of = vec![usize::MAX; own.len()];
        for (i, first) in own.iter().enumerate().filter(|(i, _)| Some(*i) != background && seen[*i].cells > 0) {
            if *first == i {
                group_of[i] = groups.len();
                groups.push(Group { members: vec![i], area: 0.0, focal: false });
            } else {
                group_of[i] = group_of[*first];
                groups[group_of[i]].members.push(i);
            }
            let group = &mut groups[group_of[i]];
            group.area += seen[i].cells as f64 / (w * h);
            group.focal |= piece.zones[i].importance == Importance::Focal;
        }
        let mut borders = vec![vec![0.0; groups.len()]; groups.len()];
        let mut on_background = vec![0.0; groups.len()];
        for (a, b, length) in &piece.geometry().borders {
            let (Some(a), Some(b)) = (at.get(a), at.get(b)) else { continue };
            let length = *length as f64;
            match (group_of[*a], group_of[*b]) {
                (g, k) if g != usize::MAX && k != usize::MAX && g != k => {
                    borders[g][k] += length;
                    borders[k][g] += length;
                }
                (g, usize::MAX) if g != usize::MAX => on_background[g] += length,
                (usize::MAX, k) if k != usize::MAX => on_background[k] += length,
                _ => {}
            }
        }
        Some(Self { groups, background, borders, on_background })
    }

    /// Groups that border on each other, each pair once, with the length of the border.
    pub(crate) fn pairs(&self) -> Vec<(usize, usize, f64)> {
        let rows = self.borders.iter().enumerate();
        rows.flat_map(|(i, row)| row.iter().enumerate().skip(i + 1).filter(|(_, b)| **b > 0.0).map(move |(j, b)| (i, j, *b))).collect()
    }

    /// The zones of the piece that are alike, in groups of two and more.
    pub(crate) fn alike(&self, piece: &Piece) -> Vec<Vec<ZoneId>> {
        let ids = |g: &Group| g.members.iter().map(|i| piece.zones[*i].id).collect::<Vec<_>>();
        self.groups.iter().filter(|g| g.members.len() > 1).map(ids).collect()
    }
}

/// Gives shapes that mirror each other, about the upright line through the middle of all of them, the number of the first.
fn join_mirrored(seen: &[Extent], background: Option<usize>, side: f64, own: &mut [usize]) {
    let inner = || (0..seen.len()).filter(|i| Some(*i) != background && seen[*i].cells > 0);
    let cells = |i: usize| seen[i].cells as f64;
    let all: f64 = inner().map(cells).sum();
    if all == 0.0 {
        return;
    }
    let (x, y) = (|i: usize| seen[i].middle.0, |i: usize| seen[i].middle.1);
    let axis = inner().map(|i| x(i) * cells(i)).sum::<f64>() / all;
    for i in inner() {
        let mirrors = |j: &usize| {
            let (a, b) = (cells(i), cells(*j));
            (a - b).abs() <= ALIKE * a.max(b) && (y(i) - y(*j)).abs() <= OFF * side && (x(i) + x(*j) - 2.0 * axis).abs() <= OFF * side
        };
        if let Some(first) = inner().take_while(|j| *j < i).find(|j| own[*j] == *j && mirrors(j)) {
            own[i] = first;
        }
    }
}
