//! A simulation at 30 steps a second on a display at 144 frames: view and player between two steps.
//!
//! The common mistake is to move the camera only in the steps of the simulation, so that each step is visible; the next
//! is to draw the player where it is after the step, in a view of a moment before. `View::between` and
//! `Subject::between` blend the last two steps by the same fraction. In a world that wraps, `translate` moves the camera
//! with everything else.
//!
//! Run with `cargo run --example 11_fixed_step`.

use velvet_pan::{Camera, Settings, SettingsError, Smoothing, Subject, View};

const STEP: f64 = 1.0 / 30.0;
const RATE: f64 = 144.0;
const LOOP: f64 = 64.0;

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    let mut camera = Camera::new(settings)?;
    camera.resize((1280, 720));
    let mut courier = Subject::from([0, 0]);
    // The last two steps.
    let mut now = (camera.follow(0.0, courier), courier);
    let mut last = now;
    let (mut time, mut steps) = (0.0, 0.0);
    let (mut centres, mut latest, mut interpolated) = (Vec::new(), Vec::new(), Vec::new());
    for _frame in 0..288 {
        time += 1.0 / RATE;
        while steps + STEP <= time {
            steps += STEP;
            courier.position.x += 120.0 * STEP;
            last = now;
            now = (camera.follow(STEP, courier), courier);
        }
        let fraction = (time - steps) / STEP;
        let view = View::between(&last.0, &now.0, fraction);
        let drawn = Subject::between(&last.1, &now.1, fraction);
        centres.push(view.centre().x);
        latest.push(view.followed_placement(courier.position).origin.x);
        interpolated.push(view.followed_placement(drawn.position).origin.x);
    }
    let moves: Vec<f64> = centres.windows(2).map(|pair| pair[1] - pair[0]).collect();
    println!("movement of the view per frame, in world units, over one second:");
    for chunk in moves[244..].chunks(11) {
        println!("  {}", chunk.iter().map(|by| format!("{by:6.3}")).collect::<String>());
    }
    println!("\nthe courier goes back and forth in the window, in two seconds:");
    println!("  drawn at its latest position  {} times", turns(&latest));
    println!("  drawn between the two steps   {} times", turns(&interpolated));
    assert_eq!(turns(&interpolated), 0);

    // The world loops: everything is moved back by its length, and nothing moves on the screen.
    let before = camera.view().world_to_screen(courier.position);
    camera.translate([-LOOP, 0.0]);
    courier.position.x -= LOOP;
    let after = camera.view().world_to_screen(courier.position);
    println!("\nthe courier is at {before} px, and after wrapping at {after} px");
    Ok(())
}

/// The number of times that something turns.
fn turns(places: &[f64]) -> usize {
    let steps = places.windows(2).map(|pair| pair[1] - pair[0]);
    let moves: Vec<f64> = steps.filter(|step| *step != 0.0).collect();
    moves.windows(2).filter(|pair| pair[0] * pair[1] < 0.0).count()
}
