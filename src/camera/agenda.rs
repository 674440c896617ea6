//! Commands with a time: until they are due, and at the moment within a step at which they are.

use glam::{DVec2, Vec2};

use crate::base::list::List;
use crate::base::rect::Rect;
use crate::base::sound::{NOT_NEGATIVE, Sound, sound};
use crate::curves::ease::Ease;
use crate::limits::bounds::Bounds;

use super::Camera;
use super::arrival::{Arrival, Clock, SAME_MOMENT};
use super::state::Cut;

/// The commands that are due within the next step, in the order of their times.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Agenda {
    items: List<Due, { Agenda::MAX_COMMANDS }>,
}

sound!(Agenda { items });

/// A command, and when it is due.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Due {
    /// Seconds before the end of the step.
    pub before_end: f64,
    pub command: DueCommand,
}

sound!(Due { before_end in NOT_NEGATIVE, command });

/// What is done. All but the last two are [`Command`](crate::Command)s.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) enum DueCommand {
    PlaceAt(DVec2),
    ZoomNow(f64),
    RotateNow(f64),
    Cut,
    SwitchSubject,
    AimAt(DVec2),
    Glide {
        seconds: f64,
        ease: Ease,
    },
    SetBounds {
        bounds: Option<Bounds>,
        seconds: f64,
    },
    ZoomTo(f64),
    ZoomBy {
        notches: f64,
        about: Option<Vec2>,
    },
    RotateTo(f64),
    Grab(Vec2),
    DragTo(Vec2),
    Release,
    Pan(Vec2),
    Show {
        rect: Rect,
        seconds: f64,
        ease: Ease,
    },
    /// The way that was given last.
    Travel,
    /// A cue's glide, in seconds. It began when the cue was due.
    CueGlide(f64),
    /// A cue's pause, in seconds.
    CuePause(f64),
}

impl Sound for DueCommand {
    fn is_sound(&self) -> bool {
        match self {
            Self::PlaceAt(at) | Self::AimAt(at) => at.is_sound(),
            Self::ZoomNow(number) | Self::ZoomTo(number) => number.is_sound(),
            Self::RotateNow(angle) | Self::RotateTo(angle) => angle.is_sound(),
            Self::Cut | Self::SwitchSubject | Self::Travel | Self::Release => true,
            Self::Glide { seconds, .. } => seconds.is_sound(),
            Self::SetBounds { bounds, seconds } => bounds.is_sound() && seconds.is_sound(),
            Self::ZoomBy { notches, about } => notches.is_sound() && about.is_sound(),
            Self::Grab(point) | Self::DragTo(point) | Self::Pan(point) => point.is_sound(),
            Self::Show { rect, seconds, .. } => rect.is_sound() && seconds.is_sound(),
            Self::CueGlide(seconds) | Self::CuePause(seconds) => (0.0..=1e6).contains(seconds),
        }
    }
}

impl DueCommand {
    /// Returns whether it is what a player's hand does.
    pub fn is_by_hand(&self) -> bool {
        matches!(
            self,
            Self::Grab(_) | Self::DragTo(_) | Self::Release | Self::Pan(_) | Self::ZoomBy { .. }
        )
    }

    /// Moves everything that is in the world.
    fn translate(&mut self, delta: DVec2) {
        match self {
            Self::PlaceAt(at) | Self::AimAt(at) => *at += delta,
            Self::Show { rect, .. } => rect.translate(delta),
            _ => {}
        }
    }
}

impl Default for Due {
    fn default() -> Self {
        Self { before_end: 0.0, command: DueCommand::CuePause(0.0) }
    }
}

impl Default for Agenda {
    fn default() -> Self {
        Self { items: List::empty(Due::default()) }
    }
}

impl Agenda {
    /// The maximum number of commands that wait.
    const MAX_COMMANDS: usize = 16;

    #[inline]
    pub fn is_empty(&self) -> bool {
        self.items.is_empty()
    }

    /// Adds a command, after those of the same time. Returns `false`, and changes nothing, if too many wait.
    pub fn add(&mut self, before_end: f64, command: DueCommand) -> bool {
        let due = Due { before_end, command };
        let later = self.items.iter().position(|other| other.before_end < before_end);
        due.is_sound() && self.items.insert(later.unwrap_or(self.items.len()), due)
    }

    /// Returns the next moment at which something is due, as a fraction of a step.
    #[inline]
    pub fn next_moment(&self, seconds: f64) -> Option<f64> {
        self.items.first().map(|due| moment_of(due.before_end, seconds))
    }

    /// Returns the first moment for which a command is of this kind.
    pub fn moment_of(&self, seconds: f64, kind: impl Fn(&DueCommand) -> bool) -> Option<f64> {
        self.find(kind).map(|due| moment_of(due.before_end, seconds))
    }

    /// Returns whether a pan is due.
    pub fn pans(&self) -> bool {
        self.find(|command| matches!(command, DueCommand::Pan(_))).is_some()
    }

    /// Returns whether a glide is due.
    pub fn glides(&self) -> bool {
        self.find(|command| matches!(command, DueCommand::Glide { .. })).is_some()
    }

    fn find(&self, kind: impl Fn(&DueCommand) -> bool) -> Option<&Due> {
        self.items.iter().find(|due| kind(&due.command))
    }

    fn first(&self) -> Option<Due> {
        self.items.first().copied()
    }

    /// Takes what is due first, if it is due at this time or earlier.
    pub fn take(&mut self, before_end: f64) -> Option<Due> {
        let first = self.first().filter(|due| due.before_end >= before_end)?;
        self.items.remove(0);
        Some(first)
    }

    /// Drops a way that waits.
    pub fn drop_travel(&mut self) {
        self.items.retain(|due| due.command != DueCommand::Travel);
    }

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: DVec2) {
        for due in self.items.iter_mut() {
            due.command.translate(delta);
        }
    }
}

/// Returns the moment as a fraction of a step of some seconds. What was due before the step acts at its start.
fn moment_of(before_end: f64, seconds: f64) -> f64 {
    ((seconds - before_end) / seconds).clamp(0.0, 1.0)
}

impl Camera {
    /// Lets something be done at its moment in the next frame, or like a command without a time.
    pub(super) fn do_due(&mut self, command: DueCommand, before_end: f64) {
        if before_end <= 0.0 || !self.state.agenda.add(before_end, command) {
            self.act(command, before_end, Clock::Track);
        }
    }

    /// Acts on the commands that are due up to a fraction of the step, one moment after the other. Commands without a
    /// time wait for the end of the step.
    pub(super) fn act_until(&mut self, arrival: &Arrival<'_>, fraction: f64) {
        while let Some(Due { before_end, .. }) = self.state.agenda.first() {
            let moment = moment_of(before_end, arrival.seconds);
            if moment > fraction + SAME_MOMENT {
                return;
            }
            let pending = core::mem::take(&mut self.state.pending);
            let cut = core::mem::replace(&mut self.state.goal.cut, Cut::No);
            let track = self.state.goal.track;
            let (clock, late) = (arrival.clock(moment), (before_end - arrival.seconds).max(0.0));
            while let Some(Due { command, .. }) = self.state.agenda.take(before_end) {
                self.act(command, late, clock);
            }
            // Whatever they forget, the subject is on its way through the step.
            self.state.goal.track = track;
            self.settle_moment(arrival, moment);
            self.apply_commands(clock);
            self.state.pending = pending;
            self.state.goal.wait_for(cut);
        }
    }
}
