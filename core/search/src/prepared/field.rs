//! Who may, must and must not be in a set.

use crate::prepared::Prepared;
use crate::question::Ask;
use crate::question::demands::{Alone, forbidden};
use crate::question::no_answer::NoAnswer;

/// Who may, must and must not be in a set, by number.
pub(crate) struct Field {
    /// In every set: locked pigments, and white where it is a stick of its own.
    pub carried: Vec<usize>,
    pub locked: Vec<usize>,
    pub open: Vec<usize>,
    pub alone: Vec<Option<Alone>>,
}

impl Field {
    pub(crate) fn of(ask: &Ask, prepared: &Prepared) -> Result<Self, NoAnswer> {
        let choice = ask.choice;
        if let Some(both) = choice.locked.iter().find(|p| choice.excluded.contains(p)) {
            return Err(NoAnswer::Contradiction(both.clone()));
        }
        for named in choice.locked.iter().chain(&choice.excluded) {
            match ask.pigments.iter().find(|p| p.id == *named) {
                None => return Err(NoAnswer::NotInBox(named.clone())),
                Some(p) if p.white => return Err(NoAnswer::White(named.clone())),
                Some(_) => {}
            }
        }
        let technique = prepared.techniques[0].as_ref();
        let free_craft = prepared.without_limits();
        let alone: Vec<Option<Alone>> =
            (0..technique.pigments()).map(|i| Alone::of(free_craft.as_deref().unwrap_or(technique), i)).collect();
        let mut field = Self { carried: Vec::new(), locked: Vec::new(), open: Vec::new(), alone };
        let mut left_out: Vec<&'static str> = Vec::new();
        for (i, p) in prepared.key.pigments.iter().enumerate() {
            let forbidden = forbidden(&choice.demands, p, field.alone[i].as_ref());
            let mother = choice.demands.mother.as_ref().is_some_and(|m| m.pigment == p.id);
            if p.white {
                field.carried.push(i);
            } else if choice.locked.contains(&p.id) || mother {
                if choice.excluded.contains(&p.id) {
                    return Err(NoAnswer::Contradiction(p.id.clone()));
                }
                if let Some(f) = forbidden {
                    return Err(NoAnswer::LockedForbidden(p.id.clone(), f.words()));
                }
                field.carried.push(i);
                field.locked.push(i);
            } else if choice.excluded.contains(&p.id) {
                left_out.push("exclusions");
            } else if let Some(f) = forbidden {
                left_out.push(f.words());
            } else {
                field.open.push(i);
            }
        }
        field.enough(ask, left_out)?;
        Ok(field)
    }

    /// Whether a number is one of the pigments counted in a set; a white that is laid is not.
    pub(crate) fn counts(&self, i: u16) -> bool {
        let i = usize::from(i);
        self.locked.contains(&i) || !self.carried.contains(&i)
    }

    /// Everyone who may be in a set.
    pub(crate) fn all(&self) -> Vec<u16> {
        let mut all: Vec<u16> = self.carried.iter().chain(&self.open).map(|i| *i as u16).collect();
        all.sort_unstable();
        all
    }

    fn enough(&self, ask: &Ask, mut left_out: Vec<&'static str>) -> Result<(), NoAnswer> {
        let (least, most) = (*ask.sizes.start(), *ask.sizes.end());
        if self.locked.len() > most {
            return Err(NoAnswer::TooManyLocked(self.locked.len(), most));
        }
        let n = self.locked.len() + self.open.len();
        if n == 0 && !left_out.is_empty() {
            left_out.sort_unstable();
            left_out.dedup();
            return Err(NoAnswer::NothingLeft(left_out.join(", ")));
        }
        if n < least {
            return Err(NoAnswer::TooFew(if n == 1 { "one pigment".into() } else { format!("{n} pigments") }));
        }
        Ok(())
    }

    /// Sizes that can be had.
    pub(crate) fn sizes(&self, ask: &Ask) -> Vec<usize> {
        ask.sizes.clone().filter(|k| *k >= self.locked.len().max(1) && *k <= self.locked.len() + self.open.len()).collect()
    }
}
