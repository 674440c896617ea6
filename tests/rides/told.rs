//! Commands during a ride, at a tick and for some ticks after it.

use rand::RngExt;
use rand::rngs::SmallRng;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Bounds, Camera, Ease, Rect};

use super::path::TICK;

/// One command.
#[derive(Clone, Copy, Debug)]
pub struct Told {
    what: What,
    tick: u32,
    seconds: f64,
    at: DVec2,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum What {
    Glide,
    GlideFromRest,
    AnotherSubject,
    Cut,
    Show,
    Grab,
    Pan,
    Wheel,
    Zoom,
    Rotate,
    Bounds,
    Settings,
}

const ALL: [What; 12] = [
    What::Glide,
    What::GlideFromRest,
    What::AnotherSubject,
    What::Cut,
    What::Show,
    What::Grab,
    What::Pan,
    What::Wheel,
    What::Zoom,
    What::Rotate,
    What::Bounds,
    What::Settings,
];

/// The number of ticks for which a hand controls the view.
const HELD: u32 = 3;

impl Told {
    fn random(random: &mut SmallRng) -> Self {
        Self {
            what: ALL[random.random_range(0..ALL.len())],
            tick: random.random_range(4..50),
            seconds: random.random_range(0.1..1.4),
            at: DVec2::new(random.random_range(0.0..1.0), random.random_range(0.0..1.0)),
        }
    }

    /// One command of each kind.
    pub fn each() -> [Self; 12] {
        ALL.map(|what| Self { what, tick: 17, seconds: 0.7, at: DVec2::new(0.7, 0.3) })
    }

    /// A screen point.
    fn pointer(&self, shift: f32) -> Vec2 {
        (self.at * DVec2::new(320.0, 180.0)).as_vec2() + shift
    }

    /// Several commands, at most one of which is a hand: the order of two that overlap depends on frames.
    pub fn several(random: &mut SmallRng) -> Vec<Self> {
        const HANDS: [What; 4] = [What::Show, What::Grab, What::Pan, What::Wheel];
        let mut several: Vec<Self> = Vec::new();
        for _told in 0..random.random_range(2..=5) {
            let told = Self::random(random);
            let is_hand = |told: &Self| HANDS.contains(&told.what);
            if !is_hand(&told) || !several.iter().any(is_hand) {
                several.push(told);
            }
        }
        several
    }

    pub fn tell(&self, camera: &mut Camera, tick: u32) {
        if tick == self.tick && !self.is_told_after(tick) {
            self.begin(camera);
        }
        let held = [What::Show, What::Grab].contains(&self.what);
        if held && tick == self.tick + 1 {
            camera.drag_to(self.pointer(25.0));
        }
        if held && tick == self.tick + HELD {
            camera.release();
        }
    }

    pub fn begin(&self, camera: &mut Camera) {
        match self.what {
            What::Glide => camera.glide(self.seconds, Ease::Smooth),
            What::GlideFromRest => camera.glide(self.seconds, Ease::InOut),
            What::AnotherSubject => {
                camera.switch_subject();
                camera.glide(self.seconds, Ease::Smooth);
            }
            What::Cut => camera.cut(),
            What::Show => {
                let rect = Rect::around(DVec2::new(700.0, 300.0) + self.at * 400.0, [180.0, 100.0]);
                camera.show(&rect, self.seconds, Ease::Smooth);
            }
            What::Grab => camera.grab(self.pointer(0.0)),
            What::Pan => {}
            What::Wheel => camera.zoom_by(2.0 * self.at.x - 1.0, Some(self.pointer(0.0))),
            What::Zoom => camera.zoom_to(0.8 + self.seconds),
            What::Rotate => camera.rotate_to(self.at.x - 0.5),
            What::Bounds => {
                let centre = DVec2::new(800.0, 400.0) + self.at * 200.0;
                let bounds = Bounds::new(Rect::around(centre, [450.0, 250.0]));
                camera.set_bounds(Some(bounds), self.seconds).expect("valid bounds");
            }
            What::Settings => {
                let mut settings = camera.settings().clone();
                settings.follow.anchor = self.at * 0.4 + 0.3;
                camera.set_settings(settings, self.seconds).expect("valid settings");
            }
        }
    }

    /// Pans with every frame between two ticks, only as far as a hand that just keeps its control. How far a pan of
    /// pixels moves while the zoom changes depends on the game's frames.
    pub fn pan(&self, camera: &mut Camera, from: f64, to: f64) {
        let (start, end) = (f64::from(self.tick) * TICK, f64::from(self.tick + HELD) * TICK);
        let began = to > start - 1e-6;
        if self.what == What::Pan && began && (to < end - 1e-6 || from < end - 1e-6) {
            camera.pan(Vec2::new(1e-6, 0.0));
        }
    }

    /// Whether it is called after the frame that ends at this tick, followed by a frame without duration: commands
    /// that act at once, mean a position in the picture, or come with another subject.
    pub fn is_told_after(&self, tick: u32) -> bool {
        const AFTER: [What; 4] = [What::Grab, What::Wheel, What::AnotherSubject, What::Settings];
        self.tick == tick && AFTER.contains(&self.what)
    }
}
