//! The game reports what happened, and the tuning file says what the camera does.
//!
//! The common mistake is "shake by 6" all over the game's code: nobody can tune it, or reduce it for a player who
//! can't bear shakes.
//!
//! Run with `cargo run --example 16_cues`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Cue, CueCall, Settings, SettingsError, Shake, ZoomNudge};

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    let gong = Cue {
        shake: Some(Shake { reach: DVec2::new(6.0, 3.0), ..Shake::default() }),
        full_within: 0.25,
        none_beyond: 2.0,
        zoom: Some(ZoomNudge { by: 1.04, ..ZoomNudge::default() }),
        ..Cue::default()
    };
    settings.cues.insert("gong".into(), gong);

    println!("the strongest shake of a gong, in screen pixels:");
    for (intensity, distance, strength) in
        [(1.0, 0.0, 1.0), (1.0, 340.0, 1.0), (1.0, 700.0, 1.0), (1.0, 0.0, 0.5), (0.3, 0.0, 1.0)]
    {
        settings.shake.intensity = intensity;
        let mut camera = Camera::new(settings.clone())?;
        camera.follow(0.0, [0, 0]);
        let call = CueCall::at([distance, 0.0]).with_strength(strength);
        if let Err(unknown) = camera.cue("gong", call) {
            println!("{unknown}");
        }
        let most = (0..60)
            .map(|_| camera.follow(1.0 / 60.0, [0, 0]).shake().pixels.length())
            .fold(0.0, f64::max);
        println!(
            "  {distance:3} units away, {strength} times as hard, intensity {intensity}: {most:.2}"
        );
    }

    let mut camera = Camera::new(settings)?;
    if let Err(unknown) = camera.cue("gnog", [0, 0]) {
        println!("\na misspelled name is an error, not a panic: {unknown}");
    }
    Ok(())
}
