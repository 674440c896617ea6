//! Drawn straight into the window, without a canvas.

use velvet_pan_wgpu::velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan_wgpu::velvet_pan::{Fit, Lens, Screen, Snap, View, WindowPoint, YAxis};

use crate::card;
use crate::drawing::{draw, quad};

/// The side of the squares that are drawn, in window pixels.
const SIDE: f64 = 10.0;

/// World points in and around a view, with the number of the square that is drawn there.
fn points(view: &View) -> Vec<(u32, DVec2)> {
    let size = view.size().as_vec2();
    let at = (0..35_u32).map(|index| Vec2::new((index % 7) as f32 / 6.0, (index / 7) as f32 / 4.0));
    (1..).zip(at.map(|at| view.screen_to_world((0.02 + 0.96 * at) * size))).collect()
}

/// Views of every fit, in windows of every shape, at several zooms and rotations.
fn views() -> impl Iterator<Item = View> {
    let windows = [[960, 540], [683, 384], [500, 500], [320, 550], [639, 359], [300, 150]];
    let lenses = [(1.0, 0.0, Snap::Off), (0.7, 0.4, Snap::Off), (2.3, 0.0, Snap::Subpixel)];
    let fits = [Fit::Whole, Fit::Contain, Fit::Reveal, Fit::Cover];
    let design = UVec2::new(160, 90);
    let windows = fits.into_iter().flat_map(move |fit| windows.map(|window| (fit, window)));
    let each = windows.flat_map(move |in_window| lenses.map(|lens| (in_window, lens)));
    each.map(move |((fit, window), (zoom, turn, snap))| {
        let y_axis = if turn == 0.0 { YAxis::Down } else { YAxis::Up };
        let size = fit.screen_size(design, window.into());
        let screen = Screen { size, y_axis, ..Screen::default() };
        let lens = Lens::new(&screen).with_zoom(zoom).with_rotation(turn);
        let view = View::new(lens, [70_000.3, -41_000.7], snap);
        view.with_fit(fit, design).with_window(window)
    })
}

/// The middle of each square is where `screen_to_window` has its point, to half a pixel.
#[test]
fn a_point_is_drawn_where_the_view_has_it_in_the_window() {
    let Some(card) = card() else { return };
    let mut drawn = 0;
    for view in views() {
        let half = DVec2::splat(SIDE / 2.0 / (view.scale() * view.placement().scale));
        let points = points(&view);
        let corner = |at: DVec2| view.world_to_relative(at);
        let square =
            |(number, at): &(u32, DVec2)| quad(corner(*at - half), corner(*at + half), *number);
        let corners: Vec<_> = points.iter().flat_map(square).collect();
        let size = UVec2::new(view.window_size().width, view.window_size().height);
        let matrix = view.relative_to_window_clip_matrix();
        let middles = middles(&draw(&card, size, matrix, Vec2::ZERO, &corners), size.x);
        for (number, at) in points {
            let expected = in_window(view.screen_to_window(view.world_to_screen(at)));
            let direct = in_window(view.world_to_window(at));
            assert!((expected - direct).abs().max_element() < 2e-3, "{expected}, {direct}");
            let inside = (expected - SIDE).cmpge(DVec2::ZERO).all()
                && (expected + SIDE).cmple(size.as_dvec2()).all();
            if inside {
                let gap = (middles[number as usize] - expected).abs().max_element();
                assert!(gap <= 0.51, "{:?} {size}: {gap} window pixels", view.placement());
                drawn += 1;
            }
        }
    }
    assert!(drawn > 1000, "{drawn} squares");
}

fn in_window(point: WindowPoint) -> DVec2 {
    Vec2::new(point.x, point.y).as_dvec2()
}

/// The middle of the pixels with each number.
fn middles(pixels: &[u32], width: u32) -> [DVec2; 36] {
    let mut sums = [DVec2::ZERO; 36];
    let mut counts = [0.0; 36];
    for (index, number) in (0_u32..).zip(pixels).filter(|(_, number)| **number > 0) {
        let number = *number as usize;
        sums[number] += DVec2::new(f64::from(index % width), f64::from(index / width)) + 0.5;
        counts[number] += 1.0;
    }
    core::array::from_fn(|number| sums[number] / counts[number])
}
