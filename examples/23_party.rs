//! Several subjects shown together.
//!
//! The common mistakes are the plain mean position, which jumps when a player joins or leaves, and one distant player
//! who pulls everybody else off the screen.
//!
//! Run with `cargo run --example 23_party`.

use velvet_pan::{Camera, Party, Settings, SettingsError, Smoothing, Subject};

fn main() -> Result<(), SettingsError> {
    let party = Party { fade: 0.5, widest: 0.6, ..Party::default() };
    let mut settings = Settings { party, ..Settings::default() };
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    let mut camera = Camera::new(settings)?;

    println!("  time    wren    kite    centre    zoom");
    for frame in 0..=240 {
        let t = f64::from(frame) / 30.0;
        let wren = Subject::from([60.0 * t, 0.0])
            .with_id(1)
            .with_weight(2.0)
            .with_rank(1)
            .with_margin(30.0);
        // The kite joins after a second, drifts away, is dropped, and is taken back.
        let ahead = if t < 5.0 { 150.0 * (t - 1.0) } else { 600.0 - 250.0 * (t - 5.0) };
        let kite = Subject::from([60.0 * t + ahead, -40.0]).with_id(2).with_margin(20.0);
        let there: &[Subject] = if t < 1.0 { &[wren] } else { &[wren, kite] };
        let view = camera.follow_all(1.0 / 30.0, there);
        if frame % 15 == 0 {
            let seen = match (t < 1.0, camera.is_dropped(2)) {
                (true, _) => "not there yet",
                (_, true) => "dropped",
                _ => "shown",
            };
            println!(
                "{t:5.1} s  {:6.0}  {:6.0}    {:6.1}    {:.3}    the kite is {seen}",
                wren.position.x,
                kite.position.x,
                view.centre().x,
                view.lens().zoom()
            );
        }
    }
    Ok(())
}
