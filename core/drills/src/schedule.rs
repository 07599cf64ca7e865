//! Which drill comes next, and how an eye stands.

use crate::kinds::Drill;
use crate::threshold::Threshold;
use jiff::Unit;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// An answer as it is kept.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Answered {
    /// Which drill.
    pub drill: Drill,
    /// The day, as `2025-01-14`.
    pub on: String,
    /// Size of the question.
    pub size: f64,
    /// Whether it was right.
    pub right: bool,
    /// How far off, in the unit of the drill.
    pub off: f64,
}

/// How an eye stands in one drill.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Standing {
    /// Which.
    pub drill: Drill,
    /// What it is called.
    pub name: &'static str,
    /// What its size is measured in.
    pub unit: &'static str,
    /// Whether hue plays no part in it.
    pub without_hue: bool,
    /// The size it just tells apart.
    pub size: f64,
    /// The doubt in that, as a factor.
    pub doubt: f64,
    /// Answers it rests on.
    pub answers: usize,
    /// Days until it comes again; 0 when its time has come.
    pub due_in: u32,
    /// How it went, in a sentence.
    pub words: String,
}

/// Answers that count: an eye changes.
const COUNTED: usize = 60;
/// Answers before anything is said of progress. A choice.
const ENOUGH: usize = 12;
/// Longest wait between two goes at a drill, in days.
const LONGEST: u32 = 16;

/// How an eye stands in a drill, by all answers, the oldest first.
pub fn standing(drill: Drill, answers: &[Answered], today: Date) -> Standing {
    let own: Vec<&Answered> = answers.iter().filter(|a| a.drill == drill).collect();
    let recent = &own[own.len().saturating_sub(COUNTED)..];
    let of = |some: &[&Answered]| Threshold::of(drill, some.iter().map(|a| (a.size, a.right)));
    let now = of(recent);
    let last = own.last().and_then(|a| a.on.parse::<Date>().ok());
    let since = last.map(|d| d.until((Unit::Day, today)).map_or(0, |s| s.get_days().max(0)).unsigned_abs());
    let due_in = since.map_or(0, |days| interval(&own).saturating_sub(days));
    Standing {
        drill,
        name: drill.name(),
        unit: drill.unit(),
        without_hue: drill.without_hue(),
        size: now.size(),
        doubt: now.doubt(),
        answers: own.len(),
        due_in,
        words: words(drill, &own, &now),
    }
}

/// Days until a drill comes again: doubled after every day on which most of it was right, one again after a day on which most was wrong (the expanding intervals
/// of Landauer & Bjork 1978).
fn interval(own: &[&Answered]) -> u32 {
    let mut days: Vec<(&str, i32)> = Vec::new();
    for a in own {
        match days.last_mut() {
            Some((on, sum)) if *on == a.on => *sum += if a.right { 1 } else { -1 },
            _ => days.push((&a.on, if a.right { 1 } else { -1 })),
        }
    }
    days.iter().fold(1, |wait, (_, sum)| if *sum > 0 { (wait * 2).min(LONGEST) } else { 1 })
}

fn words(drill: Drill, own: &[&Answered], now: &Threshold) -> String {
    let told = |size: f64| if size < 2.0 { format!("{size:.2}") } else { format!("{size:.0}") };
    let unit = drill.unit();
    match own.len() {
        0 => "Not tried yet.".into(),
        n if n < ENOUGH => format!("{n} answers: too few to say how fine the eye is. {} more.", ENOUGH - n),
        n => {
            let (size, doubt) = (now.size(), now.doubt());
            let range = format!("about {} {unit}, between {} and {}", told(size), told(size / doubt), told(size * doubt));
            let of =
                |some: &[&Answered]| Threshold::of(drill, some[some.len().saturating_sub(COUNTED)..].iter().map(|a| (a.size, a.right)));
            let (before, after) = (of(&own[..n / 2]), of(&own[n / 2..]));
            let factor = before.size() / after.size();
            let sure = factor.max(1.0 / factor) > before.doubt().ln().hypot(after.doubt().ln()).exp();
            let went = match (sure, factor > 1.0) {
                (true, true) => " Finer than before.",
                (true, false) => " Coarser than before: a tired day, or harder material.",
                _ if n >= 2 * ENOUGH => " No change that can be told from chance.",
                _ => "",
            };
            format!("The eye tells {range} apart.{went}")
        }
    }
}

/// The drill to do next among those there is material for: the weakest beside the usual eye whose time has come; of those none was tried in, the first. When
/// none is due, the weakest.
pub fn next(standings: &[Standing]) -> Option<Drill> {
    let due: Vec<&Standing> = standings.iter().filter(|s| s.due_in == 0).collect();
    let begun: Vec<&Standing> = due.iter().copied().filter(|s| (1..ENOUGH).contains(&s.answers)).collect();
    let new = due.iter().copied().find(|s| s.answers == 0);
    let all: Vec<&Standing> = standings.iter().collect();
    weakest(&begun).or(new).or_else(|| weakest(&due)).or_else(|| weakest(&all)).map(|s| s.drill)
}

/// The one whose threshold is largest beside that of a usual eye.
fn weakest<'a>(of: &[&'a Standing]) -> Option<&'a Standing> {
    let weak = |s: &Standing| s.size / s.drill.usual();
    of.iter().copied().max_by(|a, b| weak(a).total_cmp(&weak(b)))
}
