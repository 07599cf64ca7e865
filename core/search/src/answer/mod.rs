//! The answer for one size: the sets that could be best, judged in double precision and explained.

pub(crate) mod next;

use crate::judge::Judge;
use crate::prepared::Prepared;
use crate::prepared::field::Field;
use crate::progress::{Cancelled, Progress};
use crate::proof::Proved;
use crate::question::demands::HueFamily;
use crate::table::Served;
use lean_media::PigmentId;
use lean_recipes::Mix;
use lean_recipes::cost::{Cost, Ranking};
use serde::{Deserialize, Serialize};

/// Sets that cost at most this share more than the best count as its equals. A choice.
pub(crate) const NEAR: f64 = 0.02;
/// Most near-ties listed.
pub(crate) const NEAR_LISTED: usize = 12;

/// A set nearly as good.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NearTie {
    /// The pigments, white not counted.
    pub pigments: Vec<PigmentId>,
    /// Its cost.
    pub cost: f64,
}

/// What the pigments of a set are among each other; one may be several.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Roles {
    /// The one that goes darkest alone.
    pub dark: PigmentId,
    /// The one that is lightest where it is most colourful.
    pub light: PigmentId,
    /// The warmest.
    pub warm: PigmentId,
    /// The coolest.
    pub cool: PigmentId,
}

/// The best set of one size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetFound {
    /// The pigments, white not counted.
    pub pigments: Vec<PigmentId>,
    /// Weighted mean cost over the zones.
    pub cost: f64,
    /// Whether every other set of this size is known to cost at least as much.
    pub proved_optimal: bool,
    /// Where it is not: the best possible set costs at most this share less.
    #[serde(default)]
    pub within: Option<f64>,
    /// The second-best set, when there is one.
    pub runner_up: Vec<PigmentId>,
    /// Its cost.
    pub runner_up_cost: Option<f64>,
    /// Sets within a fiftieth of the best, best first, the best itself left out; at most a dozen are listed.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub near_ties: Vec<NearTie>,
    /// How many there are in all.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub near_tie_count: usize,
    /// Whether there are more than were counted.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub more_near_ties: bool,
    /// By how much the cost rises when one pigment is dropped, in the order of `pigments`.
    pub price_of_dropping: Vec<f64>,
    /// Zones (by place in the search) whose recipe each pigment is in, in the order of `pigments`.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub serves: Vec<Vec<usize>>,
    /// The recipe for each target of the first piece, in the order given.
    pub recipes: Vec<Mix>,
    /// What each target of the first piece misses by.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub misses: Vec<f64>,
    /// Hue families of the first piece's plan that none of its recipes reaches, at a value within a step of a zone of theirs.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub missing: Vec<HueFamily>,
    /// Its dark, its light, its warm and its cool.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub roles: Option<Roles>,
    /// Mean miss of each piece it has to serve.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub pieces: Vec<f64>,
}

/// How far single-precision costs may be off; see the tests of the kernel and of the forms. Where a value must hold, its steep charge
/// multiplies the rounding of the value.
pub(crate) fn rounding(prepared: &Prepared) -> f32 {
    let any = |f: fn(&Cost) -> bool| prepared.key.needs.iter().any(|n| f(&n.cost));
    if any(|c| c.hold.is_some()) {
        8e-2
    } else if any(|c| c.ranking != Ranking::MISS) {
        // The slip of a hand is the root of up to eight squared differences, and a charge that grows multiplies what it is off by.
        4e-2
    } else {
        8e-3
    }
}

/// A set that is best or nearly so.
struct Close<'a> {
    cost: f64,
    set: &'a [u16],
}

/// Explains the best sets of a size. `None` when there is no set.
///
/// Only sets whose place hangs on the rounding of single precision are judged again, and those that are listed.
///
/// # Errors
/// [`Cancelled`] when the watcher asks for it.
pub(crate) fn answer(prepared: &Prepared, field: &Field, proved: &Proved, progress: &dyn Progress) -> Result<Option<SetFound>, Cancelled> {
    let served = prepared.served();
    let judged = judged(prepared, &served, proved, progress)?;
    let Some(winner) = judged.first() else { return Ok(None) };
    let best = winner.cost;
    let judge: &Judge = &prepared.judge;
    let names = |set: &[u16]| -> Vec<PigmentId> {
        set.iter().filter(|i| field.counts(**i)).map(|i| prepared.key.pigments[usize::from(*i)].id.clone()).collect()
    };
    let counted: Vec<u16> = winner.set.iter().copied().filter(|i| field.counts(*i)).collect();
    let without = |drop: &u16| winner.set.iter().copied().filter(|p| p != drop).collect::<Vec<u16>>();
    judge.prepare(&served, &counted.iter().map(without).collect::<Vec<_>>(), progress)?;
    let price = |drop: &u16| {
        let without = judge.judge(&served, &without(drop)).cost;
        if without.is_finite() { without - best } else { best }
    };
    let whole = judge.judge(&served, winner.set);
    let first = served[0].targets.len();
    let mixes: Vec<Option<Mix>> = judge.mixes(&served, winner.set);
    let serves = |i: &u16| {
        let id = &prepared.key.pigments[usize::from(*i)].id;
        let holds = |m: &Option<Mix>| m.as_ref().is_some_and(|m| m.parts.iter().any(|p| p.pigment == *id));
        (0..first).filter(|t| holds(&mixes[*t])).collect()
    };
    // Sets the list had no room for cost more than its last one; sets never looked at may cost anything above the bound.
    let overflowed = proved.top.is_full() && judged.len() == proved.top.sets().len();
    let near: Vec<&Close> = judged.iter().skip(1).take_while(|c| c.cost <= best * (1.0 + NEAR)).collect();
    Ok(Some(SetFound {
        pigments: names(winner.set),
        cost: best,
        proved_optimal: proved.least.is_none(),
        within: proved.least.map(|l| ((best - l) / best.max(1e-12)).clamp(0.0, 1.0)),
        runner_up: judged.get(1).map(|c| names(c.set)).unwrap_or_default(),
        runner_up_cost: judged.get(1).map(|c| c.cost),
        missing: Vec::new(),
        roles: None,
        near_tie_count: near.len(),
        more_near_ties: overflowed || !proved.all_near,
        near_ties: near.iter().take(NEAR_LISTED).map(|c| NearTie { pigments: names(c.set), cost: c.cost }).collect(),
        price_of_dropping: counted.iter().map(price).collect(),
        serves: counted.iter().map(serves).collect(),
        recipes: mixes.iter().take(first).flatten().cloned().collect(),
        misses: whole.misses[..first].to_vec(),
        pieces: per_piece(&served, &whole.misses),
    }))
}

/// The sets that are best, second best or near, best first, in double precision wherever it can make a difference.
fn judged<'a>(prepared: &Prepared, served: &[Served], proved: &'a Proved, progress: &dyn Progress) -> Result<Vec<Close<'a>>, Cancelled> {
    let ranked = proved.top.sets();
    let slack = rounding(prepared);
    let Some(least) = ranked.first().map(|r| r.cost) else { return Ok(Vec::new()) };
    let second = ranked.get(1).map_or(f32::INFINITY, |r| r.cost);
    let edge = least * (1.0 + NEAR as f32);
    let limit = second.max(edge) + 2.0 * slack;
    let mut close: Vec<Close> =
        ranked.iter().take_while(|r| r.cost <= limit).map(|r| Close { cost: r.cost.into(), set: r.set.as_slice() }).collect();
    let listed = ranked.get(NEAR_LISTED).map_or(f32::INFINITY, |r| r.cost) + 2.0 * slack;
    let matters =
        |c: f64| c <= f64::from(second + 2.0 * slack) || c <= f64::from(listed) || (c - f64::from(edge)).abs() <= f64::from(2.0 * slack);
    let again: Vec<Vec<u16>> = close.iter().filter(|c| matters(c.cost)).map(|c| c.set.to_vec()).collect();
    prepared.judge.prepare(served, &again, progress)?;
    close.iter_mut().filter(|c| matters(c.cost)).for_each(|c| c.cost = prepared.judge.judge(served, c.set).cost);
    close.sort_by(|a, b| a.cost.total_cmp(&b.cost).then_with(|| a.set.cmp(b.set)));
    Ok(close)
}

/// Mean miss of each served_piece by itself.
fn per_piece(served: &[Served], misses: &[f64]) -> Vec<f64> {
    let mut from = 0;
    served
        .iter()
        .map(|e| {
            let own = &misses[from..from + e.targets.len()];
            from += e.targets.len();
            let total: f64 = e.targets.iter().map(|t| t.weight).sum();
            let sum: f64 = e.targets.iter().zip(own).filter(|(t, _)| t.weight > 0.0).map(|(t, m)| t.weight * m).sum();
            if total > 0.0 { sum / total } else { 0.0 }
        })
        .collect()
}

/// How much less a set must cost for one more pigment to be worth carrying. A choice.
pub(crate) const WORTH_A_PIGMENT: f64 = 0.5;

/// The size to start with: the smallest after which one more pigment gains less than [`WORTH_A_PIGMENT`]. Only a starting point for the painter.
pub fn knee(sizes: &[SetFound]) -> Option<&SetFound> {
    let gain = |i: usize| sizes.get(i + 1).map_or(0.0, |next| sizes[i].cost - next.cost);
    (0..sizes.len()).find(|i| gain(*i) < WORTH_A_PIGMENT).map(|i| &sizes[i])
}
