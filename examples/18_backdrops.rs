//! A background picture that always covers the view, and the visible part of it.
//!
//! The common mistake is a rate that was right for the first level: in a longer level the sky ends before the world
//! does. Here the rate is computed from the sizes of the picture and of the world.
//!
//! Run with `cargo run --example 18_backdrops`.

use velvet_pan::glam::UVec2;
use velvet_pan::{Bounds, Camera, Layer, Rect, Settings, SettingsError};

const PIXELS: UVec2 = UVec2::new(420, 220);

fn main() -> Result<(), SettingsError> {
    for (width, zooms) in [(3840, [1.0, 1.0]), (960, [1.0, 1.0]), (3840, [0.9, 2.0])] {
        let sky = Layer { cover: Some(PIXELS.as_dvec2()), ..Layer::named("sky") };
        let mut settings = Settings { layers: vec![sky], ..Settings::default() };
        settings.bounds = Some(Bounds::new(Rect::from_corner_size([0, 0], [width, 960])));
        settings.zoom.range = zooms.into();
        let mut camera = Camera::new(settings)?;
        let rate = camera.layers()[0].rate;
        println!(
            "a world {width} wide, zooms {zooms:?}: the sky's rate is {:.4}, {:.4}",
            rate.x, rate.y
        );
        for x in [0, width / 2, width] {
            camera.cut();
            let view = camera.follow(0.0, [x, 480]);
            let sky = &camera.layers()[0];
            let seen = view.layer(sky);
            let rect = sky.within.unwrap_or_default();
            if let Some(part) = seen.visible_part(&rect, PIXELS) {
                println!(
                    "  at x {x:>4}: pixels {:?} x {:?} of the picture, drawn at {}, {}",
                    part.columns(),
                    part.rows(),
                    part.rect.min.x,
                    part.rect.min.y
                );
            }
        }
    }
    println!("\nThe picture ends exactly where the world ends, on both sides.");
    Ok(())
}
