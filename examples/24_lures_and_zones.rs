//! Points that attract the view, and zones with settings of their own.
//!
//! The common mistakes are a view that jumps to a landmark at a line, and settings that a trigger changes and nothing
//! changes back.
//!
//! Run with `cargo run --example 24_lures_and_zones`.

use velvet_pan::{Camera, Lure, Rect, Settings, SettingsError, Zone, glam::DVec2};

fn main() -> Result<(), SettingsError> {
    let bell = Lure { at: DVec2::new(300.0, -40.0), radius: 160.0, strength: 0.6 };
    let shrine = Zone {
        anchor: Some(DVec2::new(0.3, 0.6)), // more of what is ahead
        zoom: Some(1.5),
        fade: 0.8,
        ..Zone::new(Rect::new([600, -100], [900, 100]))
    };
    let settings = Settings { lures: vec![bell], zones: vec![shrine], ..Settings::default() };
    let mut camera = Camera::new(settings)?;

    println!("  wren    centre           zoom    wren on the screen");
    for frame in 0..=120 {
        let wren = DVec2::new(f64::from(frame) * 10.0, 0.0); // 100 units a second
        let view = camera.follow(if frame == 0 { 0.0 } else { 0.1 }, wren);
        if frame % 5 == 0 {
            let (centre, at) = (view.centre(), view.world_to_screen(wren));
            println!(
                "{:6.0}    {:6.1}, {:5.1}    {:.3}    {:5.1}, {:5.1}",
                wren.x,
                centre.x,
                centre.y,
                view.lens().zoom(),
                at.x,
                at.y
            );
        }
    }
    println!(
        "\nNear the bell the view moves towards it. From 600 to 900 the view is zoomed in, and the player further left."
    );
    Ok(())
}
