//! Clamp the view to the world, at any zoom, in a world smaller than the view, and in one without a floor.
//!
//! The common mistake is to clamp the camera's centre to the world. Half of the screen is then empty at every edge.
//! Here the whole visible rectangle is kept inside. The player's body has a size, too, and stops at the same edges.
//!
//! Run with `cargo run --example 03_inside_the_world`.

use velvet_pan::{Bounds, Camera, Rect, Settings, SettingsError, Side, SmallWorld, YAxis};

fn main() -> Result<(), SettingsError> {
    let terraces = Rect::from_corner_size([0, 0], [3840, 960]);
    let mut settings = Settings { bounds: Some(Bounds::new(terraces)), ..Settings::default() };

    println!("terraces of 3840 x 960 units, a screen of 320 x 180:");
    for zoom in [1.0, 2.0, 0.5] {
        let mut camera = Camera::new(settings.clone())?;
        camera.zoom_now(zoom);
        for courier in [[20.0, 500.0], [1900.0, 500.0], [3830.0, 950.0]] {
            let visible = camera.follow(0.0, courier).visible_world();
            println!(
                "  zoom {zoom}: courier at {courier:?}, the view shows x {} to {}, y {} to {}",
                visible.min.x, visible.max.x, visible.min.y, visible.max.y
            );
        }
    }

    println!("\na drying room of 200 x 120 units, smaller than the screen:");
    let room = Rect::from_corner_size([0, 0], [200, 120]);
    for small in [SmallWorld::Centre, SmallWorld::Start, SmallWorld::End] {
        settings.bounds = Some(Bounds { small: small.into(), ..Bounds::new(room) });
        let shown =
            Camera::new(settings.clone())?.follow(0.0, [30, 30]).world_to_screen_rect(&room);
        println!("  {small:?}: the room is drawn from {} to {} px", shown.min, shown.max);
    }

    println!("\nthe well, which has no bottom:");
    let well = Rect::from_corner_size([0, 0], [400, 300]);
    let well = Bounds { open: [Side::Bottom].into(), ..Bounds::new(well) };
    let mut camera = Camera::new(Settings { bounds: Some(well), ..Settings::default() })?;
    for courier in [[-20.0, 40.0], [390.0, 290.0], [200.0, 2000.0]] {
        let courier = well.stop(courier, [8, 12], YAxis::Down); // half of 16 x 24
        let visible = camera.follow(0.0, courier).visible_world();
        camera.cut();
        println!(
            "  courier at {courier}, the view shows x {} to {}, y {} to {}",
            visible.min.x, visible.max.x, visible.min.y, visible.max.y
        );
    }
    Ok(())
}
