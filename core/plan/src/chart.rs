//! A colour chart of a reference: its distinct colours in a grid, and as a wish for another piece.

use lean_colour::screen;
use lean_picture::Picture;
use lean_picture::chart::Distinct;
use lean_piece::{Chart, ChartCell, Piece, Wished, WishedColour};

/// Arranges colours in a grid as square as can be: rows from light to dark, each from cool to warm.
pub fn arranged(colours: &[Distinct]) -> Chart {
    let columns = (colours.len() as f64).sqrt().ceil().max(1.0) as usize;
    let mut by_value: Vec<&Distinct> = colours.iter().collect();
    by_value.sort_by(|a, b| b.lab.value().0.total_cmp(&a.lab.value().0));
    let cells = by_value
        .chunks(columns)
        .enumerate()
        .flat_map(|(row, colours)| {
            let mut colours = colours.to_vec();
            colours.sort_by(|a, b| a.lab.temperature().0.total_cmp(&b.lab.temperature().0));
            colours.into_iter().enumerate().map(move |(column, c)| ChartCell {
                lab: c.lab,
                area: c.area,
                place: c.place,
                row: row as u16,
                column: column as u16,
            })
        })
        .collect();
    Chart { cells }
}

/// The picture with everything faint grey but what is nearest to one cell; `None` when there is no such cell.
pub fn occurs(picture: &Picture, chart: &Chart, cell: usize) -> Option<Picture> {
    chart.cells.get(cell)?;
    let cells: Vec<[f64; 3]> = chart.cells.iter().map(|c| ok(c.lab.xyz())).collect();
    let mut out = picture.reduced(900);
    for px in out.rgb.chunks_exact_mut(3) {
        let own = ok(screen::xyz_of_srgb([px[0], px[1], px[2]]));
        let far = |c: &[f64; 3]| c.iter().zip(own).map(|(a, b)| (a - b).powi(2)).sum::<f64>();
        let nearest = cells.iter().enumerate().min_by(|a, b| far(a.1).total_cmp(&far(b.1))).map(|(i, _)| i);
        if nearest != Some(cell) {
            let y = screen::xyz_of_srgb([px[0], px[1], px[2]]).y / 100.0;
            px.fill(screen::grey_byte(0.24 + (y - 0.24) * 0.12));
        }
    }
    Some(out)
}

fn ok(xyz: lean_colour::Xyz) -> [f64; 3] {
    let o = xyz.oklab();
    [o.l, o.a, o.b]
}

/// The colours of a piece's chart in their proportions, as a wish; `None` without a chart.
pub fn wished(from: &Piece) -> Option<Wished> {
    let chart = from.chart.as_ref()?;
    let colours = chart.cells.iter().map(|c| WishedColour { lab: c.lab, area: c.area }).collect();
    Some(Wished { from: from.brief.title.clone(), colours, weight: 1.0 })
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_picture::chart::distinct;

    fn quilt() -> Picture {
        let stripes = [[230, 220, 200], [200, 210, 230], [60, 40, 40], [40, 50, 80]];
        let row: Vec<u8> = stripes.iter().flat_map(|c: &[u8; 3]| c.repeat(25)).collect();
        Picture { width: 100, height: 40, rgb: row.repeat(40) }
    }

    #[test]
    fn rows_run_from_light_to_dark_and_each_from_cool_to_warm() {
        let chart = arranged(&distinct(&quilt(), None).colours);
        assert_eq!(chart.cells.len(), 4);
        let at = |r: u16, c: u16| chart.cells.iter().find(|x| (x.row, x.column) == (r, c)).unwrap().lab;
        assert!(at(0, 0).value().0 > at(1, 0).value().0 && at(0, 0).temperature().0 < at(0, 1).temperature().0);
        assert!(at(1, 0).temperature().0 < at(1, 1).temperature().0);
    }

    #[test]
    fn a_cell_shows_where_it_occurs() {
        let p = quilt();
        let chart = arranged(&distinct(&p, None).colours);
        let cell = chart.cells.iter().position(|c| c.place.x < 0.25).unwrap();
        let seen = occurs(&p, &chart, cell).unwrap();
        assert_eq!(seen.at(10, 10), [230, 220, 200]);
        let rest = seen.at(90, 10);
        assert!(rest[0] == rest[1] && rest[1] == rest[2]);
        assert!(occurs(&p, &chart, 99).is_none());
    }
}
