//! The API: extract, call the core, respond.

pub mod boxes;
pub mod jobs;
pub mod pieces;
pub mod reference;
pub mod sheet;
pub mod studio;
pub mod work;
pub mod zones;
