//! Commands during a ride, at times that are in no frame of any rate.

use rand::RngExt;
use rand::rngs::SmallRng;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Bounds, Camera, Command, Ease, Rect, Shake, Travel, Waypoint};

use super::path::TICK;

/// One command.
#[derive(Clone, Copy, Debug)]
pub struct TimedCommand {
    what: What,
    /// Its time, in seconds.
    at: f64,
    seconds: f64,
    place: DVec2,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum What {
    Glide,
    GlideFromRest,
    AnotherSubject,
    AnotherAtOnce,
    Cut,
    Show,
    Travel,
    Grab,
    Pan,
    Wheel,
    WheelBack,
    Zoom,
    ZoomAtOnce,
    Rotate,
    RotateAtOnce,
    Bounds,
    NoBounds,
    Place,
    Shake,
    Settings,
}

const ALL: [What; 20] = [
    What::Glide,
    What::GlideFromRest,
    What::AnotherSubject,
    What::AnotherAtOnce,
    What::Cut,
    What::Show,
    What::Travel,
    What::Grab,
    What::Pan,
    What::Wheel,
    What::WheelBack,
    What::Zoom,
    What::ZoomAtOnce,
    What::Rotate,
    What::RotateAtOnce,
    What::Bounds,
    What::NoBounds,
    What::Place,
    What::Shake,
    What::Settings,
];

/// The time for which a hand controls the view, in seconds.
const HELD: f64 = 0.519;

impl TimedCommand {
    fn random(random: &mut SmallRng) -> Self {
        Self {
            what: ALL[random.random_range(0..ALL.len())],
            at: random.random_range(0.7..8.3),
            seconds: random.random_range(0.1..1.4),
            place: DVec2::new(random.random_range(0.0..1.0), random.random_range(0.0..1.0)),
        }
    }

    pub fn name(&self) -> String {
        format!("command {:?}", self.what)
    }

    /// One command of each kind.
    pub fn each() -> [Self; 20] {
        ALL.map(|what| Self { what, at: 2.8517, seconds: 0.7, place: DVec2::new(0.7, 0.3) })
    }

    pub fn several(random: &mut SmallRng) -> Vec<Self> {
        // A pan goes on with every frame, so its order among other hands depends on frames.
        let mut several: Vec<Self> = Vec::new();
        for _told in 0..random.random_range(2..=5) {
            let command = Self::random(random);
            let meets = |other: &Self| {
                (command.what == What::Pan || other.what == What::Pan)
                    && command.holds()
                    && other.holds()
            };
            if !several.iter().any(meets) {
                several.push(command);
            }
        }
        several
    }

    /// Whether a hand holds the view, or lets it go.
    fn holds(&self) -> bool {
        use What::{Grab, Pan, Place, Show, Travel, Wheel, WheelBack};
        matches!(self.what, Show | Travel | Grab | Pan | Wheel | WheelBack | Place)
    }

    /// Tells what is due in the frame between two times.
    pub fn tell(&self, camera: &mut Camera, from: f64, to: f64) {
        for (at, command) in self.commands().into_iter().flatten() {
            if from < at && at <= to {
                camera.tell_due(command, to - at).expect("valid bounds");
            }
        }
        // A hand that just keeps its control: how far a pan of pixels moves while the zoom changes depends on frames.
        let (start, end) = (self.at.max(from), (self.at + HELD).min(to));
        if self.what == What::Pan && start < end {
            camera.tell_due(Command::Pan(Vec2::new(1e-6, 0.0)), to - start).expect("a pan");
        }
    }

    /// The commands with their times.
    fn commands(&self) -> [Option<(f64, Command)>; 3] {
        let Self { what, at, seconds, place } = *self;
        let (ease, pointer) = (Ease::Smooth, (place * DVec2::new(320.0, 180.0)).as_vec2());
        let released = Some((at + HELD, Command::Release));
        let dragged = Some((at + 0.173, Command::DragTo(pointer + 25.0)));
        let glide = Command::Glide { seconds, ease };
        let command = match what {
            What::Glide => glide,
            What::GlideFromRest => Command::Glide { seconds, ease: Ease::InOut },
            What::AnotherSubject => {
                return [Some((at, Command::SwitchSubject)), Some((at, glide)), None];
            }
            What::AnotherAtOnce => Command::SwitchSubject,
            What::Cut => Command::Cut,
            What::Show => {
                let rect = Rect::around(DVec2::new(700.0, 300.0) + place * 400.0, [180.0, 100.0]);
                return [Some((at, Command::Show { rect, seconds, ease })), dragged, released];
            }
            What::Travel => {
                let points = [place, DVec2::ONE - place, DVec2::new(0.5, place.x)];
                let points =
                    points.map(|point| Waypoint::at(DVec2::new(700.0, 300.0) + point * 400.0));
                let travel = Command::Travel(Travel::new(points, 0.3 + seconds));
                return [Some((at, travel)), released, None];
            }
            What::Grab => return [Some((at, Command::Grab(pointer))), dragged, released],
            What::Pan => return [released, None, None],
            What::Wheel => Command::ZoomBy { notches: 2.0 * place.x - 1.0, about: Some(pointer) },
            What::WheelBack => {
                let notched = |notches| Command::ZoomBy { notches, about: Some(pointer) };
                return [Some((at, notched(1.0))), Some((at + 0.011, notched(-2.0))), None];
            }
            What::Zoom => Command::ZoomTo(0.8 + seconds),
            What::ZoomAtOnce => Command::ZoomNow(0.8 + seconds),
            What::Rotate => Command::RotateTo(place.x - 0.5),
            What::RotateAtOnce => Command::RotateNow(place.x - 0.5),
            What::Bounds => {
                let centre = DVec2::new(800.0, 400.0) + place * 200.0;
                let bounds = Some(Bounds::new(Rect::around(centre, [450.0, 250.0])));
                Command::SetBounds { bounds, seconds }
            }
            What::NoBounds => Command::SetBounds { bounds: None, seconds },
            What::Place => Command::PlaceAt(DVec2::new(700.0, 300.0) + place * 400.0),
            What::Shake => Command::Shake { shake: Shake::default(), strength: 1.0 },
            What::Settings => return [None, None, None],
        };
        [Some((at, command)), None, None]
    }

    /// Whether another subject comes in the frame between two times: then the game gives its velocity.
    pub fn brings_another(&self, from: f64, to: f64) -> bool {
        let is_other = matches!(self.what, What::AnotherSubject | What::AnotherAtOnce);
        is_other && from < self.at && self.at <= to
    }

    /// Changes the settings after the frame that ends at this tick. Settings have no other time: they act at once.
    pub fn settle(&self, camera: &mut Camera, tick: Option<u32>) -> bool {
        let is_now = self.what == What::Settings && tick == Some((self.at / TICK) as u32);
        if is_now {
            let mut settings = camera.settings().clone();
            settings.follow.anchor = self.place * 0.4 + 0.3;
            camera.set_settings(settings, self.seconds).expect("valid settings");
        }
        is_now
    }
}
