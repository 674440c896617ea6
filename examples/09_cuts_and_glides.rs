//! Cut to a position, or glide there in a set time, even if the target moves.
//!
//! The common mistakes are a pan across the whole level after a teleport, and a cutscene that waits for smoothing to
//! arrive, which takes too long.
//!
//! Run with `cargo run --example 09_cuts_and_glides`.

use velvet_pan::{Camera, Ease, Settings, SettingsError, Smoothing};

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
    let mut camera = Camera::new(settings)?;
    let courier = |t: f64| [200.0 + 130.0 * t, 300.0];
    let kite = |t: f64| [900.0, 200.0 - 40.0 * t];

    for frame in 0..=210 {
        let t = f64::from(frame) / 60.0;
        let watching_kite = (60..150).contains(&frame);
        match frame {
            60 => {
                camera.switch_subject(); // another subject: a new goal, not a movement
                camera.glide(1.0, Ease::Smooth);
            }
            150 => camera.cut(),
            _ => {}
        }
        let subject = if watching_kite { kite(t) } else { courier(t) };
        let view = camera.follow(1.0 / 60.0, subject);
        if frame % 15 == 0 {
            let note = match frame {
                60 => "  the kite: glide, 1 s",
                120 => "  there, on time",
                150 => "  back to the courier: cut",
                _ => "",
            };
            println!("t {t:4.2} s: view at {:7.1}{note}", view.centre());
        }
    }
    Ok(())
}
