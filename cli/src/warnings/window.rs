//! Windows that do not suit a screen.

use velvet_pan::glam::DVec2;
use velvet_pan::{Fit, Screen, Snap, WindowSize};

/// Bars, or what is cut off, may take up to this fraction of the window or the screen.
const MAX_LOST: f64 = 0.1;

/// Warnings about a window that is smaller than the screen, of another shape, or no whole multiple of it.
pub fn warnings_of_window(screen: &Screen, window: WindowSize) -> Vec<String> {
    let size = screen.size;
    let sizes = format!("{} x {} in {} x {}", size.x, size.y, window.width, window.height);
    let scale = screen.fit.scale(size, window);
    let mut warnings = Vec::new();
    warnings.extend(unsuitable(screen, window).map(|what| format!("{sizes}: {what}")));
    if screen.snap != Snap::Off && scale.fract() != 0.0 {
        let what = "window pixels per screen pixel";
        warnings.push(format!("{scale:.3} {what} ({sizes}): art edges are blended"));
    }
    warnings
}

/// Returns a window that is too small for the screen, or of another shape.
fn unsuitable(screen: &Screen, window: WindowSize) -> Option<String> {
    let scales = DVec2::new(window.width.into(), window.height.into()) / screen.size.as_dvec2();
    let (small, large) = (scales.min_element(), scales.max_element());
    if small <= 0.0 || screen.fit == Fit::Reveal {
        return None; // minimised, or it shows more of the world instead
    }
    if small < 1.0 {
        return Some("smaller than the screen: expected physical pixels, as for resize".to_owned());
    }
    let percent = (1.0 - small / large) * 100.0;
    let what = match screen.fit {
        Fit::Cover => format!("{percent:.0} % of the screen is cut off"),
        _ => format!("bars take {percent:.0} % of the window"),
    };
    let is_much = percent > MAX_LOST * 100.0;
    is_much.then(|| format!("the shapes differ, and {what}; see screen.fit"))
}
