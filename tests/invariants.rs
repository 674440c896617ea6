//! The promises of following, over at least 100,000 random frames each.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Airborne, Axes, Bounds, Camera, Deadzone, Ease, Leash, LookAhead, Ratchet, Rect, Settings,
    Smoothing, Subject, View, YAxis,
};

use crate::support::properties::properties;
use crate::support::smooth;

const FRAMES: usize = 80;
const CASES: u32 = 1300; // times 80 frames

/// Something that a game may do before a frame.
#[derive(Clone, Debug)]
enum Act {
    Nothing,
    ZoomTo(f64),
    ZoomNow(f64),
    ZoomBy(f64, Option<(f32, f32)>),
    Rotate(f64),
    Glide(f64),
    Cut,
    Switch,
    Grab(f32, f32),
    Drag(f32, f32),
    Release,
    Pan(f32, f32),
    Show(f64, f64, f64, f64),
    LookAt(f64, f64),
}

fn acts() -> impl Strategy<Value = Act> {
    let place = || (0.0..320.0_f32, 0.0..180.0_f32);
    prop_oneof![
        12 => Just(Act::Nothing),
        1 => (0.1..8.0_f64).prop_map(Act::ZoomTo),
        1 => (0.1..8.0_f64).prop_map(Act::ZoomNow),
        1 => (-9.0..9.0_f64, prop::option::of(place())).prop_map(|(n, at)| Act::ZoomBy(n, at)),
        1 => (-7.0..7.0_f64).prop_map(Act::Rotate),
        1 => (0.0..2.0_f64).prop_map(Act::Glide),
        1 => Just(Act::Cut),
        1 => Just(Act::Switch),
        1 => place().prop_map(|(x, y)| Act::Grab(x, y)),
        2 => place().prop_map(|(x, y)| Act::Drag(x, y)),
        2 => Just(Act::Release),
        1 => (-90.0..90.0_f32, -90.0..90.0_f32).prop_map(|(x, y)| Act::Pan(x, y)),
        1 => (0.0..900.0_f64, 0.0..900.0_f64, 1.0..900.0_f64, 0.0..2.0_f64)
            .prop_map(|(x, y, w, s)| Act::Show(x, y, w, s)),
        1 => (-900.0..2000.0_f64, -900.0..2000.0_f64).prop_map(|(x, y)| Act::LookAt(x, y)),
    ]
}

impl Act {
    fn apply(&self, camera: &mut Camera) {
        match *self {
            Self::Nothing => {}
            Self::ZoomTo(zoom) => camera.zoom_to(zoom),
            Self::ZoomNow(zoom) => camera.zoom_now(zoom),
            Self::ZoomBy(notches, about) => camera.zoom_by(notches, about.map(Vec2::from)),
            Self::Rotate(rotation) => camera.rotate_now(rotation),
            Self::Glide(seconds) => camera.glide(seconds, Ease::InOut),
            Self::Cut => camera.cut(),
            Self::Switch => camera.switch_subject(),
            Self::Grab(x, y) => camera.grab(Vec2::new(x, y)),
            Self::Drag(x, y) => camera.drag_to(Vec2::new(x, y)),
            Self::Release => camera.release(),
            Self::Pan(x, y) => camera.pan(Vec2::new(x, y)),
            Self::Show(x, y, side, seconds) => {
                camera.show(&Rect::from_corner_size([x, y], [side, side]), seconds, Ease::Out);
            }
            Self::LookAt(x, y) => camera.aim_at([x, y]),
        }
    }
}

/// One frame: what happens before it, its duration, and the movement of the subject.
#[derive(Clone, Debug)]
struct Frame {
    act: Act,
    step: f64,
    moved: DVec2,
    grounded: bool,
    present: bool,
}

fn frames() -> impl Strategy<Value = Vec<Frame>> {
    let step = prop_oneof![8 => 0.001..0.05_f64, 1 => Just(0.0), 1 => 0.05..10.0_f64];
    let moved = prop_oneof![6 => -12.0..12.0_f64, 1 => Just(0.0), 1 => -2000.0..2000.0_f64];
    let frame = (acts(), step, moved.clone(), moved, any::<bool>(), prop::bool::weighted(0.95));
    let frame = frame.prop_map(|(act, step, x, y, grounded, present)| Frame {
        act,
        step,
        moved: DVec2::new(x, y),
        grounded,
        present,
    });
    prop::collection::vec(frame, FRAMES)
}

fn smoothings() -> impl Strategy<Value = Smoothing> {
    prop_oneof![
        Just(Smoothing::None),
        (0.0..1.0_f64).prop_map(Smoothing::HalfLife),
        (0.0..2.0_f64).prop_map(Smoothing::Settle),
        (0.0..900.0_f64).prop_map(Smoothing::Speed),
    ]
}

prop_compose! {
    /// Any settings at all, without bounds.
    fn settings()(
        smoothing in (smoothings(), smoothings()),
        anchor in (0.0..=1.0_f64, 0.0..=1.0_f64),
        zone in prop::array::uniform4(0.0..0.3_f64),
        ahead in prop::option::of((0.0..1.0_f64, 0.0..0.4_f64, 0.0..0.5_f64, 0.003..0.13_f64)),
        leash in prop::option::of((0.05..1.0_f64, 0.05..1.0_f64)),
        hold in any::<bool>(),
        up in any::<bool>(),
        axes in prop::sample::select(&[Axes::Both, Axes::Both, Axes::X, Axes::Y]),
        half_life in 0.0..0.4_f64,
        whole in prop::bool::weighted(0.2),
    ) -> Settings {
        let mut settings = Settings::default();
        let follow = &mut settings.follow;
        (follow.smoothing.x, follow.smoothing.y) = smoothing;
        follow.anchor = anchor.into();
        let [left, right, top, bottom] = zone;
        follow.deadzone = Deadzone { left, right, top, bottom };
        follow.look_ahead = ahead.map(|(seconds, reach, half_life, turn_after)| LookAhead {
            seconds: DVec2::splat(seconds), reach: DVec2::splat(reach), half_life, turn_after,
        });
        follow.leash = leash.map(|reach| Leash(reach.into()));
        follow.airborne = if hold { Airborne::Hold } else { Airborne::Follow };
        follow.axes = axes;
        settings.screen.y_axis = if up { YAxis::Up } else { YAxis::Down };
        settings.zoom.half_life = half_life;
        settings.zoom.whole = whole;
        settings
    }
}

fn ratchets() -> impl Strategy<Value = Ratchet> {
    prop::sample::select(&[Ratchet::Right, Ratchet::Left, Ratchet::Down, Ratchet::Up])
}

fn world() -> Rect {
    Rect::new([-1500, -1200], [2500, 2800])
}

fn bounded(mut settings: Settings, cushion_depth: f64) -> Settings {
    settings.bounds = Some(Bounds { cushion_depth, ..Bounds::new(world()) });
    settings
}

/// Runs all frames and passes each view, with its subject, to a check.
fn run(
    settings: &Settings,
    frames: &[Frame],
    mut check: impl FnMut(&Camera, &View, DVec2, &Frame) -> Result<(), TestCaseError>,
) -> Result<(), TestCaseError> {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    let mut at = DVec2::new(300.0, 200.0);
    for frame in frames {
        at += frame.moved;
        frame.act.apply(&mut camera);
        let subject = Subject::from(at).with_grounded(frame.grounded);
        let view = if frame.present {
            camera.follow(frame.step, subject)
        } else {
            camera.advance(frame.step)
        };
        prop_assert!(view.centre().is_finite() && view.scale() > 0.0);
        check(&camera, &view, at, frame)?;
    }
    Ok(())
}

/// A fraction of the screen's size from its top left, `y` down.
fn fraction(view: &View, world: DVec2) -> DVec2 {
    view.world_to_screen(world).as_dvec2() / view.size().as_dvec2()
}

properties! {
    #![cases(CASES)]

    #[test]
    fn rigidly_followed_the_subject_stays_in_its_deadzone(
        settings in settings(), frames in frames(),
    ) {
        let mut settings = settings;
        settings.follow.smoothing = Smoothing::None.into();
        settings.follow.look_ahead = None;
        settings.follow.axes = Axes::Both;
        settings.follow.airborne = Airborne::Follow;
        let frames: Vec<Frame> = frames
            .into_iter()
            .map(|frame| match frame.act {
                Act::ZoomTo(_) | Act::ZoomNow(_) | Act::Rotate(_) | Act::Cut | Act::Switch => frame,
                _ => Frame { act: Act::Nothing, ..frame },
            })
            .collect();
        let (anchor, zone) = (settings.follow.anchor, settings.follow.deadzone);
        // A rotation is felt in the frame after it, at once: the zone turns with the screen.
        run(&settings, &frames, |_, view, subject, frame| {
            // A movement in no time counts with the next frame.
            if !frame.present || frame.step == 0.0 {
                return Ok(());
            }
            let place = fraction(view, subject);
            let slack = 1e-4;
            prop_assert!(place.x >= anchor.x - zone.left - slack && place.x <= anchor.x + zone.right + slack
                && place.y >= anchor.y - zone.top - slack && place.y <= anchor.y + zone.bottom + slack,
                "at {place} around {anchor}, {zone:?}");
            Ok(())
        })?;
    }

    /// Inside the leash, or as far outside as before and no farther.
    #[test]
    fn the_leash_holds_and_only_tightens(settings in settings(), frames in frames()) {
        let mut settings = settings;
        let reach = settings.follow.leash.get_or_insert(Leash(DVec2::splat(0.3))).0;
        settings.follow.axes = Axes::Both;
        let anchor = settings.follow.anchor;
        let (mut before, mut in_hand) = (false, false);
        let mut loose = DVec2::ZERO;
        run(&settings, &frames, |camera, view, subject, frame| {
            let place = fraction(view, subject);
            let by_hand = !matches!(frame.act, Act::Nothing) || in_hand || camera.is_gliding();
            in_hand = camera.is_in_hand() || camera.is_gliding();
            let away = (place - anchor).abs() * view.lens().view_size();
            if frame.present && frame.step > 0.0 && !by_hand && before {
                for axis in 0..2 {
                    let least = if place[axis] < anchor[axis] { anchor[axis] } else { 1.0 - anchor[axis] };
                    let most = (reach[axis].min(least) * view.lens().view_size()[axis]).max(loose[axis]);
                    prop_assert!(away[axis] <= most + 1e-3, "axis {axis}: {} for {most}", away[axis]);
                }
                loose = loose.min(away);
            } else {
                loose = away.max(loose);
                if by_hand { loose = away; }
                if !frame.present { loose = DVec2::INFINITY; }
            }
            before = true;
            Ok(())
        })?;
    }

    #[test]
    fn a_ratchets_edge_never_goes_back(
        settings in settings(), frames in frames(), ratchet in ratchets(), bounds in any::<bool>(),
    ) {
        let mut settings = if bounds { bounded(settings, 0.0) } else { settings };
        settings.follow.ratchet = ratchet;
        let up = settings.screen.y_axis == YAxis::Up;
        let (mut last, mut cut, mut held): (Option<f64>, bool, bool) = (None, true, false);
        run(&settings, &frames, |camera, view, _, frame| {
            let visible = view.visible_world();
            // Larger is farther on.
            let edge = match (ratchet, up) {
                (Ratchet::Right, _) => visible.min.x,
                (Ratchet::Left, _) => -visible.max.x,
                (Ratchet::Down, false) | (Ratchet::Up, true) => visible.min.y,
                _ => -visible.max.y,
            };
            // A cut begins anew; a turned view may need more room than its bounds leave.
            cut |= matches!(frame.act, Act::Cut | Act::Glide(_));
            let anew = (cut && frame.present) || (bounds && view.lens().is_rotated())
                || (bounds && matches!(frame.act, Act::Rotate(_)));
            held |= camera.is_in_hand() || matches!(frame.act, Act::Pan(..) | Act::ZoomBy(..));
            cut &= !frame.present || held;
            held = camera.is_in_hand();
            if let Some(last) = last.filter(|_| !anew) {
                prop_assert!(edge >= last - 1e-6, "{edge} after {last}");
            }
            last = Some(edge);
            Ok(())
        })?;
    }

    #[test]
    fn an_anchored_subject_stays_put_through_a_zoom(
        anchor in (0.0..=1.0_f64, 0.0..=1.0_f64),
        zooms in prop::collection::vec((0.1..9.0_f64, 0.0..0.3_f64), FRAMES),
        rotation in -4.0..4.0_f64,
    ) {
        let mut settings = Settings::default();
        settings.follow.anchor = anchor.into();
        settings.follow.smoothing = Smoothing::HalfLife(0.2).into();
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.rotate_now(rotation);
        let subject = DVec2::new(4321.0, -765.0);
        for (zoom, step) in zooms {
            camera.zoom_to(zoom);
            let view = camera.follow(step, subject);
            let expected = DVec2::from(anchor) * view.size().as_dvec2();
            prop_assert!((view.world_to_screen(subject).as_dvec2() - expected).length() < 0.01);
        }
    }

    #[test]
    fn what_is_held_stays_under_the_pointer(
        moves in prop::collection::vec((0.0..320.0_f32, 0.0..180.0_f32, -3.0..3.0_f64, 0.0..0.1_f64), FRAMES),
        rotation in -4.0..4.0_f64,
        mut settings in settings(),
    ) {
        // Before a zoom about a point the leash wins.
        settings.follow.leash = None;
        let mut camera = Camera::new(settings).expect("valid settings");
        camera.rotate_now(rotation);
        camera.follow(0.0, [40, 50]);
        for (round, chunk) in moves.chunks(8).enumerate() {
            let (x, y, notches, _) = chunk[0];
            let held = camera.view().screen_to_world(Vec2::new(x, y));
            if round % 2 == 0 {
                camera.grab(Vec2::new(x, y));
            } else {
                camera.release();
                camera.zoom_by(notches, Some(Vec2::new(x, y)));
            }
            for (px, py, _, step) in chunk {
                let mut pointer = Vec2::new(x, y);
                if round % 2 == 0 {
                    pointer = Vec2::new(*px, *py);
                    camera.drag_to(pointer);
                }
                let view = camera.follow(*step, [40, 50]);
                if !camera.is_in_hand() {
                    break; // the zoom is all but done, and the view comes back
                }
                let off = (view.world_to_screen(held) - pointer).length();
                prop_assert!(off < 0.01, "{off} pixels off");
            }
        }
    }

    /// After release, the view starts from rest and returns in its time. No frame moves it farther than the steepest
    /// part of the curve.
    #[test]
    fn following_takes_over_without_a_jump(
        drag in (-300.0..300.0_f32, -200.0..200.0_f32), step in 0.001..0.03_f64,
    ) {
        let mut settings = smooth(Smoothing::HalfLife(0.2));
        settings.follow.leash = Some(Leash(DVec2::splat(0.2)));
        let mut camera = Camera::new(settings).expect("valid settings");
        let subject = [500, 500];
        camera.follow(0.0, subject);
        camera.grab(Vec2::new(160.0, 90.0));
        camera.drag_to(Vec2::new(160.0 + drag.0, 90.0 + drag.1));
        let mut last = camera.follow(step, subject).centre();
        let far = (DVec2::splat(500.0) - last).length();
        camera.release();
        let mut time = -step;
        while time < 0.4 + step {
            let centre = camera.follow(step, subject).centre();
            prop_assert!((centre - last).length() <= 1.875 * far * step / 0.4 + 1e-9);
            time += step;
            last = centre;
        }
        prop_assert_eq!(last, DVec2::splat(500.0));
    }

    #[test]
    fn a_glide_ends_on_time_and_place(
        seconds in 0.01..3.0_f64, fps in 5.0..300.0_f64,
        start in (-900.0..900.0_f64, -900.0..900.0_f64), speed in (-99.0..99.0_f64, -99.0..99.0_f64),
    ) {
        // The same camera without the glide says where that is.
        let settings = smooth(Smoothing::Settle(0.4));
        let mut camera = Camera::new(settings.clone()).expect("valid settings");
        camera.follow(0.0, [0, 0]);
        let (start, speed) = (DVec2::from(start), DVec2::from(speed));
        camera.switch_subject();
        camera.glide(seconds, Ease::InOut);
        camera.follow(1.0 / fps, start);
        let mut other = Camera::new(settings).expect("valid settings");
        other.follow(1.0 / fps, start);
        let mut t = 0.0;
        while t < seconds {
            let step = (1.0 / fps).min(seconds - t);
            t += step;
            let at = start + speed * t;
            let (gliding, there) = (camera.follow(step, at).centre(), other.follow(step, at).centre());
            if t >= seconds {
                prop_assert!((gliding - there).length() < 1e-9, "{gliding} for {there}");
            }
        }
        prop_assert!(!camera.is_gliding());
    }


    /// In a world that wraps, everything moves at once and nothing moves on the screen.
    #[test]
    fn translated_rides_look_the_same(settings in settings(), frames in frames(), at in 0..FRAMES) {
        let mut plain = Camera::new(settings.clone()).expect("valid settings");
        let mut moved = Camera::new(settings).expect("valid settings");
        let (mut place, mut delta) = (DVec2::new(300.0, 200.0), DVec2::ZERO);
        for (index, frame) in frames.iter().enumerate() {
            // Some acts name places of the world; and where a view is turned, the last bits of its
            // sums may decide which way a stage goes.
            if matches!(frame.act, Act::Show(..) | Act::LookAt(..) | Act::Rotate(_)) {
                continue;
            }
            if index == at {
                delta = DVec2::new(-4096.0, 1024.0);
                moved.translate(delta);
            }
            place += frame.moved;
            frame.act.apply(&mut plain);
            frame.act.apply(&mut moved);
            let a = plain.follow(frame.step, place).centre();
            let b = moved.follow(frame.step, place + delta).centre() - delta;
            // Rounding decides in which frame a view comes to rest, within 1/100 pixel an axis.
            let most = 0.05 / plain.view().scale();
            prop_assert!((a - b).length() < most, "{a} and {b}");
        }
    }
}

#[test]
fn interpolated_views_turn_by_the_shorter_arc() {
    let lens = velvet_pan::Lens::new(&velvet_pan::Screen::default());
    let snap = velvet_pan::Snap::Whole;
    let from = View::new(lens.with_rotation(3.0), [0, 0], snap);
    let to = View::new(lens.with_rotation(-3.0).with_zoom(2.0), [100, 40], snap);
    assert_eq!(View::between(&from, &to, 0.0), from);
    assert_eq!(View::between(&from, &to, 1.0), to);
    assert_eq!(View::between(&from, &to, f64::NAN), from);
    let middle = View::between(&from, &to, 0.5);
    assert_eq!(middle.centre(), DVec2::new(50.0, 20.0));
    // By the shorter arc: through half a turn, not back through 0.
    assert!((middle.lens().rotation() - core::f64::consts::PI).abs() < 1e-9);
}
