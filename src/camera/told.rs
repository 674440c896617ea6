//! What the game has told since the last frame: it belongs to the next frame's input, not to the state.

use alloc::vec::Vec;

use glam::{DVec2, Vec2};

use crate::base::maths::{is_usable, usable_angle, usable_seconds};
use crate::base::rect::Rect;
use crate::camera::hand::Grip;
use crate::curves::ease::Timing;
use crate::lens::zoom::Zoom;
use crate::limits::bounds::Bounds;
use crate::shake::cue::{Cue, Nudge};

use super::Camera;
use super::arrival::{Arrival, SAME_MOMENT};
use super::command::Command;
use super::state::Cut;
use super::travel::Route;

/// What waits for the next frame.
#[derive(Clone, Debug, Default)]
pub(super) struct Told {
    /// What acts with the end of the frame.
    pub at_end: Moment,
    /// What has a time, in the order of the times. Its memory is kept, so that a frame allocates nothing.
    due: Vec<Due>,
}

/// A command with a time.
#[derive(Clone, Debug, PartialEq)]
struct Due {
    /// Seconds before the end of the frame.
    before_end: f64,
    command: Command,
}

/// What commands do together at one moment: a slot for each kind, so the last of a kind counts and pans add up. Points and
/// pixels of the screen are what they meant in the world when they were told.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Moment {
    pub glide: Option<Timing>,
    /// A point to aim at if nothing is followed.
    pub aim: Option<DVec2>,
    pub nudge: Option<Nudge>,
    pub pause: Option<f64>,
    pub zoom: Option<f64>,
    /// What the zoom is about.
    pub about: Option<Grip>,
    pub rotation: Option<f64>,
    pub bounds: Option<NewBounds>,
    pub hand: Option<HandCommand>,
    /// The way of a travel.
    pub route: Option<Route>,
    /// The screen point to which the grabbed point is dragged, in screen pixels.
    pub drag: Option<Vec2>,
    /// By how much the view is moved, in screen pixels. Each step moves it by its share, as its lens shows it.
    pub pan: DVec2,
}

/// Bounds that were set.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct NewBounds {
    pub bounds: Option<Bounds>,
    pub seconds: f64,
}

/// The command of a hand.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum HandCommand {
    Grab(Grip),
    /// A world rectangle as large as it can be.
    Show(Rect, Timing),
    /// The moment's way.
    Travel,
    Release,
}

impl Told {
    /// Returns whether nothing waits.
    pub fn is_empty(&self) -> bool {
        self.due.is_empty() && self.at_end.is_empty()
    }

    /// Forgets what waits.
    pub fn clear(&mut self) {
        self.due.clear();
        self.at_end = Moment::default();
    }

    /// Adds a command with a time, after those of the same time.
    pub fn add(&mut self, before_end: f64, command: Command) {
        let later = self.due.iter().position(|other| other.before_end < before_end);
        self.due.insert(later.unwrap_or(self.due.len()), Due { before_end, command });
    }

    /// Returns the first moment, as a fraction of a step of some seconds, for which a command is of this kind.
    pub fn moment_of(&self, seconds: f64, kind: impl Fn(&Command) -> bool) -> Option<f64> {
        let first = self.due.iter().find(|due| kind(&due.command));
        first.map(|due| moment_of(due.before_end, seconds))
    }

    /// Returns the next moment at which something is due, as a fraction of a step.
    #[inline]
    pub fn next_moment(&self, seconds: f64) -> Option<f64> {
        self.due.first().map(|due| moment_of(due.before_end, seconds))
    }

    /// Returns whether something has a time.
    #[inline]
    pub fn has_due(&self) -> bool {
        !self.due.is_empty()
    }

    /// Returns whether a command of this kind has a time.
    pub fn is_due(&self, kind: impl Fn(&Command) -> bool) -> bool {
        self.due.iter().any(|due| kind(&due.command))
    }

    /// Takes what is due first, if it is due at this time or earlier, and its time.
    pub fn take(&mut self, before_end: f64) -> Option<(f64, Command)> {
        self.due.first().filter(|due| due.before_end >= before_end)?;
        let Due { before_end, command } = self.due.remove(0);
        Some((before_end, command))
    }

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: DVec2) {
        self.at_end.translate(delta);
        self.due.iter_mut().for_each(|due| due.command.translate(delta));
    }
}

/// Returns the moment as a fraction of a step of some seconds. What was due before the step acts at its start.
fn moment_of(before_end: f64, seconds: f64) -> f64 {
    ((seconds - before_end) / seconds).clamp(0.0, 1.0)
}

impl Moment {
    /// Returns whether nothing takes effect with the end of the next frame.
    #[inline]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// Returns whether a point is grabbed or zoomed about from the start of the next frame.
    #[inline]
    pub fn holds_point(&self) -> bool {
        self.about.is_some() || matches!(self.hand, Some(HandCommand::Grab(_)))
    }

    /// Adds a command that needs to know nothing of the camera.
    pub fn add(&mut self, command: &Command) {
        match *command {
            Command::AimAt(point) if is_usable(point) => self.aim = Some(point),
            Command::Glide { seconds, ease } => self.glide = Some(Timing { seconds, ease }),
            Command::SetBounds { bounds, seconds } => {
                self.bounds = Some(NewBounds { bounds, seconds: usable_seconds(seconds) });
            }
            Command::RotateTo(angle) => self.rotation = usable_angle(angle).or(self.rotation),
            Command::DragTo(screen) => self.drag_to(screen),
            Command::Release => self.hand = Some(HandCommand::Release),
            Command::Pan(pixels) => self.pan_by(pixels),
            Command::Show { rect, seconds, ease } if is_usable(rect.min) && is_usable(rect.max) => {
                let timing = Timing { seconds: usable_seconds(seconds), ease };
                self.hand = Some(HandCommand::Show(rect, timing));
            }
            // A way was checked when it was told.
            Command::Travel(ref travel) => {
                if let Ok(route) = Route::new(travel) {
                    self.set_off(route);
                }
            }
            _ => {}
        }
    }

    /// Does what a cue does beside its shake and its glide. It is `late` by what has passed of it. Of pauses the longest
    /// holds.
    pub fn play(&mut self, cue: &Cue, strength: f64, late: f64) {
        if let Some(nudge) = cue.zoom {
            self.nudge = Some(Nudge { nudge, strength, age: late });
        }
        if let Some(seconds) = cue.pause {
            self.pause = Some(self.pause.unwrap_or(0.0).max(seconds - late));
        }
    }

    /// Adds notches to the wanted zoom, which is at least the least one.
    pub fn zoom_by(
        &mut self,
        notches: f64,
        about: Option<Grip>,
        zoom: &Zoom,
        [wanted, least]: [f64; 2],
    ) {
        let notched = zoom.notched(self.zoom.unwrap_or(wanted).max(least), notches);
        if notches.is_finite() && !notched.is_nan() {
            self.zoom = Some(zoom.limited(notched, least));
            self.about = about.or(self.about);
        }
    }

    /// Sets off on a way.
    pub fn set_off(&mut self, route: Route) {
        (self.hand, self.route) = (Some(HandCommand::Travel), Some(route));
    }

    /// Grabs a point, if there is one.
    pub fn grab(&mut self, grip: Option<Grip>) {
        if let Some(grip) = grip {
            (self.hand, self.drag) = (Some(HandCommand::Grab(grip)), None);
        }
    }

    /// Drags the grabbed point to a screen point.
    pub fn drag_to(&mut self, screen: Vec2) {
        match &mut self.hand {
            _ if !screen.is_finite() => {}
            Some(HandCommand::Grab(grip)) => grip.screen = screen,
            _ => self.drag = Some(screen),
        }
    }

    /// Moves the view by screen pixels.
    pub fn pan_by(&mut self, pixels: Vec2) {
        let pan = self.pan + pixels.as_dvec2();
        if pixels.is_finite() && pan.is_finite() {
            self.pan = pan;
        }
    }

    /// Drops everything that takes the view in hand, or lets it wait.
    pub fn drop_hands(&mut self) {
        (self.hand, self.drag, self.about, self.pause) = (None, None, None, None);
        self.pan = DVec2::ZERO;
    }

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: DVec2) {
        self.aim = self.aim.map(|aim| aim + delta);
        if let Some(route) = &mut self.route {
            route.translate(delta);
        }
        if let Some(about) = &mut self.about {
            about.world += delta;
        }
        match &mut self.hand {
            Some(HandCommand::Grab(grip)) => grip.world += delta,
            Some(HandCommand::Show(rect, _)) => rect.translate(delta),
            Some(HandCommand::Travel | HandCommand::Release) | None => {}
        }
    }
}

impl Camera {
    /// Acts on the commands that are due up to a fraction of the step, one moment after the other. Commands without a
    /// time wait for the end of the step.
    pub(super) fn act_until(&mut self, arrival: &Arrival<'_>, fraction: f64) {
        while let Some(&Due { before_end, .. }) = self.told.due.first() {
            let moment = moment_of(before_end, arrival.seconds);
            if moment > fraction + SAME_MOMENT {
                return;
            }
            let at_end = core::mem::take(&mut self.told.at_end);
            let cut = core::mem::replace(&mut self.state.goal.cut, Cut::No);
            let track = self.state.goal.track;
            let (clock, late) = (arrival.clock(moment), (before_end - arrival.seconds).max(0.0));
            while let Some((_, command)) = self.told.take(before_end) {
                self.act(&command, late, clock);
            }
            // Whatever they forget, the subject is on its way through the step.
            self.state.goal.track = track;
            self.settle_moment(arrival, moment);
            self.apply_commands(clock);
            self.told.at_end = at_end;
            self.state.goal.wait_for(cut);
        }
    }
}
