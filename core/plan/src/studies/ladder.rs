//! The ladder on paper: the value axis alone, to be held against the work.

use crate::paper::{Item, Sheet, paper};
use lean_colour::{Lab, Value};
use lean_piece::Piece;

/// Size of a rung, and the margin round the page, in millimetres.
const RUNG: (f64, f64) = (70.0, 22.0);
const MARGIN: f64 = 16.0;

/// A page with eleven greys from 10 down to 0, each a step of value, and beside each what of the plan lies there. The right edge is cut off
/// along the line, so that the greys end where the work begins.
pub fn lay_out(piece: &Piece) -> Sheet {
    let (width, height) = paper(piece.sheet.page);
    let mut marks = vec![
        Item::Text { x: MARGIN, y: MARGIN, size: 4.8, bold: true, text: format!("{}: value ladder", piece.brief.title) },
        Item::Text {
            x: MARGIN,
            y: MARGIN + 5.0,
            size: 3.0,
            bold: false,
            text: "Cut along the line. Printers differ: trust it once its 5 sits beside a known middle grey.".into(),
        },
    ];
    let rung = RUNG.1.min((height - 2.0 * MARGIN - 10.0) / 11.0);
    let right = width - MARGIN;
    for step in 0..=10u32 {
        let value = f64::from(10 - step);
        let top = MARGIN + 10.0 + f64::from(step) * rung;
        let grey = Lab::new(Value(value).lightness(), 0.0, 0.0);
        marks.push(Item::Fill { rect: [right - RUNG.0, top, RUNG.0, rung], colour: grey });
        marks.push(Item::Text { x: right - RUNG.0 - 9.0, y: top + rung / 2.0 + 1.6, size: 4.4, bold: true, text: format!("{value:.0}") });
        let here: Vec<String> = piece
            .zones
            .iter()
            .filter(|z| piece.wanted(z).value().0.round() == value)
            .map(|z| format!("{} {:.1}", piece.zone_label(z.id), piece.wanted(z).value().0))
            .collect();
        for (i, text) in here.chunks(2).take(3).enumerate() {
            let y = top + rung / 2.0 + 1.2 + (i as f64 - (here.chunks(2).count().min(3) as f64 - 1.0) / 2.0) * 4.2;
            marks.push(Item::Text { x: MARGIN, y, size: 3.0, bold: false, text: text.join(", ").chars().take(56).collect() });
        }
    }
    marks.push(Item::Line { ends: [right, MARGIN + 8.0, right, MARGIN + 12.0 + 11.0 * rung], width: 0.15 });
    Sheet { width, height, title: format!("{} – value ladder", piece.brief.title), marks }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    #[test]
    fn eleven_greys_each_a_step_apart_with_the_plan_beside_them() {
        let piece = staged(&[Staged::vt(8.1, 0.0), Staged::vt(3.0, 0.0)]);
        let sheet = lay_out(&piece);
        let greys: Vec<f64> =
            sheet.marks.iter().filter_map(|m| if let Item::Fill { colour, .. } = m { Some(colour.value().0) } else { None }).collect();
        assert_eq!(greys.len(), 11);
        assert!(greys.windows(2).all(|w| (w[0] - w[1] - 1.0).abs() < 0.01));
        let texts: Vec<&String> =
            sheet.marks.iter().filter_map(|m| if let Item::Text { text, .. } = m { Some(text) } else { None }).collect();
        assert!(texts.iter().any(|t| t.contains("zone 1 8.1")), "{texts:?}");
        let bottom = sheet.marks.iter().map(|m| if let Item::Fill { rect, .. } = m { rect[1] + rect[3] } else { 0.0 }).fold(0.0, f64::max);
        assert!(bottom < sheet.height - 5.0);
    }
}
