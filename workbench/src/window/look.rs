//! The colours of the terraces, for egui.

use eframe::egui::Color32;
use velvet_pan_terraces::art::palette;
use velvet_pan_terraces::picture::Colour;

pub const NIGHT: Color32 = of(palette::NIGHT);
pub const CORAL: Color32 = of(palette::CORAL);
pub const HONEY: Color32 = of(palette::HONEY);
pub const CREAM: Color32 = of(palette::CREAM);
pub const MIST: Color32 = of(palette::MIST);
pub const PEBBLE: Color32 = of(palette::PEBBLE);
pub const SPROUT: Color32 = of(palette::SPROUT);

const fn of([red, green, blue, _]: Colour) -> Color32 {
    Color32::from_rgb(red, green, blue)
}
