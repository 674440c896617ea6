//! Which sprites are visible: one, some thousands, a million.
//!
//! The common mistakes are testing the sprite's position instead of its rectangle, so that half of it pops in, and
//! testing all sprites of a world when a few dozen are near.
//!
//! Run with `cargo run --example 21_sprites_in_view`.

use std::time::Instant;

use rand::{RngExt, SeedableRng, rngs::SmallRng};
use velvet_pan::glam::DVec2;
use velvet_pan::{Boxes, Lens, Origin, Rect, Screen, Snap, SpriteGrid, View};

fn said(seen: bool) -> &'static str {
    if seen { "in view" } else { "not in view" }
}

fn main() {
    let lens = Lens::new(&Screen::default());
    let view = View::new(lens, [160, 90], Snap::Subpixel); // 320 x 180 units from the origin

    // One sprite: by its rectangle, for any anchor of its position.
    let sight = view.sight();
    for (what, sprite) in [
        (
            "a cedar whose foot is below the screen",
            view.sprite_rect([60, 200], [16, 48], Origin::Feet),
        ),
        ("a hut whose middle is left of it", view.sprite_rect([-12, 90], [32, 24], Origin::Centre)),
        (
            "a kite whose corner is right of the screen",
            view.sprite_rect([330, 20], [24, 24], Origin::Corner),
        ),
    ] {
        println!("{what}: {}", said(sight.sees(&sprite)));
    }
    let glow = ([330.0, 60.0], 24.0);
    println!("a lantern's glow beside it: {}", said(sight.sees_circle(glow.0, glow.1)));
    println!("its wick alone: {}\n", said(sight.sees_point(glow.0)));

    // A million moths over the whole valley.
    let world = Rect::new([0, 0], [44_000, 25_000]);
    let mut random = SmallRng::seed_from_u64(7);
    let mut moth = || {
        let at = DVec2::new(random.random_range(0.0..44e3), random.random_range(0.0..25e3));
        Rect::around(at, [6, 4])
    };
    let moths: Vec<Rect> = (0..1_000_000).map(|_| moth()).collect();
    let mut boxes = Boxes::new();
    for moth in &moths {
        boxes.push(moth);
    }
    let mut grid = SpriteGrid::of(&world, 64.0, &moths);
    let sight = View::new(lens, [20_000, 12_000], Snap::Subpixel).sight();
    let (mut all, mut near) = (Vec::new(), Vec::new());

    let start = Instant::now();
    boxes.seen(&sight, &mut all);
    let pass = start.elapsed();
    let start = Instant::now();
    grid.seen(&sight, &mut near);
    let query = start.elapsed();
    assert_eq!(all, near);
    println!("{} of {} moths in view", near.len(), grid.len());
    println!(
        "testing each: {pass:?}; with the grid: {query:?} (`cargo bench -p velvet-pan-benches` measures this properly)"
    );

    // If the game sorts by depth anyway, the order of the results does not matter.
    let start = Instant::now();
    grid.seen_in_any_order(&sight, &mut all);
    println!("in any order: {:?}, {} moths", start.elapsed(), all.len());

    // Moths fly: a sprite is moved, removed, inserted.
    if let Some(moth) = near.first() {
        grid.set(*moth, &Rect::around([100, 100], [6, 4]));
        grid.seen(&sight, &mut near);
        println!("after one has left: {} in view", near.len());
    }
}
