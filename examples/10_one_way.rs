//! A view that only scrolls one way, and a line that stops the player but not the leaves.
//!
//! The common mistakes are to let the player walk off the screen behind a view that does not return, and to clamp the
//! player to the screen instead of to a line in the world.
//!
//! Run with `cargo run --example 10_one_way`.

use velvet_pan::{Camera, Ratchet, Settings, SettingsError};

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.ratchet = Ratchet::Right;
    let mut camera = Camera::new(settings)?;
    let (mut courier, mut leaf) = (200.0, 200.0);
    for frame in 0..=300 {
        let speed = if frame < 120 { 2.0 } else { -2.0 };
        courier += speed;
        leaf += speed;
        let view = camera.follow(1.0 / 60.0, [courier, 300.0]);
        if let Some(barrier) = camera.barrier() {
            courier = barrier.stop([courier, 300.0], 5.0).x; // she is 10 wide
        }
        if frame % 30 == 0 {
            println!(
                "frame {frame:3}: screen from x = {:5.1}, courier {courier:5.1}, leaf {leaf:5.1}",
                view.visible_world().min.x
            );
        }
    }
    println!("\nThe player stops half a width before the line; the leaf passes it.");
    Ok(())
}
