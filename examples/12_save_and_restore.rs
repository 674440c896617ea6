//! Save a camera during a ride, go back, and get exactly the same results again: for rollback and replays. Bounds that
//! the game has set are part of the state, and a set of cameras has a state of its own.
//!
//! Run with `cargo run --example 12_save_and_restore`.

use velvet_pan::{
    Bounds, Camera, Cameras, Deadzone, Ease, LookAhead, Rect, Settings, Smoothing, View,
};

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

    // The game shut a door. Going back opens it again.
    camera.set_bounds(Some(Bounds::new(Rect::new([0, 0], [480, 270]))), 0.5)?;
    play(&mut camera, 400, 500);
    println!("behind the door:       {}", camera.view().visible_world().max.x <= 480.0);
    camera.restore(saved)?;
    println!("and back:              {}", play(&mut camera, 100, 400) == first);

    let mut other = Camera::new(settings)?;
    other.restore(saved)?;
    println!("another camera:        {}", play(&mut other, 100, 400) == first);
    println!("final centre:          {}", other.view().centre());
    assert!(other.view() == camera.view());

    // Several cameras, in the middle of a glide from one to the other.
    let mut cameras = Cameras::new("courier", camera);
    cameras.insert("bell", other);
    cameras.glide_to(&"bell", 1.0, Ease::Smooth);
    let glide = |cameras: &mut Cameras<&str>| -> Vec<View> {
        (0..30).map(|_| cameras.view(1.0 / 60.0)).collect()
    };
    glide(&mut cameras);
    let saved = cameras.state();
    let first = glide(&mut cameras);
    cameras.restore(&saved)?;
    println!("half of a glide again: {}", glide(&mut cameras) == first);
    Ok(())
}
