//! A cellar that is not one rectangle: an L of a passage and a hall, and a stair that is narrower than the view.
//!
//! The common mistakes are bounds around everything, which show what is beside the level, and a view that is put to the
//! nearest allowed centre: where the subject goes around a corner, that one is far away all of a sudden.
//!
//! Run with `cargo run --example 32_outline`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Grid, Outline, Rect, Settings, SettingsError, YAxis};

fn main() -> Result<(), SettingsError> {
    let passage = Rect::from_corner_size([0, 800], [1000, 200]);
    let hall = Rect::from_corner_size([0, 0], [400, 1000]);
    let stair = Rect::from_corner_size([800, 400], [120, 600]);
    let mut settings = Settings::default(); // the screen is 320 x 180
    settings.outlines.insert("cellar".into(), Outline::new([passage, hall, stair]));
    settings.bounds = Some(Bounds::of_outline("cellar")?);
    let mut camera = Camera::new(settings)?;

    // Out of the hall, along the passage, and up the stair.
    let way = [[200.0, 300.0], [200.0, 980.0], [860.0, 980.0], [860.0, 450.0]].map(DVec2::from);
    println!("  time        wren         what the view shows");
    let mut time = 0.0;
    camera.follow(0.0, way[0]);
    for leg in way.windows(2) {
        let steps = ((leg[1] - leg[0]).length() / 150.0 * 60.0).round();
        for step in 1..=steps as u32 {
            let at = leg[0].lerp(leg[1], f64::from(step) / steps);
            let view = camera.follow(1.0 / 60.0, at);
            time += 1.0 / 60.0;
            let seen = view.visible_world();
            if step % 60 == 0 {
                let (min, max) = (seen.min, seen.max);
                println!(
                    "{time:5.1} s   {:4.0}, {:4.0}     {:4.0} to {:4.0}, {:4.0} to {:4.0}",
                    at.x, at.y, min.x, max.x, min.y, max.y
                );
            }
            assert!(seen.contains(at), "she is always on the screen");
        }
    }
    println!("\nIn the stair, which is 120 wide, the view is in its middle.");
    assert_eq!(camera.view().centre().x, stair.centre().x);

    // The same from a map: 0 is free, 1 is rock.
    let map = [0, 0, 1, 1, 0, 0, 1, 1, 0, 0, 0, 0, 0, 0, 0, 0];
    let cave = Grid::new(4, 4, [240, 240]).outline(&map, YAxis::Down, |tile| *tile == 0);
    println!("The map's cave has {} parts and {} halls.", cave.parts.len(), cave.halls()?.len());
    Ok(())
}
