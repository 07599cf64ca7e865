//! A graded zone is a string: one mix hands over to the next along its way.

use super::ZoneMix;
use crate::mark::Mark;
use lean_colour::Share;
use lean_media::PigmentId;
use lean_piece::wanted::Wanted;
use lean_recipes::Mix;
use serde::Serialize;

/// A mix further along a graded zone.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Further {
    /// Where it is pure, as a share of the way: above 0, 1 at the far end.
    pub at: f64,
    /// Where the mix before it has gone half over into it, as a share of the way.
    pub hand_over: f64,
    /// What is wanted there.
    pub wanted: Mark,
    /// What the mix gives.
    pub given: Mark,
    /// What goes in.
    pub mix: Mix,
    /// What it misses by, in one sentence.
    pub sentence: String,
}

impl ZoneMix {
    /// The mix at a stop; `None` between stops.
    pub(crate) fn mix_at(&self, share: Share) -> Option<&Mix> {
        if share == Share::NONE {
            return Some(&self.mix);
        }
        self.then.iter().find(|f| f.at == share.0).map(|f| &f.mix)
    }

    /// Share of a pigment in all the paint of the zone, 0..=1: each mix of a string counts by the stretch it covers.
    pub fn share_of(&self, pigment: &PigmentId) -> f64 {
        let starts = std::iter::once(0.0).chain(self.then.iter().map(|f| f.hand_over));
        let ends = self.then.iter().map(|f| f.hand_over).chain(std::iter::once(1.0));
        let mixes = std::iter::once(&self.mix).chain(self.then.iter().map(|f| &f.mix));
        mixes.zip(starts.zip(ends)).map(|(m, (start, end))| m.share_of(pigment) * (end - start)).sum()
    }
}

/// Threads what was compared at every stop into one mix a zone: the zones in the order of their first stops. Stops of a zone follow one another
/// from near to far.
pub(crate) fn threaded(compared: impl Iterator<Item = (Wanted, ZoneMix)>) -> Vec<ZoneMix> {
    let mut zones: Vec<ZoneMix> = Vec::new();
    for (aim, mix) in compared {
        let Some(zone) = zones.iter_mut().find(|z| z.zone == aim.zone) else {
            zones.push(mix);
            continue;
        };
        let before = zone.then.last().map_or(0.0, |f| f.at);
        zone.reached &= mix.reached;
        zone.then.push(Further {
            at: aim.share,
            hand_over: (before + aim.share) / 2.0,
            wanted: mix.wanted,
            given: mix.given,
            mix: mix.mix,
            sentence: mix.sentence,
        });
    }
    zones
}

#[cfg(test)]
mod tests {
    use crate::mixes::{cost_of, mixes, pigments_of, technique_of};
    use crate::staged::{Staged, staged};
    use lean_colour::Lab;
    use lean_media::Medium;
    use lean_piece::Piece;
    use lean_piece::light::Graded;
    use lean_piece::paint_box::PaintBox;
    use lean_piece::wanted::{targets, wanted};
    use lean_search::Recipes;

    /// A dark plane and one that runs from light to dark downwards.
    fn graded() -> Piece {
        let mut piece = staged(&[Staged::vt(8.0, 0.0), Staged::vt(3.0, 0.0)]);
        piece.brief.medium = Medium::Oil;
        piece.zones[0].graded = Some(Graded { to: Lab::new(40.0, 2.0, -8.0), direction: 90.0 });
        piece
    }

    fn oils() -> PaintBox {
        let oils = lean_demo::oils();
        PaintBox { name: oils.name, medium: oils.medium, pigments: oils.pigments }
    }

    #[test]
    fn a_graded_zone_aims_at_its_whole_way_and_counts_no_more_than_before() {
        let piece = graded();
        let even = Piece { zones: piece.zones.iter().map(|z| lean_piece::Zone { graded: None, ..z.clone() }).collect(), ..piece.clone() };
        let (all, before) = (wanted(&piece), targets(&even));
        assert_eq!(all[..2].iter().map(|a| a.zone).collect::<Vec<_>>(), piece.zones.iter().map(|z| z.id).collect::<Vec<_>>());
        assert!(all[2..].iter().all(|a| a.zone == piece.zones[0].id), "what is further along comes last");
        let own: f64 = all.iter().filter(|a| a.zone == piece.zones[0].id).map(|a| a.target.weight).sum();
        assert!((own - before[0].weight).abs() < 1e-12);
        assert_eq!(all.last().map(|a| a.share), Some(1.0));
    }

    #[test]
    fn its_mixes_hand_over_from_light_to_dark() {
        let (piece, paint_box) = (graded(), oils());
        let set: Vec<_> = paint_box.pigments.iter().filter(|p| !p.white).take(4).map(|p| p.id.clone()).collect();
        let technique = technique_of(&piece, &paint_box, &pigments_of(&paint_box, &set));
        let recipes = Recipes::of(technique.as_ref());
        let found = mixes(&piece, &recipes);
        assert_eq!(found.len(), 2, "one for each zone");
        let string = &found[0];
        assert!(!string.then.is_empty() && found[1].then.is_empty());
        let values: Vec<f64> = std::iter::once(string.given.value.0).chain(string.then.iter().map(|f| f.given.value.0)).collect();
        assert!(values.windows(2).all(|v| v[0] > v[1] + 0.5), "{values:?}");
        let hands: Vec<f64> = string.then.iter().map(|f| f.hand_over).collect();
        assert!(hands.iter().zip(&string.then).all(|(h, f)| *h > 0.0 && *h < f.at));
        let all: f64 = set.iter().map(|p| string.share_of(p)).sum();
        assert!(all <= 1.0 + 1e-9);
        let cost = recipes.cost_of(&targets(&piece), piece.cost());
        assert!((cost_of(&piece, &found, recipes.fitted(piece.cost())) - cost).abs() < 1e-9, "the best mixes cost what the search says");
    }
}
