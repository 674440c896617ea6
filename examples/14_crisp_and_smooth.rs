//! Crisp pixels that move smoothly: draw one pixel more, and slide the finished picture by the remainder.
//!
//! The common mistakes are a picture that moves in whole art pixels (uneven steps at low speed), one that is drawn
//! between pixels (shimmering edges), and rounding camera and sprite separately (the player's sprite trembles).
//! Run with `cargo run --example 14_crisp_and_smooth`.

use velvet_pan::glam::UVec2;
use velvet_pan::{Blending, Canvas, CanvasMut, Lens, Screen, Snap, View, present};

const SCALE: u32 = 6;
const SCREEN: UVec2 = UVec2::new(12, 1);

/// A frame of the window: a fence with a post every 8 units, with the view's centre at x.
fn frame(x: f64, snap: Snap) -> String {
    let lens = Lens::new(&Screen { size: SCREEN, ..Screen::default() });
    let view = View::new(lens, [x, 0.5], snap).with_window(SCREEN * SCALE);
    let mut canvas = vec![[0; 4]; (view.canvas_size().x * view.canvas_size().y) as usize];
    for post in 0..8 {
        let place = view.canvas_position([f64::from(post) * 8.0, 0.0]);
        if let Some(pixel) = canvas.get_mut(place.x as usize).filter(|_| place.x >= 0.0) {
            *pixel = [255; 4];
        }
    }
    let size = SCREEN * SCALE;
    let mut window = vec![[0; 4]; (size.x * size.y) as usize];
    let target = CanvasMut::new(size, &mut window);
    present(Canvas::new(view.canvas_size(), &canvas), target, &view.placement(), Blending::Encoded);
    window[..size.x as usize].iter().map(|pixel| if pixel[0] > 0 { '█' } else { '·' }).collect()
}

fn main() {
    println!(
        "a pan of 37 screen pixels a second, at 60 frames a second, {SCALE} window pixels each:"
    );
    for snap in [Snap::Whole, Snap::Subpixel] {
        println!("\n{snap:?}");
        for step in 0..10 {
            println!("  {}", frame(12.0 + 37.0 / 60.0 * f64::from(step), snap));
        }
    }
    println!(
        "\nWhole moves by 0 or 6 window pixels per frame, Subpixel by 3 or 4. Both are crisp."
    );
}
