//! The player as drawn: it trembles neither in the window nor against the ground.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, Smoothing, Snap, Subject, View};

const SNAPS: [Snap; 3] = [Snap::Off, Snap::Whole, Snap::Subpixel];
const SECONDS: u32 = 10;

/// How a player moves, at a speed in world units per second.
type Way = (&'static str, fn(f64, f64) -> DVec2);

const WAYS: [Way; 4] = [
    ("runs", |speed, t| DVec2::new(100.3 + speed * t, 50.7)),
    ("runs and stops", |speed, t| {
        let lap = (t / 3.0).floor();
        DVec2::new(100.3 + speed * (1.7 * lap + (t - 3.0 * lap).min(1.7)), 50.7)
    }),
    ("falls from ledge to ledge", |speed, t| {
        let lap = (t / 2.0).floor();
        let fall = (t - 2.0 * lap).min(1.0);
        DVec2::new(100.3 + speed * t, 50.7 + 90.0 * (lap + fall * fall))
    }),
    ("rides a platform", |speed, t| DVec2::new(100.3 + speed * (0.7 * t).sin(), 50.7)),
];

/// Where the player and the ground are drawn in a frame, in window pixels, and where they truly are.
struct Drawn {
    player: DVec2,
    on_one_canvas: DVec2,
    ground: DVec2,
    true_player: DVec2,
    true_ground: DVec2,
}

/// A camera, and the player's way through a game of some display rate: one step for each frame, or 60 fixed steps a
/// second and interpolation.
fn frames(settings: &Settings, rate: f64, fixed: bool, way: &dyn Fn(f64) -> DVec2) -> Vec<Drawn> {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    camera.resize((1280, 720));
    let start = Subject::from(way(0.0));
    let mut now = (camera.follow(0.0, start), start);
    let (mut last, mut steps) = (now, 0.0);
    let frame = |frame: u32| {
        let t = f64::from(frame) / rate;
        if !fixed {
            let player = way(t);
            return draw(&camera.follow(1.0 / rate, player), player);
        }
        while (steps + 1.0) / 60.0 <= t + 1e-9 {
            steps += 1.0;
            let player = Subject::from(way(steps / 60.0));
            last = now;
            now = (camera.follow(1.0 / 60.0, player), player);
        }
        let fraction = t * 60.0 - steps;
        let view = View::between(&last.0, &now.0, fraction);
        draw(&view, Subject::between(&last.1, &now.1, fraction).position)
    };
    (1..=SECONDS * rate as u32).map(frame).collect()
}

/// The recipe is the player on its own canvas. For comparison, the player on the world's canvas.
fn draw(view: &View, player: DVec2) -> Drawn {
    // At a whole scale, `present` shows a canvas from the first window pixel whose middle is in it.
    let shown =
        |origin: DVec2| if view.snap() == Snap::Off { origin } else { (origin - 0.5).ceil() };
    let (canvas, tree) = (view.placement(), DVec2::new(90.0, 40.0));
    let truly = |world: DVec2| view.lens().to_screen_axes(world - view.centre()) * canvas.scale;
    let on_canvas = |world: DVec2| view.canvas_position(world).as_dvec2() * canvas.scale;
    Drawn {
        player: shown(view.followed_placement(player).origin),
        on_one_canvas: shown(canvas.origin + on_canvas(player)),
        ground: shown(canvas.origin + on_canvas(tree)),
        true_player: truly(player),
        true_ground: truly(tree),
    }
}

/// The number of times that something drawn goes one way and then back, while in truth it does not turn.
fn reversals(places: &[(f64, f64)]) -> usize {
    let steps = places.windows(2).map(|pair| (pair[1].0 - pair[0].0, pair[1].1 - pair[0].1));
    let (mut last, mut ways, mut count) = (0.0, [false; 2], 0);
    for (drawn, real) in steps {
        ways = [ways[0] || real < -1e-6, ways[1] || real > 1e-6];
        if drawn.abs() < 0.01 {
            continue;
        }
        count += usize::from(drawn * last < 0.0 && ways != [true; 2]);
        (last, ways) = (drawn, [real < -1e-6, real > 1e-6]);
    }
    count
}

/// The most reversals of ten seconds: in the window, and against the ground.
fn worst(rides: &[Vec<Drawn>], player: fn(&Drawn) -> DVec2) -> [usize; 2] {
    let count = |place: &dyn Fn(&Drawn) -> (DVec2, DVec2)| {
        let along = |ride: &Vec<Drawn>, axis: usize| {
            let one = |drawn: &Drawn| (place(drawn).0[axis], place(drawn).1[axis]);
            reversals(&ride.iter().map(one).collect::<Vec<_>>())
        };
        rides.iter().flat_map(|ride| [along(ride, 0), along(ride, 1)]).max().expect("rides")
    };
    let window = count(&|it| (player(it), it.true_player));
    [window, count(&|it| (player(it) - it.ground, it.true_player - it.true_ground))]
}

/// Run with `--nocapture` for the table.
#[test]
fn the_player_trembles_neither_in_the_window_nor_on_the_ground() {
    println!("most reversals of {SECONDS} s: in the window, and against the ground");
    let smooth = [Smoothing::None, Smoothing::HalfLife(0.1)];
    for (snap, smoothing) in SNAPS.iter().flat_map(|snap| smooth.map(|smooth| (*snap, smooth))) {
        let mut settings = Settings::default();
        settings.screen.snap = snap;
        settings.follow.smoothing = smoothing.into();
        for (name, way) in WAYS {
            let mut rides = Vec::new();
            for (rate, fixed) in
                [60.0, 75.0, 144.0].into_iter().flat_map(|rate| [(rate, false), (rate, true)])
            {
                for speed in [37.0, 142.0, 611.0] {
                    rides.push(frames(&settings, rate, fixed, &|t| way(speed, t)));
                }
            }
            let (own, one) = (worst(&rides, |it| it.player), worst(&rides, |it| it.on_one_canvas));
            println!(
                "{snap:<10?} {smoothing:<14?} {name:<26} own canvas {own:?}, one canvas {one:?}"
            );
            let most = match (snap, name) {
                (Snap::Off, _) => [0, 0],
                // While a slow platform turns, the view overtakes it: no whole pixel is right to both.
                (_, "rides a platform") => [10, 30],
                // A change of what it is rounded against is up to one screen pixel.
                (Snap::Whole, _) => [4, 8],
                _ => [0, 0],
            };
            assert!(
                own[0] <= most[0] && own[1] <= most[1],
                "{snap:?}, {smoothing:?}, {name}: {own:?}"
            );
        }
    }
}

#[test]
fn a_subject_between_two_steps() {
    let last = Subject::from([10, 0]).with_velocity([60, 0]).with_grounded(true);
    let now = Subject::from([14, 8]).with_velocity([0, 120]).with_grounded(false).with_id(3);
    let half = Subject::between(&last, &now, 0.5);
    assert_eq!(
        (half.position, half.velocity),
        (DVec2::new(12.0, 4.0), Some(DVec2::new(30.0, 60.0)))
    );
    assert_eq!((half.grounded, half.id), (Some(false), Some(3)));
    for (fraction, end) in [(f64::NAN, last), (-1.0, last), (0.0, last), (1.0, now), (7.0, now)] {
        assert_eq!(Subject::between(&last, &now, fraction), end);
    }
    // A velocity that only one of them has is not mixed.
    let unknown = Subject { velocity: None, ..last };
    assert_eq!(Subject::between(&unknown, &now, 0.5).velocity, now.velocity);
}
