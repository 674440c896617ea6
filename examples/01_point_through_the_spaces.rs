//! Convert a point between the spaces: world, screen, canvas and window, and back again.
//!
//! Run with `cargo run --example 01_point_through_the_spaces`.

use velvet_pan::glam::Vec2;
use velvet_pan::{Lens, Screen, Snap, View};

fn main() {
    // The game draws 320 x 180 pixels; the window is six times as large.
    let lens = Lens::new(&Screen::default());
    let view = View::new(lens, [1000.3, 400.0], Snap::Subpixel).with_window((1920, 1080));

    let lantern = [1100.0, 380.0];
    println!("the lantern is in the world at       {lantern:?} units");
    println!(
        "it is on the screen at              {} px, not rounded",
        view.world_to_screen(lantern)
    );
    println!("it is drawn on the canvas at        {} px, rounded", view.canvas_position(lantern));
    println!("the canvas is                       {} px", view.canvas_size());

    let placement = view.placement();
    println!(
        "and lands in the window at          {} px, {} times as large",
        placement.origin, placement.scale
    );

    let pointer = Vec2::new(160.0, 90.0);
    println!("the middle of the screen shows      {} of the world", view.screen_to_world(pointer));
    let visible = view.visible_world();
    println!("the screen shows the world from     {} to {}", visible.min, visible.max);

    println!("\nthe same lantern with other zooms and rotations:");
    for (zoom, rotation) in [(1.0, 0.0), (2.0, 0.0), (1.0, 0.5)] {
        let lens = Lens::new(&Screen::default()).with_zoom(zoom).with_rotation(rotation);
        let view = View::new(lens, [1000.3, 400.0], Snap::Off);
        println!("  zoom {zoom}, rotation {rotation}: at {:.2} px", view.world_to_screen(lantern));
    }
}
