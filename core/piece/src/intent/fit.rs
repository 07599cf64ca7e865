//! How a piece lies on its sheet: margins, tape, deep edges.

use crate::units::{Millimetres, Size};
use serde::{Deserialize, Serialize};

/// How the piece lies on its sheet or canvas.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fit {
    /// The whole sheet; `None` when it is the size of the piece with its margins.
    pub sheet: Option<Size>,
    /// Bare margin between picture and tape or edge, 0..=200 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 200, value_type = Option<Millimetres>))]
    pub margin: Option<Millimetres>,
    /// Tape over the rim, 0..=60 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 60, value_type = Option<Millimetres>))]
    pub tape: Option<Millimetres>,
    /// Depth of a canvas edge the picture wraps around, 0..=80 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 80, value_type = Option<Millimetres>))]
    pub edge: Option<Millimetres>,
}

impl Fit {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        for (what, value, most) in [("margin", self.margin, 200.0), ("tape", self.tape, 60.0), ("edge", self.edge, 80.0)] {
            if !(0.0..=most).contains(&Millimetres::or_none(value)) {
                return Err(format!("A {what} of {} mm is out of range; it may be 0 to {most} mm.", Millimetres::or_none(value)));
            }
        }
        if let Some(s) = self.sheet
            && [s.width.0, s.height.0].iter().any(|side| !(10.0..=3000.0).contains(side))
        {
            return Err(format!("A sheet of {} × {} mm is out of range; each side may be 10 to 3000 mm.", s.width.0, s.height.0));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn out_of_range_is_refused() {
        assert!(Fit { tape: Some(Millimetres(90.0)), ..Fit::default() }.check().is_err());
        assert!(Fit { sheet: Some(Size { width: Millimetres(5.0), height: Millimetres(100.0) }), ..Fit::default() }.check().is_err());
    }
}
