//! Show one screen in any window: four fits, and pointer positions that match what is drawn.
//!
//! The common mistakes are a stretched picture after a resize, an aspect ratio from an integer division, and a pointer
//! that is wrong by the width of the bars.
//!
//! Run with `cargo run --example 13_any_window`.

use velvet_pan::{Camera, Fit, Settings, SettingsError};

fn main() -> Result<(), SettingsError> {
    for window in [(1280, 720), (1000, 1000), (640, 1100), (200, 100), (0, 0)] {
        println!("\na window of {} x {}:", window.0, window.1);
        for fit in [Fit::Whole, Fit::Contain, Fit::Reveal, Fit::Cover] {
            let mut settings = Settings::default();
            settings.screen.fit = fit;
            let mut camera = Camera::new(settings)?;
            camera.resize(window); // before the frame: `Reveal` changes the view's size
            let view = camera.follow(0.0, [500, 300]);
            let (placement, shown) = (view.placement(), view.visible_screen());
            let pointer = (window.0 as f32 * 0.5, window.1 as f32 * 0.05);
            let hit = view
                .window_to_world(pointer)
                .map_or("the bars".to_owned(), |at| format!("{at:.1}"));
            println!(
                "  {:8} screen {:>10}, scaled by {:.3}, {:3.0} x {:3.0} visible; the pointer at the top is on {hit}",
                format!("{fit:?}"),
                format!("{} x {}", view.size().x, view.size().y),
                placement.scale,
                shown.size().x,
                shown.size().y,
            );
        }
    }
    Ok(())
}
