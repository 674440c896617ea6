//! Follow a player smoothly, in the same way at any frame rate.
//!
//! The common mistake is to move a tenth of the way in each frame: at 120 frames a second, that follows twice as fast
//! as at 60. A half-life in seconds gives the same motion at any frame rate.
//!
//! Run with `cargo run --example 02_follow_and_smooth`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, SettingsError, Smoothing};

/// The player stands for half a second, runs for two seconds at 130 units a second, and stops.
fn courier(t: f64) -> DVec2 {
    DVec2::new(130.0 * (t - 0.5).clamp(0.0, 2.0), 0.0)
}

/// Returns how far the view is behind the player, in screen pixels, at each half second.
fn ours(fps: u32) -> Result<Vec<f64>, SettingsError> {
    let mut settings = Settings::default();
    // The fraction per frame that many games use already, as a half-life.
    settings.follow.smoothing = Smoothing::per_frame(0.1, 60.0).into();
    let mut camera = Camera::new(settings)?;
    let frames = (0..=4 * fps).map(|frame| {
        let t = f64::from(frame) / f64::from(fps);
        let view = camera.follow(1.0 / f64::from(fps), courier(t));
        courier(t).x - view.centre().x
    });
    Ok(frames.step_by(fps as usize / 2).collect())
}

/// The mistake: a fraction of the remaining way per frame.
fn per_frame(fps: u32) -> Vec<f64> {
    let mut x = 0.0;
    let frames = (0..=4 * fps).map(|frame| {
        let goal = courier(f64::from(frame) / f64::from(fps)).x;
        x += (goal - x) * 0.1;
        goal - x
    });
    frames.step_by(fps as usize / 2).collect()
}

fn main() -> Result<(), SettingsError> {
    println!(
        "Distance from the courier to the centre of the view, in screen pixels, every half second\n"
    );
    println!("a tenth of the way each frame:");
    for fps in [30, 60, 120, 240] {
        print_row(fps, &per_frame(fps));
    }
    println!("\nthe same number as a half-life, {:?}:", Smoothing::per_frame(0.1, 60.0));
    for fps in [30, 60, 120, 240] {
        print_row(fps, &ours(fps)?);
    }
    println!("\na rate of 6.3 per second is {:?}", Smoothing::per_second(6.3));
    println!("\nWith a half-life, the view is exactly at rest in the end: 0 is exactly 0.");
    Ok(())
}

fn print_row(fps: u32, behind: &[f64]) {
    let cells: String = behind.iter().map(|pixels| format!("{pixels:8.3}")).collect();
    println!("  {fps:3} frames/s {cells}");
}
