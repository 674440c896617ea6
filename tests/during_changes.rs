//! What holds while changes are under way: one of every kind, with random others begun before it.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Cue, CueCall, Ease, Leash, Ratchet, Rect, Settings, Shake, Smoothing, Snap,
    Subject, View, Zone,
};

use crate::support::properties::properties;
use crate::support::smooth;

const STEP: f64 = 1.0 / 60.0;

/// A change of a kind.
#[derive(Clone, Copy, Debug)]
struct Change {
    kind: u8,
    seconds: f64,
    at: (f64, f64),
}

fn changes() -> impl Strategy<Value = Vec<(u8, Change)>> {
    let change = (0..10_u8, 0.05..1.5_f64, (-200.0..900.0_f64, -100.0..500.0_f64))
        .prop_map(|(kind, seconds, at)| Change { kind, seconds, at });
    prop::collection::vec((1..40_u8, change), 1..7)
}

impl Change {
    fn tell(&self, camera: &mut Camera) {
        let at = DVec2::from(self.at);
        match self.kind {
            0 => camera.glide(self.seconds, Ease::Smooth),
            1 => camera.show(&Rect::around(at, [140.0, 80.0]), self.seconds, Ease::Smooth),
            2 => camera.release(),
            3 => camera.pan((at / 20.0).as_vec2()),
            4 => {
                let mut settings = camera.settings().clone();
                settings.follow.anchor = (at / 900.0).clamp(DVec2::splat(0.2), DVec2::splat(0.8));
                camera.set_settings(settings, self.seconds).expect("valid");
            }
            5 => {
                let rect = Rect::around(at, [400.0, 300.0]);
                let bounds = camera.bounds().map(|bounds| Bounds { rect: Some(rect), ..bounds });
                camera.set_bounds(bounds, self.seconds).expect("valid");
            }
            6 => camera.zoom_by(1.5, Some(Vec2::new(250.0, 40.0))),
            7 => camera.rotate_to(at.x / 900.0),
            8 => drop(camera.cue("gong", CueCall::anywhere())),
            _ => camera.zoom_to(1.0 + self.seconds),
        }
    }
}

prop_compose! {
    fn settings()(
        smoothing in prop_oneof![
            Just(Smoothing::None),
            (0.05..0.4_f64).prop_map(Smoothing::HalfLife),
            (0.1..0.8_f64).prop_map(Smoothing::Settle),
        ],
        anchor in (0.2..0.8_f64, 0.2..0.8_f64),
        bounded in any::<bool>(),
        leash in prop::option::of(0.15..0.45_f64),
        snap in prop::sample::select(&[Snap::Off, Snap::Whole, Snap::Subpixel]),
        blends in (0.1..0.9_f64, 0.1..0.9_f64),
    ) -> Settings {
        let mut settings = smooth(smoothing);
        settings.follow.anchor = anchor.into();
        settings.follow.leash = leash.map(|reach| Leash(DVec2::splat(reach)));
        settings.screen.snap = snap;
        settings.shake.stay_in_bounds = true;
        if bounded {
            settings.bounds = Some(bounds());
        }
        // They overlap, and fade at their own times.
        let zone = |from: i32, to: i32, fade| Zone { fade, ..Zone::new(Rect::new([from, -900], [to, 900])) };
        settings.zones = vec![
            Zone { zoom: Some(1.4), ..zone(300, 500, blends.0) },
            Zone { anchor: Some(DVec2::new(0.3, 0.5)), ..zone(400, 650, blends.1) },
        ];
        settings.cues.insert("gong".into(), Cue { pause: Some(0.3), glide: None, ..Cue::default() });
        settings
    }
}

fn bounds() -> Bounds {
    Bounds::new(Rect::new([-300, -200], [1300, 800]))
}

/// A smooth walk through both zones and back.
fn subject(t: f64) -> DVec2 {
    DVec2::new(400.0 - 380.0 * (0.9 * t).cos(), 200.0 + 60.0 * (1.7 * t).sin())
}

/// A camera in the midst of changes, and the time.
fn under_way(settings: &Settings, changes: &[(u8, Change)]) -> (Camera, f64) {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    let mut frame = 0;
    camera.follow(0.0, subject(0.0));
    for (wait, change) in changes {
        for _frame in 0..*wait {
            frame += 1;
            camera.follow(STEP, subject(f64::from(frame) * STEP));
        }
        change.tell(&mut camera);
    }
    camera.follow(STEP, subject(f64::from(frame + 1) * STEP));
    (camera, f64::from(frame + 1) * STEP)
}

fn off(one: &View, other: &View) -> f64 {
    let seen = other.visible_world();
    let apart = |corner: DVec2| {
        (one.world_to_screen_f64(corner) - other.world_to_screen_f64(corner)).length()
    };
    apart(seen.min).max(apart(seen.max))
}

properties! {
    #![cases(400)]

    /// A step of seconds in which the subject stands is many short ones.
    #[test]
    fn a_long_step_is_many_short_ones(settings in settings(), changes in changes()) {
        let (camera, t) = under_way(&settings, &changes);
        let (mut once, mut often) = (camera.clone(), camera);
        // It has come to a stand before, so that nothing is guessed of how it stopped.
        for camera in [&mut once, &mut often] {
            camera.follow(STEP, subject(t));
            camera.follow(STEP, subject(t));
        }
        once.follow(3.0, subject(t));
        for _step in 0..3000 {
            often.follow(0.001, subject(t));
        }
        let apart = off(&once.view(), &often.view());
        prop_assert!(apart < 0.05, "{} pixels apart", apart);
    }

    /// The view never leaves the bounds in force, shaken or not, nor does one between two frames; and
    /// while tighter ones come in it goes no farther out than its velocity takes it at first.
    #[test]
    fn the_range_is_never_left(mut settings in settings(), changes in changes()) {
        settings.bounds.get_or_insert_with(bounds);
        let (mut camera, t) = under_way(&settings, &changes);
        camera.shake(&Shake { hold: 3.0, ..Shake::default() }, 1.0);
        let mut last = camera.view();
        let mut most = f64::INFINITY;
        for frame in 1..200 {
            let view = camera.follow(STEP, subject(t + f64::from(frame) * STEP));
            let bounds = camera.bounds().and_then(|bounds| bounds.rect).expect("bounds in force");
            let out = |view: &View| {
                let seen = view.visible_world();
                let out = (bounds.min - seen.min).max(seen.max - bounds.max);
                // What is larger than the bounds stands in their middle.
                let fits = seen.size().cmple(bounds.size());
                DVec2::select(fits, out, DVec2::ZERO).max_element().max(0.0)
            };
            let steady = view.steady();
            if most == f64::INFINITY {
                // It keeps its velocity for a moment, and with it goes no farther than 0.027 s of that.
                most = out(&steady) + 0.027 * 700.0;
            }
            // A zoom out while they come in may need all of them at once.
            let wider = (view.visible_world().size() - last.visible_world().size()).max_element().max(0.0);
            most += wider;
            prop_assert!(out(&steady) <= most, "{} after {}", out(&steady), most);
            if frame > 100 {
                prop_assert!(out(&steady) < 1e-6 && out(&view) < 1.0 / view.scale() + 1e-6);
                prop_assert!(out(&View::between(&last, &view, 0.5)) < 1.0 / view.scale() + 1e-6);
            }
            last = steady;
        }
    }

    /// The leash keeps a subject on the screen, whatever fades; but for a hand's view, which is let out.
    #[test]
    fn the_leash_holds_while_something_fades(mut settings in settings(), changes in changes()) {
        settings.bounds = None;
        let Leash(reach) = *settings.follow.leash.get_or_insert(Leash(DVec2::splat(0.3)));
        let changes: Vec<_> = changes.into_iter().filter(|(_, change)| change.kind != 5).collect();
        let (mut camera, t) = under_way(&settings, &changes);
        camera.release();
        let mut slack = f64::INFINITY;
        for frame in 1..150 {
            let at = subject(t + f64::from(frame) * STEP);
            let view = camera.follow(STEP, at);
            let rotated = view.lens().is_rotated() || !camera.settings().zones.is_empty();
            if camera.is_in_hand() || rotated && camera.is_gliding() {
                slack = f64::INFINITY; // let out, or a zone's anchor is on its way
                continue;
            }
            let overlay = camera.overlay();
            let anchor = overlay.marks().find(|mark| mark.kind == velvet_pan::MarkKind::Anchor);
            let anchor = anchor.expect("always").world_points()[0];
            let away = (view.lens().to_screen_axes(at - anchor) / view.size().as_dvec2()).abs();
            let beyond = (away - reach.min(DVec2::splat(0.8))).max_element().max(0.0);
            prop_assert!(beyond <= slack + 1e-6, "{} beyond the leash after {}", beyond, slack);
            slack = beyond;
        }
        prop_assert!(slack == f64::INFINITY || slack < 1e-6);
    }

    /// Each change ends at its own time, whatever others begin.
    #[test]
    fn each_ends_at_its_own_time(first in 0.2..1.0_f64, second in 0.2..1.0_f64, wait in 1..40_u8) {
        let camera = |second: Option<f64>| {
            let mut camera = Camera::new(Settings::default()).expect("valid settings");
            camera.follow(0.0, [0, 0]);
            let anchored = |x: f64| {
                let mut settings = Settings::default();
                settings.follow.anchor.x = x;
                settings
            };
            camera.set_settings(anchored(0.3), first).expect("valid");
            for _frame in 0..wait {
                camera.follow(STEP, [0, 0]);
            }
            if let Some(second) = second {
                camera.set_settings(anchored(0.6), second).expect("valid");
            }
            camera
        };
        let mut both = camera(Some(second));
        let last = first.max(second + f64::from(wait) * STEP) - f64::from(wait) * STEP;
        let almost = both.follow(0.99 * last, [0, 0]).centre();
        prop_assert!((almost.x + 32.0).abs() > 1e-6 && both.is_gliding());
        prop_assert!((both.follow(0.0101 * last, [0, 0]).centre().x + 32.0).abs() < 1e-9);
        prop_assert!(!both.is_gliding());
        // Turned back to before it has come far, it is still there in time.
        let mut back = camera(None);
        back.set_settings(Settings::default(), second).expect("valid");
        prop_assert!((back.follow(last + 1e-9, [0, 0]).centre().x).abs() < 1e-9);
    }

    /// A hand that grabs in the midst of it has the view at rest, and lets go without a jump.
    #[test]
    fn a_hand_takes_hold_and_lets_go(settings in settings(), changes in changes()) {
        let (mut camera, t) = under_way(&settings, &changes);
        camera.rotate_now(camera.view().lens().rotation());
        camera.zoom_now(camera.view().lens().zoom());
        camera.grab(Vec2::new(100.0, 60.0));
        let held = camera.view().centre();
        camera.follow(STEP, subject(t + STEP));
        for _frame in 0..20 {
            let centre = camera.follow(STEP, subject(t + STEP)).centre();
            // Bounds that come in may take it along, and a zone's zoom moves its middle.
            let free = camera.bounds().is_none() && settings.zones.is_empty();
            prop_assert!(!free || (centre - held).length() < 1e-6);
        }
        let mut last = camera.view().centre();
        camera.release();
        for _frame in 0..40 {
            let view = camera.follow(STEP, subject(t + STEP));
            let step = (view.centre() - last).length();
            prop_assert!(step < 1.9 * 1700.0 * STEP / 0.4, "{} in a frame", step);
            last = view.centre();
        }
        prop_assert!(!camera.is_in_hand());
    }

    /// One joins a party while another is let go: each in its time, and nobody jerks the picture.
    #[test]
    fn one_joins_while_another_is_let_go(apart in 300.0..900.0_f64, late in 1..30_u8, fade in 0.2..1.0_f64) {
        let mut settings = Settings::default();
        settings.party.fade = fade;
        settings.party.widest = 0.7;
        let mut camera = Camera::new(settings).expect("valid settings");
        let one = |id: u32, x: f64| Subject::from([x, 0.0]).with_id(id).with_rank(-(id as i32));
        camera.follow_all(0.0, &[one(1, 0.0), one(2, 100.0)]);
        let mut last = camera.view().centre().x;
        for frame in 0..200_u8 {
            let far = 100.0 + (apart * f64::from(frame.min(60)) / 60.0);
            let mut all = vec![one(1, 0.0), one(2, far)];
            if frame > late {
                all.push(one(0, 40.0));
            }
            let centre = camera.follow_all(STEP, &all).centre().x;
            let most = 1.9 * STEP / fade * (apart + 100.0) + 2.0 * apart / 60.0;
            prop_assert!((centre - last).abs() <= most, "{} of {}", centre - last, most);
            last = centre;
        }
        prop_assert!(camera.view().visible_world().contains([1, 0]));
    }
}

/// A zone's bounds push the view back behind the line of a ratchet. When they let go, the view must not jump to the old
/// line.
#[test]
fn bounds_that_push_a_ratchet_back_let_go_without_a_jump() {
    let mut settings = Settings::default();
    settings.follow.ratchet = Ratchet::Left;
    let bounds = Some(Rect::new([836.0, -143.0], [1300.0, 200.0]));
    settings.zones =
        vec![Zone { bounds, fade: 0.6, ..Zone::new(Rect::new([21, -100], [523, 493])) }];
    let mut camera = Camera::new(settings).expect("valid settings");
    let mut last = camera.follow(0.0, [-300.0, 0.0]);
    let mut fastest: f64 = 0.0;
    for frame in 0..300 {
        let x = -300.0 + f64::from(frame) * 4.0;
        let view = camera.follow(1.0 / 60.0, [x, 0.0]);
        fastest = fastest.max((view.centre().x - last.centre().x).abs());
        // Pushed back, the line is where the picture's edge is.
        let line = camera.barrier().expect("a line").at;
        assert!((line - view.visible_world().max.x).abs() < 1e-6, "{line} at {x}");
        last = view;
    }
    // The greatest speed of a change over 0.6 s and 1,300 world units is 2.1 times the mean one.
    assert!(fastest < 2.2 * 1300.0 / 0.6 / 60.0, "{fastest} in a frame");
}
