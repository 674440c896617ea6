//! What a game calls on a camera, noted while somebody wants it: to record a ride, and to run it again.

use alloc::boxed::Box;
use alloc::vec::{Drain, Vec};

use crate::base::window::WindowSize;
use crate::goal::subject::Subject;
use crate::settings::settings::Settings;
use crate::view::view::View;

use super::Camera;
use super::arrival::Input;
use super::command::Command;
use super::state::CameraState;

/// A call of a game, as a value: see [`Camera::calls`].
#[derive(Clone, Debug, PartialEq)]
pub enum CameraCall {
    /// A command that was told and not refused, in whatever way, with its time before the end of the next frame.
    Told {
        /// The command.
        command: Command,
        /// Seconds before the end of the frame, or 0.
        before_end: f64,
    },
    /// A subject of the [`FollowAll`](Self::FollowAll) that comes next, in order.
    Member(Subject),
    /// [`Camera::follow`].
    Follow {
        /// As given.
        seconds: f64,
        /// As given.
        subject: Subject,
        /// The view that the frame returned.
        view: View,
    },
    /// [`Camera::follow_all`].
    FollowAll {
        /// As given.
        seconds: f64,
        /// The view that the frame returned.
        view: View,
    },
    /// [`Camera::advance`].
    Advance {
        /// As given.
        seconds: f64,
        /// The view that the frame returned.
        view: View,
    },
    /// [`Camera::restore`].
    Restored(Box<CameraState>),
    /// An itinerary ignores the player's hands from now on, or no longer.
    HandsIgnored(bool),
    /// An itinerary counted a cut.
    CutCounted,
    /// Where a camera stands after a frame: a beginning for what comes later. See [`CameraCalls::note_standing`].
    Standing(Box<Standing>),
}

/// Where a camera stands after a frame. A camera with these settings, this window and this state goes on from there, to
/// the bit.
#[derive(Clone, Debug, PartialEq)]
pub struct Standing {
    /// The camera's settings.
    pub settings: Settings,
    /// The window's size.
    pub window: WindowSize,
    /// The camera's state.
    pub state: CameraState,
}

impl Standing {
    /// Returns where a camera stands.
    #[must_use]
    pub fn of(camera: &Camera) -> Self {
        Self { settings: camera.settings().clone(), window: camera.window, state: camera.state() }
    }
}

/// The calls of a game on a camera, in order, while they are noted. A copy of a camera notes nothing.
#[derive(Debug, Default)]
pub struct CameraCalls {
    list: Vec<CameraCall>,
    are_noted: bool,
    wants_standing: bool,
}

impl Clone for CameraCalls {
    fn clone(&self) -> Self {
        Self::default()
    }
}

impl CameraCalls {
    /// Notes calls from now on, or no longer. What was noted stays until it is taken, so take it often.
    pub fn note(&mut self, are_noted: bool) {
        self.are_noted = are_noted;
    }

    /// Notes with the next frame where the camera stands after it.
    pub fn note_standing(&mut self) {
        self.wants_standing = true;
    }

    /// Takes what was noted, in order. The memory is kept.
    pub fn take(&mut self) -> Drain<'_, CameraCall> {
        self.list.drain(..)
    }

    /// Adds a call if calls are noted.
    #[inline]
    pub(super) fn add(&mut self, call: impl FnOnce() -> CameraCall) {
        if self.are_noted {
            self.list.push(call());
        }
    }

    /// Returns whether calls are noted.
    #[inline]
    #[must_use]
    pub fn are_noted(&self) -> bool {
        self.are_noted
    }
}

/// Notes a frame that has just run.
#[cold]
pub(super) fn note_frame(camera: &mut Camera, input: &Input<'_>) {
    let Input { seconds, party, alone } = *input;
    let view = camera.view();
    let list = &mut camera.calls.list;
    list.extend(party.into_iter().flatten().map(|member| CameraCall::Member(*member)));
    list.push(match (alone, party) {
        (Some(&subject), _) => CameraCall::Follow { seconds, subject, view },
        (None, Some(_)) => CameraCall::FollowAll { seconds, view },
        (None, None) => CameraCall::Advance { seconds, view },
    });
    if core::mem::take(&mut camera.calls.wants_standing) {
        let standing = Box::new(Standing::of(camera));
        camera.calls.list.push(CameraCall::Standing(standing));
    }
}

impl Camera {
    /// Returns the calls that are noted, for a record of a ride. By default none are.
    ///
    /// Every call is noted in whatever way it is made: by a method, as a [`Command`], by an itinerary. What is refused
    /// is not noted, nor what is as it was: the same settings or the same window again.
    ///
    /// ```
    /// # use velvet_pan::{Camera, CameraCall, Command, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.calls().note(true);
    /// camera.zoom_to(2.0);
    /// let view = camera.advance(0.1);
    /// let noted: Vec<CameraCall> = camera.calls().take().collect();
    /// let zoom = CameraCall::Told { command: Command::ZoomTo(2.0), before_end: 0.0 };
    /// assert_eq!(noted, [zoom, CameraCall::Advance { seconds: 0.1, view }]);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn calls(&mut self) -> &mut CameraCalls {
        &mut self.calls
    }
}
