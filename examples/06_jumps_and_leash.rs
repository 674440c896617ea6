//! Keep the height of the view during jumps, and keep a falling player on the screen.
//!
//! The common mistake is a view that bobs with every jump. `Airborne::Hold` keeps its height until the player lands,
//! or until the leash is reached. Ground that is lost without a jump, on a slope or at an edge, is followed.
//!
//! Run with `cargo run --example 06_jumps_and_leash`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Airborne, Camera, Leash, Settings, SettingsError, Smoothing, Subject};

/// A jump of 60 units onto a ledge at 32, and later a long fall.
fn courier(t: f64) -> Subject {
    let (up, fall) = (t.min(0.6), (t - 1.5).clamp(0.0, 1.0));
    let hop = 500.0 * up * (0.6 - up) + 32.0 * up / 0.6;
    let grounded = (0.6..=1.5).contains(&t) || t == 0.0;
    Subject::from([0.0, -hop + 450.0 * fall * fall]).with_grounded(grounded)
}

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.08).into();
    let mut following = Camera::new(settings.clone())?;
    settings.follow.airborne = Airborne::Hold;
    settings.follow.leash = Some(Leash(DVec2::new(0.5, 0.4)));
    let mut holding = Camera::new(settings)?;

    println!("y of the view (smaller is higher), and the player's position on the screen:");
    for frame in 0..=150 {
        let t = f64::from(frame) / 60.0;
        let plain = following.follow(1.0 / 60.0, courier(t));
        let held = holding.follow(1.0 / 60.0, courier(t));
        if frame % 10 == 0 {
            let place = held.world_to_screen(courier(t).position).y / 180.0;
            println!(
                "  t {t:4.2} s: following {:7.1}, holding {:7.1}, player at {:3.0} % of the screen",
                plain.centre().y,
                held.centre().y,
                place * 100.0
            );
        }
    }
    println!(
        "\nThe jump is held until it lands. The fall from the edge is followed; the leash keeps the player above 90 %."
    );

    // Uphill, with physics that misses the ground in every fifth step.
    let mut apart: f64 = 0.0;
    for frame in 0..120 {
        let t = f64::from(frame) / 60.0;
        let uphill = Subject::from([100.0 * t, 450.0 - 100.0 * t]).with_grounded(frame % 5 != 0);
        let [plain, held] = [&mut following, &mut holding].map(|camera| {
            if frame == 0 {
                camera.cut();
            }
            camera.follow(1.0 / 60.0, uphill).centre()
        });
        apart = apart.max(plain.distance(held));
    }
    println!("On a slope without contact in every fifth step the two are {apart:.3} units apart.");
    assert!(apart < 0.01);
    Ok(())
}
