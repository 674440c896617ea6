//! A view that moves along a line, and one that scrolls by itself.
//!
//! The common mistakes are a view that cuts the corners of a carefully composed level, and a scroll that continues
//! while the game is stopped in a debugger.
//!
//! Run with `cargo run --example 25_rail_and_scroll`.

use velvet_pan::{Camera, Rail, Scroll, Settings, SettingsError, glam::DVec2};

fn main() -> Result<(), SettingsError> {
    // Up along the terraces: level, steep, level.
    let points = [[0.0, 300.0], [300.0, 300.0], [420.0, 120.0], [800.0, 120.0]].map(DVec2::from);
    let rail = Rail { points: points.to_vec(), ..Rail::default() };
    let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() })?;
    println!("Wren jumps along the path; the view stays on the rail:");
    for step in 0..=8 {
        let x = f64::from(step) * 100.0;
        let ground = if x < 360.0 { 320.0 } else { 140.0 };
        let wren = DVec2::new(x, ground - 30.0 * f64::from(step % 2));
        let centre = camera.follow(0.2, wren).centre();
        println!(
            "  wren {:3.0}, {:3.0}    centre {:5.1}, {:5.1}",
            wren.x, wren.y, centre.x, centre.y
        );
    }

    let rail = Rail { points: points.to_vec(), speed: Some(200.0), ..Rail::default() };
    let mut camera = Camera::new(Settings { rail: Some(rail), ..Settings::default() })?;
    println!("\na cable ride of 200 units a second:");
    camera.advance(0.0);
    for step in 1..=5 {
        let centre = camera.advance(1.0).centre();
        println!("  {step} s    centre {:5.1}, {:5.1}", centre.x, centre.y);
    }

    let scroll = Some(Scroll { speed: DVec2::new(60.0, 0.0) });
    let mut camera = Camera::new(Settings { scroll, ..Settings::default() })?;
    camera.follow(0.0, [0, 0]);
    println!("\nscrolling to the right at 60 units a second, following the player up and down:");
    for (seconds, wren) in [(0.1, [5, -20]), (0.1, [90, -40]), (3600.0, [90, 0]), (0.1, [0, 10])] {
        let centre = camera.follow(seconds, wren).centre();
        println!("  after {seconds:6.1} s    centre {:5.1}, {:5.1}", centre.x, centre.y);
    }
    println!("An hour in the debugger scrolls by a quarter of a second.");

    // A player who stands is pushed on by the left edge of the view.
    let mut wren = DVec2::new(0.0, 0.0);
    for _frame in 0..600 {
        wren = camera.follow(1.0 / 60.0, wren).stop(wren, [8, 12]);
    }
    let edge = camera.view().visible_world().min.x;
    println!("\nten seconds later: the left edge is at {edge:.0}, and Wren at {:.0}", wren.x);
    assert!((wren.x - 8.0 - edge).abs() < 1.5);
    Ok(())
}
