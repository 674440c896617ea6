//! Drag the view, pan it with keys and at the edge of the screen, and return to following.
//!
//! The common mistakes are a drag that lags behind the pointer, keys that pan faster in the world when zoomed in, and
//! a jump when following resumes.
//!
//! Run with `cargo run --example 08_by_hand`.

use velvet_pan::glam::Vec2;
use velvet_pan::{Camera, Settings, SettingsError, Smoothing, edge_push};

const STEP: f32 = 1.0 / 60.0;

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.15).into();
    let mut camera = Camera::new(settings)?;
    let courier = [500, 300];
    camera.follow(0.0, courier);

    println!("drag from (100, 90) to (220, 60):");
    let held = camera.view().screen_to_world(Vec2::new(100.0, 90.0));
    camera.grab(Vec2::new(100.0, 90.0));
    for part in [0.25, 0.5, 1.0] {
        let pointer = Vec2::new(100.0, 90.0).lerp(Vec2::new(220.0, 60.0), part);
        camera.drag_to(pointer);
        let view = camera.follow(STEP, courier);
        println!("  pointer at {pointer}, the grabbed point at {}", view.world_to_screen(held));
    }
    camera.release();

    println!("after release, the view returns from where it is:");
    for frame in 0..30 {
        let view = camera.follow(STEP, courier);
        if frame % 6 == 0 {
            println!("  frame {frame:2}: {:.1}", view.centre());
        }
    }

    println!("a key held for half a second, 240 screen pixels a second:");
    for zoom in [1.0, 4.0] {
        camera.zoom_now(zoom);
        let before = camera.view().centre();
        for _frame in 0..30 {
            camera.pan(Vec2::X * 240.0 * STEP);
            camera.advance(STEP);
        }
        let moved = (camera.view().centre() - before) * zoom;
        println!("  at zoom {zoom}: {moved:.1} screen pixels");
    }

    let pointer = Vec2::new(316.0, 90.0);
    let push = edge_push(pointer, camera.view().size(), 16.0);
    println!("a pointer at {pointer}, 4 px from the right edge, pans at {push} of the full speed");
    Ok(())
}
