//! A simulation at 30 steps a second on a display at 144 frames: the view between two steps.
//!
//! The common mistake is to move the camera only in the steps of the simulation, so that each step is visible.
//! `View::between` blends the last two steps. In a world that wraps, `translate` moves the camera with everything
//! else.
//!
//! Run with `cargo run --example 11_fixed_step`.

use velvet_pan::{Camera, Settings, SettingsError, Smoothing, View};

const STEP: f64 = 1.0 / 30.0;
const LOOP: f64 = 64.0;

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    let mut camera = Camera::new(settings)?;
    let mut x = 0.0;
    let mut last = camera.follow(0.0, [x, 0.0]);
    let mut now = last;
    let (mut time, mut steps) = (0.0, 0.0);
    let mut shown: Vec<f64> = Vec::new();
    for _frame in 0..144 {
        time += 1.0 / 144.0;
        while steps + STEP <= time {
            steps += STEP;
            x += 120.0 * STEP;
            last = now;
            now = camera.follow(STEP, [x, 0.0]);
        }
        let view = View::between(&last, &now, (time - steps) / STEP);
        shown.push(view.centre().x);
    }
    let moves: Vec<f64> = shown.windows(2).map(|pair| pair[1] - pair[0]).collect();
    println!("movement of the view per frame, in world units, over one second:");
    for chunk in moves[100..].chunks(11) {
        println!("  {}", chunk.iter().map(|by| format!("{by:6.3}")).collect::<String>());
    }

    // The world loops: everything is moved back by its length, and nothing moves on the screen.
    let before = camera.view().world_to_screen([x, 0.0]);
    camera.translate([-LOOP, 0.0]);
    x -= LOOP;
    println!(
        "\nthe courier is at {before} px, and after wrapping at {} px",
        camera.view().world_to_screen([x, 0.0])
    );
    Ok(())
}
