//! `lean-swatch lean --box FILE --targets FILE [--sizes 2..6] [--medium oil] [--keep IDS] [--without IDS] …`

use super::made::{Made, RecipePrinted};
use super::mix::owned;
use super::targets::{Given, read};
use clap::Args;
use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Temperature};
use lean_media::{Ground, GroundId, Medium, PigmentId, ground};
use lean_recipes::cost::Ranking;
use lean_recipes::{Cost, Mix, Target};
use lean_search::demands::{Demands, HueFamily, Mother};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, SetFound, Tables, search};
use serde::Serialize;
use std::collections::BTreeMap;
use std::ops::RangeInclusive;
use std::path::PathBuf;
use std::time::Instant;

#[derive(Args)]
pub(super) struct Lean {
    /// A pigment file: everything owned. White in it is free and never counted.
    #[arg(long = "box")]
    box_file: PathBuf,
    /// A target file: what is needed. See docs/schemas/targets.schema.json.
    #[arg(long)]
    targets: PathBuf,
    /// Sizes to search, "2..6" or "4".
    #[arg(long, default_value = "2..6", value_parser = sizes)]
    sizes: RangeInclusive<usize>,
    /// What the pigments are bound in: oil, watercolour, marker, pencil or pastel.
    #[arg(long, default_value = "oil")]
    medium: Medium,
    /// A shipped ground; the usual one of the medium when left out.
    #[arg(long)]
    ground: Option<String>,
    /// Pigments every set must hold, by id, with commas between.
    // Scripts know it by its first name.
    #[arg(long, alias = "seed-pigments", value_delimiter = ',')]
    keep: Vec<String>,
    /// Pigments no set may hold.
    #[arg(long, value_delimiter = ',')]
    without: Vec<String>,
    #[command(flatten)]
    demanded: Demanded,
    #[command(flatten)]
    priced: Priced,
    #[command(flatten)]
    made: Made,
}

/// What else is asked of a set.
#[derive(Args)]
struct Demanded {
    /// No black: darks are mixed.
    #[arg(long)]
    no_black: bool,
    /// Only these hue families, and greys: rose, red, orange, yellow, green, sea-green, blue, violet.
    #[arg(long, value_delimiter = ',', value_parser = family)]
    only_hues: Vec<HueFamily>,
    /// Least light-fastness, 1 (lasting) to 4.
    #[arg(long)]
    least_lasting: Option<u8>,
    /// No pigment that calls for a caution.
    #[arg(long)]
    no_hazard: bool,
    /// Most pigments in one mix, 1 to 3.
    #[arg(long)]
    most_in_mix: Option<u8>,
    /// Most layers over each other, every coat, stroke and lifting counted, 1 to 5.
    #[arg(long)]
    most_layers: Option<u8>,
    /// Layers laid as is not usual in the medium, too: light over dark, lifted, blended, three pens or sticks over each other.
    #[arg(long)]
    unusual_layers: bool,
    /// A pigment in every mix with its least share, "ID:0.1".
    #[arg(long, value_parser = mother)]
    mother: Option<Mother>,
    /// At least one string: a light, a middle and a dark of one hue family, two steps apart in all.
    #[arg(long)]
    string: bool,
    /// A value some mix must be as dark as.
    #[arg(long, allow_negative_numbers = true)]
    darkest: Option<f64>,
    /// A value some mix must be as light as.
    #[arg(long, allow_negative_numbers = true)]
    lightest: Option<f64>,
    /// Hue families of which the set must hold a warm and a cool.
    #[arg(long, value_delimiter = ',', value_parser = family)]
    warm_and_cool: Vec<HueFamily>,
    /// A hue family of the targets may be lost where that lowers the mean, as always with `--mixes parts`.
    #[arg(long)]
    families_may_go: bool,
}

/// What a miss costs.
#[derive(Args)]
struct Priced {
    /// What a step of value weighs against a colour difference of 1.
    #[arg(long, default_value_t = Cost::default().value_weight, allow_negative_numbers = true)]
    value_weight: f64,
    /// The whole difference, value no more than the rest.
    #[arg(long, conflicts_with_all = ["values_only", "value_weight"])]
    strict: bool,
    /// Values, and warm or cool; the hue is free.
    #[arg(long)]
    values_only: bool,
    /// Misses too small to be seen cost nothing: a quarter step of value and a difference of 2.
    #[arg(long)]
    good_enough: bool,
}

impl Priced {
    fn cost(&self, ranking: Ranking) -> Result<Cost, String> {
        if !(0.0..=100.0).contains(&self.value_weight) {
            return Err(format!("a value weight of {}: it may be 0 to 100", self.value_weight));
        }
        let base = if self.strict {
            Cost::strict()
        } else if self.values_only {
            Cost { value_weight: self.value_weight, ..Cost::values_only(Temperature(0.0)) }
        } else {
            Cost { value_weight: self.value_weight, ..Cost::default() }
        };
        let base = Cost { ranking, ..base };
        Ok(if self.good_enough { Cost { tolerance: Cost::GOOD_ENOUGH, ..base } } else { base })
    }
}

fn sizes(text: &str) -> Result<RangeInclusive<usize>, String> {
    let number =
        |t: &str| t.trim_start_matches('=').parse::<usize>().map_err(|_| format!("\"{text}\" is no range of sizes: write 2..6 or 4"));
    match text.split_once("..") {
        Some((a, b)) => Ok(number(a)?..=number(b)?),
        None => number(text).map(|n| n..=n),
    }
}

fn family(text: &str) -> Result<HueFamily, String> {
    let named = |f: &&HueFamily| f.name().replace(' ', "-") == text.replace(' ', "-");
    HueFamily::ALL
        .iter()
        .find(named)
        .copied()
        .ok_or_else(|| format!("\"{text}\" is no hue family: choose rose, red, orange, yellow, green, sea-green, blue or violet"))
}

fn mother(text: &str) -> Result<Mother, String> {
    let (id, share) = text.rsplit_once(':').ok_or_else(|| format!("\"{text}\" is no mother colour: write ID:SHARE, such as PB29:0.1"))?;
    let share = share.parse().map_err(|_| format!("\"{share}\" is no share: write a number such as 0.1"))?;
    Ok(Mother { pigment: PigmentId::from(id), share })
}

/// The whole answer. See docs/schemas/lean.schema.json.
#[derive(Serialize)]
pub(super) struct Printed {
    sizes: Vec<Size>,
    seconds: f64,
}

#[derive(Serialize)]
struct Size {
    k: usize,
    pigments: Vec<PigmentId>,
    cost: f64,
    proved_optimal: bool,
    within: Option<f64>,
    runner_up: Vec<PigmentId>,
    runner_up_cost: Option<f64>,
    near_tie_count: usize,
    more_near_ties: bool,
    near_ties: Vec<lean_search::NearTie>,
    /// Hue families of the targets that none of its recipes reaches.
    missing: Vec<HueFamily>,
    price_of_dropping: BTreeMap<String, f64>,
    pieces: Vec<f64>,
    recipes: Vec<Recipe>,
}

#[derive(Serialize)]
struct Recipe {
    target: usize,
    #[serde(flatten)]
    made: RecipePrinted,
    lab: [f64; 3],
    value: f64,
    delta_value: f64,
    delta_e00: f64,
}

pub(super) fn run(a: Lean) -> Result<Printed, String> {
    let pigments = owned(&a.box_file)?;
    if a.medium.is_wet_opaque() && !pigments.iter().any(|p| p.white) {
        eprintln!("lean-swatch: there is no white in this Box, so no mix is lightened");
    }
    let given = read(&a.targets)?;
    let cost = a.priced.cost(a.made.ranking(a.medium)?)?;
    let needs: Vec<Need> = given.iter().map(|g| need(&a, g, cost)).collect::<Result<_, _>>()?;
    let choice = choice(&a);
    let ask = Ask { pigments: &pigments, medium: a.medium, needs: &needs, choice: &choice, sizes: a.sizes.clone() };
    let start = Instant::now();
    let found = search(&ask, &Tables::default(), &Unwatched, &|_| {}).map_err(|e| e.to_string())?;
    let seconds = start.elapsed().as_secs_f64();
    Ok(Printed { sizes: found.into_iter().map(|s| printed(s, &needs[0].targets, a.medium)).collect(), seconds })
}

fn need(a: &Lean, given: &Given, cost: Cost) -> Result<Need, String> {
    let ground = ground_of(given.ground.as_deref().or(a.ground.as_deref()), a.medium)?;
    Ok(Need { ground, targets: given.targets.clone(), cost, weight: given.weight })
}

/// A shipped ground by its name, or the usual one of a medium.
pub(super) fn ground_of(named: Option<&str>, medium: Medium) -> Result<Ground, String> {
    let Some(name) = named else { return Ok(ground::usual(medium)) };
    ground::find(&GroundId(name.into())).ok_or_else(|| {
        let all: Vec<&str> = ground::shipped().iter().map(|g| g.id.0.as_str()).collect();
        format!("\"{name}\" is no shipped ground: choose {}", all.join(", "))
    })
}

fn choice(a: &Lean) -> Choice {
    let ids = |names: &[String]| names.iter().map(|n| n.trim()).filter(|n| !n.is_empty()).map(PigmentId::from).collect();
    let d = &a.demanded;
    let demands = Demands {
        no_black: d.no_black,
        only_hues: d.only_hues.clone(),
        least_lasting: d.least_lasting,
        no_hazard: d.no_hazard,
        most_in_mix: d.most_in_mix.or_else(|| a.made.most_in_mix(a.medium).filter(|_| !d.unusual_layers)),
        most_layers: d.most_layers,
        unusual_layers: d.unusual_layers,
        mother: d.mother.clone(),
        string: d.string,
        darkest: d.darkest,
        lightest: d.lightest,
        warm_and_cool: d.warm_and_cool.clone(),
        families_may_go: d.families_may_go || a.made.families_may_go(),
    };
    Choice { locked: ids(&a.keep), excluded: ids(&a.without), demands, grain: a.made.grain() }
}

fn printed(s: SetFound, targets: &[Target], medium: Medium) -> Size {
    Size {
        k: s.pigments.len(),
        price_of_dropping: s.pigments.iter().map(|p| p.0.clone()).zip(s.price_of_dropping).collect(),
        pigments: s.pigments,
        cost: s.cost,
        proved_optimal: s.proved_optimal,
        within: s.within,
        runner_up: s.runner_up,
        runner_up_cost: s.runner_up_cost,
        near_tie_count: s.near_tie_count,
        more_near_ties: s.more_near_ties,
        near_ties: s.near_ties,
        missing: s.missing,
        pieces: s.pieces,
        recipes: s.recipes.iter().zip(targets).enumerate().map(|(i, (m, t))| recipe(i, m, t.lab, medium)).collect(),
    }
}

fn recipe(target: usize, mix: &Mix, wanted: Lab, medium: Medium) -> Recipe {
    Recipe {
        target,
        made: RecipePrinted::of(mix, medium),
        lab: [mix.lab.l, mix.lab.a, mix.lab.b],
        value: mix.lab.value().0,
        delta_value: mix.lab.value().0 - wanted.value().0,
        delta_e00: ciede2000(mix.lab, wanted),
    }
}
