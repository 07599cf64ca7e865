//! Mixes for one colour: the best of one, of two and of three pigments.

use crate::mark::Mark;
use crate::wording::Difference;
use lean_colour::{Lab, Temperature};
use lean_media::{Ground, Medium, Pigment, PigmentId};
use lean_recipes::cost::{Ranking, Within};
use lean_recipes::telling::{Told, told};
use lean_recipes::{Cost, Mix, Target};
use lean_search::progress::Progress;
use lean_search::{Ask, Choice, Demands, Need, NoAnswer, Tables, search};
use serde::Serialize;

/// The best mix of so many pigments, white not counted.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mixed {
    /// Number of pigments in the mix, white not counted.
    pub pigments: usize,
    /// The recipe.
    pub mix: Mix,
    /// The recipe as it is read out.
    pub told: Told,
    /// The colour of the mix.
    pub mark: Mark,
    /// Distance from the wanted colour: twenty a step of value, plus CIEDE2000.
    pub apart: f64,
    /// The difference in words.
    pub off: String,
}

/// Pigments of a large Box that mixes of three are looked for among: those that go best into mixes of two. A choice.
const AMONG: usize = 24;

/// The best mixes of one, two and three pigments for a wanted colour; of so many where another does not make it better, the smaller alone.
///
/// Pigments of a large Box from which mixes of three are made: of more than [`AMONG`], mixes of three are made of the [`AMONG`] that are best in mixes of two.
///
/// # Errors
/// See [`NoAnswer`]: a pigment twice, nothing to choose from.
pub fn mixed(wanted: Lab, owned: &[Pigment], medium: Medium, ground: &Ground, progress: &dyn Progress) -> Result<Vec<Mixed>, NoAnswer> {
    let target = Target { lab: wanted, weight: 1.0 };
    let cost = Cost { ranking: Ranking::usual(medium), within: Some(Within::LADDER), ..Cost::default() };
    let needs = [Need { ground: ground.clone(), targets: vec![target], cost, weight: 1.0 }];
    let of = |pigments: &[Pigment], most: usize, sizes: std::ops::RangeInclusive<usize>| {
        let demands = Demands { families_may_go: true, most_in_mix: Some(most as u8), ..Demands::default() };
        let choice = Choice { demands, ..Choice::default() };
        let ask = Ask { pigments, medium, needs: &needs, choice: &choice, sizes };
        search(&ask, &Tables::default(), progress, &|_| {})
    };
    let usable: Vec<Pigment> = owned.iter().filter(|p| !p.owned.used_up && p.second.is_none()).cloned().collect();
    let count = usable.iter().filter(|p| !p.white).count();
    let mut found = of(&usable, 2, 1..=count.min(2))?;
    if count > 2 {
        let few = promising(&usable, &needs[0], medium)?;
        found.extend(of(&few, 3, 3..=3)?);
    }
    let name = |id: &PigmentId| usable.iter().find(|p| p.id == *id).map_or_else(|| id.0.clone(), |p| p.name.clone());
    let mut all: Vec<Mixed> = Vec::new();
    for set in found {
        let Some(mix) = set.recipes.into_iter().next() else { continue };
        let holds = mix.parts.iter().filter(|p| usable.iter().any(|u| u.id == p.pigment && !u.white)).count();
        // What another pigment does not make better is told once.
        if all.last().is_some_and(|last| last.mix == mix || holds < set.pigments.len()) {
            continue;
        }
        all.push(Mixed {
            pigments: holds,
            told: told(&mix, &name),
            mark: Mark::of(mix.lab, Temperature(0.0)),
            apart: lean_recipes::cost::apart(mix.lab, wanted),
            off: Difference::of(wanted, mix.lab).words,
            mix,
        });
    }
    Ok(all)
}

/// The pigments of a large Box that go best into mixes of two, and its white.
fn promising(owned: &[Pigment], need: &Need, medium: Medium) -> Result<Vec<Pigment>, NoAnswer> {
    let coloured = owned.iter().filter(|p| !p.white).count();
    if coloured <= AMONG {
        return Ok(owned.to_vec());
    }
    let ranked = lean_search::best_in_twos(owned, medium, need)?;
    let kept: Vec<&PigmentId> = ranked.iter().take(AMONG).collect();
    Ok(owned.iter().filter(|p| p.white || kept.contains(&&p.id)).cloned().collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paints::starter::starter;
    use lean_media::ground;
    use lean_search::progress::Unwatched;

    #[test]
    fn more_pigments_never_miss_by_more_and_each_says_what_is_off() {
        for medium in [Medium::Oil, Medium::Watercolour] {
            let owned = starter(medium, 24).pigments;
            let found = mixed(Lab::new(45.0, 18.0, 16.0), &owned, medium, &ground::usual(medium), &Unwatched).unwrap();
            assert!((1..=3).contains(&found.len()), "{medium:?}");
            assert!(found.windows(2).all(|w| w[0].pigments < w[1].pigments), "{medium:?}");
            assert!(found.iter().all(|m| !m.off.is_empty() && !m.told.line.is_empty()));
        }
    }

    #[test]
    fn the_mixes_of_a_large_box_come_near_those_of_all_its_threes() {
        let medium = Medium::Oil;
        let owned = starter(medium, 60).pigments;
        let need = |lab| Need {
            ground: ground::usual(medium),
            targets: vec![Target { lab, weight: 1.0 }],
            cost: Cost { ranking: Ranking::usual(medium), within: Some(Within::LADDER), ..Cost::default() },
            weight: 1.0,
        };
        for lab in [Lab::new(45.0, 18.0, 16.0), Lab::new(62.0, -14.0, 22.0), Lab::new(30.0, 6.0, -22.0)] {
            let quick = mixed(lab, &owned, medium, &ground::usual(medium), &Unwatched).unwrap();
            let choice = Choice { demands: Demands { families_may_go: true, ..Demands::default() }, ..Choice::default() };
            let needs = [need(lab)];
            let ask = Ask { pigments: &owned, medium, needs: &needs, choice: &choice, sizes: 3..=3 };
            let whole = search(&ask, &Tables::default(), &Unwatched, &|_| {}).unwrap();
            let best = quick.last().unwrap().mix.clone();
            let charged = needs[0].cost.of_mix(&best, lab);
            assert!(charged <= needs[0].cost.of_mix(&whole[0].recipes[0], lab) + 0.5, "{charged} against {}", whole[0].cost);
        }
    }

    #[test]
    fn a_box_of_one_mixes_that_one() {
        let owned = starter(Medium::Watercolour, 6).pigments[..1].to_vec();
        let found =
            mixed(Lab::new(45.0, 0.0, -30.0), &owned, Medium::Watercolour, &ground::usual(Medium::Watercolour), &Unwatched).unwrap();
        assert_eq!(found.len(), 1);
        assert_eq!(found[0].pigments, 1);
    }
}
