#![doc = include_str!("../README.md")]
#![warn(missing_docs)]

mod drawn;
mod field;
mod groups;
mod look;
mod overlay;
mod places;
mod strips;
mod tuning_panel;

pub use egui;
pub use velvet_pan;
pub use velvet_pan_takes;

pub use drawn::{Drawn, drawn_label};
pub use look::dusk;
pub use overlay::{Marks, mark_switches, overlay};
pub use places::{
    Handle, Place, PlaceKind, Places, PlacesResponse, PlacesView, Shape, paint_places, place_list,
    places,
};
pub use strips::{History, strips};
pub use tuning_panel::{PanelResponse, settings_panel, tuning_panel};
