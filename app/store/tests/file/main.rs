//! A data file: what is kept, what is found again, what damage does.

mod damage;
mod data_file;
mod journal;
mod keeping;
mod made_up;
mod nothing_is_lost;
