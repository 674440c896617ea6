//! Ground lost for a moment, and real jumps: `airborne = "hold"` with what a game's physics reports.

use velvet_pan::glam::DVec2;
use velvet_pan::{Airborne, Camera, Deadzone, Settings, Smoothing, Subject, YAxis};

use crate::support::smooth;

/// What physics reports at a time: where the player is, how it moves, and whether there is contact.
type World = fn(f64) -> (DVec2, DVec2, bool);

/// How a game calls the camera.
#[derive(Clone, Copy, Debug)]
struct Game {
    /// Frames per second.
    rate: f64,
    /// Physics in 60 fixed steps a second, drawn between the last two; else one step for each frame.
    fixed: bool,
    /// Whether the game hands in the velocity.
    given: bool,
    /// Whether contact is reported one step late.
    late: bool,
}

/// The moment at which everything begins: between two frames of every rate.
const START: f64 = 1.01;

fn games() -> impl Iterator<Item = Game> {
    let rates = [30.0, 60.0, 144.0];
    (0..24).map(move |number| Game {
        rate: rates[number % 3],
        fixed: number / 3 % 2 == 1,
        given: number / 6 % 2 == 1,
        late: number / 12 % 2 == 1,
    })
}

impl Game {
    /// The subjects of five seconds, the first of them at rest.
    fn subjects(self, world: World) -> Vec<Subject> {
        let step = if self.fixed { 1.0 / 60.0 } else { 1.0 / self.rate };
        let at = |number: f64| {
            let (position, velocity, _) = world(number * step);
            let contact = world((number - f64::from(u8::from(self.late))) * step).2;
            let subject = Subject::from(position).with_grounded(contact);
            if self.given { subject.with_velocity(velocity) } else { subject }
        };
        let subject = |frame: u32| {
            let steps = f64::from(frame) / self.rate / step;
            let whole = (steps + 1e-9).floor();
            Subject::between(&at(whole), &at(whole + 1.0), steps - whole)
        };
        (0..=(5.0 * self.rate) as u32).map(subject).collect()
    }

    fn ride(self, settings: &Settings, world: World) -> Vec<f64> {
        let mut camera = Camera::new(settings.clone()).expect("valid settings");
        let subjects = self.subjects(world).into_iter();
        let mut view = |subject| camera.follow(1.0 / self.rate, subject);
        subjects.map(|subject| view(subject).centre().y * settings.screen.unit_pixels).collect()
    }

    /// The distances in height between holding and following, in screen pixels.
    fn gaps(self, settings: &Settings, world: World) -> Vec<f64> {
        let mut following = settings.clone();
        following.follow.airborne = Airborne::Follow;
        let rides = self.ride(settings, world).into_iter().zip(self.ride(&following, world));
        rides.map(|(held, followed)| (held - followed).abs()).collect()
    }
}

/// Holding, with several kinds of smoothing, with and without a deadzone.
fn holding() -> Vec<Settings> {
    let mut all = Vec::new();
    for smoothing in [Smoothing::None, Smoothing::HalfLife(0.1), Smoothing::Settle(0.4)] {
        for side in [0.0, 0.15] {
            let mut settings = smooth(smoothing);
            settings.follow.airborne = Airborne::Hold;
            settings.follow.deadzone =
                Deadzone { left: side, right: side, top: side, bottom: side };
            all.push(settings);
        }
    }
    all
}

/// The greatest of a figure over all games and settings.
fn worst(what: &str, figure: impl Fn(Game, &Settings) -> f64) -> f64 {
    let settings = holding();
    let cases = games().flat_map(|game| settings.iter().map(move |settings| (game, settings)));
    let all = cases.map(|(game, settings)| (figure(game, settings), game, settings));
    let (worst, game, settings) = all.max_by(|a, b| a.0.total_cmp(&b.0)).expect("several games");
    println!(
        "{what}: {worst:.4} with {game:?}, {:?}, deadzone {}",
        settings.follow.smoothing, settings.follow.deadzone.top
    );
    worst
}

fn greatest(gaps: &[f64]) -> f64 {
    gaps.iter().copied().fold(0.0, f64::max)
}

fn root_mean_square(gaps: &[f64]) -> f64 {
    (gaps.iter().map(|gap| gap * gap).sum::<f64>() / gaps.len() as f64).sqrt()
}

// Worlds. Heights are above y = 500.

fn at(x: f64, height: f64) -> DVec2 {
    DVec2::new(x, 500.0 - height)
}

/// Whether this is a step of a 60th of a second in which contact is missing.
fn gap(t: f64, every: f64) -> bool {
    let within = t.rem_euclid(every);
    t > 0.5 && within < 1.0 / 60.0 - 1e-9
}

fn rest(t: f64) -> (DVec2, DVec2, bool) {
    (at(0.0, 0.0), DVec2::ZERO, !gap(t, 0.7))
}

/// Up a slope of 45 degrees at 141 units/s, with every fifth step in the air.
fn up(t: f64) -> (DVec2, DVec2, bool) {
    (at(100.0 * t, 100.0 * t), DVec2::new(100.0, -100.0), !gap(t, 5.0 / 60.0))
}

fn down(t: f64) -> (DVec2, DVec2, bool) {
    (at(100.0 * t, -100.0 * t), DVec2::new(100.0, 100.0), !gap(t, 5.0 / 60.0))
}

/// Flat at first, then down a slope on which contact is never reported.
fn slides(t: f64) -> (DVec2, DVec2, bool) {
    let on = (t - START).max(0.0);
    let pace = if on > 0.0 { 142.0 } else { 0.0 };
    (at(142.0 * t, -142.0 * on), DVec2::new(142.0, pace), on == 0.0)
}

/// Off an edge, and down to a floor 200 lower.
fn falls(t: f64) -> (DVec2, DVec2, bool) {
    let on = (t - START).max(0.0);
    let depth = (500.0 * on * on).min(200.0);
    let pace = if depth < 200.0 { 1000.0 * on } else { 0.0 };
    (at(142.0 * t, -depth), DVec2::new(142.0, pace), on == 0.0 || depth == 200.0)
}

/// As a controller sees it that never reports ground: a slope, an edge, a floor.
fn never(t: f64) -> (DVec2, DVec2, bool) {
    let (place, velocity, _) = if t < 3.0 { falls(t) } else { falls(3.0) };
    let climbed = 142.0 * (t - 3.0).max(0.0);
    (DVec2::new(142.0 * t, place.y - climbed), velocity, false)
}

/// From flat ground onto a slope of 45 degrees, at a speed, with contact missing for two steps about the bend.
fn onto_slope(t: f64, speed: f64) -> (DVec2, DVec2, bool) {
    let on = (t - START).max(0.0);
    let rise = if on > 0.0 { speed } else { 0.0 };
    let contact = !(1.0..1.035).contains(&t);
    (at(speed * t, speed * on), DVec2::new(speed, -rise), contact)
}

/// A jump, while running at a speed.
fn jump(t: f64, speed: f64, rise: f64) -> (DVec2, DVec2, bool) {
    let on = (t - START).max(0.0);
    let up = rise * on - 500.0 * on * on;
    let flies = on > 0.0 && up > 0.0;
    let pace = if flies { 1000.0 * on - rise } else { 0.0 };
    (at(speed * t, up.max(0.0)), DVec2::new(speed, pace), !flies)
}

/// A jump from a lift that goes up at 60 units/s.
fn jump_from_lift(t: f64) -> (DVec2, DVec2, bool) {
    let (place, velocity, contact) = jump(t, 0.0, 346.0);
    (place - DVec2::new(0.0, 60.0 * t), velocity - DVec2::new(0.0, 60.0), contact)
}

/// The greatest movement of the height from before a jump until it lands.
fn moved_in_flight(game: Game, settings: &Settings, world: World) -> f64 {
    let heights = game.ride(settings, world);
    let landing = (1..5000).map(|tick| f64::from(tick) / 1000.0).find(|t| *t > 1.1 && world(*t).2);
    let frames = (0.9 * game.rate) as usize..(landing.expect("it lands") * game.rate) as usize;
    let start = heights[frames.start];
    greatest(&heights[frames].iter().map(|y| (y - start).abs()).collect::<Vec<_>>())
}

#[test]
fn ground_lost_for_a_frame_at_rest_moves_nothing() {
    assert!(worst("at rest", |game, set| greatest(&game.gaps(set, rest))) < 0.01);
}

#[test]
fn ground_lost_for_a_frame_on_a_slope_moves_nothing() {
    for (what, slope) in [("up", up as World), ("down", down)] {
        assert!(worst(what, |game, set| greatest(&game.gaps(set, slope))) < 0.1);
        assert!(worst(what, |game, set| root_mean_square(&game.gaps(set, slope))) < 0.05);
    }
}

#[test]
fn ground_lost_without_a_push_is_followed_however_long() {
    for (what, world) in [("slides", slides as World), ("falls", falls), ("never", never)] {
        assert!(worst(what, |game, set| greatest(&game.gaps(set, world))) < 0.1, "{what}");
    }
}

#[test]
fn running_onto_a_slope_is_no_push() {
    let slopes: [(&str, World); 2] =
        [("at 142", |t| onto_slope(t, 142.0)), ("at 611", |t| onto_slope(t, 611.0))];
    for (what, world) in slopes {
        // It is followed again as soon as there is contact, and has waited for as long as there was none.
        let settled = |game: Game, set: &Settings| {
            greatest(&game.gaps(set, world)[(2.5 * game.rate) as usize..])
        };
        assert!(worst(what, settled) < 0.1, "{what}");
    }
}

#[test]
fn a_jump_from_flat_ground_is_held_until_it_lands() {
    let jumps: [(&str, World); 3] = [
        ("jump from rest", |t| jump(t, 0.0, 346.0)),
        ("low jump from rest", |t| jump(t, 0.0, 200.0)),
        ("running jump", |t| jump(t, 142.0, 346.0)),
    ];
    for (what, world) in jumps {
        let in_time = |game: Game, set: &Settings| {
            if game.late { 0.0 } else { moved_in_flight(game, set, world) }
        };
        assert!(worst(what, in_time) < 0.01, "{what}");
        // A late report: the step in which it jumped is followed, and no more.
        let late = |game: Game, set: &Settings| {
            let step = if game.fixed { game.rate.min(60.0) } else { game.rate };
            moved_in_flight(game, set, world) * step
        };
        assert!(worst(what, late) < 1.05 * 346.0, "{what}");
    }
}

#[test]
fn a_hop_within_the_deadzone_moves_nothing() {
    for (what, world) in
        [("hop", (|t| jump(t, 0.0, 200.0)) as World), ("running hop", |t| jump(t, 142.0, 200.0))]
    {
        let moved = |game: Game, set: &Settings| {
            let mut set = set.clone();
            set.follow.deadzone.top = 0.15;
            let heights = game.ride(&set, world);
            greatest(&heights.iter().map(|y| (y - heights[0]).abs()).collect::<Vec<_>>())
        };
        assert!(worst(what, moved) < 1e-9, "{what}");
    }
}

#[test]
fn a_landing_respects_the_deadzone() {
    let mut settings = Settings::default();
    settings.follow.airborne = Airborne::Hold;
    (settings.follow.deadzone.top, settings.follow.deadzone.bottom) = (0.1, 0.1);
    let mut camera = Camera::new(settings).expect("valid settings");
    camera.follow(0.0, Subject::from([0, 0]));
    // Up to a ledge that is 18 + 7 higher: the deadzone of 18 is used up first.
    for (height, stands) in [(20.0, false), (40.0, false), (30.0, false), (25.0, true)] {
        camera.follow(1.0 / 60.0, Subject::from([0.0, -height]).with_grounded(stands));
    }
    assert!((camera.view().centre().y + 7.0).abs() < 1e-9, "{}", camera.view().centre());
}

#[test]
fn what_the_game_says_of_a_jump_counts() {
    let ride = |jump: Option<bool>, rise: f64| {
        let mut settings = Settings::default();
        settings.follow.airborne = Airborne::Hold;
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.follow(0.0, Subject::from([0, 0]));
        // It is told with the last contact, as games do that take the button before they move the player.
        camera.follow(1.0 / 60.0, Subject { jump, ..Subject::from([0, 0]) });
        for frame in 1..20 {
            let air = Subject::from([0.0, -rise * f64::from(frame) / 60.0]).with_grounded(false);
            let jump = jump.map(|jump| jump && frame == 1);
            camera.follow(1.0 / 60.0, Subject { jump, ..air });
        }
        camera.view().centre().y
    };
    // Too slow for a push, and yet a jump; as fast as one, and yet none.
    assert_eq!((ride(Some(true), 60.0), ride(None, 60.0)), (0.0, -19.0));
    assert_eq!((ride(None, 240.0), ride(Some(false), 240.0)), (0.0, -76.0));
}

#[test]
fn neither_the_unit_nor_the_worlds_y_matters() {
    let jump: World = |t| jump(t, 142.0, 346.0);
    for world in [jump, up, |t| onto_slope(t, 142.0)] {
        let ride = |unit: f64, y_axis: YAxis| {
            let mut settings = holding().swap_remove(2);
            settings.screen.unit_pixels = unit;
            settings.screen.y_axis = y_axis;
            let up = if y_axis == YAxis::Up { -1.0 } else { 1.0 };
            let mut camera = Camera::new(settings).expect("valid settings");
            let subjects = games().nth(2).expect("a game").subjects(world).into_iter();
            let heights = subjects.map(|subject| {
                let position = DVec2::new(subject.position.x, subject.position.y * up) / unit;
                let view = camera.follow(1.0 / 144.0, Subject { position, ..subject });
                view.centre().y * up * unit
            });
            heights.collect::<Vec<_>>()
        };
        let plain = ride(1.0, YAxis::Down);
        for (unit, y_axis) in [(16.0, YAxis::Down), (1.0, YAxis::Up), (0.25, YAxis::Up)] {
            let gaps = plain.iter().zip(ride(unit, y_axis)).map(|(a, b)| (a - b).abs());
            assert!(gaps.fold(0.0, f64::max) < 1e-6, "{unit} pixels per unit, {y_axis:?}");
        }
    }
}

#[test]
fn a_jump_is_measured_against_the_carrier() {
    // The lift goes on under it: a hold keeps the height that it had at the push.
    let held = |game: Game, settings: &Settings, carrier: bool| {
        let mut camera = Camera::new(settings.clone()).expect("valid settings");
        let lift =
            |subject: Subject| if carrier { subject.with_carrier([0, -60]) } else { subject };
        let subjects = game.subjects(jump_from_lift).into_iter().map(lift);
        let heights = subjects.map(|subject| camera.follow(1.0 / game.rate, subject).centre().y);
        let heights: Vec<_> = heights.collect();
        // From when it is certain until shortly before it lands: with a still goal the view comes to rest.
        (heights[(1.15 * game.rate) as usize] - heights[(1.65 * game.rate) as usize]).abs()
    };
    let plain = &holding()[0];
    for game in games().filter(|game| !game.late) {
        assert!(held(game, plain, true) < 0.01, "{game:?}");
        assert!(held(game, plain, false) < 0.01, "{game:?}");
    }
}
