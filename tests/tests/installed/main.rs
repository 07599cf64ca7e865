//! The program as a painter has it: started without a word, found again, ended from its page; packed, installed, brought up to date, removed.

mod launching;
mod package;
mod started;
