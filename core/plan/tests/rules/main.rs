//! What follows from a piece, on whole pieces.

mod by_eye;
mod chart;
mod drawing;
mod form;
mod glimpse;
mod made_up;
mod nearly_finished;
mod paints;
mod piece;
mod places;
mod progress;
mod stages;
mod studies;
mod surfaces;
mod two_media;
mod variants;
mod wording;
