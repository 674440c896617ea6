//! Save a camera during a ride, go back, and get exactly the same results again: for rollback and replays.
//!
//! Run with `cargo run --example 12_save_and_restore`.

use velvet_pan::{Camera, Deadzone, LookAhead, Settings, Smoothing, View};

fn courier(frame: u32) -> [f64; 2] {
    let t = f64::from(frame) / 60.0;
    [300.0 + 200.0 * (1.3 * t).sin(), 200.0 + 60.0 * (2.1 * t).cos()]
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::Settle(0.5).into();
    settings.follow.deadzone = Deadzone { left: 0.05, right: 0.05, top: 0.1, bottom: 0.1 };
    settings.follow.look_ahead = Some(LookAhead::default());

    let mut camera = Camera::new(settings.clone())?;
    let play = |camera: &mut Camera, from: u32, to: u32| -> Vec<View> {
        (from..to).map(|frame| camera.follow(1.0 / 60.0, courier(frame))).collect()
    };
    play(&mut camera, 0, 100);
    let saved = camera.state();
    println!("saved at frame 100, {} bytes, Copy", core::mem::size_of_val(&saved));
    let first = play(&mut camera, 100, 400);

    camera.restore(saved)?;
    println!("the same camera again: {}", play(&mut camera, 100, 400) == first);

    let mut other = Camera::new(settings)?;
    other.restore(saved)?;
    println!("another camera:        {}", play(&mut other, 100, 400) == first);
    println!("final centre:          {}", other.view().centre());
    Ok(())
}
