//! The API: extract, call the core, respond.

pub mod borrowed;
pub mod boxes;
pub mod cards;
pub mod damaged;
pub mod drills;
pub mod easel;
pub mod enlarging;
pub mod field_notes;
pub mod grounds;
pub mod instruments;
pub mod jobs;
pub mod maps;
pub mod others;
pub mod pieces;
pub mod progress;
pub mod readings;
pub mod reference;
pub mod sheet;
pub mod studies;
pub mod studio;
pub mod surfaces;
pub mod take_in;
pub mod wall;
pub mod wheel;
pub mod work;
pub mod zones;
