//! One file for each command: its arguments and what it does. It uses everything else.

pub mod chart;
pub mod check;
pub mod compare;
pub mod demo;
pub mod film;
pub mod jerks;
pub mod locate;
pub mod manual;
pub mod new;
pub mod replay;
pub mod settings;
pub mod tiles;
pub mod trace;
pub mod tune;
