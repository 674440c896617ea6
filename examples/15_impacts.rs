//! Shake the picture on an impact, without moving the camera.
//!
//! The common mistakes are a shake that overwrites the camera's position and leaves it in the wrong place, a shake
//! whose strength falls below zero, and a weak hit that cancels a strong one.
//!
//! Run with `cargo run --example 15_impacts`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, SettingsError, Shake, ShakeMix, ShakeMotion, ShakeSettings};

fn main() -> Result<(), SettingsError> {
    let gong = Shake { reach: DVec2::new(6.0, 3.0), hold: 0.15, fade: 0.6, ..Shake::default() };
    let thud = Shake {
        reach: DVec2::new(0.0, 4.0),
        hold: 0.0,
        fade: 0.3,
        hz: 8.0,
        motion: ShakeMotion::Kick(DVec2::Y),
        ..Shake::default()
    };

    println!("shake of a gong, then a thud, while the courier runs, in screen pixels:");
    let mut camera = Camera::new(Settings::default())?;
    for frame in 0..=60 {
        let courier = [f64::from(frame) * 2.0, 0.0];
        match frame {
            6 => camera.shake(&gong, 1.0),
            30 => camera.shake(&thud, 1.0),
            _ => {}
        }
        let view = camera.follow(1.0 / 60.0, courier);
        if frame % 3 == 0 {
            let by = view.shake().pixels;
            let bar = " ".repeat((12.0 + 1.6 * by.x) as usize);
            println!("  frame {frame:2}: {:5.2}, {:5.2} {bar}|", by.x, by.y);
        }
        assert_eq!(view.steady().centre().x, courier[0], "a shake does not move the camera");
    }

    let hit = Shake::default().with_decay(0.9, 60.0);
    println!("\na strength times 0.9 in each frame is a fade of {:.3} s", hit.fade);

    println!("\nthe maximum of ten gongs within a tenth of a second:");
    for mix in [ShakeMix::Add, ShakeMix::Strongest, ShakeMix::Replace] {
        let shake = ShakeSettings { mix, ..ShakeSettings::default() };
        let mut camera = Camera::new(Settings { shake, ..Settings::default() })?;
        let mut most = 0.0_f64;
        for frame in 0..60 {
            if frame < 10 {
                camera.shake(&gong, 1.0);
            }
            most = most.max(camera.advance(0.01).shake().pixels.x.abs());
        }
        println!("  {mix:?}: {most:.2} pixels");
    }
    Ok(())
}
