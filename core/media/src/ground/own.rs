//! A ground of one's own: a shipped one with what was seen of the real sheet.

use super::{Ground, GroundId, SHIPPED, Takes};
use crate::broken::by_band;
use crate::choices::Choices;
use lean_colour::Lab;
use lean_colour::inferred::reflectance_of;
use serde::{Deserialize, Serialize};

/// What marks the id of a ground of one's own; what follows says all of it, so that a piece keeps the ground it was painted on whatever becomes of the
/// record.
const MARK: &str = "own:";

/// What was seen of a ground of one's own.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OwnGround {
    /// The shipped ground it is most like.
    pub like: String,
    /// What it is called, 1..=60 characters.
    pub name: String,
    /// Its colour, bare and dry.
    pub lab: Lab,
    /// Roughness, 0 glass-smooth to 1 rough.
    pub tooth: f64,
    /// Thirst, 0 to 1.
    pub absorbency: f64,
    /// Layers it takes, 1..=40, of whatever is laid on it.
    pub layers: u8,
    /// Minutes a usual wash stays wet, 0..=600.
    pub dry_minutes: f64,
}

impl OwnGround {
    /// Checks texts and ranges.
    ///
    /// # Errors
    /// Says what is wrong and what would be right.
    pub fn check(&self) -> Result<(), String> {
        let n = self.name.trim().chars().count();
        if !(1..=60).contains(&n) {
            return Err("A ground needs a name of 1 to 60 characters.".into());
        }
        if !SHIPPED.iter().any(|g| g.id.0 == self.like) {
            return Err(format!("\"{}\" is no shipped ground. Say which of them yours is like.", self.like));
        }
        let lab = self.lab;
        if !((0.0..=100.0).contains(&lab.l) && lab.a.abs() <= 120.0 && lab.b.abs() <= 120.0) {
            return Err(format!(
                "{} {} {} is no colour of a ground: L lies between 0 and 100, a and b between -120 and 120.",
                lab.l, lab.a, lab.b
            ));
        }
        for (what, share) in [("tooth", self.tooth), ("thirst", self.absorbency)] {
            if !(0.0..=1.0).contains(&share) {
                return Err(format!("A {what} of {share} is out of range; it lies from 0 to 1."));
            }
        }
        if !(1..=40).contains(&self.layers) {
            return Err(format!("{} layers are out of range; a ground takes 1 to 40.", self.layers));
        }
        if !(0.0..=600.0).contains(&self.dry_minutes) {
            return Err(format!("{} minutes are out of range; a wash stays wet for 0 to 600.", self.dry_minutes));
        }
        Ok(())
    }

    /// The id by which pieces and readings know it.
    pub fn id(&self) -> GroundId {
        // Plain numbers and texts always have a JSON form.
        GroundId(format!("{MARK}{}", serde_json::to_string(self).unwrap_or_default()))
    }

    /// The ground as the models take it; `None` where it is not sound.
    pub fn ground(&self) -> Option<Ground> {
        self.check().ok()?;
        let like = SHIPPED.iter().find(|g| g.id.0 == self.like)?;
        let veil = Choices::default().paper_veil;
        let seen = reflectance_of(self.lab.xyz()).reflectance;
        let takes = |of: u8| if of == 0 { 0 } else { self.layers };
        // A sheet that takes more layers holds more of what is laid.
        let more = |of: u8| if of == 0 { 1.0 } else { f64::from(self.layers) / f64::from(of) };
        Some(Ground {
            id: self.id(),
            name: self.name.trim().to_owned(),
            lab: self.lab,
            hex: self.lab.xyz().srgb().hex(),
            tooth: self.tooth,
            absorbency: self.absorbency,
            dry_minutes: self.dry_minutes,
            pastel_mass: like.pastel_mass * more(like.takes.pastel),
            pencil_film: like.pencil_film * more(like.takes.pencil),
            ink_dose: like.ink_dose * more(like.takes.ink),
            takes: Takes {
                pastel: takes(like.takes.pastel),
                pencil: takes(like.takes.pencil),
                ink: takes(like.takes.ink),
                wash: takes(like.takes.wash),
                paint: takes(like.takes.paint),
            },
            inside: by_band(|i| ((seen.0[i] - veil) / (1.0 - veil)).clamp(0.0, 1.0)),
            ..like.clone()
        })
    }
}

/// The ground an id of one's own says; `None` where it says none.
pub(super) fn read(id: &GroundId) -> Option<Ground> {
    serde_json::from_str::<OwnGround>(id.0.strip_prefix(MARK)?).ok()?.ground()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground;

    fn own() -> OwnGround {
        OwnGround {
            like: "cold-pressed".into(),
            name: "old sketch block".into(),
            lab: Lab::new(88.0, 1.0, 9.0),
            tooth: 0.4,
            absorbency: 0.6,
            layers: 3,
            dry_minutes: 9.0,
        }
    }

    #[test]
    fn its_id_says_all_of_it() {
        let g = ground::find(&own().id()).unwrap();
        assert_eq!((g.name.as_str(), g.takes.wash, g.dry_minutes), ("old sketch block", 3, 9.0));
        assert!((g.lab.b - 9.0).abs() < 1e-9 && g.suits.contains(&crate::Medium::Watercolour));
        assert_eq!(ground::find(&g.id).unwrap(), g);
        assert!(ground::find(&GroundId("own:{}".into())).is_none() && ground::find(&GroundId("own:velvet".into())).is_none());
    }

    #[test]
    fn what_is_wrong_is_said() {
        let wrong = |change: &dyn Fn(&mut OwnGround)| {
            let mut g = own();
            change(&mut g);
            assert!(ground::find(&g.id()).is_none(), "what is not sound is no ground");
            g.check().unwrap_err()
        };
        assert!(wrong(&|g| g.name = " ".into()).contains("name"));
        assert!(wrong(&|g| g.like = "velvet".into()).contains("velvet"));
        assert!(wrong(&|g| g.tooth = 3.0).contains("tooth"));
        assert!(wrong(&|g| g.lab.l = 300.0).contains("300"));
        assert!(wrong(&|g| g.layers = 0).contains("layers"));
        assert!(wrong(&|g| g.dry_minutes = -1.0).contains("minutes"));
    }
}
