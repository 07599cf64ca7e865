//! Zones laid over a picture at one brush: each shape takes the zone of the shade nearest to it, and what is left is made fit for the brush.

use super::cells::apart2;
use super::laid::Laid;
use super::shapes::{FINE, MIDDLE, Shapes};
use super::survey::Survey;
use super::tidy::{self, Ground};
use super::tip;
use crate::zone_map::ZoneMap;
use lean_colour::Share;

/// How much nearer, in squared look units, a run's own ground is to it than to a flat shade.
const OWN_GROUND: f32 = 16.0;
/// How much farther, in squared look units, a shade of one mass is from what lies in another.
const OTHER_MASS: f32 = 100.0;

impl Survey {
    /// Which zone every cell belongs to at a brush of this share of the longer side, by the picture alone. Nothing smaller than the brush is
    /// left, unless the whole picture is, but for the few marks that its tip puts back.
    pub fn lay(&self, shades: &[Laid], brush: Share) -> ZoneMap {
        let mut last = self.last.lock().unwrap_or_else(|p| p.into_inner());
        if let Some((_, _, map)) = last.as_ref().filter(|(of, at, _)| *at == brush.0 && of == shades) {
            return map.clone();
        }
        let labels = self.nearest(shades, &self.shapes(brush));
        let ground = Ground { cells: &self.cells, hand: None };
        let map = tidy::fit_for(self.map(labels), &ground, self.brush(brush.0));
        let fine = self.nearest(shades, &self.shapes(Share(brush.0 * tip::TIP)));
        let map = tip::put_back(map, &fine, &self.cells, self.brush(brush.0));
        *last = Some((shades.to_vec(), brush.0, map.clone()));
        map
    }

    /// Lays what was laid by hand (0 where nothing was) over such a map, at the same brush.
    pub fn under_hand(&self, map: &ZoneMap, hand: &ZoneMap, brush: Share) -> ZoneMap {
        if hand.labels.len() != map.labels.len() {
            return map.clone();
        }
        let labels = map.labels.iter().zip(&hand.labels).map(|(auto, hand)| if *hand > 0 { *hand } else { *auto }).collect();
        let ground = Ground { cells: &self.cells, hand: Some(&hand.labels) };
        let mended = tidy::fit_again(self.map(labels), &ground, self.brush(brush.0));
        tip::kept_under_hand(mended, map, hand, &self.cells, tidy::least_cells(self.brush(brush.0)))
    }

    /// Where each shade's zone lies whatever the brush: what zones are read from. Not tidied.
    pub fn colour_map(&self, shades: &[Laid]) -> ZoneMap {
        self.map(self.nearest(shades, &self.shapes(Share(FINE))))
    }

    fn map(&self, labels: Vec<u16>) -> ZoneMap {
        ZoneMap { width: self.cells.width as u32, height: self.cells.height as u32, labels }
    }

    fn brush(&self, share: f64) -> f64 {
        share * self.cells.longer() as f64
    }

    /// The zone of the shade nearest to the shape each cell lies in.
    fn nearest(&self, shades: &[Laid], shapes: &Shapes) -> Vec<u16> {
        let zone_of = self.nearest_of_shapes(shades, shapes);
        self.patches.of_cell.iter().map(|p| zone_of[shapes.of_patch[*p as usize] as usize]).collect()
    }

    /// The zone of the shade nearest to each shape; 0 for an empty one.
    fn nearest_of_shapes(&self, shades: &[Laid], shapes: &Shapes) -> Vec<u16> {
        let mass_of_shade: Vec<Option<usize>> = shades.iter().map(|s| s.within.map(|at| usize::from(self.depth.at(at)))).collect();
        let in_mass = self.depth.in_shapes(&self.patches, shapes);
        shapes
            .all
            .iter()
            .zip(in_mass)
            .map(|(s, in_mass)| {
                if s.cells == 0.0 {
                    return 0;
                }
                // What it looks like where it is: its change put back.
                let look = s.run.map_or(s.look, |r| {
                    let (run, here) = (&self.runs[r], self.runs[r].at(s.middle.0, s.middle.1));
                    std::array::from_fn(|c| s.look[c] + here[c] - run.mean[c])
                });
                let own = |shade: &Laid| if s.run.is_some() && shade.run.is_some() { OWN_GROUND } else { 0.0 };
                let other =
                    |mass: &Option<usize>| mass.map_or(0.0, |m| OTHER_MASS * self.cells.scale.powi(2) * (1.0 - in_mass[m] / s.cells));
                let miss = |(shade, mass): &(&Laid, &Option<usize>)| apart2(look, shade.at(s.middle)) - own(shade) + other(mass);
                shades.iter().zip(&mass_of_shade).min_by(|a, b| miss(a).total_cmp(&miss(b))).map_or(1, |(s, _)| s.zone)
            })
            .collect()
    }

    /// The shades of `count` colours, zones numbered from 1 by the share of the picture they cover, and the order in which shades join.
    pub fn palette(&self, count: usize) -> (Vec<Laid>, Vec<(usize, usize)>) {
        let cut = self.colours.cut(self.colours.distinct(count));
        let shades = self.colours.shades.iter().zip(&cut);
        let mut laid: Vec<Laid> = shades
            .map(|(s, zone)| Laid {
                look: s.look,
                run: s.run.map(|r| self.runs[r].clone()),
                weight: s.weight,
                zone: *zone as u16 + 1,
                within: s.within,
            })
            .collect();
        let mut by_area: std::collections::BTreeMap<u16, usize> = laid.iter().map(|l| (l.zone, 0)).collect();
        self.nearest(&laid, &self.shapes(Share(MIDDLE))).into_iter().for_each(|zone| *by_area.entry(zone).or_default() += 1);
        let mut order: Vec<(u16, usize)> = by_area.into_iter().collect();
        order.sort_by_key(|(zone, n)| (std::cmp::Reverse(*n), *zone));
        for l in &mut laid {
            l.zone = order.iter().position(|(zone, _)| *zone == l.zone).map_or(1, |p| p as u16 + 1);
        }
        (laid, self.colours.joins.clone())
    }

    /// The look of a CIELAB colour, as a shade of its own.
    pub fn shade(&self, lab: lean_colour::Lab, zone: u16) -> Laid {
        Laid { look: super::cells::even_colour(lab.l, lab.a, lab.b), run: None, weight: f32::MIN_POSITIVE, zone, within: None }
    }
}
