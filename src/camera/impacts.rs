//! Impacts: cues and shakes, which change the view and never the camera.

use alloc::string::ToString;

use glam::DVec2;

use super::Camera;
use super::calls::CameraCall;
use super::command::Command;
use crate::base::convert::IntoSeconds;
use crate::base::maths::{bisect, usable_seconds};
use crate::base::rect::Rect;
use crate::lens::lens::Lens;
use crate::limits::walls::Walls;
use crate::shake::active_shakes::ShakeOrigin;
use crate::shake::cue::{CueCall, UnknownCue};
use crate::shake::shake::{Shake, ShakeOffset};
use crate::view::view::View;

impl Camera {
    /// Plays a named cue of the settings, at a world position or anywhere. It begins at the end of the next frame.
    ///
    /// # Errors
    ///
    /// Returns an error, and does nothing, if the settings have no cue with this name.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Cue, CueCall, Settings, Shake};
    /// let mut settings = Settings::default();
    /// let gong = Cue { shake: Some(Shake::default()), ..Cue::default() };
    /// settings.cues.insert("gong".into(), gong);
    /// let mut camera = Camera::new(settings)?;
    /// camera.cue("gong", CueCall::anywhere()).unwrap();
    /// camera.advance(0.0); // the cue plays from the end of this frame
    /// camera.advance(0.1);
    /// assert!(camera.shake_envelope().x > 0.0);
    /// assert!(camera.cue("gnog", CueCall::anywhere()).is_err());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn cue(&mut self, name: &str, call: impl Into<CueCall>) -> Result<(), UnknownCue> {
        self.call_cue(name, call.into(), 0.0)
    }

    /// Plays a cue that was due some seconds before the end of the next frame. Its shake begins at once, the rest at its
    /// moment; every part is as old as the call says.
    pub(super) fn call_cue(
        &mut self,
        name: &str,
        call: CueCall,
        before_end: f64,
    ) -> Result<(), UnknownCue> {
        let Some(cue) = self.rules.settings.cues.get(name).copied() else {
            let known = self.rules.settings.cues.keys().cloned().collect();
            return Err(UnknownCue { name: name.to_string(), known });
        };
        self.calls.add(|| {
            let command = Command::Cue { name: name.to_string(), call };
            CameraCall::Told { command, before_end }
        });
        let CueCall { strength, age, position } = call;
        if !(strength > 0.0 && strength.is_finite()) {
            return Ok(());
        }
        let age = usable_seconds(age + before_end);
        if let Some(shake) = cue.shake {
            let width = self.framing.design.x;
            let (near, far) = (cue.full_within * width, cue.none_beyond * width);
            let origin = position.map(|position| ShakeOrigin { position, near, far });
            self.state.shakes.begin(&self.rules.settings.shake, shake, strength, origin, age);
        }
        if cue.moves() {
            self.do_due(Command::Cue { name: name.to_string(), call }, age);
        }
        Ok(())
    }

    /// Shakes the view. `strength` multiplies the shake's reach and roll. The offset is added to the view only: it
    /// does not change where the camera is. Does nothing if `strength` is not above 0 and finite, or if the shake is
    /// invalid.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Shake};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.shake(&Shake::default(), 1.0);
    /// camera.follow(0.0, [500, 300]); // the shake begins with this frame
    /// let view = camera.follow(0.1, [500, 300]);
    /// assert!(view.shake().pixels.length() > 0.0);
    /// assert_eq!(view.steady().centre(), [500.0, 300.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn shake(&mut self, shake: &Shake, strength: f64) {
        self.say(Command::Shake { shake: *shake, strength });
    }

    /// Fades out all shakes within `seconds`, or ends them immediately for 0.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Shake};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.shake(&Shake { hold: f64::INFINITY, ..Shake::default() }, 1.0);
    /// camera.advance(0.1);
    /// camera.end_shakes(0.0);
    /// assert!(!camera.is_shaking());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn end_shakes(&mut self, seconds: impl IntoSeconds) {
        self.say(Command::EndShakes(seconds.into_seconds()));
    }

    /// Pauses all shakes, or resumes them.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Shake};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.shake(&Shake::default(), 1.0);
    /// camera.advance(0.0);
    /// camera.pause_shakes(true);
    /// camera.advance(10.0);
    /// assert!(camera.is_shaking()); // it would have ended long ago
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn pause_shakes(&mut self, paused: bool) {
        self.say(Command::PauseShakes(paused));
    }

    /// Advances the shakes alone by `seconds`. Use it with frames of 0 seconds, so that a frozen game still shakes.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Shake};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.shake(&Shake::default(), 1.0);
    /// camera.advance(0.0);
    /// camera.advance_shakes(10.0);
    /// assert!(!camera.is_shaking());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn advance_shakes(&mut self, seconds: impl IntoSeconds) {
        self.say(Command::AdvanceShakes(seconds.into_seconds()));
    }

    /// Returns the maximum shake offset at this moment, in screen pixels per axis.
    #[must_use]
    pub fn shake_envelope(&self) -> DVec2 {
        self.state.shakes.envelope(&self.rules.settings.shake, self.view().steady().centre())
    }

    /// Returns whether any shake is active.
    #[must_use]
    pub fn is_shaking(&self) -> bool {
        self.state.shakes.is_alive()
    }

    /// Returns the view with the shakes. With `stay_in_bounds` they end at the bounds widened by the overscan, and rotate
    /// only as far as the view fits there.
    pub(super) fn shaken(&self, steady: View) -> View {
        let settings = &self.rules.settings.shake;
        let shake = self.state.shakes.offset(settings, steady.centre());
        let Some(walls) = self.framing.walls.filter(|_| settings.stay_in_bounds) else {
            return steady.shaken(shake);
        };
        let (lens, Rect { min, max }) = (steady.lens(), walls.rect);
        let overscan = settings.overscan / lens.scale();
        // What the view without shake shows beyond that is not caused by the shake.
        let area =
            Rect { min: min - overscan, max: max + overscan }.joined(&steady.visible_world());
        let roll = fitting_roll(lens, shake.roll, &area);
        steady.shaken(ShakeOffset { roll, ..shake }).shake_limited_to(&Walls::new(area))
    }
}

/// Returns the greatest part of a rotation at which the view still fits into the area.
fn fitting_roll(lens: &Lens, roll: f64, area: &Rect) -> f64 {
    let fits = |fraction: f64| {
        let half = lens.with_rotation(lens.rotation() + roll * fraction).half_extents();
        (half * 2.0).cmple(area.size() + 1e-9).all()
    };
    if roll == 0.0 || fits(1.0) {
        return roll;
    }
    let [fitting, _] = bisect([0.0, 1.0], 24, |fraction| !fits(fraction));
    roll * fitting
}
