//! A deadzone, in which the player moves without moving the view, and look-ahead.
//!
//! The common mistakes are a camera that follows every small movement, and one that shows as much of what is behind
//! the player as of what is ahead. Look-ahead accepts a turn only after a certain distance in the new direction.
//!
//! Run with `cargo run --example 05_deadzone_and_look_ahead`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Deadzone, LookAhead, Settings, SettingsError};

/// The player makes small steps, runs to the right, and turns back.
fn courier(t: f64) -> DVec2 {
    let shuffle = 8.0 * (9.0 * t).sin() * f64::from(u8::from(t < 1.0));
    let run = 120.0 * (t - 1.0).clamp(0.0, 2.0) - 120.0 * (t - 3.0).clamp(0.0, 1.0);
    DVec2::new(shuffle + run, 0.0)
}

fn ride(name: &str, settings: Settings) -> Result<(), SettingsError> {
    let mut camera = Camera::new(settings)?;
    println!("\n{name}:");
    for frame in 0..=240 {
        let t = f64::from(frame) / 60.0;
        let view = camera.follow(1.0 / 60.0, courier(t));
        if frame % 24 == 0 {
            let ahead = view.visible_world().max.x - courier(t).x;
            let bar = "·".repeat((ahead / 10.0) as usize);
            println!(
                "  t {t:3.1} s: view at {:6.1}, {ahead:5.1} units ahead on the right {bar}",
                view.centre().x
            );
        }
    }
    Ok(())
}

fn main() -> Result<(), SettingsError> {
    ride("followed rigidly", Settings::default())?;

    let mut settings = Settings::default();
    settings.follow.deadzone = Deadzone { left: 0.04, right: 0.04, top: 0.15, bottom: 0.1 };
    ride("with a deadzone of 4 % of the screen to either side", settings.clone())?;

    settings.follow.look_ahead = Some(LookAhead::default());
    ride("and a look-ahead of 0.4 s", settings)
}
