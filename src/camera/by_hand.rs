//! The player's hand on a camera: dragging, keys, the screen's edge, a position to show.

use glam::{DVec2, Vec2};

use super::Camera;
use crate::camera::hands::{Grip, Hand};
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::settings::follow::FollowMemory;
use crate::units::convert::IntoSeconds;
use crate::units::ease::Ease;
use crate::units::maths::usable_seconds;
use crate::units::rect::Rect;

impl Camera {
    /// Takes hold of what this screen point shows; [`drag_to`](Self::drag_to) then carries it.
    ///
    /// While the view is in the hand, following waits; let go, it takes over from where the view is.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let held = camera.view().screen_to_world(Vec2::new(100.0, 50.0));
    /// camera.grab(Vec2::new(100.0, 50.0));
    /// camera.drag_to(Vec2::new(140.0, 80.0));
    /// let view = camera.advance(1.0 / 60.0);
    /// assert_eq!(view.world_to_screen(held), Vec2::new(140.0, 80.0));
    /// camera.release();
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn grab(&mut self, screen: Vec2) {
        if screen.is_finite() {
            self.take_in_hand(Hand::Grab(Grip::at(&self.view(), screen)));
        }
    }

    /// Moves the view so that what was grabbed is under this screen point; without a grab, nothing.
    pub fn drag_to(&mut self, screen: Vec2) {
        if let Hand::Grab(grip) = &mut self.state.hand
            && screen.is_finite()
        {
            grip.screen = screen;
            self.obey_hand();
            self.stay_in_range();
        }
    }

    /// Lets go of what is grabbed, pinned or shown.
    pub fn release(&mut self) {
        if self.state.hand != Hand::Off {
            self.state.focus.position = self.focus();
            self.state.glide = None;
            self.state.hand = Hand::Off;
            self.state.follow = FollowMemory::at(self.state.focus.position);
        }
    }

    /// Moves the view by so many screen pixels along the screen's axes, for this frame: for keys,
    /// direction times speed times seconds, which is the same speed on the screen at every zoom;
    /// for a pointer at the screen's edge, see [`edge_push`](crate::edge_push).
    pub fn pan(&mut self, pixels: Vec2) {
        if pixels.is_finite() && pixels != Vec2::ZERO {
            if !matches!(self.state.hand, Hand::Nudge | Hand::Grab(_)) {
                self.take_in_hand(Hand::Nudge);
            }
            self.state.focus.position += self.framing.lens.to_world_axes(pixels.as_dvec2());
            self.stay_in_range();
        }
    }

    /// Shows this world rectangle whole, as large as the screen and the zoom's range allow, in
    /// `seconds`; following waits until [`release`](Self::release).
    pub fn show(&mut self, rect: &Rect, seconds: impl IntoSeconds, ease: Ease) {
        if !rect.is_finite() {
            return;
        }
        self.zoom_to(self.framing.lens.zoom_to_fit(rect));
        let seconds = usable_seconds(seconds.into_seconds());
        let from = self.focus();
        self.take_in_hand(Hand::Show(rect.centre()));
        if seconds > 0.0 {
            self.state.glide = Some(Glide::new(from, seconds, ease));
        }
    }

    pub(super) fn take_in_hand(&mut self, hand: Hand) {
        self.state.focus = Moving { position: self.focus(), velocity: DVec2::ZERO };
        self.state.glide = None;
        self.state.hand = hand;
    }
}
