//! A game that does anything with its camera: any settings, any call at any time, any numbers.
#![allow(dead_code)] // each user takes its part

mod invariants;

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Airborne, Axes, Bounds, Camera, Cameras, Command, Cue, CueCall, Deadzone, Ease, Fit,
    HandReturn, Leash, LookAhead, Lure, Outline, Rail, Ratchet, Rect, Rooms, Scroll, Settings,
    Shake, ShakeMotion, Smoothing, Snap, Subject, Travel, View, Waypoint, YAxis, Zone, ZoomNudge,
};

pub use invariants::invariants;
use invariants::{bounds, edge, line};

/// A source of decisions.
pub trait Dice {
    /// A whole number below another one.
    fn below(&mut self, count: u32) -> u32;

    /// A number between two.
    fn fair(&mut self, low: f64, high: f64) -> f64;

    /// A number between two, or sometimes an unusual one.
    fn number(&mut self, low: f64, high: f64) -> f64;

    /// Whether the source is used up.
    fn is_over(&self) -> bool {
        false
    }

    /// True once in this number of times.
    fn one_in(&mut self, count: u32) -> bool {
        self.below(count) == count - 1
    }

    /// One of these.
    fn pick<T: Copy>(&mut self, of: &[T]) -> T {
        of[self.below(of.len() as u32) as usize]
    }

    /// A position in the world, or an invalid one.
    fn point(&mut self) -> DVec2 {
        DVec2::new(self.number(-900.0, 1900.0), self.number(-900.0, 900.0))
    }

    /// A position on a screen of 320 × 180 or somewhat outside, or an invalid one.
    fn screen(&mut self) -> Vec2 {
        Vec2::new(self.number(-20.0, 340.0) as f32, self.number(-20.0, 200.0) as f32)
    }

    /// A rectangle that a game may have.
    fn rect(&mut self) -> Rect {
        Rect::around(
            [self.fair(-400.0, 1400.0), self.fair(-400.0, 400.0)],
            [self.fair(5.0, 700.0), self.fair(5.0, 500.0)],
        )
    }
}

/// Unusual numbers.
pub const ODD: [f64; 10] = [
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

/// PCG-XSH-RR: the same numbers on every machine.
pub struct Pcg(pub u64);

impl Pcg {
    fn next(&mut self) -> u32 {
        let state = self.0;
        self.0 =
            state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((((state >> 18) ^ state) >> 27) as u32).rotate_right((state >> 59) as u32)
    }
}

impl Dice for Pcg {
    fn below(&mut self, count: u32) -> u32 {
        ((u64::from(self.next()) * u64::from(count)) >> 32) as u32
    }

    fn fair(&mut self, low: f64, high: f64) -> f64 {
        low + f64::from(self.next()) / 4_294_967_296.0 * (high - low)
    }

    fn number(&mut self, low: f64, high: f64) -> f64 {
        if self.one_in(60) { self.pick(&ODD) } else { self.fair(low, high) }
    }
}

/// The name of the outline in games that have one.
const CELLAR: &str = "cellar";

/// A game with this source of decisions.
pub struct Game<D>(pub D);

impl<D: Dice> Game<D> {
    /// Runs one camera for a number of frames, or until the source is used up, and passes each frame to `seen`. Returns
    /// the number of frames.
    pub fn one_camera(&mut self, most: u32, seen: &mut dyn FnMut(&Camera, &View)) -> u32 {
        let mut camera = self.camera();
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let (mut behind, mut last): (Option<f64>, Option<View>) = (None, None);
        let mut anew = true;
        let mut frame = 0;
        while frame < most && !self.0.is_over() {
            for _call in 0..self.0.pick(&[0, 0, 1, 1, 2, 3]) {
                anew |= self.call(&mut camera);
            }
            let time = camera.view().time();
            let (view, followed) = self.frame(&mut camera, &mut at);
            assert!(view.time() >= time);
            invariants(&camera, &view, frame);
            if let Some(last) = &last {
                let between = View::between(last, &view, self.0.fair(0.0, 1.0));
                assert!(between.centre().is_finite(), "frame {frame}");
            }
            let line = line(&camera);
            let held = bounds(&camera).is_none() && !view.lens().is_rotated();
            let edge = edge(&camera, &view.steady()).filter(|_| held && !anew);
            if let (Some(edge), Some(behind)) = (edge, behind) {
                let back = behind - edge;
                assert!(back <= 1e-6 * (1.0 + edge.abs()), "{back} back, frame {frame}");
            }
            seen(&camera, &view);
            // A cut waits for somebody to follow.
            anew &= !followed;
            (behind, last) = (line, Some(view));
            frame += 1;
        }
        frame
    }

    /// Runs a frame with up to three calls before it.
    pub fn any_frame(&mut self, camera: &mut Camera, at: &mut [DVec2; 4]) -> View {
        for _call in 0..self.0.pick(&[0, 0, 1, 1, 2, 3]) {
            self.call(camera);
        }
        self.frame(camera, at).0
    }

    /// Does the same with three cameras, which take turns.
    pub fn several_cameras(&mut self, most: u32, seen: &mut dyn FnMut(&Camera, &View)) -> u32 {
        let mut cameras = Cameras::new(0, self.camera());
        for key in 1..3 {
            cameras.insert(key, self.camera());
        }
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let mut frame = 0;
        while frame < most && !self.0.is_over() {
            match self.0.below(12) {
                0 => drop(cameras.switch_to(&self.0.pick(&[0, 1, 2, 7]))),
                1 | 2 => {
                    let key = self.0.pick(&[0, 1, 2, 7]);
                    cameras.glide_to(&key, self.0.number(0.0, 1.0), self.ease());
                }
                3 if self.0.one_in(6) => drop(cameras.remove(&self.0.pick(&[0, 1, 2]))),
                4 if self.0.one_in(6) => {
                    let (key, camera) = (self.0.pick(&[0, 1, 2]), self.camera());
                    cameras.insert(key, camera);
                }
                _ => drop(self.call(cameras.active_mut())),
            }
            for (_, camera) in cameras.iter_mut() {
                self.frame(camera, &mut at);
            }
            let view = cameras.view(self.step());
            assert!(view.centre().is_finite() && view.scale() > 0.0, "frame {frame}");
            seen(cameras.active(), &view);
            frame += 1;
        }
        frame
    }

    /// A camera with any settings.
    pub fn camera(&mut self) -> Camera {
        Camera::new(self.settings()).expect("valid settings")
    }

    fn ease(&mut self) -> Ease {
        self.0.pick(&[Ease::Smooth, Ease::Smooth, Ease::InOut, Ease::Linear, Ease::Out])
    }

    fn seconds(&mut self) -> f64 {
        if self.0.one_in(3) { 0.0 } else { self.0.number(0.0, 1.5) }
    }

    fn step(&mut self) -> f64 {
        match self.0.below(12) {
            0 => 0.0,
            1 => self.0.number(0.0, 3.0),
            _ => self.0.fair(0.002, 0.05),
        }
    }

    fn smoothing(&mut self) -> Smoothing {
        let seconds = self.0.fair(0.01, 0.8);
        let speed = Smoothing::Speed(900.0 * seconds);
        self.0.pick(&[
            Smoothing::None,
            Smoothing::HalfLife(seconds),
            Smoothing::Settle(seconds),
            speed,
        ])
    }

    fn settings(&mut self) -> Settings {
        let mut settings = Settings::default();
        settings.screen.snap = self.0.pick(&[Snap::Off, Snap::Whole, Snap::Subpixel]);
        settings.screen.fit = self.0.pick(&[Fit::Whole, Fit::Cover, Fit::Reveal]);
        settings.screen.y_axis = self.0.pick(&[YAxis::Down, YAxis::Up]);
        let follow = &mut settings.follow;
        (follow.smoothing.x, follow.smoothing.y) = (self.smoothing(), self.smoothing());
        follow.axes = self.0.pick(&[Axes::Both, Axes::Both, Axes::X, Axes::Y]);
        follow.airborne = self.0.pick(&[Airborne::Follow, Airborne::Hold]);
        if self.0.one_in(2) {
            follow.anchor = DVec2::new(self.0.fair(0.0, 1.0), self.0.fair(0.0, 1.0));
        }
        if self.0.one_in(3) {
            follow.deadzone = Deadzone { left: 0.1, right: 0.2, top: 0.1, bottom: 0.05 };
        }
        if self.0.one_in(3) {
            follow.look_ahead = Some(LookAhead::default());
        }
        if self.0.one_in(3) {
            follow.leash = Some(Leash(DVec2::new(self.0.fair(0.05, 0.5), self.0.fair(0.05, 0.5))));
        }
        if self.0.one_in(3) {
            follow.ratchet =
                self.0.pick(&[Ratchet::Right, Ratchet::Left, Ratchet::Up, Ratchet::Down]);
        }
        if self.0.one_in(2) {
            let cushion_depth = if self.0.one_in(2) { 0.0 } else { 0.125 };
            settings.bounds = Some(Bounds { cushion_depth, ..Bounds::new(self.0.rect()) });
        }
        if self.0.one_in(3) {
            let parts = vec![self.0.rect(), self.0.rect(), self.0.rect()];
            settings.outlines.insert(CELLAR.into(), Outline::new(parts));
            if self.0.one_in(2) {
                settings.bounds = Bounds::of_outline(CELLAR).ok();
            }
        }
        settings.zoom.whole = self.0.one_in(4);
        settings.zoom.fill_bounds = self.0.one_in(3);
        settings.zoom.half_life = self.0.pick(&[0.0, 0.1, 0.3]);
        settings.party.fade = self.0.pick(&[0.0, 0.3, 0.8]);
        settings.hands.back =
            self.0.pick(&[HandReturn::Seconds(0.0), HandReturn::Seconds(0.4), HandReturn::Stay]);
        settings.shake.stay_in_bounds = self.0.one_in(2);
        self.places(&mut settings);
        let nudge = Some(ZoomNudge { by: self.0.fair(0.5, 2.0), ..ZoomNudge::default() });
        let shake = Some(Shake { roll: 0.03, ..Shake::default() });
        let cue = Cue { shake, zoom: nudge, glide: None, pause: None, ..Cue::default() };
        settings.cues.insert("gong".into(), cue);
        let cue = Cue { glide: Some(0.4), pause: Some(0.2), ..Cue::default() };
        settings.cues.insert("drum".into(), cue);
        settings
    }

    fn places(&mut self, settings: &mut Settings) {
        for _zone in 0..self.0.below(4) {
            let mut zone = Zone { fade: self.0.pick(&[0.0, 0.3, 0.7]), ..Zone::new(self.0.rect()) };
            zone.zoom = self.0.one_in(2).then(|| self.0.fair(0.5, 3.0));
            zone.anchor = self.0.one_in(3).then(|| DVec2::new(self.0.fair(0.0, 1.0), 0.4));
            zone.bounds = self.0.one_in(3).then(|| self.0.rect());
            zone.deadzone =
                self.0.one_in(4).then_some(Deadzone { left: 0.2, ..Deadzone::default() });
            settings.zones.push(zone);
        }
        if self.0.one_in(5) {
            let slide = self.0.one_in(2).then_some(0.4);
            settings.rooms = Some(Rooms { slide, ..Rooms::default() });
        }
        if self.0.one_in(6) {
            let points = vec![DVec2::ZERO, DVec2::new(500.0, 90.0), DVec2::new(1300.0, -80.0)];
            settings.rail =
                Some(Rail { points, speed: self.0.one_in(2).then_some(80.0), ..Rail::default() });
        }
        if self.0.one_in(6) {
            settings.scroll = Some(Scroll { speed: DVec2::new(30.0, 0.0) });
        }
        if self.0.one_in(5) {
            let at = DVec2::new(300.0, 0.0);
            settings.lures.push(Lure { at, radius: 200.0, strength: 0.6 });
        }
    }

    /// Makes any call. Returns whether a ratchet may restart: now, or with the next cut.
    fn call(&mut self, camera: &mut Camera) -> bool {
        let (told, restarts) =
            if self.0.one_in(2) { self.place(camera) } else { (self.look(), false) };
        let is_last = told.is_empty();
        for command in told {
            let before_end = if self.0.one_in(4) { self.0.number(0.0, 0.03) } else { 0.0 };
            camera.tell_due(command, before_end).expect("a sound command");
        }
        if is_last {
            let (state, view) = (camera.state(), camera.view());
            assert!(camera.restore(state).is_ok(), "a state that a camera was in: {state:?}");
            assert_eq!((camera.state(), camera.view()), (state, view));
        }
        restarts
    }

    /// Commands that may restart a ratchet, and whether they do.
    fn place(&mut self, camera: &Camera) -> (Vec<Command>, bool) {
        let command = match self.0.below(13) {
            0 => Command::Cut,
            1 => Command::PlaceAt(self.0.point()),
            2 => Command::Glide { seconds: self.seconds(), ease: self.ease() },
            3 if camera.settings().outlines.contains_key(CELLAR) && self.0.one_in(2) => {
                Command::SetBounds {
                    bounds: Bounds::of_outline(CELLAR).ok(),
                    seconds: self.seconds(),
                }
            }
            3 => {
                let bounds = (!self.0.one_in(4)).then(|| Bounds::new(self.0.rect()));
                Command::SetBounds { bounds, seconds: self.seconds() }
            }
            4 => Command::Translate(self.0.point()),
            5 => Command::ZoomNow(self.0.number(0.2, 5.0)),
            6 => Command::RotateNow(self.0.number(-4.0, 4.0)),
            7 => {
                // One that is over already cuts.
                let call = CueCall::anywhere().since(self.0.number(0.0, 0.5));
                Command::Cue { name: "drum".into(), call }
            }
            8 => Command::SetSettings {
                settings: Box::new(self.settings()),
                seconds: self.seconds(),
            },
            9 => {
                let most = self.0.pick(&[400, 2000, u32::MAX]);
                Command::Resize((self.0.below(most), self.0.below(most)).into())
            }
            _ => return (self.look(), false),
        };
        (vec![command], true)
    }

    /// Commands that do not. None stands for a state that is restored.
    fn look(&mut self) -> Vec<Command> {
        vec![match self.0.below(19) {
            0 => Command::AimAt(self.0.point()),
            1 => Command::SwitchSubject,
            2 => Command::ZoomTo(self.0.number(0.2, 5.0)),
            3 | 4 => {
                let about = self.0.one_in(2).then(|| self.0.screen());
                Command::ZoomBy { notches: self.0.number(-3.0, 3.0), about }
            }
            5 => Command::RotateTo(self.0.number(-4.0, 4.0)),
            6 => Command::Grab(self.0.screen()),
            7 | 8 => Command::DragTo(self.0.screen()),
            9 => Command::Release,
            10 | 11 => Command::Pan(self.0.screen() - Vec2::new(160.0, 90.0)),
            12 => Command::Show { rect: self.0.rect(), seconds: self.seconds(), ease: self.ease() },
            13 => {
                let call = CueCall::at(self.0.point());
                let gong = Command::Cue { name: "gong".into(), call };
                return vec![gong, Command::EndShakes(self.seconds())];
            }
            14 => {
                let points = [self.0.rect(), self.0.rect()].map(|rect| Waypoint::at(rect.centre()));
                let seconds = self.0.fair(0.0, 1.5);
                Command::Travel(Travel::new(points, seconds).with_ease(self.ease()))
            }
            15 => {
                let motion = self.0.pick(&[ShakeMotion::Wander, ShakeMotion::Rattle]);
                let shake = Shake { motion, ..Shake::default() };
                Command::Shake { shake, strength: self.0.number(0.0, 2.0) }
            }
            16 => Command::PauseShakes(self.0.one_in(2)),
            17 => Command::AdvanceShakes(self.0.number(0.0, 0.2)),
            _ => return Vec::new(),
        }]
    }

    /// Runs any frame. Returns the view, and whether a subject was certainly followed.
    fn frame(&mut self, camera: &mut Camera, at: &mut [DVec2; 4]) -> (View, bool) {
        for place in at.iter_mut() {
            let reach = if self.0.one_in(50) { 2000.0 } else { 8.0 };
            *place += DVec2::new(self.0.fair(-reach, reach), self.0.fair(-reach, reach));
            *place = place.clamp(DVec2::splat(-900.0), DVec2::splat(1900.0));
        }
        let step = self.step();
        let odd = self.0.one_in(200);
        let point = |game: &mut Self, place: DVec2| if odd { game.0.point() } else { place };
        let kind = self.0.below(20);
        let view = match kind {
            0 | 1 => camera.advance(step),
            2..6 => {
                let count = self.0.below(5) as usize;
                let subjects = (0..count).map(|index| {
                    Subject::from(point(self, at[index]))
                        .with_id(index as u32)
                        .with_margin(self.0.number(0.0, 30.0))
                        .with_weight(self.0.number(0.1, 3.0))
                        .with_rank(index as i32 % 2)
                });
                let subjects: Vec<Subject> = subjects.collect();
                camera.follow_all(step, &subjects)
            }
            _ => {
                let subject = Subject::from(point(self, at[0]));
                let told = match kind {
                    6 => subject.with_grounded(false),
                    7 => subject.with_velocity(self.0.point()),
                    _ => subject,
                };
                camera.follow(step, told)
            }
        };
        (view, kind > 7 && !odd)
    }
}
