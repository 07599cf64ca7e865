//! Whole tasks in a real browser. One program for all of them: linking it is most of what one costs.

mod access;
mod bench;
mod brief;
mod drawing;
mod drills;
mod field_notes;
mod fields;
mod first_minutes;
mod journal;
mod lean_set;
mod light;
mod paints;
mod phone;
mod piece;
mod places;
mod reader;
mod studies;
mod subject;
mod whole_run;
