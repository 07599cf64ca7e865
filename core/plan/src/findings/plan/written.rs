//! A plan written down without a picture: what `lean-swatch findings` reads.

use super::{Border, Plan, PlannedZone};
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_piece::intent::Intent;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Distance, Exception, Facts, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint, Which};
use lean_piece::{Importance, ZoneId};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Most zones a written plan may have.
const MOST_ZONES: usize = 60;

/// A plan without a picture. Its JSON Schema is `docs/schemas/findings.schema.json`.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenPlan {
    /// What it is called.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(max_length = 200))]
    pub title: String,
    /// The medium.
    pub medium: Medium,
    /// The ground, checked and kept. No rule asks for it yet: what can be reached on a ground depends on a Box.
    #[serde(default)]
    pub ground: Option<GroundId>,
    /// The light.
    #[serde(default)]
    pub light: WrittenLight,
    /// Answers to questions where painters differ; the medium's usual ones where left out.
    #[serde(default)]
    pub schools: BTreeMap<Question, School>,
    /// The zones.
    #[cfg_attr(feature = "schema", schema(min_items = 1, max_items = 60))]
    pub zones: Vec<WrittenZone>,
}

/// What falls on the piece.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenLight {
    /// None while nobody said, one, or two; zones stand in the first unless they say otherwise.
    #[cfg_attr(feature = "schema", schema(max_items = 2))]
    pub lamps: Vec<WrittenLamp>,
    /// A flat design: no light falls on it.
    pub flat: bool,
    /// Under the open sky.
    pub outdoors: bool,
    /// What breaks the usual order.
    pub exceptions: Vec<Exception>,
}

/// One lamp, or the sun, or the sky.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenLamp {
    /// Warm or cool.
    pub tint: Tint,
    /// From where; the left if left out.
    #[serde(default = "left")]
    pub from: LampFrom,
    /// Shadows with an edge.
    #[serde(default)]
    pub hard: bool,
}

fn left() -> LampFrom {
    LampFrom::Left
}

/// How a zone of a written plan stands in the light. What nobody said is left out.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenFacts {
    /// How it faces the sky.
    pub plane: Option<Plane>,
    /// How far off it is.
    pub distance: Option<Distance>,
    /// Its part in the light.
    pub role: Option<Role>,
    /// What it is, where it matters.
    pub kind: Option<Kind>,
    /// The lamp it stands in.
    pub light: Which,
    /// Its own colour, away from light and shadow, CIELAB D65.
    #[cfg_attr(feature = "schema", schema(min_items = 3, max_items = 3))]
    pub local: Option<[f64; 3]>,
}

impl WrittenFacts {
    fn facts(&self) -> Facts {
        let local = self.local.map(|[l, a, b]| Lab::new(l, a, b));
        Facts { plane: self.plane, distance: self.distance, role: self.role, kind: self.kind, light: self.light, local, by_hand: true }
    }
}

/// A zone of a written plan.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenZone {
    /// Its name; no two zones share one.
    #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 60))]
    pub name: String,
    /// The planned colour, CIELAB D65: L* 0..=100, a* and b* −128..=128.
    #[cfg_attr(feature = "schema", schema(min_items = 3, max_items = 3))]
    pub lab: [f64; 3],
    /// Its share of the picture, above 0; shares are taken of their sum.
    #[cfg_attr(feature = "schema", schema(exclusive_minimum = 0))]
    pub area: f64,
    /// How it stands in the light.
    #[serde(default)]
    pub facts: WrittenFacts,
    /// How much it matters.
    #[serde(default)]
    pub importance: Importance,
    /// Zones it shares a border with, each with the border's length in any unit; said at one of the two is enough.
    #[serde(default)]
    pub neighbours: BTreeMap<String, f64>,
}

impl WrittenLight {
    fn lighting(&self) -> Lighting {
        let lamp = |l: &WrittenLamp| Lamp { tint: l.tint, from: l.from, hard: l.hard };
        let falling = match &self.lamps[..] {
            _ if self.flat => Falling::Flat,
            [first] => Falling::One { first: lamp(first) },
            [first, second, ..] => Falling::Two { first: lamp(first), second: lamp(second) },
            [] => Falling::Unnamed,
        };
        Lighting { falling, outdoors: self.outdoors, exceptions: self.exceptions.clone() }
    }
}

fn known_grounds() -> String {
    lean_media::ground::shipped().iter().map(|g| g.id.0.as_str()).collect::<Vec<_>>().join(", ")
}

impl WrittenPlan {
    /// Reads and checks a plan.
    ///
    /// # Errors
    /// Says what is wrong, where, and what to do.
    pub fn read(json: &str) -> Result<Self, String> {
        let plan: Self = serde_json::from_str(json)
            .map_err(|e| format!("The plan cannot be read: {e}. Its form is docs/schemas/findings.schema.json."))?;
        plan.check()?;
        Ok(plan)
    }

    /// Says what is out of range or contradicts itself.
    ///
    /// # Errors
    /// Names the zone and what to do.
    pub fn check(&self) -> Result<(), String> {
        if self.zones.is_empty() || self.zones.len() > MOST_ZONES {
            return Err(format!("The plan has {} zones; 1 to {MOST_ZONES} can be judged.", self.zones.len()));
        }
        if let Some(ground) = &self.ground
            && lean_media::ground::find(ground).is_none()
        {
            return Err(format!("The ground \"{}\" is not known. Known are: {}.", ground.0, known_grounds()));
        }
        if self.light.lamps.len() > 2 || (self.light.flat && !self.light.lamps.is_empty()) {
            return Err(format!("The light has {} lamps; one or two can be judged, and none in a flat design.", self.light.lamps.len()));
        }
        for (q, s) in &self.schools {
            if !q.answers().iter().any(|a| a.school == *s) {
                return Err(format!("\"{}\" is no answer to the question of {}.", s.label(), q.title()));
            }
        }
        self.zones.iter().enumerate().try_for_each(|(i, z)| self.check_name(i, z))?;
        self.zones.iter().try_for_each(|z| self.check_zone(z))
    }

    fn check_name(&self, at: usize, WrittenZone { name, .. }: &WrittenZone) -> Result<(), String> {
        if name.trim().is_empty() || name.chars().count() > 60 {
            return Err(format!("Zone {} needs a name of 1 to 60 characters.", at + 1));
        }
        if self.zones[..at].iter().any(|z| z.name == *name) {
            return Err(format!("Two zones are called \"{name}\". Give one of them another name."));
        }
        Ok(())
    }

    fn check_zone(&self, zone: &WrittenZone) -> Result<(), String> {
        let name = &zone.name;
        for [l, a, b] in [Some(zone.lab), zone.facts.local].into_iter().flatten() {
            if !(0.0..=100.0).contains(&l) || !(-128.0..=128.0).contains(&a) || !(-128.0..=128.0).contains(&b) {
                return Err(format!("The colour of \"{name}\" is {l}, {a}, {b}: L* runs from 0 to 100, a* and b* from -128 to 128."));
            }
        }
        if zone.facts.light == Which::Second && self.light.lamps.len() < 2 {
            return Err(format!("\"{name}\" stands in the second light, but the plan has only {}.", self.light.lamps.len()));
        }
        if !(zone.area > 0.0 && zone.area.is_finite()) {
            return Err(format!("The area of \"{name}\" is {}: it has to be above 0.", zone.area));
        }
        for (other, length) in &zone.neighbours {
            if other == name || !self.zones.iter().any(|z| z.name == *other) {
                return Err(format!("\"{name}\" borders on \"{other}\", which is no other zone of the plan."));
            }
            if !(*length > 0.0 && length.is_finite()) {
                return Err(format!("The border of \"{name}\" and \"{other}\" is {length} long: it has to be above 0."));
            }
        }
        Ok(())
    }

    /// The zone with a number counted from 1, as findings name it.
    pub fn name(&self, id: ZoneId) -> &str {
        self.zones.get(usize::from(id.0).wrapping_sub(1)).map_or("", |z| z.name.as_str())
    }

    /// As the rules see it: zones numbered from 1 in their order.
    pub fn plan(&self) -> Plan<'static> {
        let whole: f64 = self.zones.iter().map(|z| z.area).sum();
        let zones = self.zones.iter().enumerate().map(|(i, z)| {
            let lab = Lab::new(z.lab[0], z.lab[1], z.lab[2]);
            PlannedZone {
                id: ZoneId(i as u16 + 1),
                label: z.name.clone(),
                lab,
                value: lab.value().0,
                temperature: lab.temperature().0,
                read_chroma: 0.0,
                area: z.area / whole,
                facts: z.facts.facts(),
                importance: z.importance,
            }
        });
        Plan {
            medium: self.medium,
            lighting: self.light.lighting(),
            intent: Intent { schools: self.schools.clone(), ..Intent::default() },
            zones: zones.collect(),
            borders: self.borders(),
            mixes: &[],
            reach: None,
            wall: None,
            masses: Vec::new(),
        }
    }

    /// Every border once; said from both sides, its longer length counts.
    fn borders(&self) -> Vec<Border> {
        let at = |name: &str| self.zones.iter().position(|z| z.name == name);
        let mut lengths: BTreeMap<(usize, usize), f64> = BTreeMap::new();
        for (one, zone) in self.zones.iter().enumerate() {
            for (name, length) in &zone.neighbours {
                let Some(other) = at(name) else { continue };
                let kept = lengths.entry((one.min(other), one.max(other))).or_insert(0.0);
                *kept = kept.max(*length);
            }
        }
        lengths.into_iter().map(|((one, other), length)| Border { one, other, length }).collect()
    }
}
