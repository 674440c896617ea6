//! A cutscene with cameras of its own: three positions in turn, and back to the player.
//!
//! The common mistakes are one camera for everything, whose settings a cutscene has to save and restore, and a glide
//! back to where the player was when the cutscene began.
//!
//! Run with `cargo run --example 26_several_cameras`.

use velvet_pan::{Camera, Cameras, Ease, Settings, SettingsError, Smoothing};

const STEP: f64 = 1.0 / 20.0;

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
    let mut cameras = Cameras::new("wren", Camera::new(settings)?);
    let mut far = Settings::default();
    far.zoom.level = 0.5;
    let mut lookout = Camera::new(far)?;
    lookout.place_at([1500, 200]);
    cameras.insert("lookout", lookout);

    println!("  time    camera      centre             zoom");
    for frame in 0..=160 {
        let t = f64::from(frame) * STEP;
        match frame {
            20 => drop(cameras.glide_to(&"lookout", 1.0, Ease::Smooth)),
            60 | 80 => {
                let lookout = cameras.active_mut();
                lookout.aim_at(if frame == 60 { [1700, 260] } else { [1200, 120] });
                lookout.glide(0.8, Ease::Smooth);
            }
            110 => drop(cameras.glide_to(&"wren", 1.0, Ease::Smooth)),
            _ => {}
        }
        // Each camera runs in every frame: Wren runs on during the cutscene, and the main camera follows.
        if let Some(camera) = cameras.get_mut(&"wren") {
            camera.follow(STEP, [120.0 + 40.0 * t, 300.0]);
        }
        if let Some(camera) = cameras.get_mut(&"lookout") {
            camera.advance(STEP);
        }
        let view = cameras.view(STEP);
        if frame % 10 == 0 {
            println!(
                "{t:5.1} s  {:<10} {:7.1}, {:6.1}    {:.3}",
                cameras.active_key(),
                view.centre().x,
                view.centre().y,
                view.lens().zoom()
            );
        }
    }
    Ok(())
}
