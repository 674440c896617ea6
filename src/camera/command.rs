//! Everything that a game tells a camera between frames, as a value.

use alloc::boxed::Box;
use alloc::string::String;

use glam::{DVec2, Vec2};

use crate::base::convert::IntoSeconds;
use crate::base::maths::usable_seconds;
use crate::base::rect::Rect;
use crate::base::window::WindowSize;
use crate::curves::ease::Ease;
use crate::keys::error::SettingsError;
use crate::limits::bounds::Bounds;
use crate::settings::settings::Settings;
use crate::shake::cue::CueCall;
use crate::shake::shake::Shake;

use super::Camera;
use super::calls::CameraCall;
use super::travel::Travel;

/// A camera command as a value: to store, to send, or to record. There is one for everything that a game can tell a
/// camera between frames. Each has a method of the same name, which documents it.
///
/// The first nine act immediately. The others take effect at the end of the next frame; a point that is grabbed or
/// zoomed about is held from its start. Of each kind the last one counts; notches and pans add up, and every shake and
/// cue acts. You can therefore give the same command before every frame. A cut wins over everything that takes the view
/// in hand before the same frame. With a time, a command acts at its own moment: see [`Camera::tell_due`].
///
/// ```
/// use velvet_pan::{Camera, Command, Settings};
///
/// let mut camera = Camera::new(Settings::default())?;
/// for command in [Command::ZoomTo(2.0), Command::AimAt([90.0, 40.0].into())] {
///     camera.tell(command)?;
/// }
/// assert_eq!(camera.advance(0.1).centre(), [90.0, 40.0].into());
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Command {
    /// [`Camera::place_at`] a world point.
    PlaceAt(DVec2),
    /// [`Camera::zoom_now`].
    ZoomNow(f64),
    /// [`Camera::rotate_now`], in radians.
    RotateNow(f64),
    /// [`Camera::translate`] by world units.
    Translate(DVec2),
    /// [`Camera::resize`] to a window in physical pixels.
    Resize(WindowSize),
    /// [`Camera::set_settings`].
    SetSettings {
        /// The new settings.
        settings: Box<Settings>,
        /// The duration of the change, in seconds.
        seconds: f64,
    },
    /// [`Camera::end_shakes`] within some seconds.
    EndShakes(f64),
    /// [`Camera::pause_shakes`].
    PauseShakes(bool),
    /// [`Camera::advance_shakes`] by some seconds.
    AdvanceShakes(f64),
    /// [`Camera::cut`].
    Cut,
    /// [`Camera::switch_subject`].
    SwitchSubject,
    /// [`Camera::aim_at`] a world point.
    AimAt(DVec2),
    /// [`Camera::glide`].
    Glide {
        /// The duration, in seconds.
        seconds: f64,
        /// The easing.
        ease: Ease,
    },
    /// [`Camera::set_bounds`].
    SetBounds {
        /// The new bounds, or `None` to remove them.
        bounds: Option<Bounds>,
        /// The duration of the change, in seconds.
        seconds: f64,
    },
    /// [`Camera::zoom_to`].
    ZoomTo(f64),
    /// [`Camera::zoom_by`].
    ZoomBy {
        /// Notches of a wheel; positive ones zoom in.
        notches: f64,
        /// A screen point that keeps its world position.
        about: Option<Vec2>,
    },
    /// [`Camera::rotate_to`], in radians.
    RotateTo(f64),
    /// [`Camera::grab`] at a screen point.
    Grab(Vec2),
    /// [`Camera::drag_to`] a screen point.
    DragTo(Vec2),
    /// [`Camera::release`].
    Release,
    /// [`Camera::pan`] by screen pixels.
    Pan(Vec2),
    /// [`Camera::show`].
    Show {
        /// A world rectangle.
        rect: Rect,
        /// The duration, in seconds.
        seconds: f64,
        /// The easing.
        ease: Ease,
    },
    /// [`Camera::travel`].
    Travel(Travel),
    /// [`Camera::shake`].
    Shake {
        /// How it shakes.
        shake: Shake,
        /// A factor of its reach and roll.
        strength: f64,
    },
    /// [`Camera::cue`].
    Cue {
        /// The name of the cue in the settings.
        name: String,
        /// Where and how strongly it is called.
        call: CueCall,
    },
}

impl Command {
    /// Returns whether it acts at once, also if it has a time.
    pub(super) fn acts_at_once(&self) -> bool {
        matches!(
            self,
            Self::Translate(_)
                | Self::Resize(_)
                | Self::SetSettings { .. }
                | Self::EndShakes(_)
                | Self::PauseShakes(_)
                | Self::AdvanceShakes(_)
                | Self::Shake { .. }
        )
    }

    /// Returns whether it changes the picture at once.
    pub(super) fn jumps(&self) -> bool {
        matches!(self, Self::PlaceAt(_) | Self::ZoomNow(_) | Self::RotateNow(_) | Self::Resize(_))
    }

    /// Returns whether it is what a player's hand does.
    pub(super) fn is_by_hand(&self) -> bool {
        matches!(
            self,
            Self::Grab(_) | Self::DragTo(_) | Self::Release | Self::Pan(_) | Self::ZoomBy { .. }
        )
    }

    /// Moves everything that is in the world.
    pub(super) fn translate(&mut self, delta: DVec2) {
        match self {
            Self::PlaceAt(at) | Self::AimAt(at) => *at += delta,
            Self::Show { rect, .. } => rect.translate(delta),
            Self::Travel(travel) => travel.points.iter_mut().for_each(|point| point.at += delta),
            _ => {}
        }
    }
}

impl Camera {
    /// Gives the camera a [`Command`]. Equal to calling the method of the same name.
    ///
    /// # Errors
    ///
    /// Returns an error for invalid bounds, invalid settings, a way that can't be travelled, and a cue that the
    /// settings do not have, and changes nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Command, CueCall, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.tell(Command::ZoomTo(2.0))?;
    /// camera.advance(0.0);
    /// assert!((camera.advance(0.15).lens().zoom() - 2.0_f64.sqrt()).abs() < 1e-9);
    ///
    /// let gong = Command::Cue { name: "gong".into(), call: CueCall::anywhere() };
    /// assert_eq!(camera.tell(gong).unwrap_err().to_string(), "cues.gong: no such cue: the tuning has none");
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn tell(&mut self, command: Command) -> Result<(), SettingsError> {
        self.tell_due(command, 0.0)
    }

    /// Gives the camera a [`Command`] that was due `before_end` seconds before the end of the next frame. The frame is
    /// divided at that moment, so what follows does not depend on the frame rate.
    ///
    /// Commands act one after the other, in the order of their times. A point that is grabbed or zoomed about is one of
    /// the picture at that moment. A subject that is switched to, or that jumped and is cut to, came at that moment, and
    /// moved at its given velocity since. A moment before the frame's start counts as its start.
    ///
    /// [`Command::Translate`], [`Command::Resize`], [`Command::SetSettings`] and the ending and pausing of shakes act
    /// immediately, like a command given to [`tell`](Self::tell). Without a time, or in a frame of 0 seconds, a command acts as
    /// in `tell`.
    ///
    /// # Errors
    ///
    /// The same as those of [`tell`](Self::tell).
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
        if command.is_by_hand() && self.state.ignores_hands {
            return Ok(());
        }
        match command {
            Command::SetSettings { settings, seconds } => {
                return self.set_settings(*settings, seconds);
            }
            Command::Cue { name, call } => return Ok(self.call_cue(&name, call, before_end)?),
            Command::SetBounds { ref bounds, .. } => {
                self.rules.settings.check_bounds(bounds.as_ref())?;
            }
            Command::Resize(window) if window == self.window => return Ok(()),
            Command::Travel(ref travel) => travel.fault().map_or(Ok(()), Err)?,
            _ => {}
        }
        self.calls.add(|| CameraCall::Told { command: command.clone(), before_end });
        self.do_due(command, before_end);
        Ok(())
    }

    /// Tells what is never refused.
    pub(super) fn say(&mut self, command: Command) {
        let _never_refused = self.tell(command);
    }
}
