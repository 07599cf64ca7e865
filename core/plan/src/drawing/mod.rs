//! A drawing in lines: shapes that belong together, plans of their values, and colours for them by a scheme.

mod shapes;
mod value_plan;

pub(crate) use shapes::Shapes;
pub use value_plan::{PLANS, ShapeValue, ValuePlan, value_plans};

use lean_piece::{Piece, ZoneId};

/// True where a piece is coloured from a drawing: its hues are free, its values are those of a plan.
pub fn is_drawing(piece: &Piece) -> bool {
    piece.reference.as_ref().is_some_and(|r| r.lines)
}

/// Shapes of a drawing that mirror each other, in groups of two and more; none for what is no drawing.
pub fn alike(piece: &Piece) -> Vec<Vec<ZoneId>> {
    Shapes::of(piece).filter(|_| is_drawing(piece)).map_or_else(Vec::new, |shapes| shapes.alike(piece))
}
