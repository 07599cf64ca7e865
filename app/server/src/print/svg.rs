//! A sheet as SVG in millimetres.

use crate::pictures::png;
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use lean_colour::Lab;
use lean_plan::paper::{Item, Sheet};
use std::fmt::Write;

fn hex(colour: Lab) -> String {
    colour.xyz().srgb().hex()
}

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}

/// Writes the sheet as an SVG document whose user unit is a millimetre, with its painted pictures.
///
/// # Errors
/// When a picture cannot be written; says why.
pub(crate) fn write(sheet: &Sheet) -> Result<String, String> {
    let mut pictures = String::new();
    for mark in &sheet.marks {
        if let Item::Picture { rect: [x, y, w, h], picture } = mark {
            let png = png(picture).map_err(|p| p.detail)?;
            let data = STANDARD.encode(png);
            // Writing to a string cannot fail.
            let _ = write!(
                pictures,
                "<image x=\"{x:.3}\" y=\"{y:.3}\" width=\"{w:.3}\" height=\"{h:.3}\" preserveAspectRatio=\"none\" href=\"data:image/png;base64,{data}\"/>"
            );
        }
    }
    Ok(document(sheet, &format!("<rect width=\"{}\" height=\"{}\" fill=\"#fff\"/>{pictures}", sheet.width, sheet.height)))
}

/// The sheet on whatever stands `beneath`, its painted pictures left out.
pub(crate) fn document(sheet: &Sheet, beneath: &str) -> String {
    let (w, h) = (sheet.width, sheet.height);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{w}mm\" height=\"{h}mm\" viewBox=\"0 0 {w} {h}\"><title>{}</title>{beneath}",
        escaped(&sheet.title)
    );
    for mark in &sheet.marks {
        // Writing to a string cannot fail.
        let _ = draw(&mut out, mark);
    }
    out + "</svg>"
}

fn draw(out: &mut String, mark: &Item) -> std::fmt::Result {
    match mark {
        Item::Fill { rect: [x, y, w, h], colour } => {
            write!(out, "<rect x=\"{x:.3}\" y=\"{y:.3}\" width=\"{w:.3}\" height=\"{h:.3}\" fill=\"{}\"/>", hex(*colour))
        }
        // They lie beneath everything else.
        Item::Picture { .. } => Ok(()),
        Item::Shape { rings, fill, line } => {
            let fill = fill.map_or("none".into(), hex);
            write!(out, "<path fill-rule=\"evenodd\" fill=\"{fill}\"")?;
            if *line > 0.0 {
                write!(out, " stroke=\"#101010\" stroke-width=\"{line}\"")?;
            }
            write!(out, " d=\"")?;
            for ring in rings {
                for (i, (x, y)) in ring.iter().enumerate() {
                    write!(out, "{}{x:.2} {y:.2}", if i == 0 { 'M' } else { 'L' })?;
                }
                write!(out, "Z")?;
            }
            write!(out, "\"/>")
        }
        Item::Line { ends: [x0, y0, x1, y1], width } => {
            write!(out, "<path stroke=\"#101010\" stroke-width=\"{width}\" d=\"M{x0:.3} {y0:.3}L{x1:.3} {y1:.3}\"/>")
        }
        Item::Text { x, y, size, bold, text } => write!(
            out,
            "<text x=\"{x:.3}\" y=\"{y:.3}\" font-size=\"{size}\" font-family=\"Instrument Sans Variable, Instrument Sans\" font-weight=\"{}\" fill=\"#101010\">{}</text>",
            if *bold { 700 } else { 400 },
            escaped(text)
        ),
    }
}
