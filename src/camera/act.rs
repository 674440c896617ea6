//! What commands do, at once or at their moment: everything that is told ends here.

use glam::Vec2;

use crate::base::maths::{is_usable, usable_angle, usable_seconds};
use crate::camera::hand::Grip;
use crate::curves::ease::{Ease, Timing};
use crate::lens::rotation::RotationGlide;
use crate::lens::zoom::ZoomGlide;
use crate::limits::bounds::BoundsInForce;

use super::Camera;
use super::arrival::Clock;
use super::change::FocusAfter;
use super::command::Command;
use super::state::Cut;
use super::told::HandCommand;
use super::told::NewBounds;
use crate::camera::hand::Hand;

impl Camera {
    /// Does what can't be refused, at its moment in the next frame or, without a time, as a method does.
    pub(super) fn do_due(&mut self, command: Command, before_end: f64) {
        if before_end > 0.0 && !command.acts_at_once() {
            self.told.add(before_end, command);
        } else {
            let jumps = command.jumps();
            self.act(&command, before_end, Clock::Track);
            if jumps {
                self.commit();
            }
        }
    }

    /// Does something that was told: at once, or with what else acts at this moment. It is `late` by what has passed of it
    /// before the frame. A point of the screen that it names is one of the picture at this moment.
    pub(super) fn act(&mut self, command: &Command, late: f64, clock: Clock) {
        let at_end = &mut self.told.at_end;
        match *command {
            Command::PlaceAt(_)
            | Command::ZoomNow(_)
            | Command::RotateNow(_)
            | Command::Translate(_)
            | Command::Resize(_) => self.jump(command, clock),
            // They act when they are told, by value.
            Command::SetSettings { .. } => {}
            Command::EndShakes(seconds) => self.state.shakes.leave(usable_seconds(seconds)),
            Command::PauseShakes(paused) => self.state.shakes.paused = paused,
            Command::AdvanceShakes(seconds) => self.state.shakes.advance(usable_seconds(seconds)),
            Command::Shake { shake, strength } => {
                let shaking = &self.rules.settings.shake;
                self.state.shakes.begin(shaking, shake, strength, None, late);
            }
            Command::Cut => self.state.goal.cut = Cut::Commanded,
            Command::SwitchSubject => self.state.goal.switched = true,
            Command::Glide { seconds, .. } if usable_seconds(seconds) <= 0.0 => {
                self.state.goal.cut = Cut::Commanded;
            }
            Command::ZoomTo(zoom) => {
                if !zoom.is_nan() {
                    self.told.at_end.zoom = Some(zoom);
                }
            }
            Command::ZoomBy { notches, about } => {
                let grip = about.and_then(|at| self.grip(at, clock));
                let (zoom, wanted) = (&self.rules.settings.zoom, self.state.lens.zoom.wanted());
                self.told.at_end.zoom_by(notches, grip, zoom, [wanted, self.framing.least_zoom]);
            }
            Command::Grab(screen) => {
                let grip = self.grip(screen, clock);
                self.told.at_end.grab(grip);
            }
            // Settings may have changed since it was called.
            Command::Cue { ref name, call } => {
                let Some(cue) = self.rules.settings.cues.get(name) else { return };
                at_end.play(cue, call.strength, late);
                if let Some(seconds) = cue.glide {
                    let glide = Command::Glide { seconds: seconds - late, ease: Ease::Smooth };
                    self.act(&glide, late, clock);
                }
            }
            Command::AimAt(_)
            | Command::Glide { .. }
            | Command::SetBounds { .. }
            | Command::RotateTo(_)
            | Command::DragTo(_)
            | Command::Release
            | Command::Pan(_)
            | Command::Show { .. }
            | Command::Travel(_) => at_end.add(command),
        }
    }

    /// Changes the picture at once.
    fn jump(&mut self, command: &Command, clock: Clock) {
        let at_end = &mut self.told.at_end;
        match *command {
            Command::PlaceAt(point) if is_usable(point) => {
                (at_end.aim, at_end.hand, at_end.about) = (None, None, None);
                self.state.place_at(point, &self.rules, &self.framing);
                self.keep_to_halls(FocusAfter::Restarted(point), Clock::Step(None));
                self.limit(Clock::Step(None));
            }
            Command::ZoomNow(zoom) => {
                if !zoom.is_nan() {
                    (at_end.zoom, at_end.about) = (None, None);
                    self.state.lens.zoom = ZoomGlide::at(self.limited_zoom(zoom));
                    self.state.lens.transitions.clear();
                }
                self.refresh(clock);
            }
            Command::RotateNow(rotation) => {
                if let Some(rotation) = usable_angle(rotation) {
                    at_end.rotation = None;
                    self.state.lens.rotation = RotationGlide::at(rotation);
                }
                self.refresh(clock);
            }
            Command::Translate(delta)
                if is_usable(delta) && is_usable(self.state.ride.focus.position + delta) =>
            {
                self.state.translate(delta);
                self.told.translate(delta);
                self.limit(Clock::Track);
            }
            Command::Resize(window) => {
                self.window = window;
                self.refresh(Clock::Track);
            }
            _ => {}
        }
    }

    /// Returns a zoom within the range and the limits of bounds and ratchet.
    pub(super) fn limited_zoom(&self, zoom: f64) -> f64 {
        self.rules.settings.zoom.limited(zoom, self.framing.least_zoom)
    }

    /// What this screen point shows, without the shake, if it is one.
    pub(super) fn grip(&self, screen: Vec2, clock: Clock) -> Option<Grip> {
        let view = self.view_about(self.centre(clock)).steady();
        screen.is_finite().then(|| Grip::at(&view, screen))
    }

    /// Drops what is in force already: only what acts changes the state at this moment.
    pub(super) fn drop_what_is_in_force(&mut self) {
        let zoom = self.told.at_end.zoom.map(|zoom| self.limited_zoom(zoom));
        let bounds = self.bounds();
        let (state, at_end) = (&self.state, &mut self.told.at_end);
        let (lens, hand) = (&state.lens, &state.ride.picture.hand);
        at_end.bounds = at_end.bounds.filter(|new| new.bounds != bounds);
        // Other bounds may limit it otherwise.
        let is_free = at_end.about.is_none() && at_end.bounds.is_none();
        if is_free && zoom == Some(lens.zoom.wanted()) {
            at_end.zoom = None;
        }
        at_end.rotation = at_end.rotation.filter(|angle| *angle != lens.rotation.wanted());
        let is_shown = match &at_end.hand {
            Some(HandCommand::Show(rect, _)) => *hand == Hand::Show(*rect, lens.zoom.wanted()),
            Some(HandCommand::Travel) => {
                matches!(hand, Hand::Travel(_))
                    && at_end.route.is_some_and(|route| state.route.is_the_way_of(&route))
            }
            _ => false,
        };
        if is_shown {
            (at_end.hand, at_end.route) = (None, None);
        }
    }

    /// Applies what was told for a moment, at the end of a frame or at their moment.
    pub(super) fn apply_commands(&mut self, clock: Clock) {
        self.drop_what_is_in_force();
        // What was aimed at has acted by now.
        self.told.at_end.aim = None;
        if self.told.at_end.is_empty() {
            return;
        }
        self.take_point_in_hand(clock);
        let told = core::mem::take(&mut self.told.at_end);
        let fits = |new: &NewBounds| self.rules.settings.check_bounds(new.bounds.as_ref()).is_ok();
        let is_other = |new: &NewBounds| new.bounds != self.bounds() && fits(new);
        if let Some(new) = told.bounds.filter(is_other) {
            let change = self.begin(Timing::smooth(new.seconds), clock);
            self.state.limits.bounds = BoundsInForce::Set(new.bounds);
            self.scratch.cover_bounds(&self.rules, self.state.limits.bounds);
            self.fade(change, FocusAfter::AsFarBehind, clock);
        }
        if let Some(zoom) = told.zoom {
            let zoom = self.limited_zoom(zoom);
            self.state.lens.zoom.head_for(zoom, self.framing.least_zoom);
        }
        if let Some(rotation) = told.rotation {
            self.state.lens.rotation.head_for(rotation);
        }
        if let Some(nudge) = told.nudge {
            // During another one, it begins at the current value and takes its own rise time.
            let rise = self.state.lens.nudge.map_or(0.0, |_| nudge.nudge.rise);
            let change = (rise > 0.0).then(|| self.begin(Timing::smooth(rise), clock));
            self.state.lens.nudge = Some(nudge);
            if let Some(change) = change {
                self.fade(change, FocusAfter::Here, clock);
            }
        }
        if let Some(pause) = told.pause {
            self.state.pause = self.state.pause.max(pause);
        }
        // A change without duration is complete at once.
        let screen = self.framing.lens.size();
        self.state.move_lens(&self.rules.settings, screen, 0.0, &mut self.scratch.part.zoom);
        self.refresh_framing();
        self.apply_hand(&told, clock);
        self.refresh(clock);
    }
}
