//! Zoom evenly, about the pointer, in whole numbers, and never beyond the world.
//!
//! The common mistakes are a wheel that adds a fixed amount, and a picture that slides away from the pointer while it
//! zooms.
//!
//! Run with `cargo run --example 07_zoom`.

use velvet_pan::glam::Vec2;
use velvet_pan::{Bounds, Camera, Rect, Settings, SettingsError};

fn main() -> Result<(), SettingsError> {
    let pointer = Vec2::new(250.0, 40.0);
    let mut camera = Camera::new(Settings::default())?;
    camera.follow(0.0, [500, 300]);
    let under = camera.view().screen_to_world(pointer);

    println!("four notches in about {pointer}, which shows {under}:");
    camera.zoom_by(4.0, Some(pointer));
    for frame in 0..=36 {
        let view = camera.follow(1.0 / 60.0, [500, 300]);
        if frame % 6 == 0 {
            let off = (view.world_to_screen(under) - pointer).length();
            println!(
                "  frame {frame:2}: zoom {:.3}, the point is {off:.4} px off",
                view.lens().zoom()
            );
        }
    }

    let mut settings = Settings::default();
    settings.zoom.whole = true;
    let mut camera = Camera::new(settings)?;
    camera.zoom_to(4.0);
    let steps: Vec<f64> = (0..30).map(|_| camera.advance(1.0 / 60.0).lens().zoom()).collect();
    println!("\nwhole zooms only, from 1 to 4: {steps:?}");

    let room = Bounds::new(Rect::new([0, 0], [400, 300]));
    let mut settings = Settings { bounds: Some(room), ..Settings::default() };
    settings.zoom.fill_bounds = true;
    let mut camera = Camera::new(settings)?;
    camera.zoom_now(0.1);
    println!(
        "\nzoom 0.1 requested in a world of 400 x 300, result: {}",
        camera.view().lens().zoom()
    );
    Ok(())
}
