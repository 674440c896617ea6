//! What players of two games would feel: a platformer, and a party seen from above.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Bounds, Camera, Fit, Leash, LookAhead, Rect, Settings, Smoothing, Snap, Subject, View,
};

use super::known::Measures;

const DT: f64 = 1.0 / 60.0;

fn camera(set: impl FnOnce(&mut Settings)) -> Camera {
    let mut settings = Settings::default();
    set(&mut settings);
    Camera::new(settings).expect("valid settings")
}

/// Players who run apart from one point. Returns the frames in which somebody who is shown is not all in the picture.
fn apart(players: u32, speed: f64) -> u32 {
    let mut camera = camera(|settings| settings.follow.smoothing = Smoothing::HalfLife(0.1).into());
    let mut outside = 0;
    for frame in 0..300 {
        let run = |id: u32| {
            let way =
                DVec2::from_angle(core::f64::consts::TAU * f64::from(id) / f64::from(players));
            let at = way * DVec2::new(1.0, 0.5) * speed * DT * f64::from(frame);
            Subject::from(at).with_id(id).with_margin(16.0)
        };
        let all: Vec<Subject> = (0..players).map(run).collect();
        let view = camera.follow_all(if frame == 0 { 0.0 } else { DT }, &all);
        let shown = view.visible_world();
        let is_out = |one: &Subject| {
            let is_counted = one.id.is_none_or(|id| !camera.is_dropped(id));
            is_counted
                && (one.position - shown.min).min(shown.max - one.position).min_element() < 16.0
        };
        // At the smallest zoom the rest may be outside.
        let is_widest = view.lens().zoom() < 0.5 + 1e-3;
        outside += u32::from(!is_widest && all.iter().any(is_out));
    }
    outside
}

#[test]
fn a_party_that_runs_apart_stays_in_the_picture() {
    let mut measures = Measures::of("party");
    for speed in [70, 130, 300, 600] {
        for players in [2, 4, 6] {
            let frames = apart(players, f64::from(speed));
            let what = format!("{players} players at {speed} a second: frames with one outside");
            measures.at_most(0.0, &what, f64::from(frames));
        }
    }
    measures.check();
}

/// A jump of 70 units whose leash lets it go up 63: the view goes up no faster than the player.
#[test]
fn a_held_jump_that_reaches_its_leash() {
    let mut measures = Measures::of("held jump");
    let mut camera = camera(|settings| {
        settings.follow.airborne = Airborne::Hold;
        settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
        settings.follow.leash = Some(Leash(DVec2::splat(0.35)));
    });
    let (gravity, push) = (900.0, 355.0);
    let mut faster: f64 = 0.0;
    let mut last = camera.follow(0.0, [0.0, 0.0]).centre().y;
    let mut height = 0.0;
    for frame in 1..120 {
        let t = (f64::from(frame) * DT - 0.5).max(0.0);
        let up = (push * t - gravity * t * t / 2.0).max(0.0);
        let player = Subject::from([0.0, -up]).with_grounded(up == 0.0);
        let y = camera.follow(DT, player).centre().y;
        let (view_up, player_up) = (last - y, (up - height).max(0.0));
        faster = if up > 0.0 { faster.max((view_up - player_up) / DT) } else { faster };
        (last, height) = (y, up);
    }
    measures.at_most(1.0, "view above the player's speed in units a second", faster);
    measures.check();
}

/// The player runs to the end of a world in a window that does not show the whole screen.
#[test]
fn cover_shows_the_player_at_the_edge_of_the_world() {
    let mut measures = Measures::of("cover");
    let mut camera = camera(|settings| {
        settings.screen.fit = Fit::Cover;
        settings.bounds = Some(Bounds::new(Rect::new([0, 0], [2000, 400])));
    });
    camera.resize((640, 480));
    let mut outside: f32 = 0.0;
    for frame in 0..=100 {
        let player = DVec2::new(1000.0 - 9.9 * f64::from(frame), 200.0);
        let view = camera.follow(DT, player);
        outside = outside.max(-view.world_to_window(player).x);
    }
    measures.at_most(0.0, "player outside of the window in pixels", f64::from(outside));
    measures.check();
}

/// The picture of a run that stops at once, in window pixels.
fn picture(view: &View) -> DVec2 {
    let (placement, tree) = (view.placement(), view.canvas_position([0.0, 0.0]).as_dvec2());
    (placement.origin + tree * placement.scale).round()
}

#[test]
fn the_picture_rests_soon_after_a_stop() {
    let mut measures = Measures::of("stop");
    for snap in [Snap::Whole, Snap::Subpixel] {
        let mut camera = camera(|settings| {
            settings.screen.snap = snap;
            settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
            settings.follow.look_ahead = Some(LookAhead::default());
        });
        camera.resize((1280, 720));
        let (mut last, mut moved): (Option<DVec2>, f64) = (None, 0.0);
        for frame in 0..600 {
            let t = f64::from(frame) * DT;
            let view = camera.follow(DT, [120.0 * t.min(2.0), 0.0]);
            let now = picture(&view);
            if last.is_some_and(|last| last != now) {
                moved = t - 2.0;
            }
            last = Some(now);
        }
        measures.at_most(1.6, &format!("{snap:?}: seconds to the last step"), moved);
    }
    measures.check();
}

/// A player stands on a lift, drawn as the guide says: the lift on the world's canvas, the player on its own.
fn feet_on_a_deck(snap: Snap, speed: f64, rate: f64) -> u32 {
    let mut camera = camera(|settings| {
        settings.screen.snap = snap;
        settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    });
    camera.resize((1280, 720));
    let (mut last, mut steps): (Option<f64>, u32) = (None, 0);
    for frame in 0..(6.0 * rate) as u32 {
        let t = f64::from(frame) / rate;
        let deck = DVec2::new(40.3, speed * (1.5 - (t % 3.0 - 1.5).abs()));
        let player =
            Subject::from(deck).with_carrier([0.0, speed * if t % 3.0 < 1.5 { 1.0 } else { -1.0 }]);
        let view = camera.follow(if frame == 0 { 0.0 } else { 1.0 / rate }, player);
        let (world, feet) = (view.placement(), view.followed_placement(deck).origin);
        let drawn = world.origin + view.canvas_position(deck).as_dvec2() * world.scale;
        // At a whole scale a canvas is shown from the first pixel whose middle is in it.
        let apart = (feet - 0.5).ceil().y - (drawn - 0.5).ceil().y;
        steps += u32::from(last.is_some_and(|last| last != apart));
        last = Some(apart);
    }
    steps
}

#[test]
fn feet_rest_on_a_lift() {
    let mut measures = Measures::of("lift");
    for (snap, most) in [(Snap::Subpixel, 7.0), (Snap::Whole, 12.0)] {
        for speed in [5.0, 60.0, 300.0] {
            let steps = [60.0, 75.0, 144.0].map(|rate| feet_on_a_deck(snap, speed, rate));
            let worst = steps.into_iter().max().unwrap_or(0);
            let what = format!("{snap:?} at {speed} a second: steps of the feet in 6 s");
            measures.at_most(most, &what, f64::from(worst));
        }
    }
    measures.check();
}
