//! A deadzone, in which the player moves without moving the view, and look-ahead.
//!
//! The common mistakes are a camera that follows every small movement, and one that shows as much of what is behind
//! the player as of what is ahead. Look-ahead accepts a turn only after a certain distance in the new direction, and
//! counts movement against a platform that carries the player.
//!
//! Run with `cargo run --example 05_deadzone_and_look_ahead`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Deadzone, LookAhead, Settings, SettingsError, Subject};

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

/// How far the view swings about a player who stands on a platform that swings, in world units.
fn swing(settings: &Settings, tell_of_platform: bool) -> Result<f64, SettingsError> {
    let mut camera = Camera::new(settings.clone())?;
    let mut most: f64 = 0.0;
    for frame in 0..=480 {
        let t = f64::from(frame) / 60.0;
        let place = DVec2::new(60.0 * (t - 1.0).sin(), 0.0);
        let mut player = Subject::from(place);
        if tell_of_platform {
            player = player.with_carrier([60.0 * (t - 1.0).cos(), 0.0]);
        }
        let view = camera.follow(1.0 / 60.0, player);
        most = most.max((view.centre().x - place.x).abs());
    }
    Ok(most)
}

fn main() -> Result<(), SettingsError> {
    ride("followed rigidly", Settings::default())?;

    let mut settings = Settings::default();
    settings.follow.deadzone = Deadzone { left: 0.04, right: 0.04, top: 0.15, bottom: 0.1 };
    ride("with a deadzone of 4 % of the screen to either side", settings.clone())?;

    settings.follow.look_ahead = Some(LookAhead::default());
    ride("and a look-ahead of 0.4 s", settings.clone())?;

    settings.follow.deadzone = Deadzone::default();
    let [unknown, known] = [swing(&settings, false)?, swing(&settings, true)?];
    println!(
        "\nOn a platform that swings at up to 60 units a second, the view swings about the player"
    );
    println!("by {unknown:.1} units, and with Subject::with_carrier by {known:.1}.");
    assert!(known < 0.1 && unknown > 10.0);
    Ok(())
}
