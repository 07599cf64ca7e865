//! Where the time goes, against what is planned.

use super::measured::Measured;
use super::plot::{Plot, PlotMark, mean};
use lean_piece::easel::Stage;

/// Minutes each stage took and was planned to take, on average over the pieces it was timed in.
pub fn pace(measured: &[Measured]) -> Plot {
    let mark = |stage: Stage| {
        let of: Vec<_> = measured.iter().flat_map(|m| m.stages.iter().filter(|s| s.stage == stage)).collect();
        let (y, doubt) = mean(&of.iter().map(|s| s.took).collect::<Vec<_>>())?;
        let (planned, _) = mean(&of.iter().map(|s| s.planned).collect::<Vec<_>>())?;
        Some(PlotMark { label: of.first()?.name().to_owned(), y, beside: Some(planned), doubt, cases: of.len() })
    };
    let marks: Vec<PlotMark> = Stage::ALL.into_iter().filter_map(mark).collect();
    let over = |m: &PlotMark| m.beside.filter(|p| *p >= 1.0).map_or(1.0, |p| m.y / p);
    let longest = marks.iter().max_by(|a, b| over(a).total_cmp(&over(b)));
    let says = match longest {
        None => "No session was logged with what was done in it.".to_owned(),
        Some(m) if over(m) > 1.15 => format!("\"{}\" takes {:.1} times as long as planned, more than any other stage.", m.label, over(m)),
        Some(_) => "No stage takes much longer than planned.".to_owned(),
    };
    Plot {
        key: "pace".into(),
        title: "Time per stage".into(),
        says,
        measures: "minutes taken".into(),
        beside: "minutes planned".into(),
        marks,
    }
}
