//! The lean search against a solved instance, against an independent brute force in every medium, and under a painter's demands.

mod asking;
mod brute_force;
mod demands;
mod hands;
mod large_sets;
mod naive;
mod refusals;
mod running;
mod solved;
