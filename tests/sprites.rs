//! Visible sprites, compared with brute force.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Boxes, Lens, Origin, Rect, Screen, Sight, Snap, SpriteGrid, View, YAxis};

use crate::support::properties::properties;
use crate::support::{canvas, corners};

prop_compose! {
    fn views()(
        size in (1..90_u32, 1..90_u32),
        up in any::<bool>(),
        zoom in prop_oneof![Just(1.0), 0.3..4.0_f64],
        angle in prop_oneof![Just(0.0), -7.0..7.0_f64],
        snap in prop::sample::select(&[Snap::Off, Snap::Whole, Snap::Subpixel]),
        centre in (-300.0..300.0_f64, -300.0..300.0_f64),
    ) -> View {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let screen = Screen { size: size.into(), y_axis, ..Screen::default() };
        View::new(Lens::new(&screen).with_zoom(zoom).with_rotation(angle), centre, snap)
    }
}

fn boxes() -> impl Strategy<Value = Rect> {
    let side = || prop_oneof![4 => 0.0..20.0_f64, 1 => 0.0..400.0_f64];
    ((-400.0..400.0_f64, -400.0..400.0_f64), (side(), side()))
        .prop_map(|(corner, size)| Rect::from_corner_size(corner, size))
}

/// The canvas along the axes of the view, half a pixel larger where sprites are rounded.
fn sight_of(view: &View) -> Rect {
    let slack = if view.snap() == Snap::Off { 0.0 } else { 0.5 };
    let canvas = canvas(view);
    Rect { min: canvas.min - slack, max: canvas.max + slack }
}

/// The part of a convex figure on the inner side of a line.
fn cut(figure: &[DVec2], from: DVec2, inward: DVec2) -> Vec<DVec2> {
    let depth = |at: DVec2| (at - from).dot(inward);
    let mut kept = Vec::new();
    for (index, a) in figure.iter().enumerate() {
        let b = figure[(index + 1) % figure.len()];
        if depth(*a) >= 0.0 {
            kept.push(*a);
        }
        if depth(*a) * depth(b) < 0.0 {
            kept.push(a.lerp(b, depth(*a) / (depth(*a) - depth(b))));
        }
    }
    kept
}

/// The area that a world rectangle and the canvas share, in square screen pixels, computed by cutting one at the sides
/// of the other.
fn visible_area(view: &View, rect: &Rect) -> f64 {
    let canvas = corners(&sight_of(view));
    let mut figure = corners(rect).map(|corner| view.lens().to_screen_axes(corner)).to_vec();
    for index in 0..4 {
        let (a, b) = (canvas[index], canvas[(index + 1) % 4]);
        figure = cut(&figure, a, (b - a).perp().normalize());
    }
    let next = figure.iter().cycle().skip(1);
    figure.iter().zip(next).map(|(a, b)| a.perp_dot(*b)).sum::<f64>().abs() / 2.0
}

properties! {
    #![cases(50_000)]

    #[test]
    fn boxes_are_seen_that_share_an_area(view in views(), rect in boxes()) {
        let area = visible_area(&view, &rect);
        prop_assert!(area < 1e-7 || view.sees(&rect), "{area} square pixels lost");
        // What is seen but shares next to nothing must be just at the edge, or next to nothing.
        let grown = Rect { min: rect.min - 1e-6, max: rect.max + 1e-6 };
        prop_assert!(!view.sees(&rect) || visible_area(&view, &grown) > 0.0, "seen from nowhere");
    }

    #[test]
    fn circles_and_points(view in views(), at in (-400.0..400.0_f64, -400.0..400.0_f64), radius in 0.0..90.0_f64) {
        let (sight, at) = (view.sight(), DVec2::from(at));
        let Rect { min: low, max: high } = sight_of(&view);
        let pixels = view.lens().to_screen_axes(at);
        let away = (pixels - pixels.clamp(low, high)).length() / view.scale();
        prop_assert!((away - radius).abs() < 1e-9 || sight.sees_circle(at, radius) == (away < radius));
        let inside = pixels.cmpge(low).all() && pixels.cmplt(high).all();
        let edge = (pixels - low).abs().min((pixels - high).abs()).min_element() < 1e-9;
        prop_assert!(edge || sight.sees_point(at) == inside);
        // Padding moves all four sides.
        let padded = sight.padded(5.0);
        prop_assert!((away - radius - 5.0).abs() < 1e-9 || !sight.sees_circle(at, radius + 5.0) || padded.sees_circle(at, radius + 8.0));
        prop_assert!(!sight.sees_point(at) || padded.sees_point(at));
    }

    /// A sprite that has a pixel on the canvas where it is drawn is found.
    #[test]
    fn what_is_drawn_is_seen(view in views(), at in (-400.0..400.0_f64, -400.0..400.0_f64), side in 1..30_i32) {
        if !view.lens().is_rotated() {
            let size = Vec2::splat(side as f32) ;
            let sprite = view.sprite_rect(at, DVec2::splat(f64::from(side) / view.scale()), Origin::Feet);
            let min = view.canvas_position(at) - size * Vec2::new(0.5, 1.0);
            let (min, max) = if view.snap() == Snap::Off { (min + 1e-3, min + size - 1e-3) } else { (min.round(), min.round() + size) };
            let drawn = max.cmpgt(Vec2::ZERO).all() && min.cmplt(view.canvas_size().as_vec2()).all();
            // An odd width stands half a pixel off its middle.
            prop_assert!(!drawn || view.sight().padded(0.5 / view.scale()).sees(&sprite));
        }
    }
}

/// A change of the crowd.
#[derive(Clone, Debug)]
enum Step {
    Insert(Rect),
    Move(usize, Rect),
    Remove(usize),
}

fn steps() -> impl Strategy<Value = Vec<Step>> {
    let step = prop_oneof![
        4 => boxes().prop_map(Step::Insert),
        3 => (any::<usize>(), boxes()).prop_map(|(which, to)| Step::Move(which, to)),
        2 => any::<usize>().prop_map(Step::Remove),
    ];
    prop::collection::vec(step, 0..120)
}

/// Between the true result and that of boxes which are rounded outwards to `f32`.
fn check(found: &[u32], sprites: &[(u32, Rect)], sight: &Sight) -> Result<(), TestCaseError> {
    prop_assert!(found.is_sorted_by(|a, b| a < b), "in order, each once: {found:?}");
    for (number, sprite) in sprites {
        let listed = found.binary_search(number).is_ok();
        let wide = Rect { min: sprite.min - 1e-3, max: sprite.max + 1e-3 };
        prop_assert!(listed || !sight.sees(sprite), "lost: {number}, {sprite:?}");
        prop_assert!(!listed || sight.sees(&wide), "not in view: {number}, {sprite:?}");
    }
    let known = |number: &u32| sprites.iter().any(|(known, _)| known == number);
    prop_assert!(found.iter().all(known), "gone: {found:?}");
    Ok(())
}

properties! {
    #![cases(10_000)]

    /// Grid and scan give the same result as testing each sprite, after any number of changes, in ten views.
    #[test]
    fn grid_and_pass_find_what_is_in_view(
        steps in steps(), views in prop::collection::vec(views(), 10),
        side in prop_oneof![Just(16.0), 1.0..200.0_f64, Just(f64::NAN)],
        at_once in any::<bool>(),
    ) {
        // Smaller than where sprites may be: some are beyond it.
        let area = Rect::new([-250, -300], [260, 200]);
        let first: Vec<Rect> = if at_once {
            steps.iter().filter_map(|step| match step { Step::Insert(rect) => Some(*rect), _ => None }).collect()
        } else {
            Vec::new()
        };
        let mut grid = SpriteGrid::of(&area, side, &first);
        let mut sprites: Vec<(u32, Rect)> = (0..).zip(first).collect();
        for step in steps {
            match step {
                Step::Insert(rect) => sprites.push((grid.insert(&rect), rect)),
                Step::Move(which, to) if !sprites.is_empty() => {
                    let which = which % sprites.len();
                    sprites[which].1 = to;
                    prop_assert!(grid.set(sprites[which].0, &to));
                }
                Step::Remove(which) if !sprites.is_empty() => {
                    let (number, rect) = sprites.swap_remove(which % sprites.len());
                    prop_assert!(grid.remove(number) && !grid.remove(number) && !grid.set(number, &rect));
                }
                _ => prop_assert!(!grid.remove(3) && !grid.set(0, &area)),
            }
            prop_assert_eq!(grid.len(), sprites.len());
        }
        for (number, rect) in &sprites {
            let held = grid.get(*number).expect("a sprite");
            let grown = (rect.min - held.min).max(held.max - rect.max);
            prop_assert!(grown.cmplt(DVec2::splat(1e-3)).all() && held.contains(rect.centre()), "{held:?}");
        }
        let mut boxes = Boxes::new();
        for (_, rect) in &sprites {
            let number = boxes.push(&Rect::default());
            prop_assert!(boxes.set(number, rect));
        }
        let in_order: Vec<(u32, Rect)> = (0..).zip(sprites.iter().map(|(_, rect)| *rect)).collect();
        let mut found = vec![77];
        for view in views {
            let sight = view.sight();
            grid.seen_in_any_order(&sight, &mut found);
            found.sort_unstable();
            let any_order = found.clone();
            grid.seen(&sight, &mut found);
            prop_assert_eq!(&found, &any_order);
            check(&found, &sprites, &sight)?;
            boxes.seen(&sight, &mut found);
            check(&found, &in_order, &sight)?;
        }
    }
}

/// Far from the origin `f32` is coarse: boxes only ever grow.
#[test]
fn far_out_nothing_is_lost() {
    let area = Rect::new([1e9, 1e9], [1e9 + 4096.0, 1e9 + 4096.0]);
    let sprites: Vec<Rect> = (0..2000_i32)
        .map(|index| {
            Rect::from_corner_size(
                [1e9 + f64::from(index) * 1.7, 1e9 + f64::from(index % 50)],
                [0.5, 0.5],
            )
        })
        .collect();
    let grid = SpriteGrid::of(&area, 16.0, &sprites);
    let mut boxes = Boxes::new();
    sprites.iter().for_each(|sprite| assert!(boxes.push(sprite) < 2000));
    let mut found = Vec::new();
    for x in 0..50 {
        let centre = [1e9 + f64::from(x) * 60.0 + 0.3, 1e9 + 20.0];
        let sight = View::new(Lens::new(&Screen::default()), centre, Snap::Subpixel).sight();
        let truly: Vec<u32> = (0..)
            .zip(&sprites)
            .filter(|(_, sprite)| sight.sees(sprite))
            .map(|(number, _)| number)
            .collect();
        grid.seen(&sight, &mut found);
        assert!(truly.iter().all(|number| found.binary_search(number).is_ok()));
        boxes.seen(&sight, &mut found);
        assert!(truly.iter().all(|number| found.binary_search(number).is_ok()));
    }
}

#[test]
fn odd_sprites_have_an_answer() {
    let sight = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off).sight();
    let turned =
        View::new(Lens::new(&Screen::default()).with_rotation(0.4), [0, 0], Snap::Off).sight();
    let everywhere = Rect { min: DVec2::NEG_INFINITY, max: DVec2::INFINITY };
    let nowhere = Rect { min: DVec2::NAN, max: DVec2::NAN };
    let mut grid = SpriteGrid::of(&Rect::new([0, 0], [0, 0]), 16.0, &[nowhere, everywhere]);
    assert_eq!((grid.insert(&nowhere), grid.insert(&everywhere)), (2, 3));
    let mut boxes = Boxes::new();
    for rect in [nowhere, everywhere, nowhere, everywhere] {
        boxes.push(&rect);
    }
    assert!(boxes.len() == 4 && !boxes.is_empty() && !boxes.set(4, &everywhere));
    let mut found = Vec::new();
    for sight in [sight, turned] {
        grid.seen(&sight, &mut found);
        assert_eq!(found, [1, 3]);
        boxes.seen(&sight, &mut found);
        assert_eq!(found, [1, 3]);
    }
    boxes.clear();
    boxes.seen(&sight, &mut found);
    assert!(found.is_empty() && boxes.is_empty());
    // A billion cells would be too many: they are made larger, and nothing else changes.
    let mut fine = SpriteGrid::new(&Rect::new([-5e8, -5e8], [5e8, 5e8]), 1e-3);
    let number = fine.insert(&Rect::around([3, 4], [2, 2]));
    fine.seen(&sight, &mut found);
    assert_eq!(found, [number]);
    assert!(!fine.is_empty() && fine.remove(number) && fine.is_empty());
    assert_eq!(sight.padded(f64::NAN), sight);
    assert!(!sight.sees_circle([0, 0], f64::NAN) && !sight.sees_point([f64::NAN, 0.0]));
}
