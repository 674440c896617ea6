//! The colours of the panel: the terraces at dusk.

use egui::{Color32, Stroke, Visuals};

pub const NIGHT: Color32 = Color32::from_rgb(0x15, 0x10, 0x29);
pub const PLUM: Color32 = Color32::from_rgb(0x26, 0x1a, 0x42);
pub const VIOLET: Color32 = Color32::from_rgb(0x40, 0x2a, 0x5f);
pub const MAUVE: Color32 = Color32::from_rgb(0x6b, 0x3f, 0x77);
pub const ROSE: Color32 = Color32::from_rgb(0xa5, 0x55, 0x80);
pub const CORAL: Color32 = Color32::from_rgb(0xdd, 0x7d, 0x6c);
pub const HONEY: Color32 = Color32::from_rgb(0xfb, 0xd6, 0x8a);
pub const CREAM: Color32 = Color32::from_rgb(0xff, 0xf1, 0xc9);
pub const MIST: Color32 = Color32::from_rgb(0xc8, 0xa9, 0xb9);
pub const TEAL: Color32 = Color32::from_rgb(0x2f, 0xa8, 0xa0);
pub const SPROUT: Color32 = Color32::from_rgb(0xa3, 0xc7, 0x64);

/// Returns the panel's own look, for `ctx.set_visuals(dusk())`. The panel also works with any other.
#[must_use]
pub fn dusk() -> Visuals {
    let mut visuals = Visuals::dark();
    visuals.panel_fill = NIGHT;
    visuals.window_fill = NIGHT;
    visuals.extreme_bg_color = Color32::from_rgb(0x0d, 0x0a, 0x1e);
    visuals.faint_bg_color = PLUM;
    visuals.override_text_color = Some(CREAM);
    visuals.hyperlink_color = TEAL;
    visuals.error_fg_color = CORAL;
    visuals.warn_fg_color = HONEY;
    visuals.selection.bg_fill = TEAL.gamma_multiply(0.6);
    visuals.selection.stroke = Stroke::new(1.0, CREAM);
    visuals.slider_trailing_fill = true;
    let widgets = &mut visuals.widgets;
    for (style, fill) in [
        (&mut widgets.noninteractive, NIGHT),
        (&mut widgets.inactive, VIOLET),
        (&mut widgets.hovered, MAUVE),
        (&mut widgets.active, ROSE),
        (&mut widgets.open, VIOLET),
    ] {
        style.bg_fill = fill;
        style.weak_bg_fill = fill;
        style.fg_stroke.color = CREAM;
        style.bg_stroke = Stroke::new(1.0, MAUVE.gamma_multiply(0.5));
    }
    visuals
}
