//! What a piece is made from.

use super::zones::{check_cut, check_masses, check_zones, hand};
use super::{Change, Refusal, check_text};
use crate::Piece;
use crate::reference::chart::{Chart, Wished};
use crate::reference::compositions::Compositions;
use crate::reference::planes::PlaneShape;
use crate::reference::{MOST_OTHERS, Other, Reference, Serves};
use crate::zones::{Cut, Mass, Zone, ZoneId};
use lean_picture::KeptMap;
use lean_picture::frame::Crop;
use serde::{Deserialize, Serialize};

/// Put a reference in place with its zones.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetReference {
    /// What the file is.
    pub reference: Option<Reference>,
    /// Which zone every place belongs to.
    pub zone_map: Option<KeptMap>,
    /// What each zone reads.
    pub zones: Vec<Zone>,
    /// The colours and the brush.
    #[serde(default)]
    pub cut: Option<Cut>,
    /// The masses.
    #[serde(default)]
    pub masses: Vec<Mass>,
    /// Which mass every place belongs to.
    #[serde(default)]
    pub mass_map: Option<KeptMap>,
}

impl Change for SetReference {
    fn describe(&self) -> String {
        self.reference.as_ref().map_or("the reference".into(), |r| format!("the reference {}", r.file_name))
    }

    fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        [self.zone_map.as_mut(), hand(&mut self.cut), self.mass_map.as_mut()].into_iter().flatten().collect()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_cut(self.cut.as_ref())?;
        check_masses(&self.masses, self.mass_map.as_ref())?;
        if self.reference.is_none() && !self.zones.is_empty() {
            return Err(Refusal::Contradiction("Zones need a reference to lie on.".into()));
        }
        check_zones(self.zone_map.as_ref(), &self.zones)
    }

    fn apply(self, piece: &mut Piece) {
        piece.reference = self.reference;
        (piece.cut, piece.masses, piece.mass_map) = (self.cut, self.masses, self.mass_map);
        (piece.zone_map, piece.zones) = (self.zone_map, self.zones);
        piece.chart = None;
        // They worked on zones of another picture, and were pinned to them.
        piece.others.iter_mut().for_each(|o| o.pinned.clear());
        piece.sessions.iter_mut().for_each(|s| s.zones.clear());
        piece.search = None;
        piece.studies.clear();
        piece.chosen_study = None;
        piece.scheme = None;
    }
}

/// Say what the main reference is for.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct MarkReference {
    /// What it serves.
    pub serves: Vec<Serves>,
}

impl Change for MarkReference {
    fn describe(&self) -> String {
        "what the reference is for".into()
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        match piece.reference {
            None => Err(Refusal::Unknown("This piece has no reference yet. Drop a picture on it.".into())),
            Some(_) => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        if let Some(r) = &mut piece.reference {
            r.serves = self.serves;
        }
    }
}

/// References beside the main one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetOthers {
    /// All of them.
    pub others: Vec<Other>,
}

impl Change for SetOthers {
    fn describe(&self) -> String {
        "the other references".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        if self.others.len() > MOST_OTHERS {
            return Err(Refusal::Range(format!("{MOST_OTHERS} references beside the main one are kept. Take one off first.")));
        }
        self.others.iter().try_for_each(Other::check).map_err(Refusal::Text)
    }

    fn apply(self, piece: &mut Piece) {
        piece.others = self.others;
        // Zones that went since the page was shown take their pins with them.
        let there: Vec<ZoneId> = piece.zones.iter().map(|z| z.id).collect();
        piece.others.iter_mut().for_each(|o| o.pinned.retain(|id| there.contains(id)));
    }
}

/// A sheet of pencil compositions.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetCompositions {
    /// The sheet, or none.
    pub compositions: Option<Compositions>,
}

impl Change for SetCompositions {
    fn describe(&self) -> String {
        "the compositions".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        self.compositions.as_ref().map_or(Ok(()), check_compositions)
    }

    fn apply(self, piece: &mut Piece) {
        piece.compositions = self.compositions;
    }
}

/// Planes dragged into place, with the zones they make.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct LayPlanes {
    /// The planes.
    pub planes: Vec<PlaneShape>,
    /// Which zone every place belongs to.
    pub zone_map: Option<KeptMap>,
    /// The zones.
    pub zones: Vec<Zone>,
}

impl Change for LayPlanes {
    fn describe(&self) -> String {
        "the planes".into()
    }

    fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        self.zone_map.iter_mut().collect()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_parts(self.planes.iter().map(|p| p.part))?;
        check_zones(self.zone_map.as_ref(), &self.zones)
    }

    fn apply(self, piece: &mut Piece) {
        (piece.planes, piece.zone_map, piece.zones, piece.cut) = (self.planes, self.zone_map, self.zones, None);
    }
}

/// Keep the colour chart.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct KeepChart {
    /// The chart, or none.
    pub chart: Option<Chart>,
}

impl Change for KeepChart {
    fn describe(&self) -> String {
        "the colour chart".into()
    }

    fn apply(self, piece: &mut Piece) {
        piece.chart = self.chart;
    }
}

/// Colours of another picture the set should serve too.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetWished {
    /// Them, or none.
    pub wished: Option<Wished>,
}

impl Change for SetWished {
    fn describe(&self) -> String {
        "the colours wished for".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        match &self.wished {
            Some(w) if !(0.0..=10.0).contains(&w.weight) => {
                Err(Refusal::Range(format!("A weight of {} for wished colours is out of range; it may be 0 to 10.", w.weight)))
            }
            _ => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        piece.wished = self.wished;
    }
}

fn check_parts(mut parts: impl Iterator<Item = Crop>) -> Result<(), Refusal> {
    let inside = |p: Crop| {
        [p.left, p.top].iter().all(|v| (0.0..=1.0).contains(v))
            && p.width > 0.0
            && p.height > 0.0
            && p.left + p.width <= 1.0 + 1e-6
            && p.top + p.height <= 1.0 + 1e-6
    };
    match parts.find(|p| !inside(*p)) {
        Some(_) => Err(Refusal::Range("A shape reaches outside the picture or has no size. Draw it inside the frame.".into())),
        None => Ok(()),
    }
}

fn check_compositions(c: &Compositions) -> Result<(), Refusal> {
    if c.width == 0 || c.height == 0 {
        return Err(Refusal::Range(format!("A sheet {} by {} pixels has no size. Drop its photo again.", c.width, c.height)));
    }
    check_parts(c.cut.iter().map(|c| c.part))?;
    c.cut.iter().try_for_each(|c| check_text("The reason", &c.reason, 0))?;
    match c.chosen {
        Some(i) if i >= c.cut.len() => Err(Refusal::Unknown(format!("There is no composition {} on this sheet.", i + 1))),
        _ => Ok(()),
    }
}
