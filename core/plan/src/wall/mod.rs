//! What follows from a wall: how loud it is, and the piece drawn into its photo.

pub mod loudness;
pub mod mock_up;
pub mod room;
