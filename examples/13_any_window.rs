//! Show one screen in any window: four fits, pointer positions that match what is drawn, and drawing straight into the
//! window.
//!
//! The common mistakes are a stretched picture after a resize, an aspect ratio from an integer division, and a pointer
//! or a label that is wrong by the width of the bars.
//!
//! Run with `cargo run --example 13_any_window`.

use velvet_pan::{Camera, Fit, Settings, SettingsError, View};

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
            draw_straight_into(&view);
        }
    }
    Ok(())
}

/// Without a canvas, a vertex shader gets points relative to the camera and this matrix. The viewport is the window. A
/// point is then drawn where a label for it goes.
fn draw_straight_into(view: &View) {
    let lantern = [560.0, 280.0];
    let relative = view.world_to_relative(lantern).extend(0.0);
    let clip = view.relative_to_window_clip_matrix().transform_point3(relative);
    let window = view.window_size();
    let x = (clip.x + 1.0) / 2.0 * window.width as f32;
    let y = (1.0 - clip.y) / 2.0 * window.height as f32;
    let label = view.world_to_window(lantern);
    assert!((window.width == 0) || ((label.x - x).abs() < 0.01 && (label.y - y).abs() < 0.01));
}
