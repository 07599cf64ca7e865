//! Three small colour versions of a piece: one as read, two with the values held and the hues freed.

pub mod ladder;
pub mod make;
pub mod order;
pub mod restraint;
pub mod scheme;
pub mod sheet;
pub mod wheel;

pub use make::make;
