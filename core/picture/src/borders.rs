//! Zones mended by hand: joined across a border, parted along a drawn line, a border redrawn.

use crate::spot::Spot;
use crate::zone_map::ZoneMap;

/// Fewest cells a zone may be left with on either side of a cut.
const FEWEST: usize = 8;

/// Cell under a place, clamped into the map.
fn cell(map: &ZoneMap, p: Spot) -> (i64, i64) {
    let at = |share: f64, n: u32| ((share * f64::from(n)) as i64).clamp(0, i64::from(n) - 1);
    (at(p.x, map.width), at(p.y, map.height))
}

fn checked(stroke: &[Spot]) -> Result<(), String> {
    if stroke.len() > 4000 {
        return Err("that line has too many points: draw it in one go".into());
    }
    stroke.iter().try_for_each(|p| p.checked().map(drop))?;
    let length: f64 = stroke.windows(2).map(|w| (w[1].x - w[0].x).hypot(w[1].y - w[0].y)).sum();
    if length > 1e-3 { Ok(()) } else { Err("the line has no length: draw it with the button held down".into()) }
}

/// The zones a line starts and ends in: those to be joined.
///
/// # Errors
/// When the line has no length or stays within one zone.
pub fn joined_by(map: &ZoneMap, stroke: &[Spot]) -> Result<(u16, u16), String> {
    checked(stroke)?;
    let label = |p: &Spot| {
        let (x, y) = cell(map, *p);
        map.at(x as u32, y as u32)
    };
    match (stroke.first().map(label), stroke.last().map(label)) {
        (Some(a), Some(b)) if a != b => Ok((a, b)),
        _ => Err("the line stays within one zone: draw it across the border, from one zone into the other".into()),
    }
}

/// Parts `zone` along a drawn line. The line is lengthened straight ahead to the zone's edge and no farther; what lies to its right becomes
/// `new`. Far pieces the line does not touch stay with the zone.
///
/// # Errors
/// When the line has no length, or does not part the zone.
pub fn parted_by(map: &ZoneMap, zone: u16, stroke: &[Spot], new: u16) -> Result<ZoneMap, String> {
    checked(stroke)?;
    let line = lengthened(map, zone, stroke);
    let (w, n) = (map.width as usize, map.labels.len());
    let mut fence = vec![false; n];
    walk(&line, |x, y| {
        if let Some(i) = index(map, x, y) {
            fence[i] = true;
        }
    });
    let mut piece_of = vec![usize::MAX; n];
    let mut right_votes: Vec<i64> = Vec::new();
    let mut sizes: Vec<usize> = Vec::new();
    for start in 0..n {
        if map.labels[start] != zone || fence[start] || piece_of[start] != usize::MAX {
            continue;
        }
        let piece = sizes.len();
        let (mut votes, mut cells) = (0i64, 0usize);
        let mut ahead = vec![start];
        piece_of[start] = piece;
        while let Some(i) = ahead.pop() {
            cells += 1;
            for j in four_around(i, w, n) {
                if fence[j] && map.labels[j] == zone {
                    votes += side_of(&line, i % w, i / w);
                } else if map.labels[j] == zone && piece_of[j] == usize::MAX {
                    piece_of[j] = piece;
                    ahead.push(j);
                }
            }
        }
        right_votes.push(votes);
        sizes.push(cells);
    }
    let to_right: Vec<bool> = right_votes.iter().map(|v| *v > 0).collect();
    let right: usize = sizes.iter().zip(&to_right).filter(|(_, r)| **r).map(|(s, _)| s).sum();
    let left: usize = sizes.iter().zip(&right_votes).filter(|(_, v)| **v < 0).map(|(s, _)| s).sum();
    if right < FEWEST || left < FEWEST {
        return Err("the line does not part this zone: draw it from one edge of the zone to another".into());
    }
    let labels = (0..n).map(|i| if piece_of[i] != usize::MAX && to_right[piece_of[i]] { new } else { map.labels[i] }).collect();
    Ok(ZoneMap { labels, ..*map })
}

/// Redraws a border of `zone`: a line that starts in the zone takes in what it encloses; one that starts outside cuts off what it encloses
/// and gives it to where it started. Cells of `kept` zones stay.
///
/// # Errors
/// When the line encloses nothing that would change, or would swallow a zone.
pub fn redrawn(map: &ZoneMap, zone: u16, stroke: &[Spot], kept: &[u16]) -> Result<ZoneMap, String> {
    checked(stroke)?;
    let (sx, sy) = cell(map, stroke[0]);
    let start = map.at(sx as u32, sy as u32);
    let takes_in = start == zone;
    if kept.contains(&zone) || (!takes_in && kept.contains(&start)) {
        return Err("that zone is locked: unlock it first".into());
    }
    let mut labels = map.labels.clone();
    let mut changed = 0;
    for y in 0..map.height {
        for x in inside_row(map, stroke, y) {
            let i = (y * map.width + x) as usize;
            let now = map.labels[i];
            let next = if takes_in && !kept.contains(&now) {
                zone
            } else if !takes_in && now == zone {
                start
            } else {
                now
            };
            changed += usize::from(next != now);
            labels[i] = next;
        }
    }
    if changed == 0 {
        return Err("the line encloses nothing that would change: start in the zone and bulge out, or start outside and cut in".into());
    }
    let new = ZoneMap { labels, ..*map };
    let left = new.zones();
    match map.zones().into_iter().find(|z| !left.contains(z)) {
        Some(gone) => Err(format!("that would swallow zone {gone} whole: join the two instead")),
        None => Ok(new),
    }
}

fn index(map: &ZoneMap, x: i64, y: i64) -> Option<usize> {
    let inside = x >= 0 && y >= 0 && x < i64::from(map.width) && y < i64::from(map.height);
    inside.then(|| (y * i64::from(map.width) + x) as usize)
}

fn four_around(i: usize, w: usize, n: usize) -> impl Iterator<Item = usize> {
    let x = i % w;
    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (i >= w).then(|| i - w), (i + w < n).then(|| i + w)].into_iter().flatten()
}

/// The line in cells, both ends run on straight ahead while they are inside the zone.
fn lengthened(map: &ZoneMap, zone: u16, stroke: &[Spot]) -> Vec<(f64, f64)> {
    let at = |p: &Spot| (p.x * f64::from(map.width), p.y * f64::from(map.height));
    let mut line: Vec<(f64, f64)> = stroke.iter().map(at).collect();
    let (first, last) = (line[0], line[line.len() - 1]);
    let before = looking_back(first, last, line.iter().skip(1));
    let after = looking_back(last, first, line.iter().rev().skip(1));
    let (start, end) = (run_on(map, zone, first, before), run_on(map, zone, last, after));
    line.insert(0, start);
    line.push(end);
    line
}

/// The first point of the line that is a little way off its end: where the pen turned in its last moments says little of where it went.
fn looking_back<'a>(end: (f64, f64), other_end: (f64, f64), mut back: impl Iterator<Item = &'a (f64, f64)>) -> (f64, f64) {
    back.find(|p| (p.0 - end.0).hypot(p.1 - end.1) > 4.0).copied().unwrap_or(other_end)
}

fn run_on(map: &ZoneMap, zone: u16, end: (f64, f64), from: (f64, f64)) -> (f64, f64) {
    let length = (end.0 - from.0).hypot(end.1 - from.1);
    if length < 1e-9 {
        return end;
    }
    let step = ((end.0 - from.0) / length * 0.5, (end.1 - from.1) / length * 0.5);
    let mut at = end;
    while index(map, at.0.floor() as i64, at.1.floor() as i64).is_some_and(|i| map.labels[i] == zone) {
        at = (at.0 + step.0, at.1 + step.1);
    }
    at
}

/// Visits the cells of a line so that no step is diagonal: nothing leaks through it.
fn walk(line: &[(f64, f64)], mut visit: impl FnMut(i64, i64)) {
    let mut before: Option<(i64, i64)> = None;
    for w in line.windows(2) {
        let steps = ((w[1].0 - w[0].0).abs().max((w[1].1 - w[0].1).abs()) * 2.0).ceil().max(1.0) as usize;
        for s in 0..=steps {
            let t = s as f64 / steps as f64;
            let at = ((w[0].0 + (w[1].0 - w[0].0) * t).floor() as i64, (w[0].1 + (w[1].1 - w[0].1) * t).floor() as i64);
            if let Some((x, y)) = before
                && x != at.0
                && y != at.1
            {
                visit(x, at.1);
            }
            visit(at.0, at.1);
            before = Some(at);
        }
    }
}

/// +1 when the middle of a cell lies to the right of the nearest part of the line (y runs down), −1 to its left.
fn side_of(line: &[(f64, f64)], x: usize, y: usize) -> i64 {
    let p = (x as f64 + 0.5, y as f64 + 0.5);
    let off = |w: &[(f64, f64)]| {
        let d = (w[1].0 - w[0].0, w[1].1 - w[0].1);
        let len2 = (d.0 * d.0 + d.1 * d.1).max(1e-12);
        let t = (((p.0 - w[0].0) * d.0 + (p.1 - w[0].1) * d.1) / len2).clamp(0.0, 1.0);
        let near = (p.0 - w[0].0 - t * d.0).hypot(p.1 - w[0].1 - t * d.1);
        (near, d.0 * (p.1 - w[0].1) - d.1 * (p.0 - w[0].0))
    };
    let nearest = line.windows(2).filter(|w| w[0] != w[1]).map(off).min_by(|a, b| a.0.total_cmp(&b.0));
    nearest.map_or(0, |(_, cross)| if cross > 0.0 { 1 } else { -1 })
}

/// Columns of a row whose middles lie inside the closed line, by the even–odd rule.
fn inside_row(map: &ZoneMap, stroke: &[Spot], y: u32) -> Vec<u32> {
    let middle = (f64::from(y) + 0.5) / f64::from(map.height);
    let mut crossings: Vec<f64> = (0..stroke.len())
        .filter_map(|i| {
            let (a, b) = (stroke[i], stroke[(i + 1) % stroke.len()]);
            ((a.y <= middle) != (b.y <= middle)).then(|| a.x + (middle - a.y) / (b.y - a.y) * (b.x - a.x))
        })
        .collect();
    crossings.sort_by(f64::total_cmp);
    let column = |x: f64| (x * f64::from(map.width) - 0.5).ceil().clamp(0.0, f64::from(map.width)) as u32;
    crossings.chunks_exact(2).flat_map(|c| column(c[0])..column(c[1])).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn line(points: &[(f64, f64)]) -> Vec<Spot> {
        points.iter().map(|(x, y)| Spot { x: *x, y: *y }).collect()
    }

    /// Left half 1, right half 2.
    fn halves() -> ZoneMap {
        ZoneMap { width: 40, height: 20, labels: (0..800).map(|i| if i % 40 < 20 { 1 } else { 2 }).collect() }
    }

    /// A bent zone 1 (a U standing on its bottom) round zone 2.
    fn bent() -> ZoneMap {
        let labels = (0..40 * 40).map(|i| if (12..28).contains(&(i % 40)) && i / 40 < 28 { 2 } else { 1 }).collect();
        ZoneMap { width: 40, height: 40, labels }
    }

    fn pieces(map: &ZoneMap, zone: u16) -> usize {
        let (w, n) = (map.width as usize, map.labels.len());
        let mut seen = vec![false; n];
        (0..n)
            .filter(|s| {
                if seen[*s] || map.labels[*s] != zone {
                    return false;
                }
                let mut ahead = vec![*s];
                while let Some(i) = ahead.pop() {
                    if !std::mem::replace(&mut seen[i], true) {
                        ahead.extend(four_around(i, w, n).filter(|j| map.labels[*j] == zone && !seen[*j]));
                    }
                }
                true
            })
            .count()
    }

    #[test]
    fn a_line_across_a_border_names_both_zones() {
        assert_eq!(joined_by(&halves(), &line(&[(0.2, 0.5), (0.8, 0.5)])), Ok((1, 2)));
        assert!(joined_by(&halves(), &line(&[(0.1, 0.5), (0.4, 0.5)])).unwrap_err().contains("one zone"));
        assert!(joined_by(&halves(), &line(&[(0.1, 0.5)])).unwrap_err().contains("no length"));
    }

    #[test]
    fn a_bent_zone_is_parted_only_where_the_line_crosses_it() {
        // Across the left arm of the U: the right arm keeps its number and nothing falls apart.
        let got = parted_by(&bent(), 1, &line(&[(0.05, 0.3), (0.25, 0.3)]), 3).unwrap();
        assert_eq!((pieces(&got, 1), pieces(&got, 3)), (1, 1));
        assert_eq!(got.zones(), [1, 2, 3]);
        assert_eq!(got.at(38, 2), got.at(38, 38));
        assert_ne!(got.at(2, 2), got.at(2, 38));
    }

    #[test]
    fn a_bent_line_parts_along_its_bends() {
        let map = ZoneMap { width: 40, height: 40, labels: vec![1; 1600] };
        let got = parted_by(&map, 1, &line(&[(0.0, 0.5), (0.5, 0.5), (0.5, 0.99)]), 2).unwrap();
        assert_ne!(got.at(5, 30), got.at(30, 30));
        assert_eq!(got.at(5, 5), got.at(30, 30));
    }

    #[test]
    fn a_line_beside_the_zone_parts_nothing() {
        assert!(parted_by(&halves(), 1, &line(&[(0.6, 0.1), (0.9, 0.9)]), 3).unwrap_err().contains("does not part"));
    }

    #[test]
    fn a_border_is_pushed_out_and_cut_in() {
        let out = redrawn(&halves(), 1, &line(&[(0.45, 0.2), (0.7, 0.5), (0.45, 0.8)]), &[]).unwrap();
        assert_eq!((out.at(24, 10), out.at(24, 1)), (1, 2));
        let cut = redrawn(&halves(), 1, &line(&[(0.6, 0.2), (0.3, 0.5), (0.6, 0.8)]), &[]).unwrap();
        assert_eq!((cut.at(15, 10), cut.at(15, 1)), (2, 1));
    }

    #[test]
    fn locked_zones_and_whole_swallowings_are_refused() {
        let all = line(&[(0.1, 0.01), (1.0, 0.0), (1.0, 1.0), (0.1, 0.99)]);
        assert!(redrawn(&halves(), 1, &all, &[]).unwrap_err().contains("swallow zone 2"));
        assert!(redrawn(&halves(), 1, &all, &[2]).unwrap_err().contains("nothing that would change"));
        assert!(redrawn(&halves(), 1, &all, &[1]).unwrap_err().contains("locked"));
    }
}
