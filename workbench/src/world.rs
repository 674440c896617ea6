//! The terraces, the courier in the player's hands, and the camera.

use std::path::Path;

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Camera, Fit, Settings, SettingsError, Snap, Subject, View, WindowPoint};
use velvet_pan_takes::{Files, Map};
use velvet_pan_terraces::art::courier::Pose;
use velvet_pan_terraces::art::marks;
use velvet_pan_terraces::art::palette::NIGHT;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::stage::{Figure, Role, Stage};
use velvet_pan_terraces::{Body, Land, files};
use winit::keyboard::KeyCode;

/// Seconds of a simulation step.
const STEP: f64 = 1.0 / 120.0;

/// Which keys are held.
#[derive(Debug, Default)]
pub struct Keys {
    pub left: bool,
    pub right: bool,
    /// Set when pressed, taken by the next step.
    pub leap: bool,
}

/// All of the demo but its window.
pub struct World {
    pub keys: Keys,
    land: Land,
    stage: Stage,
    body: Body,
    /// Where she was a step before.
    before: DVec2,
    faces_left: bool,
    camera: Camera,
    views: [View; 2],
    /// Time that is not simulated yet.
    rest: f64,
    pointer: WindowPoint,
    overlay: bool,
}

impl World {
    /// The terraces at dusk, the courier at their foot.
    pub fn new() -> Result<Self, Box<dyn std::error::Error>> {
        let files = files::files();
        let built_in = Files::BuiltIn(&files);
        let map = Map::read(built_in, Path::new("terraces.csv"), [16.0, 16.0], [0.0, 0.0])?;
        let settings: Settings = toml::from_str(&built_in.read(Path::new("courier.toml"))?)?;
        let body = Body::at(DVec2::new(200.0, 780.0));
        let mut camera = Camera::new(settings)?;
        let stage = Stage::new(camera.settings(), camera.layers(), Some(map));
        let view = camera.follow(0.0, body.feet);
        Ok(Self {
            keys: Keys::default(),
            land: Land::laid_out(),
            stage,
            body,
            before: body.feet,
            faces_left: false,
            camera,
            views: [view; 2],
            rest: 0.0,
            pointer: WindowPoint::default(),
            overlay: false,
        })
    }

    /// The window has another size.
    pub fn resize(&mut self, width: u32, height: u32) {
        self.camera.resize((width, height));
        self.views = self.views.map(|_| self.camera.view());
    }

    /// The pointer has moved.
    pub fn point(&mut self, at: Vec2) {
        self.pointer = at.into();
        self.camera.drag_to_window(self.pointer);
    }

    /// The button is down or up.
    pub fn grab(&mut self, down: bool) {
        if !down || !self.camera.grab_at_window(self.pointer) {
            self.camera.release();
        }
    }

    /// The wheel was turned.
    pub fn wheel(&mut self, notches: f64) {
        self.camera.zoom_by_at_window(notches, self.pointer);
    }

    /// A key that switches something.
    pub fn switch(&mut self, key: KeyCode) {
        let snap = |snap: Snap| move |settings: &mut Settings| settings.screen.snap = snap;
        let result = match key {
            KeyCode::Digit1 => self.change(snap(Snap::Off)),
            KeyCode::Digit2 => self.change(snap(Snap::Whole)),
            KeyCode::Digit3 => self.change(snap(Snap::Subpixel)),
            KeyCode::KeyF => self.change(|settings| {
                settings.screen.fit = match settings.screen.fit {
                    Fit::Whole => Fit::Contain,
                    Fit::Contain => Fit::Reveal,
                    Fit::Reveal => Fit::Cover,
                    _ => Fit::Whole,
                }
            }),
            KeyCode::KeyO => {
                self.overlay = !self.overlay;
                Ok(())
            }
            _ => Ok(()),
        };
        if let Err(error) = result {
            eprintln!("{error}");
        }
    }

    fn change(&mut self, change: impl FnOnce(&mut Settings)) -> Result<(), SettingsError> {
        let mut settings = self.camera.settings().clone();
        change(&mut settings);
        self.camera.set_settings(settings, 0.3)
    }

    /// Simulates in fixed steps as much as fits into the time that has passed.
    pub fn advance(&mut self, seconds: f64) {
        self.rest = (self.rest + seconds).min(0.25);
        while self.rest >= STEP {
            self.rest -= STEP;
            self.step();
        }
    }

    fn step(&mut self) {
        let way = f64::from(i8::from(self.keys.right) - i8::from(self.keys.left));
        self.before = self.body.feet;
        if std::mem::take(&mut self.keys.leap) && self.body.grounded {
            self.body.leap();
        }
        self.body.step(&self.land, way, STEP);
        if way != 0.0 {
            self.faces_left = way < 0.0;
        }
        let subject = Subject::from(self.body.feet).with_grounded(self.body.grounded);
        self.views = [self.views[1], self.camera.follow(STEP, subject)];
    }

    /// What is switched on, for the window's title.
    pub fn title(&self) -> String {
        let screen = &self.camera.settings().screen;
        format!(
            "Velvet Pan · snap {:?} (1 2 3) · fit {:?} (F) · overlay (O) · zoom {:.2}",
            screen.snap,
            screen.fit,
            self.views[1].lens().zoom()
        )
    }

    /// The view between the last two steps, in a window of this size.
    pub fn draw(&mut self, width: u32, height: u32) -> Picture {
        let part = self.rest / STEP;
        let shown = View::between(&self.views[0], &self.views[1], part);
        let figure = Figure {
            role: Role::Courier(self.pose()),
            at: self.before.lerp(self.body.feet, part),
            left: self.faces_left,
            followed: true,
        };
        let mut picture = Picture::new(UVec2::new(width, height), NIGHT);
        self.stage.paint(&shown, &[figure], &mut picture);
        if self.overlay {
            marks::draw_overlay(&mut picture, &self.camera.overlay(), &shown);
        }
        picture
    }

    fn pose(&self) -> Pose {
        let Body { feet, velocity, grounded } = self.body;
        Pose::of(grounded, velocity.y < 0.0, velocity.x, feet.x)
    }
}
