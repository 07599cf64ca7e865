//! What follows from a Box and from what was read of it.
//!
//! **The nouns and how they meet.** A [`SwatchReading`](lean_piece::paint_box::SwatchReading) says what was laid and what it read;
//! [`learned`](mod@learned) makes better pigments of many readings, says which it cannot explain and which one more would teach most;
//! [`moved`](mod@moved) says what that does to the mixes of a piece; [`trial`] judges a reading made for a zone, and [`correction`] what to add to it.

pub mod by_eye;
pub mod card;
pub mod correction;
pub mod families;
pub mod from_photo;
pub mod greys;
pub mod inventory;
pub mod learned;

pub mod listed;
pub mod moved;
pub mod second;
pub mod starter;
pub mod strings;
pub mod too_little;
pub mod trial;
