//! A plot a painter reads at a glance, with its figures.

use serde::Serialize;

/// One mark of a plot.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlotMark {
    /// What it stands for.
    pub label: String,
    /// The figure.
    pub y: f64,
    /// The figure it is seen beside: what was planned where `y` is what came.
    pub beside: Option<f64>,
    /// One standard error of the figure; `None` where there is no telling.
    pub doubt: Option<f64>,
    /// How many cases it was made from.
    pub cases: usize,
}

/// A plot with what it says.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plot {
    /// Its name in addresses and files.
    pub key: String,
    /// What it shows.
    pub title: String,
    /// What it says, in a sentence.
    pub says: String,
    /// What the figures are, with their unit.
    pub measures: String,
    /// What is seen beside them; empty where nothing is.
    pub beside: String,
    /// The marks, in their order.
    pub marks: Vec<PlotMark>,
}

impl Plot {
    /// Its figures as comma-separated text with a heading line (RFC 4180).
    pub fn csv(&self) -> String {
        let number = |n: Option<f64>| n.map(|n| format!("{n:.3}")).unwrap_or_default();
        let beside = if self.beside.is_empty() { "beside" } else { &self.beside };
        let mut out = format!("{},{},{},standard error,cases\r\n", quoted("of"), quoted(&self.measures), quoted(beside));
        for m in &self.marks {
            out += &format!("{},{},{},{},{}\r\n", quoted(&m.label), number(Some(m.y)), number(m.beside), number(m.doubt), m.cases);
        }
        out
    }
}

/// A text as a field; one that a table program would take for a formula gets a space before it.
fn quoted(text: &str) -> String {
    let safe = if text.starts_with(['=', '+', '-', '@']) { format!(" {text}") } else { text.to_owned() };
    format!("\"{}\"", safe.replace('"', "\"\""))
}

/// Mean and its standard error; the error is `None` for fewer than two cases, the mean for none.
pub(super) fn mean(of: &[f64]) -> Option<(f64, Option<f64>)> {
    let n = of.len() as f64;
    if of.is_empty() {
        return None;
    }
    let mean = of.iter().sum::<f64>() / n;
    let spread = of.iter().map(|x| (x - mean).powi(2)).sum::<f64>();
    Some((mean, (of.len() > 1).then(|| (spread / (n - 1.0) / n).sqrt())))
}

/// A mark for the mean of some cases; `None` without any.
pub(super) fn of_cases(label: String, cases: &[f64]) -> Option<PlotMark> {
    mean(cases).map(|(y, doubt)| PlotMark { label, y, beside: None, doubt, cases: cases.len() })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_are_the_mean_and_its_error() {
        assert_eq!(mean(&[]), None);
        assert_eq!(mean(&[2.0]), Some((2.0, None)));
        let (m, e) = mean(&[1.0, 2.0, 3.0, 4.0]).unwrap();
        assert!((m - 2.5).abs() < 1e-12 && (e.unwrap() - (5.0f64 / 3.0 / 4.0).sqrt()).abs() < 1e-12);
    }

    #[test]
    fn a_name_with_a_comma_or_a_formula_stays_one_field() {
        let mark = |label: &str| PlotMark { label: label.into(), y: 1.0, beside: None, doubt: None, cases: 1 };
        let plot = Plot {
            key: "k".into(),
            title: String::new(),
            says: String::new(),
            measures: "sets".into(),
            beside: String::new(),
            marks: vec![mark("blue, \"deep\""), mark("=1+1")],
        };
        let lines: Vec<String> = plot.csv().lines().map(str::to_owned).collect();
        assert_eq!(lines[1], "\"blue, \"\"deep\"\"\",1.000,,,1");
        assert!(lines[2].starts_with("\" =1+1\""));
    }
}
