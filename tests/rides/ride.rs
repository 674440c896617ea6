//! One ride: stages, commands, a smoothing and a path, at any frames.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Settings, Smoothing, Subject, View};

use super::commands::TimedCommand;
use super::path::{Class, Frames, Path, TICK, is_shared, tick_at};
use super::stages::{Stage, subjects};

/// A ride that can be ridden at any frames.
#[derive(Clone)]
pub struct Ride {
    pub stages: Vec<Stage>,
    pub commands: Vec<TimedCommand>,
    pub kind: Smoothing,
    pub path: Path,
    pub hand: Hand,
}

/// A player's hand that holds the view from one tick to another, in each frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Hand {
    Off,
    Pan,
    Drag,
    Grab,
}

impl Hand {
    const BEGIN: f64 = 15.0 * TICK - 1e-7;
    const END: f64 = 24.0 * TICK - 1e-7;

    /// Tells what the hand does before a frame.
    fn tell(self, camera: &mut Camera, from: f64, to: f64) {
        let pointer = |t: f64| {
            let (x, y) = (150.0 + 60.0 * (1.3 * t).sin(), 90.0 + 30.0 * (0.9 * t).cos());
            DVec2::new(x, y).as_vec2()
        };
        if !(Self::BEGIN..Self::END).contains(&from) {
            return;
        }
        // A dragging pointer stands still before it lets go: released with the frame's end, no view shows its last way.
        let drag = |t: f64| pointer(t.min(Self::END - TICK));
        let (begins, ends) = (from - Self::BEGIN < 1e-6, to >= Self::END);
        match self {
            Self::Off => {}
            Self::Pan => camera.pan(pointer(to) - pointer(from)),
            _ if ends => camera.release(),
            Self::Grab => camera.grab(pointer(Self::BEGIN)),
            Self::Drag => {
                if begins {
                    camera.grab(drag(from));
                }
                camera.drag_to(drag(to));
            }
        }
    }
}

/// What a ride shows at the moments that other frames share.
pub type Views = Vec<(f64, View)>;

impl Ride {
    pub fn of(stages: &[Stage], kind: Smoothing, path: Path) -> Self {
        Self { stages: stages.to_vec(), commands: Vec::new(), kind, path, hand: Hand::Off }
    }

    pub fn camera(&self) -> Camera {
        let mut settings = Settings::default();
        settings.follow.smoothing = self.kind.into();
        self.stages.iter().for_each(|stage| (stage.set)(&mut settings));
        Camera::new(settings).expect("valid settings")
    }

    /// The subjects at a time.
    pub fn subjects(&self, t: f64, tick: Option<u32>) -> Vec<Subject> {
        if self.path.is_lost(t) { Vec::new() } else { subjects(&self.path, &self.stages, t, tick) }
    }

    pub fn views(&self, frames: Frames) -> Views {
        let mut views = Vec::new();
        self.each(
            &frames.times(),
            |_, _, _| {},
            |t, _, view| {
                if is_shared(t) {
                    views.push((t, *view));
                }
            },
        );
        views
    }

    /// Rides frames that end at these times. `before` each it may tell more, and is given its start and end.
    pub fn each(
        &self,
        times: &[f64],
        mut before: impl FnMut(&mut Camera, f64, f64),
        mut after: impl FnMut(f64, &Camera, &View),
    ) {
        let mut camera = self.camera();
        let mut last = 0.0;
        for &t in times {
            let tick = tick_at(t);
            if let Some(tick) = tick {
                self.stages.iter().for_each(|stage| (stage.event)(&mut camera, tick));
            }
            self.commands.iter().for_each(|command| command.tell(&mut camera, last, t));
            self.hand.tell(&mut camera, last, t);
            before(&mut camera, last, t);
            let subjects = self.arriving(last, t, tick);
            let mut view = frame(&mut camera, t - last, &subjects);
            let settle = |command: &&TimedCommand| command.settle(&mut camera, tick);
            if self.commands.iter().filter(settle).count() > 0 {
                view = frame(&mut camera, 0.0, &subjects);
            }
            assert!(
                view.centre().is_finite() && view.scale().is_finite(),
                "{} at {t}",
                self.name()
            );
            after(t, &camera, &view);
            last = t;
        }
    }

    /// The subjects at the end of a frame. Of another one the game gives the velocity.
    fn arriving(&self, from: f64, to: f64, tick: Option<u32>) -> Vec<Subject> {
        let mut now = self.subjects(to, tick);
        if self.commands.iter().any(|command| command.brings_another(from, to)) {
            for (subject, before) in now.iter_mut().zip(self.subjects(to - 1e-6, None)) {
                *subject = subject.with_velocity((subject.position - before.position) / 1e-6);
            }
        }
        now
    }

    /// Whether the rides differ where the whole path lies a twentieth of a pixel elsewhere: then a decision hangs by it.
    pub fn is_undecided(&self, views: &Views, frames: Frames) -> bool {
        [DVec2::X, DVec2::NEG_X, DVec2::Y, DVec2::NEG_Y].into_iter().any(|way| {
            let beside = Self { path: self.path.shifted(way * 0.05), ..self.clone() };
            apart(&beside.views(frames), views) > 0.5
        })
    }

    /// Which of the classes of paths it belongs to.
    pub fn class(&self) -> Class {
        let hops = self.stages.iter().any(|stage| stage.hops);
        if hops { Class::Corners } else { self.path.class() }
    }

    pub fn name(&self) -> String {
        let names: Vec<&str> = self.stages.iter().map(|stage| stage.name).collect();
        format!("{}, {:?} {:?}", names.join(" + "), self.kind, self.commands)
    }
}

pub fn frame(camera: &mut Camera, seconds: f64, subjects: &[Subject]) -> View {
    match subjects {
        [] => camera.advance(seconds),
        [only] => camera.follow(seconds, *only),
        several => camera.follow_all(seconds, several),
    }
}

/// The greatest distance of two rides at the moments of the first one that the other one has, in screen pixels.
pub fn apart(one: &Views, other: &Views) -> f64 {
    let gap = |(t, view): &(f64, View)| {
        let next = other.partition_point(|(other, _)| *other < t - 1e-6);
        other.get(next).filter(|(other, _)| other - t < 1e-6).map(|(_, same)| distance(view, same))
    };
    one.iter().filter_map(gap).fold(0.0, f64::max)
}

/// The distance of two pictures: the greater one of two opposite corners, in screen pixels.
pub fn distance(one: &View, other: &View) -> f64 {
    let shown = other.visible_world();
    let off = |corner| one.world_to_screen_f64(corner).distance(other.world_to_screen_f64(corner));
    off(shown.min).max(off(shown.max))
}
