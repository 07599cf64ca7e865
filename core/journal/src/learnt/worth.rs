//! Which pigments earn their place, and which never leave the Box.

use super::plot::{Plot, PlotMark};
use crate::entry::{EntryKind, JournalEntry};
use lean_media::PigmentId;
use lean_piece::paint_box::PaintBox;
use serde::Serialize;

/// Idle pigments named in the sentence.
const NAMED: usize = 6;

/// What a pigment of a Box was worth so far.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Worth {
    /// Which.
    pub pigment: PigmentId,
    /// What it is called.
    pub name: String,
    /// Sets and studies it is in.
    pub times: usize,
    /// Share of the picture whose mixes held it, on average, 0..=1; `None` where nobody knows.
    pub share: Option<f64>,
    /// By how much a set grew worse without it, on average; `None` where nobody knows.
    pub price: Option<f64>,
    /// The last day it was in a set or study; `None` when never.
    pub last: Option<String>,
    /// The same in a sentence.
    pub words: String,
}

/// A Box with what its pigments were worth, those most used first.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoxWorth {
    /// Name of the Box.
    pub name: String,
    /// Sets and studies made from pigments of its medium.
    pub of: usize,
    /// Its pigments, white left out.
    pub pigments: Vec<Worth>,
}

/// What the pigments of a Box were worth in the sets and studies of its medium.
pub fn worth(entries: &[JournalEntry], paint_box: &PaintBox) -> BoxWorth {
    let made = |e: &&JournalEntry| matches!(e.kind, EntryKind::Set | EntryKind::Study) && e.medium == Some(paint_box.medium);
    let made: Vec<&JournalEntry> = entries.iter().filter(made).collect();
    let mut pigments: Vec<Worth> = paint_box.pigments.iter().filter(|p| !p.white).map(|p| one(&made, &p.id, &p.name)).collect();
    pigments
        .sort_by(|a, b| b.times.cmp(&a.times).then(b.price.unwrap_or(0.0).total_cmp(&a.price.unwrap_or(0.0))).then(a.name.cmp(&b.name)));
    BoxWorth { name: paint_box.name.clone(), of: made.len(), pigments }
}

fn one(made: &[&JournalEntry], id: &PigmentId, name: &str) -> Worth {
    let uses: Vec<_> = made.iter().filter_map(|e| e.pigments.iter().find(|u| u.pigment == *id).map(|u| (e, u))).collect();
    let mean = |of: Vec<f64>| super::plot::mean(&of).map(|(m, _)| m);
    let share = mean(uses.iter().filter_map(|(_, u)| u.share).collect());
    let price = mean(uses.iter().filter_map(|(_, u)| u.price).collect());
    let last = uses.iter().map(|(e, _)| e.on.clone()).max();
    let words = match (&last, share, price) {
        (None, ..) => "never used".to_owned(),
        (Some(_), share, price) => {
            let times = uses.len();
            let mut words = format!("in {times} of {} sets and studies", made.len());
            if let Some(s) = share {
                words += &format!(", in the mixes of {:.0} % of the picture", s * 100.0);
            }
            if let Some(p) = price {
                words += if p < 0.1 { "; hardly missed when left out" } else { "; missed when left out" };
            }
            words
        }
    };
    Worth { pigment: id.clone(), name: name.to_owned(), times: uses.len(), share, price, last, words }
}

/// The same as a plot: how many sets and studies each pigment is in.
pub fn plot(of: &BoxWorth, key: usize) -> Plot {
    let idle: Vec<&str> = of.pigments.iter().filter(|p| p.times == 0).map(|p| p.name.as_str()).collect();
    let says = match (of.of, idle.len()) {
        (0, _) => "No set and no study was made from this Box yet.".to_owned(),
        (_, 0) => format!("Every pigment was in one of {} sets and studies at least once.", of.of),
        (_, n) => {
            let named = idle.iter().take(NAMED).copied().collect::<Vec<_>>().join(", ");
            let more = if n > NAMED { format!(" and {} more", n - NAMED) } else { String::new() };
            format!("{n} of {} were never used in {} sets and studies: {named}{more}.", of.pigments.len(), of.of)
        }
    };
    let mark = |p: &Worth| PlotMark { label: p.name.clone(), y: p.times as f64, beside: None, doubt: None, cases: p.times };
    Plot {
        key: format!("worth-{key}"),
        title: format!("Most used in {}", of.name),
        says,
        measures: "sets and studies it is in".into(),
        beside: String::new(),
        marks: of.pigments.iter().map(mark).collect(),
    }
}
