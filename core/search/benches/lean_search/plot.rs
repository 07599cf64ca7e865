//! Small line plots side by side, seconds on a common logarithmic scale.

use std::fmt::Write;

const WIDTH: f64 = 210.0;
const HEIGHT: f64 = 230.0;
const LEFT: f64 = 46.0;
const FOOT: f64 = 40.0;

/// One panel for each series of labelled seconds.
pub(crate) fn svg(series: &[(&str, Vec<(String, f64)>)]) -> String {
    let all = series.iter().flat_map(|s| &s.1).map(|p| p.1);
    let (low, high) = all.fold((f64::INFINITY, 0.0f64), |(l, h), s| (l.min(s), h.max(s)));
    let (low, high) = (low.log10().floor(), high.log10().ceil());
    let y = |s: f64| 24.0 + (high - s.log10()) / (high - low) * (HEIGHT - FOOT - 24.0);
    let width = LEFT + WIDTH * series.len() as f64;
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{HEIGHT}\" viewBox=\"0 0 {width} {HEIGHT}\" font-family=\"sans-serif\" font-size=\"12\"><rect width=\"100%\" height=\"100%\" fill=\"#e8e8e8\"/>\n"
    );
    for power in low as i32..=high as i32 {
        let at = y(10f64.powi(power));
        let _ = writeln!(
            out,
            "<line x1=\"{LEFT}\" x2=\"{width}\" y1=\"{at:.1}\" y2=\"{at:.1}\" stroke=\"#b4b4b4\"/><text x=\"{}\" y=\"{:.1}\" text-anchor=\"end\">{} s</text>",
            LEFT - 5.0,
            at + 4.0,
            10f64.powi(power)
        );
    }
    for (panel, (what, points)) in series.iter().enumerate() {
        let x = |i: usize| LEFT + WIDTH * panel as f64 + 22.0 + (WIDTH - 50.0) * i as f64 / (points.len().max(2) - 1) as f64;
        let line: Vec<String> = points.iter().enumerate().map(|(i, p)| format!("{:.1},{:.1}", x(i), y(p.1))).collect();
        let _ = writeln!(out, "<polyline points=\"{}\" fill=\"none\" stroke=\"#111\" stroke-width=\"2\"/>", line.join(" "));
        for (i, (label, s)) in points.iter().enumerate() {
            let (x, y) = (x(i), y(*s));
            let _ = writeln!(
                out,
                "<circle cx=\"{x:.1}\" cy=\"{y:.1}\" r=\"3\"/><text x=\"{x:.1}\" y=\"{:.1}\" text-anchor=\"middle\">{label}</text>",
                HEIGHT - 22.0
            );
        }
        let _ = writeln!(
            out,
            "<text x=\"{:.1}\" y=\"{:.1}\" text-anchor=\"middle\" font-weight=\"bold\">{what}</text>",
            x(0) + (WIDTH - 50.0) / 2.0,
            HEIGHT - 5.0
        );
    }
    out + "</svg>\n"
}
