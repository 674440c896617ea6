//! Outlines: halls against brute force, and views that stay inside of the union.

use proptest::prelude::{Strategy, any, prop, prop_assert, prop_assert_eq};
use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Camera, Grid, Outline, Rect, Settings, Smoothing, YAxis};

use crate::support::properties::properties;

/// Rectangles with whole coordinates.
fn parts(count: usize, side: i32) -> impl Strategy<Value = Vec<Rect>> {
    let span = move || (0..side, 1..=side / 2).prop_map(|(from, length)| [from, from + length]);
    let part = (span(), span()).prop_map(|(x, y)| Rect::new([x[0], y[0]], [x[1], y[1]]));
    prop::collection::vec(part, 1..=count)
}

/// The unit cells that parts cover.
fn cells(parts: &[Rect], side: usize) -> Vec<Vec<bool>> {
    let covered = |x: usize, y: usize| {
        parts.iter().any(|part| part.contains([x as f64 + 0.5, y as f64 + 0.5]))
    };
    (0..side).map(|y| (0..side).map(|x| covered(x, y)).collect()).collect()
}

/// The area of a rectangle that no part covers, from the grid of all edges.
fn uncovered(parts: &[Rect], rect: &Rect) -> f64 {
    let lines = |axis: usize| {
        let (low, high) = (rect.min[axis], rect.max[axis]);
        let ends = parts.iter().flat_map(|part| [part.min[axis], part.max[axis]]);
        let mut lines: Vec<f64> = ends.map(|end| end.clamp(low, high)).chain([low, high]).collect();
        lines.sort_by(f64::total_cmp);
        lines
    };
    let (x, y) = (lines(0), lines(1));
    let mut area = 0.0;
    for x in x.windows(2) {
        for y in y.windows(2) {
            let middle = DVec2::new(x[0] + x[1], y[0] + y[1]) / 2.0;
            if !parts.iter().any(|part| part.contains(middle)) {
                area += (x[1] - x[0]) * (y[1] - y[0]);
            }
        }
    }
    area
}

fn camera(parts: &[Rect], fade: f64, change: impl FnOnce(&mut Settings)) -> Camera {
    let mut settings = Settings::default();
    settings.outlines.insert("cellar".into(), Outline::new(parts));
    settings.bounds = Some(Bounds { fade, ..Bounds::of_outline("cellar").unwrap() });
    change(&mut settings);
    Camera::new(settings).expect("valid settings")
}

/// The L of a passage of 1000 x 200 and a hall of 400 x 1000.
fn cellar() -> Vec<Rect> {
    vec![Rect::new([0, 800], [1000, 1000]), Rect::new([0, 0], [400, 1000])]
}

properties! {
    #![cases(200)]

    /// Every rectangle of cells is tried: it is a hall if it is covered, and no row or column can be added.
    #[test]
    fn halls_are_the_largest_rectangles_inside(parts in parts(9, 10)) {
        let side = 16;
        let cells = cells(&parts, side);
        let full = |x: [i64; 2], y: [i64; 2]| {
            let inside = |at: i64| usize::try_from(at).ok().filter(|at| *at < side);
            (y[0]..y[1]).all(|y| (x[0]..x[1]).all(|x| {
                inside(y).zip(inside(x)).is_some_and(|(y, x)| cells[y][x])
            }))
        };
        let mut expected = Vec::new();
        for x0 in 0..side as i64 { for x1 in x0 + 1..=side as i64 {
            for y0 in 0..side as i64 { for y1 in y0 + 1..=side as i64 {
                let (x, y) = ([x0, x1], [y0, y1]);
                let grows = full([x0 - 1, x0], y) || full([x1, x1 + 1], y)
                    || full(x, [y0 - 1, y0]) || full(x, [y1, y1 + 1]);
                if full(x, y) && !grows {
                    expected.push([x0, y0, x1, y1]);
                }
            }}
        }}
        let mut halls: Vec<[i64; 4]> = Outline::new(parts).halls().unwrap().iter()
            .map(|hall| [hall.min.x, hall.min.y, hall.max.x, hall.max.y].map(|at| at as i64))
            .collect();
        halls.sort_unstable();
        expected.sort_unstable();
        prop_assert_eq!(halls, expected);
    }

    /// Edges are where exactly one of two neighbouring cells is covered.
    #[test]
    fn edges_run_around_the_union(parts in parts(9, 10)) {
        let side = 16;
        let cells = cells(&parts, side);
        let at = |x: i64, y: i64| {
            let cell = usize::try_from(x).ok().zip(usize::try_from(y).ok());
            cell.is_some_and(|(x, y)| cells.get(y).and_then(|row| row.get(x)) == Some(&true))
        };
        let edges = Outline::new(parts).edges();
        let on_edge = |middle: DVec2| edges.iter().filter(|[from, to]| {
            let along = (middle - *from).dot(*to - *from) / (*to - *from).length_squared();
            (0.0..1.0).contains(&along) && (*from + (*to - *from) * along - middle).length() < 1e-9
        }).count();
        for y in 0..side as i64 { for x in 0..side as i64 {
            let (left, top) = (DVec2::new(x as f64, y as f64 + 0.5), DVec2::new(x as f64 + 0.5, y as f64));
            prop_assert_eq!(on_edge(left), usize::from(at(x, y) != at(x - 1, y)), "left of {}, {}", x, y);
            prop_assert_eq!(on_edge(top), usize::from(at(x, y) != at(x, y - 1)), "above {}, {}", x, y);
        }}
    }

    /// A map's outline covers exactly the cells that were asked for.
    #[test]
    fn a_grid_makes_an_outline(map in prop::collection::vec(any::<bool>(), 77), up in any::<bool>()) {
        let grid = Grid::new(11, 7, [16, 8]).with_origin([-32, 40]);
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let outline = grid.outline(&map, y_axis, |inside| *inside);
        for row in 0..7_i64 { for column in 0..11_i64 {
            let middle = grid.tile_rect(column, row, y_axis).centre();
            let holds = outline.parts.iter().filter(|part| part.contains(middle)).count();
            prop_assert_eq!(holds, usize::from(map[(row * 11 + column) as usize]), "{}, {}", column, row);
        }}
    }
}

#[test]
fn an_l_is_followed_around_its_corner() {
    // The subject walks along the passage, and goes up in the hall.
    let mut camera = camera(&cellar(), 0.5, |_| {});
    let mut last = camera.follow(0.0, [900, 950]).centre();
    let mut at = DVec2::new(900.0, 950.0);
    let mut most: f64 = 0.0;
    while at.y > 200.0 {
        let axis = usize::from(at.x <= 390.0);
        at[axis] -= 2.0;
        let view = camera.follow(1.0 / 60.0, at);
        // At worst it is at the edge of the screen in both halls.
        let seen = view.visible_world();
        let near = Rect::around(seen.centre(), seen.size() / 2.0 + 12.0);
        assert!(near.contains(at), "{at} in {seen:?}");
        most = most.max((view.centre() - last).length());
        last = view.centre();
    }
    for _frame in 0..60 {
        last = camera.follow(1.0 / 60.0, at).centre();
    }
    assert_eq!(last, DVec2::new(240.0, at.y));
    // The nearest centre alone would jump by 212.
    assert!(most < 16.0, "{most} in one frame");
}

/// A way through a world at up to some speed, as positions in steps of a 60th of a second.
fn way(seed: [f64; 6], size: DVec2) -> impl Fn(f64) -> DVec2 {
    move |t: f64| {
        let [a, b, c, d, e, f] = seed;
        let x = 0.5 + 0.36 * (a * t + b).sin() + 0.14 * (2.7 * c * t).sin();
        let y = 0.5 + 0.36 * (d * t + e).sin() + 0.14 * (2.3 * f * t).cos();
        DVec2::new(x, y) * size
    }
}

properties! {
    #![cases(30)]

    /// The union and the view are compared part by part. Where the hall is large enough for the view, nothing outside
    /// is seen, and where it is not, no more than centring there shows.
    #[test]
    fn the_outside_is_not_seen(
        parts in parts(60, 40),
        seed in prop::array::uniform6(0.3..1.2_f64),
        zoom in 0.6..2.5_f64,
        lag in 0.0..0.3_f64,
        fade in prop::sample::select(vec![0.0, 0.4]),
        cushion in prop::sample::select(vec![0.0, 0.1]),
    ) {
        let scaled: Vec<Rect> = parts.iter().map(|part| Rect { min: part.min * 40.0, max: part.max * 40.0 }).collect();
        let mut camera = camera(&scaled, fade, |settings| {
            settings.zoom.level = zoom;
            settings.bounds.as_mut().unwrap().cushion_depth = cushion;
            settings.follow.smoothing = Smoothing::HalfLife(lag).into();
        });
        let halls = Outline::new(scaled.clone()).halls().unwrap();
        let way = way(seed, DVec2::splat(2000.0));
        let mut still = 0;
        for frame in 0..400 {
            let at = way(f64::from(frame) / 60.0);
            let view = camera.follow(1.0 / 60.0, at);
            let (seen, hall) = (view.visible_world(), camera.bounds_now().expect("bounds"));
            // On its way into another hall, the walls of this one are let out.
            if camera.is_gliding() || !halls.contains(&hall) {
                continue;
            }
            still += 1;
            let lacks = (seen.size() - hall.size()).max(DVec2::ZERO);
            let least = seen.size().element_product() - (seen.size() - lacks).element_product();
            let outside = uncovered(&scaled, &seen);
            prop_assert!(outside <= least + 1e-6, "{outside} for {least} at {at} in frame {frame}");
            let is_held = scaled.iter().any(|part| part.contains(at));
            if is_held && lacks == DVec2::ZERO && lag == 0.0 && cushion == 0.0 {
                prop_assert!(seen.contains(at), "{at} is not in {seen:?}");
            }
        }
        prop_assert!(still > 0);
    }
}

/// A game changes between outlines and rectangles, by name, at their times, and a state knows which.
#[test]
fn bounds_change_between_outlines_and_rectangles() {
    let attic = Outline::new([Rect::new([2000, 0], [2600, 400])]);
    let mut camera = camera(&cellar(), 0.5, |settings| {
        settings.outlines.insert("attic".into(), attic);
    });
    camera.follow(0.0, [200, 500]);
    assert_eq!(camera.bounds_now(), Some(Rect::new([0, 0], [400, 1000])));
    camera.set_bounds("attic", 0.3).unwrap();
    camera.follow(0.1, [200, 500]);
    let state = camera.state();
    for _frame in 0..30 {
        camera.follow(1.0 / 60.0, [200, 500]);
    }
    assert_eq!(camera.view().visible_world().min.x, 2000.0);
    camera.set_bounds(Rect::new([0, 0], [900, 900]), 0.0).unwrap();
    camera.follow(0.1, [20, 20]);
    assert_eq!(camera.view().visible_world().min, DVec2::ZERO);
    camera.set_bounds(None, 0.0).unwrap();
    camera.follow(0.1, [20, 20]);
    assert_eq!((camera.bounds_now(), camera.view().centre()), (None, DVec2::splat(20.0)));
    // The state is one on its way into the attic. Settings without it know of no such bounds.
    camera.restore(state).unwrap();
    assert_eq!(camera.bounds().unwrap().outline.unwrap().as_str(), "attic");
    let mut settings = camera.settings().clone();
    settings.outlines.remove("attic");
    camera.set_settings(settings, 0.0).unwrap();
    assert_eq!(camera.bounds().unwrap().outline.unwrap().as_str(), "cellar");
    assert!(camera.view().visible_world().min.x >= 0.0);
}

/// Without smoothing, the drag of a player and a shown place stay inside, too.
#[test]
fn a_hand_stays_inside() {
    let parts = cellar();
    let mut camera = camera(&parts, 0.0, |_| {});
    camera.follow(0.0, [900, 900]);
    camera.grab([160.0, 90.0].into());
    for step in 0..120 {
        let moved = step as f32 * 6.0;
        camera.drag_to([160.0 + moved, 90.0 + moved].into());
        let seen = camera.follow(1.0 / 60.0, [900, 900]).visible_world();
        assert!(uncovered(&parts, &seen) < 1e-6, "{seen:?}");
    }
    assert!(camera.view().centre().y < 400.0, "it came into the hall");
    camera.release();
    camera.show(&Rect::around([700.0, 850.0], [160.0, 90.0]), 0.4, velvet_pan::Ease::Smooth);
    for _frame in 0..60 {
        camera.follow(1.0 / 60.0, [900, 900]);
    }
    assert_eq!(camera.view().visible_world(), Rect::new([540, 800], [860, 980]));
}
