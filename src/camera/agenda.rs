//! Commands with a time: until they are due, and at the moment within a step at which they are.

use crate::units::convert::IntoSeconds;
use crate::units::ease::Ease;
use crate::units::error::SettingsError;
use crate::units::list::List;
use crate::units::maths::usable_seconds;
use crate::units::sound::{NOT_NEGATIVE, Sound, sound};

use super::Camera;
use super::arrival::{Arrival, Clock, SAME_MOMENT};
use super::commands::Command;
use super::state::Cut;

/// The commands that are due within the next step, in the order of their times.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Agenda {
    items: List<Due, { Agenda::MOST }>,
}

sound!(Agenda { items });

/// A command, and when it is due.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) struct Due {
    /// Seconds before the end of the step.
    pub before_end: f64,
    pub deed: Deed,
}

sound!(Due { before_end in NOT_NEGATIVE, deed });

/// What is done.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(super) enum Deed {
    Tell(Command),
    /// A cue's glide, in seconds.
    Glide(f64),
    /// A cue's pause, in seconds.
    Pause(f64),
}

impl Sound for Deed {
    fn is_sound(&self) -> bool {
        match self {
            Self::Tell(command) => command.is_sound(),
            Self::Glide(seconds) | Self::Pause(seconds) => (0.0..=1e6).contains(seconds),
        }
    }
}

impl Default for Due {
    fn default() -> Self {
        Self { before_end: 0.0, deed: Deed::Pause(0.0) }
    }
}

impl Default for Agenda {
    fn default() -> Self {
        Self { items: List::empty(Due::default()) }
    }
}

impl Agenda {
    /// The maximum number of commands that wait.
    const MOST: usize = 16;

    #[inline]
    pub fn is_empty(&self) -> bool {
        self.items.is_empty()
    }

    /// Adds a command, after those of the same time. Returns `false`, and changes nothing, if too many wait.
    pub fn add(&mut self, before_end: f64, deed: Deed) -> bool {
        let due = Due { before_end, deed };
        let later = self.items.iter().position(|other| other.before_end < before_end);
        due.is_sound() && self.items.insert(later.unwrap_or(self.items.len()), due)
    }

    /// The next moment at which something is due, as a fraction of a step.
    #[inline]
    pub fn next_moment(&self, seconds: f64) -> Option<f64> {
        self.items.first().map(|due| moment_of(due.before_end, seconds))
    }

    /// The first moment for which a command is of this kind.
    pub fn moment_of(&self, seconds: f64, kind: impl Fn(&Command) -> bool) -> Option<f64> {
        self.find(kind).map(|due| moment_of(due.before_end, seconds))
    }

    /// Whether a pan is due.
    pub fn pans(&self) -> bool {
        self.find(|command| matches!(command, Command::Pan(_))).is_some()
    }

    /// Whether a glide is due.
    pub fn glides(&self) -> bool {
        self.find(|command| matches!(command, Command::Glide { .. })).is_some()
    }

    fn find(&self, kind: impl Fn(&Command) -> bool) -> Option<&Due> {
        self.items.iter().find(|due| matches!(&due.deed, Deed::Tell(command) if kind(command)))
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

    /// Moves everything that is in the world.
    pub fn translate(&mut self, delta: glam::DVec2) {
        for due in self.items.iter_mut() {
            if let Deed::Tell(command) = &mut due.deed {
                command.translate(delta);
            }
        }
    }
}

/// The moment as a fraction of a step of some seconds. What was due before the step acts at its start.
fn moment_of(before_end: f64, seconds: f64) -> f64 {
    ((seconds - before_end) / seconds).clamp(0.0, 1.0)
}

impl Camera {
    /// Gives the camera a [`Command`] that was due `before_end` seconds before the end of the next frame. The frame is
    /// divided at that moment, so what follows does not depend on the frame rate.
    ///
    /// Commands act one after the other, in the order of their times. A point that is grabbed or zoomed about is one of
    /// the picture at that moment. A subject that is switched to, or that jumped and is cut to, came at that moment, and
    /// moved at its given velocity since. A moment before the frame's start counts as its start.
    ///
    /// [`Command::Translate`] acts immediately, like a command that is told to [`tell`](Self::tell). Without a time, in a
    /// frame of 0 seconds, or if 16 wait already, a command acts as in `tell`.
    ///
    /// # Errors
    ///
    /// Returns an error for invalid bounds, and changes nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Command, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.advance(0.0);
    /// camera.tell_due(Command::ZoomTo(2.0), 0.15)?; // one half-life ago
    /// let zoom = camera.advance(0.2).lens().zoom();
    /// assert!((zoom - 2.0_f64.sqrt()).abs() < 1e-9);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn tell_due(
        &mut self,
        command: Command,
        before_end: impl IntoSeconds,
    ) -> Result<(), SettingsError> {
        let before_end = usable_seconds(before_end.into_seconds());
        match &command {
            Command::SetBounds { bounds, .. } => {
                self.rules.settings.check_bounds(bounds.as_ref())?;
            }
            Command::Shake { shake, strength } => {
                let shaking = &self.rules.settings.shake;
                self.state.shakes.begin(shaking, *shake, *strength, None, before_end);
                return Ok(());
            }
            Command::Translate(_) => return self.tell(command),
            _ => {}
        }
        self.do_due(Deed::Tell(command), before_end);
        Ok(())
    }

    /// Lets something be done at its moment in the next frame, or like a command without a time.
    pub(super) fn do_due(&mut self, deed: Deed, before_end: f64) {
        if before_end <= 0.0 || !self.state.agenda.add(before_end, deed) {
            self.do_now(deed, before_end, Clock::Track);
        }
    }

    /// Does something `late` seconds after it was due.
    pub(super) fn do_now(&mut self, deed: Deed, late: f64, clock: Clock) {
        match deed {
            Deed::Tell(command) => {
                // Bounds were checked when they were told. If they do not fit newer settings, the old ones stay.
                let _refused = self.obey(command, clock);
            }
            Deed::Glide(seconds) => self.glide(seconds - late, Ease::Smooth),
            Deed::Pause(seconds) => self.state.pending.pause((seconds - late).max(0.0)),
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
            while let Some(Due { deed, .. }) = self.state.agenda.take(before_end) {
                self.do_now(deed, late, clock);
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
