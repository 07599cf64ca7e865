//! Questions made from a Box and pieces, each of some size.

use crate::chance::Chance;
use crate::kinds::Drill;
use lean_colour::difference::ciede2000;
use lean_colour::moves::with_temperature;
use lean_colour::{Lab, Srgb8, Temperature, Value};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Binder, State};
use lean_media::{Ground, Layer, Layering, Medium, Parts, PigmentId, ground};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// What questions are made from.
pub struct Material<'a> {
    /// The painter's Box.
    pub paint_box: &'a PaintBox,
    /// Pieces with their numbers.
    pub pieces: &'a [(i64, Piece)],
}

/// Something that is shown.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Patch {
    /// Its colour.
    pub colour: Srgb8,
    /// What lies round it; the grey of the room where none does.
    pub surround: Option<Srgb8>,
    /// What is written under it; empty for nothing.
    pub label: String,
}

/// A question. What is right is not in it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrillQuestion {
    /// Which drill.
    pub drill: Drill,
    /// How far apart what is to be told apart lies, in the unit of the drill.
    pub size: f64,
    /// Which of all questions of that size it is.
    pub seed: u64,
    /// What is asked.
    pub asks: String,
    /// What is shown to be judged.
    pub shown: Vec<Patch>,
    /// What is chosen from or put in order; empty where a number or parts are asked for.
    pub choices: Vec<Patch>,
    /// Pigments whose parts are asked for.
    pub pigments: Vec<PigmentId>,
    /// A piece whose reference is looked at.
    pub piece: Option<i64>,
    /// Two places of it.
    pub zones: Vec<ZoneId>,
}

/// What is right.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Truth {
    /// A value.
    Value(f64),
    /// One of the choices, and the differences of the others from it.
    Choice(usize, Vec<f64>),
    /// All choices, first to last.
    Order(Vec<usize>),
    /// A colour to be matched.
    Colour(Lab),
}

/// Tries before it is said that there is no material.
const TRIES: usize = 400;

/// A question of a size; `None` where the Box or the pieces hold no material for it.
pub fn ask(drill: Drill, material: &Material, size: f64, seed: u64) -> Option<DrillQuestion> {
    made(drill, material, size, seed).map(|m| m.0)
}

/// A question with what is right.
pub(crate) fn made(drill: Drill, material: &Material, size: f64, seed: u64) -> Option<(DrillQuestion, Truth)> {
    let (least, most) = drill.range();
    if !size.is_finite() {
        return None;
    }
    let size = size.clamp(least, most);
    let mut making = Making { chance: Chance::seeded(seed ^ (drill as u64) << 56), material, size };
    let (mut question, truth) = match drill {
        Drill::Value => making.value(),
        Drill::Warmer => making.warmer(),
        Drill::Surround => making.surround(),
        Drill::PredictMix => making.predict_mix(),
        Drill::MissingPigment => making.missing_pigment(),
        Drill::Match => making.matched(),
        Drill::Order => making.order(),
        Drill::PictureLight => making.picture_light(),
    }?;
    (question.drill, question.size, question.seed) = (drill, size, seed);
    Some((question, truth))
}

fn grey(value: f64) -> Lab {
    Lab::new(Value(value).lightness(), 0.0, 0.0)
}

fn patch(lab: Lab) -> Patch {
    Patch { colour: lab.xyz().srgb(), surround: None, label: String::new() }
}

/// What is mixed of some pigments by parts: wet where the medium is mixed, else one over the other, thinner where there is less.
pub(crate) fn mixed(paint_box: &PaintBox, parts: &[(PigmentId, u16)]) -> Option<Lab> {
    let on: Ground = ground::usual(paint_box.medium);
    let total: u16 = parts.iter().map(|p| p.1).sum();
    let of: Vec<_> = parts.iter().filter(|p| p.1 > 0).map(|(id, n)| Some((paint_box.find(id)?, f64::from(*n)))).collect::<Option<_>>()?;
    if total == 0 {
        return Some(on.lab);
    }
    let layers = match paint_box.medium {
        Medium::Oil => vec![Layer::Paint { binder: Binder::Oil, of: of.iter().map(|(p, n)| (*p, Parts(*n))).collect(), film: None }],
        Medium::Watercolour => vec![Layer::Wash { of: of.iter().map(|(p, n)| (*p, Thickness(0.3 * n / f64::from(total)))).collect() }],
        Medium::Marker => {
            of.iter().map(|(p, n)| Layer::Ink { of: vec![(*p, Dose(0.09 * n / f64::from(total)))], into_wet: false }).collect()
        }
        // Two layers of each, or the paper shows more than the pencil.
        Medium::Pencil => [&of, &of]
            .into_iter()
            .flatten()
            .map(|(p, n)| Layer::Pencil { of: p, pressure: Pressure(0.9 * (n / f64::from(total)).sqrt()) })
            .collect(),
        Medium::SoftPastel => of
            .iter()
            .map(|(p, n)| Layer::Pastel { of: vec![(*p, Parts(1.0))], mass: Mass(2.2 * n / f64::from(total)), rubbing: Rubbing(0.4) })
            .collect(),
    };
    Some(Layering { ground: &on, layers }.lay(State::Dry).ok()?.reflectance.xyz().lab())
}

struct Making<'a> {
    chance: Chance,
    material: &'a Material<'a>,
    size: f64,
}

impl Making<'_> {
    fn question(asks: &str) -> DrillQuestion {
        DrillQuestion {
            drill: Drill::Value,
            size: 0.0,
            seed: 0,
            asks: asks.into(),
            shown: Vec::new(),
            choices: Vec::new(),
            pigments: Vec::new(),
            piece: None,
            zones: Vec::new(),
        }
    }

    /// Some pigments of the Box, all different, none white.
    fn pigments(&mut self, count: usize) -> Option<Vec<PigmentId>> {
        let coloured = self.material.paint_box.pigments.iter().filter(|p| !p.white && !p.owned.used_up).map(|p| p.id.clone());
        let all = self.chance.shuffled(coloured.collect());
        (all.len() >= count).then(|| all.into_iter().take(count).collect())
    }

    fn name(&self, id: &PigmentId) -> String {
        self.material.paint_box.find(id).map_or_else(|| id.0.clone(), |p| p.name.clone())
    }

    /// A colour two pigments of the Box give, of a value in the middle.
    fn colour_of_the_box(&mut self) -> Option<Lab> {
        for _ in 0..TRIES {
            let pair = self.pigments(2)?;
            let parts = [1 + self.chance.below(3) as u16, 1 + self.chance.below(3) as u16];
            let lab = mixed(self.material.paint_box, &[(pair[0].clone(), parts[0]), (pair[1].clone(), parts[1])])?;
            if (2.5..8.5).contains(&lab.value().0) {
                return Some(lab);
            }
        }
        None
    }

    /// The truth, and where it stands among all choices in any order.
    fn choose(&mut self, mut question: DrillQuestion, right: Patch, others: Vec<(Patch, f64)>) -> (DrillQuestion, Truth) {
        let all: Vec<(Patch, Option<f64>)> = std::iter::once((right, None)).chain(others.into_iter().map(|(p, d)| (p, Some(d)))).collect();
        let all = self.chance.shuffled(all);
        let at = all.iter().position(|c| c.1.is_none()).unwrap_or(0);
        let off = all.iter().map(|c| c.1.unwrap_or(0.0)).collect();
        question.choices = all.into_iter().map(|c| c.0).collect();
        (question, Truth::Choice(at, off))
    }

    fn value(&mut self) -> Option<(DrillQuestion, Truth)> {
        let value = self.chance.between(0.8, 9.4);
        let around = self.chance.between(1.0, 9.0);
        let mut q = Self::question("Which value is the patch in the middle? 0 is black, 10 is white.");
        q.shown = vec![Patch { surround: Some(grey(around).xyz().srgb()), ..patch(grey(value)) }];
        Some((q, Truth::Value(value)))
    }

    fn warmer(&mut self) -> Option<(DrillQuestion, Truth)> {
        for _ in 0..TRIES {
            let base = self.colour_of_the_box()?;
            let at = base.temperature().0;
            let (warm, cool) =
                (with_temperature(base, Temperature(at + self.size / 2.0)), with_temperature(base, Temperature(at - self.size / 2.0)));
            let apart = warm.temperature().0 - cool.temperature().0;
            if (apart - self.size).abs() < 0.1 * self.size && shown_alike(warm) && shown_alike(cool) {
                let q = Self::question("Which of the two is warmer?");
                return Some(self.choose(q, patch(warm), vec![(patch(cool), apart)]));
            }
        }
        None
    }

    fn surround(&mut self) -> Option<(DrillQuestion, Truth)> {
        let value = self.chance.between(3.2, 6.8);
        let (dark, light) = (self.chance.between(0.8, 1.8), self.chance.between(8.4, 9.4));
        let (first, second) = if self.chance.share() < 0.5 { (dark, light) } else { (light, dark) };
        let on = |v: f64, around: f64| Patch { surround: Some(grey(around).xyz().srgb()), ..patch(grey(v)) };
        let mut q = Self::question("Which of the patches below is the same grey as the one above?");
        q.shown = vec![on(value, first)];
        let others = vec![(on(value + self.size, second), self.size), (on(value - self.size, second), self.size)];
        Some(self.choose(q, on(value, second), others))
    }

    fn predict_mix(&mut self) -> Option<(DrillQuestion, Truth)> {
        const PARTS: [(u16, u16); 7] = [(1, 1), (2, 1), (1, 2), (3, 1), (1, 3), (5, 1), (1, 5)];
        for _ in 0..TRIES {
            let pair = self.pigments(2)?;
            let (a, b) = PARTS[self.chance.below(PARTS.len())];
            let of = |a: u16, b: u16| mixed(self.material.paint_box, &[(pair[0].clone(), a), (pair[1].clone(), b)]);
            let right = of(a, b)?;
            // What other pairs and parts give is plausible too, at about the distance asked for.
            let mut others: Vec<(Lab, f64)> = PARTS.iter().filter_map(|(x, y)| of(*x, *y)).map(|l| (l, ciede2000(l, right))).collect();
            for _ in 0..30 {
                let other = self.pigments(2)?;
                let (x, y) = PARTS[self.chance.below(PARTS.len())];
                let lab = mixed(self.material.paint_box, &[(other[0].clone(), x), (other[1].clone(), y)])?;
                others.push((lab, ciede2000(lab, right)));
            }
            if let Some(three) = about(&others, self.size, 3) {
                let words = format!("{a} {} and {b} {}: what do they give?", self.name(&pair[0]), self.name(&pair[1]));
                let mut q = Self::question(&words);
                let alone =
                    |id: &PigmentId| mixed(self.material.paint_box, &[(id.clone(), 1)]).map(|l| Patch { label: self.name(id), ..patch(l) });
                q.shown = pair.iter().filter_map(alone).collect();
                return Some(self.choose(q, patch(right), three.into_iter().map(|(l, d)| (patch(l), d)).collect()));
            }
        }
        None
    }

    fn missing_pigment(&mut self) -> Option<(DrillQuestion, Truth)> {
        for _ in 0..TRIES {
            let set = self.pigments(3)?;
            let parts: Vec<u16> = (0..3).map(|_| 1 + self.chance.below(3) as u16).collect();
            let with = |last: &PigmentId| {
                mixed(self.material.paint_box, &[(set[0].clone(), parts[0]), (set[1].clone(), parts[1]), (last.clone(), parts[2])])
            };
            let right = with(&set[2])?;
            let rest: Vec<PigmentId> =
                self.material.paint_box.pigments.iter().filter(|p| !p.white && !set.contains(&p.id)).map(|p| p.id.clone()).collect();
            let others: Vec<(PigmentId, Lab, f64)> =
                rest.into_iter().filter_map(|id| with(&id).map(|l| (id, l, ciede2000(l, right)))).collect();
            let near: Vec<(Lab, f64)> = others.iter().map(|o| (o.1, o.2)).collect();
            let Some(three) = about(&near, self.size, 3) else { continue };
            let named = |lab: &Lab| others.iter().find(|o| o.1 == *lab).map(|o| o.0.clone());
            let alone =
                |id: &PigmentId| mixed(self.material.paint_box, &[(id.clone(), 1)]).map(|l| Patch { label: self.name(id), ..patch(l) });
            let wrong: Option<Vec<(Patch, f64)>> = three.iter().map(|(l, d)| Some((alone(&named(l)?)?, *d))).collect();
            let (Some(wrong), Some(right_one)) = (wrong, alone(&set[2])) else { continue };
            let words =
                format!("This mix holds {} {} and {} {}. Which is the third?", parts[0], self.name(&set[0]), parts[1], self.name(&set[1]));
            let mut q = Self::question(&words);
            q.shown = vec![patch(right)];
            return Some(self.choose(q, right_one, wrong));
        }
        None
    }

    fn matched(&mut self) -> Option<(DrillQuestion, Truth)> {
        for _ in 0..TRIES {
            let set = self.pigments(3)?;
            let parts: Vec<u16> = (0..3).map(|_| 1 + self.chance.below(4) as u16).collect();
            let of: Vec<(PigmentId, u16)> = set.iter().cloned().zip(parts).collect();
            let lab = mixed(self.material.paint_box, &of)?;
            if (1.5..9.0).contains(&lab.value().0) && shown_alike(lab) {
                let mut q = Self::question("Match this colour with the three. You have four trials.");
                q.shown = vec![patch(lab)];
                q.pigments = set;
                return Some((q, Truth::Colour(lab)));
            }
        }
        None
    }

    fn order(&mut self) -> Option<(DrillQuestion, Truth)> {
        const OF: usize = 5;
        let room = 8.6 - self.size * (OF - 1) as f64;
        let from = self.chance.between(0.8, 0.8 + room.max(0.1));
        let placed: Vec<usize> = self.chance.shuffled((0..OF).collect());
        let mut q = Self::question("Put them in order, the darkest first.");
        q.choices = placed.iter().map(|i| patch(grey(from + self.size * *i as f64))).collect();
        let order = (0..OF).map(|i| placed.iter().position(|p| *p == i).unwrap_or(0)).collect();
        Some((q, Truth::Order(order)))
    }

    fn picture_light(&mut self) -> Option<(DrillQuestion, Truth)> {
        let mut pairs: Vec<(f64, i64, ZoneId, ZoneId, f64)> = Vec::new();
        for (id, piece) in self.material.pieces.iter().filter(|(_, p)| p.reference.as_ref().is_some_and(|r| !r.lines)) {
            for (i, a) in piece.zones.iter().enumerate() {
                for b in &piece.zones[i + 1..] {
                    let apart = (a.reading.value.0 - b.reading.value.0).abs();
                    if apart > 0.02 && a.reading.area > 0.01 && b.reading.area > 0.01 {
                        let (dark, light) = if a.reading.value.0 < b.reading.value.0 { (a.id, b.id) } else { (b.id, a.id) };
                        pairs.push(((apart / self.size).ln().abs(), *id, dark, light, apart));
                    }
                }
            }
        }
        pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
        pairs.truncate(8);
        let (_, piece, dark, light, apart) = *pairs.get(self.chance.below(pairs.len().max(1)))?;
        let mut q = Self::question("Which of the two places is darker in the picture?");
        q.piece = Some(piece);
        let zones = self.chance.shuffled(vec![dark, light]);
        let at = zones.iter().position(|z| *z == dark).unwrap_or(0);
        q.zones = zones;
        Some((q, Truth::Choice(at, (0..2).map(|i| if i == at { 0.0 } else { apart }).collect())))
    }
}

/// Whether the screen shows a colour as it is.
fn shown_alike(lab: Lab) -> bool {
    lab.xyz().srgb().in_gamut
}

/// So many of some colours whose distance is nearest to a size, none nearer than two thirds of it or farther than one and a half; `None` where there are
/// too few.
fn about(of: &[(Lab, f64)], size: f64, count: usize) -> Option<Vec<(Lab, f64)>> {
    let mut near: Vec<(Lab, f64)> = of.iter().filter(|(_, d)| (size / 1.5..size * 1.5).contains(d)).copied().collect();
    near.sort_by(|a, b| (a.1 - size).abs().total_cmp(&(b.1 - size).abs()));
    let mut kept: Vec<(Lab, f64)> = Vec::new();
    for c in near {
        // Two choices that look alike would be one.
        if kept.len() < count && kept.iter().all(|k| ciede2000(k.0, c.0) > size / 3.0) {
            kept.push(c);
        }
    }
    (kept.len() == count).then_some(kept)
}
