//! Answers compared with the truth.

use crate::kinds::Drill;
use crate::questions::{Material, Truth, made, mixed};
use lean_colour::difference::ciede2000;
use lean_colour::{Srgb8, Steps};
use lean_media::PigmentId;
use lean_plan::wording::Difference;
use serde::{Deserialize, Serialize};

/// An answer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "by")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Given {
    /// A value in steps.
    Value {
        /// 0..=10.
        value: f64,
    },
    /// One of the choices, from 0.
    Choice {
        /// Which.
        at: usize,
    },
    /// All choices, first to last.
    Order {
        /// Them.
        order: Vec<usize>,
    },
    /// Parts of the three pigments, trial by trial: the last counts.
    Parts {
        /// The trials.
        trials: Vec<Vec<u16>>,
    },
}

/// What comes of an answer.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// Whether it was right.
    pub right: bool,
    /// How far off, in the unit of the drill.
    pub off: f64,
    /// What was right, in a sentence.
    pub words: String,
    /// Which choice was right, where there was one.
    pub choice: Option<usize>,
    /// What each trial of a match gave.
    pub trials: Vec<Srgb8>,
    /// Whether the match goes on: not near enough yet, and trials left.
    pub goes_on: bool,
}

/// Trials in a match.
pub(crate) const TRIALS: usize = 4;
/// Most parts of one pigment.
const MOST_PARTS: u16 = 20;

/// Judges an answer to the question of a size and seed.
///
/// # Errors
/// When there is no such question any more, or the answer does not fit it, in words.
pub fn judge(drill: Drill, material: &Material, size: f64, seed: u64, given: &Given) -> Result<Verdict, String> {
    let (question, truth) =
        made(drill, material, size, seed).ok_or("The Box or the pieces this question was made from have changed. Take the next one.")?;
    let plain = |right: bool, off: f64, words: String| Verdict { right, off, words, choice: None, trials: Vec::new(), goes_on: false };
    match (truth, given) {
        (Truth::Value(v), Given::Value { value }) if (0.0..=10.0).contains(value) => {
            let off = (value - v).abs();
            let words = match value - v {
                d if d.abs() <= 0.15 => format!("It is {v:.1}: exactly."),
                d => {
                    format!("It is {v:.1}: you saw it {}.", lean_plan::wording::value_off(Steps(d)).unwrap_or_default().replace("too ", ""))
                }
            };
            Ok(plain(off <= question.size, off, words))
        }
        (Truth::Choice(right, off), Given::Choice { at }) if *at < off.len() => {
            let apart = off.iter().copied().fold(0.0, f64::max);
            let words = match at == &right {
                true => format!("Right. They lay {} apart.", told(drill, apart)),
                false => format!("It was the {}. They lay {} apart.", ordinal(right), told(drill, apart)),
            };
            Ok(Verdict { choice: Some(right), ..plain(*at == right, off[*at], words) })
        }
        (Truth::Order(right), Given::Order { order }) if order.len() == right.len() && right.iter().all(|i| order.contains(i)) => {
            let place = |i: usize| right.iter().position(|r| *r == i).unwrap_or(0) as f64;
            let turned = order.windows(2).filter(|w| place(w[0]) > place(w[1])).count();
            let words = match turned {
                0 => format!("Right. They lay {} apart.", told(drill, question.size)),
                n => format!(
                    "{n} {} the wrong way round. They lay {} apart.",
                    if n == 1 { "neighbour stands" } else { "neighbours stand" },
                    told(drill, question.size)
                ),
            };
            Ok(plain(turned == 0, turned as f64 * question.size, words))
        }
        (Truth::Colour(wanted), Given::Parts { trials }) => matched(material, &question.pigments, wanted, question.size, trials),
        _ => Err("That answer does not fit this question.".into()),
    }
}

fn matched(
    material: &Material,
    pigments: &[PigmentId],
    wanted: lean_colour::Lab,
    size: f64,
    trials: &[Vec<u16>],
) -> Result<Verdict, String> {
    let sound = |t: &Vec<u16>| t.len() == pigments.len() && t.iter().sum::<u16>() > 0 && t.iter().all(|n| *n <= MOST_PARTS);
    if trials.is_empty() || trials.len() > TRIALS || !trials.iter().all(sound) {
        return Err(format!("A trial has parts of all three, at most {MOST_PARTS} each, not all of them none; there are {TRIALS} trials."));
    }
    let lab = |t: &Vec<u16>| {
        let of: Vec<(PigmentId, u16)> = pigments.iter().cloned().zip(t.iter().copied()).collect();
        mixed(material.paint_box, &of).ok_or_else(|| "These parts cannot be laid.".to_owned())
    };
    let colours = trials.iter().map(lab).collect::<Result<Vec<_>, _>>()?;
    let last = colours[colours.len() - 1];
    let off = ciede2000(last, wanted);
    let right = off <= size;
    let words = match right {
        true => format!("Matched in {} {}.", trials.len(), if trials.len() == 1 { "trial" } else { "trials" }),
        false => Difference::of(wanted, last).words,
    };
    Ok(Verdict {
        right,
        off,
        words,
        choice: None,
        trials: colours.iter().map(|l| l.xyz().srgb()).collect(),
        goes_on: !right && trials.len() < TRIALS,
    })
}

fn told(drill: Drill, size: f64) -> String {
    match drill {
        Drill::Warmer => format!("{size:.0} degrees of temperature"),
        Drill::PredictMix | Drill::MissingPigment | Drill::Match => format!("a difference of {size:.0}"),
        _ => format!("{size:.2} steps"),
    }
}

fn ordinal(at: usize) -> &'static str {
    ["first", "second", "third", "fourth", "fifth"].get(at).copied().unwrap_or("other")
}
