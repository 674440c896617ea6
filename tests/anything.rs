//! Every call in any order, with any numbers: nothing panics, and what is promised of a view holds.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Airborne, Axes, Bounds, Camera, Cameras, Cue, CueCall, Deadzone, Ease, Fit, HandReturn, Leash,
    LookAhead, Lure, MarkKind, Rail, Ratchet, Rect, Rooms, Scroll, Settings, Shake, Smoothing,
    Snap, Subject, View, YAxis, Zone, ZoomNudge,
};

/// Frames of a ride with one camera.
const RIDE: u32 = 200;

/// Frames in all; a machine with time to spare can be told another number.
fn frames() -> u32 {
    std::env::var("RANDOM_FRAMES").ok().and_then(|text| text.parse().ok()).unwrap_or(60_000)
}

struct Random(SmallRng);

impl Random {
    fn one_in(&mut self, count: u32) -> bool {
        self.0.random_range(0..count) == 0
    }

    fn pick<T: Copy>(&mut self, of: &[T]) -> T {
        of[self.0.random_range(0..of.len())]
    }

    /// A number between two, or now and then one that nobody expects.
    fn number(&mut self, low: f64, high: f64) -> f64 {
        const ODD: [f64; 10] = [
            f64::NAN,
            f64::INFINITY,
            f64::NEG_INFINITY,
            1e300,
            -1e300,
            5e-324,
            -0.0,
            1e12,
            -1e-9,
            f64::MAX,
        ];
        if self.one_in(60) { self.pick(&ODD) } else { self.0.random_range(low..high) }
    }

    fn fair(&mut self, low: f64, high: f64) -> f64 {
        self.0.random_range(low..high)
    }

    fn point(&mut self) -> DVec2 {
        DVec2::new(self.number(-900.0, 1900.0), self.number(-900.0, 900.0))
    }

    fn screen(&mut self) -> Vec2 {
        Vec2::new(self.number(-20.0, 340.0) as f32, self.number(-20.0, 200.0) as f32)
    }

    fn rect(&mut self) -> Rect {
        Rect::around(
            [self.fair(-400.0, 1400.0), self.fair(-400.0, 400.0)],
            [self.fair(5.0, 700.0), self.fair(5.0, 500.0)],
        )
    }

    fn ease(&mut self) -> Ease {
        self.pick(&[Ease::Smooth, Ease::Smooth, Ease::InOut, Ease::Linear, Ease::Out])
    }

    fn seconds(&mut self) -> f64 {
        if self.one_in(3) { 0.0 } else { self.number(0.0, 1.5) }
    }

    fn step(&mut self) -> f64 {
        match self.0.random_range(0..12) {
            0 => 0.0,
            1 => self.number(0.0, 3.0),
            _ => self.fair(0.002, 0.05),
        }
    }

    fn smoothing(&mut self) -> Smoothing {
        let seconds = self.fair(0.01, 0.8);
        let speed = Smoothing::Speed(900.0 * seconds);
        self.pick(&[
            Smoothing::None,
            Smoothing::HalfLife(seconds),
            Smoothing::Settle(seconds),
            speed,
        ])
    }

    fn settings(&mut self) -> Settings {
        let mut settings = Settings::default();
        settings.screen.snap = self.pick(&[Snap::Off, Snap::Whole, Snap::Subpixel]);
        settings.screen.fit = self.pick(&[Fit::Whole, Fit::Cover, Fit::Reveal]);
        settings.screen.y_axis = self.pick(&[YAxis::Down, YAxis::Up]);
        let follow = &mut settings.follow;
        (follow.smoothing.x, follow.smoothing.y) = (self.smoothing(), self.smoothing());
        follow.axes = self.pick(&[Axes::Both, Axes::Both, Axes::X, Axes::Y]);
        follow.airborne = self.pick(&[Airborne::Follow, Airborne::Hold]);
        if self.one_in(2) {
            follow.anchor = DVec2::new(self.fair(0.0, 1.0), self.fair(0.0, 1.0));
        }
        if self.one_in(3) {
            follow.deadzone = Deadzone { left: 0.1, right: 0.2, top: 0.1, bottom: 0.05 };
        }
        if self.one_in(3) {
            follow.look_ahead = Some(LookAhead::default());
        }
        if self.one_in(3) {
            follow.leash = Some(Leash(DVec2::new(self.fair(0.05, 0.5), self.fair(0.05, 0.5))));
        }
        if self.one_in(3) {
            follow.ratchet =
                self.pick(&[Ratchet::Right, Ratchet::Left, Ratchet::Up, Ratchet::Down]);
        }
        if self.one_in(2) {
            let cushion = if self.one_in(2) { 0.0 } else { 40.0 };
            settings.bounds = Some(Bounds { cushion, ..Bounds::new(self.rect()) });
        }
        settings.zoom.whole = self.one_in(4);
        settings.zoom.fill_bounds = self.one_in(3);
        settings.zoom.half_life = self.pick(&[0.0, 0.1, 0.3]);
        settings.party.fade = self.pick(&[0.0, 0.3, 0.8]);
        settings.hands.back =
            self.pick(&[HandReturn::Seconds(0.0), HandReturn::Seconds(0.4), HandReturn::Stay]);
        settings.shake.stay_in_bounds = self.one_in(2);
        self.places(&mut settings);
        let nudge = Some(ZoomNudge { by: self.fair(0.5, 2.0), ..ZoomNudge::default() });
        let shake = Some(Shake { roll: 0.03, ..Shake::default() });
        let cue = Cue { shake, zoom: nudge, glide: None, pause: None, ..Cue::default() };
        settings.cues.insert("gong".into(), cue);
        let cue = Cue { glide: Some(0.4), pause: Some(0.2), ..Cue::default() };
        settings.cues.insert("drum".into(), cue);
        settings
    }

    fn places(&mut self, settings: &mut Settings) {
        for _zone in 0..self.0.random_range(0..4) {
            let mut zone = Zone { blend: self.pick(&[0.0, 0.3, 0.7]), ..Zone::new(self.rect()) };
            zone.zoom = self.one_in(2).then(|| self.fair(0.5, 3.0));
            zone.anchor = self.one_in(3).then(|| DVec2::new(self.fair(0.0, 1.0), 0.4));
            zone.bounds = self.one_in(3).then(|| self.rect());
            zone.deadzone = self.one_in(4).then_some(Deadzone { left: 0.2, ..Deadzone::default() });
            settings.zones.push(zone);
        }
        if self.one_in(5) {
            let slide = self.one_in(2).then_some(0.4);
            settings.rooms = Some(Rooms { slide, ..Rooms::default() });
        }
        if self.one_in(6) {
            let points = vec![DVec2::ZERO, DVec2::new(500.0, 90.0), DVec2::new(1300.0, -80.0)];
            settings.rail = Some(Rail { points, speed: self.one_in(2).then_some(80.0) });
        }
        if self.one_in(6) {
            settings.scroll = Some(Scroll { speed: DVec2::new(30.0, 0.0) });
        }
        if self.one_in(5) {
            let at = DVec2::new(300.0, 0.0);
            settings.lures.push(Lure { at, radius: 200.0, strength: 0.6 });
        }
    }

    /// Any call. Returns whether a ratchet may begin anew: now, or with the next cut.
    fn call(&mut self, camera: &mut Camera) -> bool {
        if self.one_in(2) { self.place(camera) } else { self.look(camera) }
    }

    /// What may have a ratchet begin anew.
    fn place(&mut self, camera: &mut Camera) -> bool {
        match self.0.random_range(0..13) {
            0 => camera.cut(),
            1 => camera.place_at(self.point()),
            2 => camera.glide(self.seconds(), self.ease()),
            3 => {
                let bounds = (!self.one_in(4)).then(|| Bounds::new(self.rect()));
                camera.set_bounds(bounds, self.seconds()).expect("valid bounds");
            }
            4 => camera.translate(self.point()),
            5 => camera.zoom_now(self.number(0.2, 5.0)),
            6 => camera.rotate_now(self.number(-4.0, 4.0)),
            7 => {
                // One that is over already cuts.
                let age = self.number(0.0, 0.5);
                camera.cue("drum", CueCall::anywhere().since(age)).expect("a cue");
            }
            8 => {
                let changed = self.settings();
                camera.set_settings(changed, self.seconds()).expect("valid settings");
            }
            9 => {
                let most = self.pick(&[400, 2000, u32::MAX]);
                camera.resize((self.0.random_range(0..most), self.0.random_range(0..most)));
            }
            _ => return self.look(camera),
        }
        true
    }

    /// What has not.
    fn look(&mut self, camera: &mut Camera) -> bool {
        match self.0.random_range(0..15) {
            0 => camera.aim_at(self.point()),
            1 => camera.switch_subject(),
            2 => camera.zoom_to(self.number(0.2, 5.0)),
            3 | 4 => {
                let about = self.one_in(2).then(|| self.screen());
                camera.zoom_by(self.number(-3.0, 3.0), about);
            }
            5 => camera.rotate_to(self.number(-4.0, 4.0)),
            6 => camera.grab(self.screen()),
            7 | 8 => camera.drag_to(self.screen()),
            9 => camera.release(),
            10 | 11 => camera.pan(self.screen() - Vec2::new(160.0, 90.0)),
            12 => camera.show(&self.rect(), self.seconds(), self.ease()),
            13 => {
                camera.cue("gong", CueCall::at(self.point())).expect("a cue");
                camera.end_shakes(self.seconds());
            }
            _ => {
                let state = camera.state();
                let restored = camera.restore(state);
                assert!(restored.is_ok(), "a state that a camera was in: {state:?}");
                assert_eq!(camera.state(), state);
            }
        }
        false
    }

    /// Any frame. Returns the view, and whether somebody was followed for sure.
    fn frame(&mut self, camera: &mut Camera, at: &mut [DVec2; 4]) -> (View, bool) {
        for place in at.iter_mut() {
            let reach = if self.one_in(50) { 2000.0 } else { 8.0 };
            *place += DVec2::new(self.fair(-reach, reach), self.fair(-reach, reach));
            *place = place.clamp(DVec2::splat(-900.0), DVec2::splat(1900.0));
        }
        let step = self.step();
        let odd = self.one_in(200);
        let point = |random: &mut Self, place: DVec2| if odd { random.point() } else { place };
        let kind = self.0.random_range(0..20);
        let view = match kind {
            0 | 1 => camera.advance(step),
            2..6 => {
                let count = self.0.random_range(0..5);
                let subjects = (0..count).map(|index: usize| {
                    Subject::from(point(self, at[index]))
                        .with_id(index as u32)
                        .with_margin(self.number(0.0, 30.0))
                        .with_weight(self.number(0.1, 3.0))
                        .with_rank(index as i32 % 2)
                });
                let subjects: Vec<Subject> = subjects.collect();
                camera.follow_all(step, &subjects)
            }
            6 => camera.follow(step, Subject::from(point(self, at[0])).with_grounded(false)),
            7 => camera.follow(step, Subject::from(point(self, at[0])).with_velocity(self.point())),
            _ => camera.follow(step, point(self, at[0])),
        };
        (view, kind > 7 && !odd)
    }
}

/// What is drawn, beyond a rectangle, in screen pixels: on the axes on which it is large enough.
fn outside(view: &View, rect: &Rect) -> f64 {
    let (low, size) = (view.canvas_corner(), view.size().as_dvec2());
    let low = if view.snap() == Snap::Whole { low } else { view.true_corner() };
    let corners = [DVec2::ZERO, DVec2::new(size.x, 0.0), size, DVec2::new(0.0, size.y)];
    let mut out: f64 = 0.0;
    // A view that all but fills them may find no whole pixel.
    let spare = if view.snap() == Snap::Whole { 1.0 / view.scale() } else { 0.0 };
    let needs = view.visible_world().size() + spare;
    for axis in (0..2).filter(|axis| needs[*axis] < rect.size()[*axis]) {
        for corner in corners {
            let world = view.lens().to_world_axes(low + corner)[axis];
            out = out.max(rect.min[axis] - world).max(world - rect.max[axis]);
        }
    }
    out * view.scale()
}

/// The bounds in force, let out while they come in.
fn bounds(camera: &Camera) -> Option<Rect> {
    let mark = camera.overlay().marks().find(|mark| mark.kind == MarkKind::Bounds)?;
    let (first, third) = (mark.world_points()[0], mark.world_points()[2]);
    Some(Rect::new(first, third))
}

/// Of a ratchet: the axis of its line, and 1 where larger coordinates are farther on.
fn way(camera: &Camera) -> Option<(usize, f64)> {
    let up = camera.settings().screen.y_axis == YAxis::Up;
    match (camera.settings().follow.ratchet, up) {
        (Ratchet::Right, _) => Some((0, 1.0)),
        (Ratchet::Left, _) => Some((0, -1.0)),
        (Ratchet::Down, false) | (Ratchet::Up, true) => Some((1, 1.0)),
        (Ratchet::Up, false) | (Ratchet::Down, true) => Some((1, -1.0)),
        _ => None,
    }
}

/// How far on the edge behind a ratcheted view is.
fn edge(camera: &Camera, view: &View) -> Option<f64> {
    let (axis, sense) = way(camera)?;
    let seen = view.visible_world();
    Some(if sense > 0.0 { seen.min[axis] } else { -seen.max[axis] })
}

/// How far on the line is that it has left behind.
fn line(camera: &Camera) -> Option<f64> {
    Some(way(camera)?.1 * camera.barrier()?.at)
}

fn check(camera: &Camera, view: &View, seed: u64, frame: u32) {
    let place = || format!("seed {seed}, frame {frame}: {view:?} of {:?}", camera.settings());
    let (centre, lens) = (view.centre(), view.lens());
    assert!(centre.is_finite() && lens.scale() > 0.0 && lens.scale().is_finite(), "{}", place());
    assert!(lens.rotation().is_finite() && view.residual().is_finite(), "{}", place());
    let steady = view.steady();
    if let Some(rect) = bounds(camera).filter(|_| centre.abs().max_element() < 1e9) {
        // A turned view in whole pixels may find none inside where there is hardly any room.
        let room = (rect.size() - steady.visible_world().size()) * view.scale();
        let turned = view.snap() == Snap::Whole && lens.is_rotated();
        if !turned
            || (room.min_element() > 4.0 && camera.barrier().is_none() && camera.room().is_none())
        {
            let out = outside(&steady, &rect);
            assert!(out < 1e-3, "{out} pixels outside {rect:?}, {}", place());
        }
        if camera.settings().zoom.fill_bounds {
            let fits = steady.visible_world().size() - rect.size();
            assert!(fits.max_element() < 1e-6 * rect.size().max_element(), "{fits} {}", place());
        }
    }
}

#[test]
fn nothing_is_too_odd() {
    let rides = u64::from(frames() / RIDE);
    for seed in 0..rides {
        let mut random = Random(SmallRng::seed_from_u64(seed));
        let mut camera = Camera::new(random.settings()).expect("valid settings");
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let (mut behind, mut last): (Option<f64>, Option<View>) = (None, None);
        let mut anew = true;
        for frame in 0..RIDE {
            for _call in 0..random.pick(&[0, 0, 1, 1, 2, 3]) {
                anew |= random.call(&mut camera);
            }
            let time = camera.view().time();
            let (view, followed) = random.frame(&mut camera, &mut at);
            assert!(view.time() >= time);
            check(&camera, &view, seed, frame);
            if let Some(last) = &last {
                let between = View::between(last, &view, random.fair(0.0, 1.0));
                assert!(between.centre().is_finite(), "seed {seed}, frame {frame}");
            }
            let line = line(&camera);
            let held = bounds(&camera).is_none() && !view.lens().is_rotated();
            let edge = edge(&camera, &view.steady()).filter(|_| held && !anew);
            if let (Some(edge), Some(behind)) = (edge, behind) {
                let back = behind - edge;
                assert!(
                    back <= 1e-6 * (1.0 + edge.abs()),
                    "{back} back, seed {seed}, frame {frame}"
                );
            }
            // A cut waits for somebody to follow.
            anew &= !followed;
            (behind, last) = (line, Some(view));
        }
    }
}

#[test]
fn nothing_is_too_odd_for_several_cameras() {
    for seed in 0..20 {
        let mut random = Random(SmallRng::seed_from_u64(1_000_000 + seed));
        let camera = |random: &mut Random| Camera::new(random.settings()).expect("valid settings");
        let mut cameras = Cameras::new(0, camera(&mut random));
        for key in 1..3 {
            cameras.insert(key, camera(&mut random));
        }
        let mut at = [DVec2::new(300.0, 60.0); 4];
        for frame in 0..RIDE {
            match random.0.random_range(0..12) {
                0 => drop(cameras.switch_to(&random.pick(&[0, 1, 2, 7]))),
                1 | 2 => {
                    let key = random.pick(&[0, 1, 2, 7]);
                    cameras.glide_to(&key, random.number(0.0, 1.0), random.ease());
                }
                3 if random.one_in(6) => drop(cameras.remove(&random.pick(&[0, 1, 2]))),
                4 if random.one_in(6) => {
                    let key = random.pick(&[0, 1, 2]);
                    let camera = camera(&mut random);
                    cameras.insert(key, camera);
                }
                _ => {
                    random.call(cameras.active_mut());
                }
            }
            for (_, camera) in cameras.iter_mut() {
                random.frame(camera, &mut at);
            }
            let view = cameras.view(random.step());
            assert!(view.centre().is_finite() && view.scale() > 0.0, "seed {seed}, frame {frame}");
        }
    }
}
