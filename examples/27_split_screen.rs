//! Two players on a split screen: two cameras and two views, each in its half of the window.
//!
//! The common mistake is one camera that is moved between the two halves of a frame, which mixes the smoothing of
//! both.
//!
//! Run with `cargo run --example 27_split_screen`.

use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Blending, Camera, Canvas, CanvasMut, Screen, Settings, SettingsError, Smoothing, View, present,
};

/// The size of the window and of each half, in physical pixels.
const WINDOW: UVec2 = UVec2::new(78, 18);
const HALF: UVec2 = UVec2::new(38, 18);
/// The start of the right half: two pixels separate the halves.
const RIGHT: usize = 40;

/// A canvas with what a view sees: posts every 12 units, and both players.
fn draw(view: &View, couriers: [DVec2; 2]) -> Vec<[u8; 4]> {
    let size = view.canvas_size();
    let mut canvas = vec![[b' ', 0, 0, 255]; (size.x * size.y) as usize];
    let mut dot = |place: velvet_pan::glam::Vec2, letter: u8| {
        let inside =
            place.cmpge(velvet_pan::glam::Vec2::ZERO).all() && place.cmplt(size.as_vec2()).all();
        if inside {
            canvas[place.y as usize * size.x as usize + place.x as usize][0] = letter;
        }
    };
    for x in 0..30 {
        let ground = 20.0 - f64::from(x / 4) * 2.0;
        for along in 0..12 {
            dot(view.canvas_position([f64::from(x * 12 + along), ground]), b'_');
        }
        dot(view.canvas_position([f64::from(x * 12), ground - 1.0]), b'|');
    }
    for (letter, courier) in [b'W', b'T'].into_iter().zip(couriers) {
        dot(view.canvas_position(courier), letter);
    }
    canvas
}

fn main() -> Result<(), SettingsError> {
    let screen = Screen { size: HALF, ..Screen::default() };
    let mut settings = Settings { screen, ..Settings::default() };
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    let mut cameras = [Camera::new(settings.clone())?, Camera::new(settings)?];
    for camera in &mut cameras {
        camera.resize(HALF); // its part of the window is all it knows of
    }
    let mut window = vec![[b' ', 0, 0, 255]; (WINDOW.x * WINDOW.y) as usize];
    for frame in 0..=60 {
        let t = f64::from(frame) / 20.0;
        let couriers = [DVec2::new(30.0 + 20.0 * t, 16.0), DVec2::new(250.0 - 30.0 * t, 6.0)];
        for (index, camera) in cameras.iter_mut().enumerate() {
            let view = camera.follow(1.0 / 20.0, couriers[index]);
            let canvas = draw(&view, couriers);
            // The half of the window: from its first pixel, with the window's own stride.
            let part = &mut window[index * RIGHT..];
            let target = CanvasMut { size: HALF, stride: WINDOW.x as usize, data: part };
            let canvas = Canvas::new(view.canvas_size(), &canvas);
            present(canvas, target, &view.placement(), Blending::Encoded);
        }
        if frame % 30 == 0 {
            println!("\n{t:.1} s: Wren (W) on the left, Tarn (T) on the right");
            for row in window.chunks(WINDOW.x as usize) {
                let line: String = row.iter().map(|pixel| char::from(pixel[0])).collect();
                println!("{}", line.trim_end());
            }
        }
    }
    Ok(())
}
