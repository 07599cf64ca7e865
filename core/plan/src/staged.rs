//! Small pieces for tests: zones stacked in rows, each bordering the next.

use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium};
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::SetReference;
use lean_piece::light::{Distance, Facts, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint, Which};
use lean_piece::{Brief, Command, Importance, Millimetres, Piece, Reference, Size, Zone, ZoneId};

/// A zone in the making.
#[derive(Clone)]
pub(crate) struct Staged {
    lab: Lab,
    facts: Facts,
    importance: Importance,
}

impl Staged {
    pub(crate) fn read(l: f64, a: f64, b: f64) -> Self {
        Self { lab: Lab::new(l, a, b), facts: Facts { by_hand: false, ..Facts::default() }, importance: Importance::Usual }
    }

    /// By value and temperature, the colour on the warm–cool axis.
    pub(crate) fn vt(value: f64, temperature: f64) -> Self {
        let (sin, cos) = lean_colour::temperature::WARM_POLE.to_radians().sin_cos();
        Self::read(lean_colour::Value(value).lightness(), temperature * cos, temperature * sin)
    }

    pub(crate) fn plane(mut self, plane: Plane) -> Self {
        self.facts.plane = Some(plane);
        self.facts.by_hand = true;
        self
    }

    pub(crate) fn distance(mut self, distance: Distance) -> Self {
        self.facts.distance = Some(distance);
        self.facts.by_hand = true;
        self
    }

    pub(crate) fn role(mut self, role: Role) -> Self {
        self.facts.role = Some(role);
        self.facts.by_hand = true;
        self
    }

    pub(crate) fn kind(mut self, kind: Kind) -> Self {
        self.facts.kind = Some(kind);
        self.facts.by_hand = true;
        self
    }

    pub(crate) fn local(mut self, lab: Lab) -> Self {
        self.facts.local = Some(lab);
        self
    }

    pub(crate) fn second(mut self) -> Self {
        self.facts.light = Which::Second;
        self
    }

    pub(crate) fn focal(mut self) -> Self {
        self.importance = Importance::Focal;
        self
    }
}

/// A piece of zones stacked from the top, numbered from 1, in oil.
pub(crate) fn staged(zones: &[Staged]) -> Piece {
    staged_in(Medium::Oil, "panel-white", zones)
}

pub(crate) fn staged_in(medium: Medium, ground: &str, stages: &[Staged]) -> Piece {
    let n = stages.len() as u32;
    let zones = stages
        .iter()
        .enumerate()
        .map(|(i, s)| Zone {
            facts: s.facts,
            importance: s.importance,
            ..Zone::read(ZoneId(i as u16 + 1), Reading { area: 1.0 / f64::from(n), value: s.lab.value(), lab: s.lab })
        })
        .collect();
    let map = ZoneMap { width: 40, height: 10 * n, labels: (0..40 * 10 * n).map(|i| (i / 400) as u16 + 1).collect() };
    let brief = Brief {
        title: "Staged".into(),
        medium,
        ground: GroundId(ground.into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    };
    let reference = Reference::whole("d".into(), "r.png".into(), (400, 100 * n), Temperature(0.0));
    let command = Command::SetReference(SetReference {
        reference: Some(reference),
        zone_map: Some(map.into()),
        zones,
        cut: None,
        masses: Vec::new(),
        mass_map: None,
    });
    Piece::new(brief).apply(command).unwrap_or_else(|e| panic!("{e}")).0
}

/// One light.
pub(crate) fn lit_by(tint: Tint) -> Lighting {
    Lighting { falling: Falling::One { first: Lamp { tint, from: LampFrom::Left, hard: true } }, ..Lighting::default() }
}

/// Two lights.
pub(crate) fn lit_by_two(first: Tint, second: Tint) -> Lighting {
    let lamp = |tint| Lamp { tint, from: LampFrom::Left, hard: true };
    Lighting { falling: Falling::Two { first: lamp(first), second: lamp(second) }, ..Lighting::default() }
}

impl Staged {
    /// Its colour alone.
    pub(crate) fn zone_target(&self) -> Lab {
        self.lab
    }
}
