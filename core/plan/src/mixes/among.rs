//! How zones read among their neighbours, and what to do where one reads otherwise than meant: change it, change what surrounds it, or
//! wait until a neighbour is in.

use super::ZoneMix;
use crate::requests::{Request, ZoneTarget};
use crate::wording::Difference;
use lean_colour::difference::ciede2000;
use lean_colour::moves::with_value;
use lean_colour::neighbours::{self, Border, Neighbour, over_zones, shown_alone};
use lean_colour::real::toward_real;
use lean_colour::{Lab, Steps};
use lean_media::PigmentId;
use lean_piece::{Piece, ZoneId};
use lean_recipes::telling;
use lean_search::Recipes;
use serde::Serialize;
use std::cell::OnceCell;

/// Steps of value, and units of a* and b*, by which a zone must read otherwise than meant to be worth a word. Choices.
const STEPS: f64 = 0.3;
const COLOUR: f64 = 6.0;
/// The same for what bare ground does on the way: it does something to every colour. Choices.
const STEPS_ON_THE_WAY: f64 = 0.4;
const COLOUR_ON_THE_WAY: f64 = 8.0;
/// Share of the misreading that a remedy must take away to be offered: the zone's own, and that of its surround, which acts at second
/// hand. Choices.
const HELPS: f64 = 0.4;
const HELPS_AROUND: f64 = 0.2;
/// CIEDE2000 by which a change of the surround must help at least. A choice.
const WORTH_IT: f64 = 1.5;
/// Share of a zone's border from which a neighbour can be its surround. A choice.
const SURROUNDS: f64 = 0.15;
/// Rounds in which all zones are solved together, and how much of what is off is mended in each. Choices.
const ROUNDS: usize = 12;
const EACH: f64 = 0.7;

/// One of the two remedies, with what it costs.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Remedy {
    /// What it does.
    pub help: String,
    /// What it costs.
    pub cost: String,
    /// The change.
    pub request: Request,
}

/// How a zone reads among its neighbours.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Among {
    /// Which.
    pub zone: ZoneId,
    /// How it reads with everything in, against how it is meant to; empty while it reads as meant.
    pub reads: String,
    /// What to wait for before it is judged; empty when nothing misleads on the way.
    pub wait: String,
    /// The recipe that makes it read as meant, all zones solved together.
    pub own: Option<Remedy>,
    /// The change of its surround that would do it.
    pub surround: Option<Remedy>,
}

/// Zones that read otherwise than meant among the mixes of the others, or will on the way there. "Meant" is how the plan's own colours look
/// among each other.
pub fn among(piece: &Piece, mixes: &[ZoneMix], order: &[ZoneId], recipes: &Recipes, name: &dyn Fn(&PigmentId) -> String) -> Vec<Among> {
    let Some(scene) = Scene::of(piece, mixes) else { return Vec::new() };
    let (meant, now) = (scene.looks(&scene.wanted), scene.looks(&scene.given));
    // All zones are solved together, and only when one of them needs it.
    let solved = OnceCell::new();
    (0..scene.given.len())
        .filter_map(|i| {
            let wrong = misread(meant[i], now[i]);
            let wait = scene.wait(i, order, now[i]);
            let told = |own, surround| Among {
                zone: scene.zones[i],
                reads: if wrong { Difference::of(meant[i], now[i]).words } else { String::new() },
                wait: wait.clone(),
                own,
                surround,
            };
            match wrong {
                true => {
                    let (own, surround) = (
                        scene.own(i, (meant[i], now[i]), solved.get_or_init(|| scene.solved(&meant))[i], recipes, name),
                        scene.surround(i, (meant[i], now[i])),
                    );
                    // What nothing here can mend is the recipe's own miss, and is said with the recipe.
                    (own.is_some() || surround.is_some() || !wait.is_empty()).then(|| told(own, surround))
                }
                false => (!wait.is_empty()).then(|| told(None, None)),
            }
        })
        .collect()
}

/// Whether a look is plainly not the one that is meant.
fn misread(meant: Lab, now: Lab) -> bool {
    (meant.value().0 - now.value().0).abs() >= STEPS || colour_off(meant, now) >= COLOUR
}

/// Whether bare ground makes it look so much otherwise that it would be mended by mistake.
fn misleads(meant: Lab, now: Lab) -> bool {
    (meant.value().0 - now.value().0).abs() >= STEPS_ON_THE_WAY || colour_off(meant, now) >= COLOUR_ON_THE_WAY
}

fn colour_off(a: Lab, b: Lab) -> f64 {
    (a.a - b.a).hypot(a.b - b.b)
}

/// The zones of a piece with their borders.
struct Scene<'a> {
    piece: &'a Piece,
    zones: Vec<ZoneId>,
    wanted: Vec<Lab>,
    given: Vec<Lab>,
    borders: Vec<Border>,
    ground: Lab,
}

impl<'a> Scene<'a> {
    /// `None` while a zone has no mix.
    fn of(piece: &'a Piece, mixes: &[ZoneMix]) -> Option<Self> {
        let zones: Vec<ZoneId> = piece.zones.iter().map(|z| z.id).collect();
        let of = |z: &ZoneId| mixes.iter().find(|m| m.zone == *z).map(|m| (m.wanted.lab, m.given.lab));
        let (wanted, given) = zones.iter().map(of).collect::<Option<Vec<_>>>()?.into_iter().unzip();
        let at = |id: u16| zones.iter().position(|z| z.0 == id);
        let borders = piece.geometry().borders.iter();
        let borders = borders.filter_map(|(a, b, n)| Some(Border { one: at(*a)?, other: at(*b)?, length: *n as f64 })).collect();
        Some(Self { piece, zones, wanted, given, borders, ground: piece.ground().lab })
    }

    /// How colours look among each other, shown alone.
    fn looks(&self, colours: &[Lab]) -> Vec<Lab> {
        let bare = vec![0.0; colours.len()];
        over_zones(colours, &self.borders, self.ground, &bare).unwrap_or_default().iter().map(shown_alone).collect()
    }

    /// How one of the colours looks among the others, shown alone.
    fn look_of(&self, i: usize, colours: &[Lab]) -> Lab {
        let around: Vec<Neighbour> = self.around(i).into_iter().map(|(j, weight)| Neighbour { colour: colours[j], weight }).collect();
        shown_alone(&neighbours::among(colours[i], &around))
    }

    /// Colours that would all look as meant at once.
    fn solved(&self, meant: &[Lab]) -> Vec<Lab> {
        let mut colours = self.given.clone();
        for _ in 0..ROUNDS {
            let looks = self.looks(&colours);
            for ((c, look), m) in colours.iter_mut().zip(&looks).zip(meant) {
                let mend = |of: f64, look: f64, m: f64| of + EACH * (m - look);
                *c = toward_real(Lab::new(mend(c.l, look.l, m.l).clamp(1.0, 99.0), mend(c.a, look.a, m.a), mend(c.b, look.b, m.b)));
            }
        }
        colours
    }

    fn label(&self, i: usize) -> String {
        self.piece.zone_label(self.zones[i])
    }

    fn set(&self, i: usize, target: Lab, why: &str) -> Request {
        let what: String = format!("{} of {}", why, self.label(i)).chars().take(80).collect();
        Request::SetTargets { targets: vec![ZoneTarget { zone: self.zones[i], target }], what }
    }

    /// The best recipe of the set for the colour that would look as meant, if it looks plainly better.
    fn own(
        &self,
        i: usize,
        (meant, now): (Lab, Lab),
        solved: Lab,
        recipes: &Recipes,
        name: &dyn Fn(&PigmentId) -> String,
    ) -> Option<Remedy> {
        let (_, mix) = recipes.best(solved, self.piece.cost())?;
        let mut changed = self.given.clone();
        changed[i] = mix.lab;
        let (before, after) = (ciede2000(meant, now), ciede2000(meant, self.look_of(i, &changed)));
        if after > before * (1.0 - HELPS) {
            return None;
        }
        Some(Remedy {
            help: "Mix it otherwise".into(),
            cost: format!(
                "{}. It then lies {:.0} from what is planned, and reads within {after:.0} of it.",
                crate::wording::capital(&telling::short(&mix, name)),
                ciede2000(mix.lab, self.wanted[i])
            ),
            request: self.set(i, solved, "the look"),
        })
    }

    /// The least change of its surround that makes a zone look more as meant: of one neighbour, or of all of them alike.
    fn surround(&self, i: usize, (meant, now): (Lab, Lab)) -> Option<Remedy> {
        let before = ciede2000(meant, now);
        let around = self.around(i);
        let whole: f64 = around.iter().map(|(_, n)| n).sum();
        let plain: Vec<usize> = around.iter().filter(|(_, n)| *n >= SURROUNDS * whole).map(|(j, _)| *j).collect();
        let alone = plain.iter().flat_map(|j| self.moved(*j).into_iter().map(|c| vec![(*j, c)]));
        let moves: Vec<(usize, Vec<Lab>)> = plain.iter().map(|j| (*j, self.moved(*j))).collect();
        let count = moves.iter().map(|(_, m)| m.len()).min().unwrap_or(0);
        let together = (0..count).map(|k| moves.iter().map(|(j, m)| (*j, m[k])).collect::<Vec<_>>());
        let judged = alone.chain(together).filter(|changes| !changes.is_empty()).filter_map(|changes| {
            let mut changed = self.given.clone();
            changes.iter().for_each(|(j, colour)| changed[*j] = *colour);
            let after = ciede2000(meant, self.look_of(i, &changed));
            let price: f64 = changes.iter().map(|(j, c)| ciede2000(*c, self.given[*j]) * (0.2 + self.share(*j))).sum();
            (after <= before * (1.0 - HELPS_AROUND) && after <= before - WORTH_IT).then_some((changes, after, price))
        });
        let (changes, after, _) = judged.min_by(|a, b| (a.1 + 0.3 * a.2).total_cmp(&(b.1 + 0.3 * b.2)))?;
        Some(self.around_changed(i, &changes, before, after))
    }

    fn around_changed(&self, i: usize, changes: &[(usize, Lab)], before: f64, after: f64) -> Remedy {
        let named = |(j, colour): &(usize, Lab)| format!("{}: {}", self.label(*j), turned(self.given[*j], *colour));
        let how = changes.iter().map(named).collect::<Vec<_>>().join("; ");
        let help = match changes {
            [(j, _)] => format!("Change {} beside it", self.label(*j)),
            _ => "Change its surround".into(),
        };
        let area: f64 = changes.iter().map(|(j, _)| self.share(*j)).sum();
        let targets = changes.iter().map(|(j, target)| ZoneTarget { zone: self.zones[*j], target: *target }).collect();
        let what: String = format!("the surround of {}", self.label(i)).chars().take(80).collect();
        Remedy {
            help,
            cost: format!(
                "{}. That moves {:.0} % of the piece, and it reads {after:.0} off instead of {before:.0}.",
                crate::wording::capital(&how),
                100.0 * area
            ),
            request: Request::SetTargets { targets, what },
        }
    }

    fn share(&self, i: usize) -> f64 {
        self.piece.zones[i].reading.area
    }

    /// Other colours a neighbour may take: lighter, darker, turned, or what was planned for it.
    fn moved(&self, j: usize) -> Vec<Lab> {
        let at = self.given[j];
        let values =
            [-2.0, -1.5, -1.0, -0.5, 0.5, 1.0, 1.5, 2.0].map(|v| with_value(at, lean_colour::Value((at.value().0 + v).clamp(0.5, 9.7))));
        let turned = (0..8).flat_map(|k| {
            let (sin, cos) = (f64::from(k) * 45.0).to_radians().sin_cos();
            [8.0, 16.0, 24.0, 36.0].map(|by| toward_real(Lab::new(at.l, at.a + by * cos, at.b + by * sin)))
        });
        values.into_iter().chain(turned).chain([self.wanted[j]]).collect()
    }

    fn around(&self, i: usize) -> Vec<(usize, f64)> {
        self.borders
            .iter()
            .filter_map(|b| if b.one == i { Some((b.other, b.length)) } else { (b.other == i).then_some((b.one, b.length)) })
            .collect()
    }

    /// Reason for a zone to wait: while neighbours that are laid after it, and not yet, are bare ground, it looks plainly otherwise than at the end.
    fn wait(&self, i: usize, order: &[ZoneId], at_the_end: Lab) -> String {
        let place = |j: usize| order.iter().position(|z| *z == self.zones[j]).unwrap_or(usize::MAX);
        let laid = |j: usize| self.piece.easel.done.iter().any(|d| d.task.zone == Some(self.zones[j]));
        let mut later: Vec<(usize, f64)> = self.around(i).into_iter().filter(|(j, _)| place(*j) > place(i) && !laid(*j)).collect();
        if later.is_empty() {
            return String::new();
        }
        let mut halfway = self.given.clone();
        for (j, _) in &later {
            halfway[*j] = self.ground;
        }
        let look = self.look_of(i, &halfway);
        if !misleads(at_the_end, look) {
            return String::new();
        }
        later.sort_by(|a, b| b.1.total_cmp(&a.1));
        let mut names: Vec<String> = later.iter().map(|(j, _)| self.label(*j)).collect();
        names.dedup();
        names.truncate(2);
        let are = crate::wording::grammar::verb(&names.join(" and "), names.len());
        format!(
            "Beside bare ground it looks {} than it will. Wait until {} {are} in before you mend it.",
            comparative(at_the_end, look),
            names.join(" and ")
        )
    }
}

/// How a colour has to turn to become another: "half a step darker and duller".
fn turned(from: Lab, to: Lab) -> String {
    let steps = to.value().0 - from.value().0;
    let value = (steps.abs() >= 0.125)
        .then(|| format!("{} {}", crate::wording::steps(Steps(steps.abs())), if steps > 0.0 { "lighter" } else { "darker" }));
    let colour = Some(Difference::of(from, to).comparison()).filter(|c| !c.is_empty());
    value.into_iter().chain(colour).collect::<Vec<_>>().join(", ")
}

/// How a look compares with another in one or two words: "lighter and stronger".
fn comparative(than: Lab, look: Lab) -> String {
    let (value, chroma) = (look.value().0 - than.value().0, look.chroma() - than.chroma());
    let mut words = Vec::new();
    if value.abs() >= STEPS {
        words.push(if value > 0.0 { "lighter" } else { "darker" });
    }
    if colour_off(than, look) >= COLOUR {
        words.push(match chroma {
            c if c >= COLOUR / 2.0 => "stronger",
            c if c <= -COLOUR / 2.0 => "duller",
            _ if look.temperature().0 > than.temperature().0 => "warmer",
            _ => "cooler",
        });
    }
    words.join(" and ")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::easel::{Done, Stage, TaskId};
    use lean_recipes::Mix;

    /// A piece in mixes of given colours.
    fn mixed(zones: &[Staged], given: &[Lab]) -> (Piece, Vec<ZoneMix>) {
        let piece = staged(zones);
        let mixes =
            piece.zones.iter().zip(given).map(|(z, g)| super::super::compare(z.id, z.target, Mix::bare(*g), piece.neutral())).collect();
        (piece, mixes)
    }

    /// A grey wall around a door that is planned red, in mixes where the door came out `door`.
    fn wall(door: Lab) -> (Piece, Vec<ZoneMix>) {
        let zones = [Staged::read(52.0, 55.0, 40.0), Staged::read(55.0, 2.0, 3.0)];
        let given = [door, Lab::new(55.0, 2.0, 3.0)];
        mixed(&zones, &given)
    }

    #[test]
    fn as_planned_every_zone_reads_as_meant() {
        let (piece, mixes) = wall(Lab::new(52.0, 55.0, 40.0));
        let scene = Scene::of(&piece, &mixes).unwrap();
        assert_eq!(scene.looks(&scene.wanted), scene.looks(&scene.given));
        assert!((0..2).all(|i| !misread(scene.looks(&scene.wanted)[i], scene.looks(&scene.given)[i])));
    }

    #[test]
    fn a_neighbour_that_came_out_otherwise_changes_the_look_and_the_surround_would_mend_it() {
        let (piece, mixes) = wall(Lab::new(52.0, -40.0, 20.0));
        let scene = Scene::of(&piece, &mixes).unwrap();
        let (meant, now) = (scene.looks(&scene.wanted), scene.looks(&scene.given));
        assert!(misread(meant[1], now[1]), "a grey beside green looks redder than beside red");
        let remedy = scene.surround(1, (meant[1], now[1])).unwrap();
        let Request::SetTargets { targets, .. } = &remedy.request else { panic!("a target") };
        assert_eq!(targets[0].zone, ZoneId(1));
        assert!(targets[0].target.a > -40.0 + 7.0, "towards the red it was meant to be");
    }

    #[test]
    fn solved_together_all_look_as_meant() {
        let (piece, mixes) = wall(Lab::new(45.0, 30.0, 30.0));
        let scene = Scene::of(&piece, &mixes).unwrap();
        let meant = scene.looks(&scene.wanted);
        for (look, m) in scene.looks(&scene.solved(&meant)).iter().zip(&meant) {
            assert!(ciede2000(*look, *m) < 0.5);
        }
    }

    #[test]
    fn a_middle_grey_on_white_paper_waits_for_its_dark_neighbour() {
        let zones = [Staged::vt(5.0, 0.0), Staged::vt(1.5, 0.0)];
        let given: Vec<Lab> = zones.iter().map(Staged::zone_target).collect();
        let (piece, mixes) = mixed(&zones, &given);
        let scene = Scene::of(&piece, &mixes).unwrap();
        let now = scene.looks(&scene.given);
        let first = [ZoneId(1), ZoneId(2)];
        assert!(scene.wait(0, &first, now[0]).contains("darker") && scene.wait(0, &first, now[0]).contains("Wait until zone 2 is in"));
        assert!(scene.wait(0, &[ZoneId(2), ZoneId(1)], now[0]).is_empty());
        let task = TaskId { stage: Stage::BigShapes, zone: Some(ZoneId(2)), layer: 0 };
        let mut begun = piece.clone();
        begun.easel.done = vec![Done { task, at: None }];
        let scene = Scene::of(&begun, &mixes).unwrap();
        assert!(scene.wait(0, &first, now[0]).is_empty(), "what is laid is not waited for");
    }
}
