//! Numbers that describe one frame.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::view::view::View;

/// A subject that is slower than this, in screen pixels per second, stands.
const STANDING_SPEED: f64 = 0.5;

impl View {
    /// Returns how far a subject is from its anchor, in screen pixels. The anchor is in fractions of the screen. Shakes
    /// do not count.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [100, 50], Snap::Whole); // 320 x 180
    /// assert_eq!(view.off_anchor([130, 90], [0.5, 0.5]), 50.0);
    /// ```
    #[must_use]
    pub fn off_anchor(&self, subject: impl IntoWorld, anchor: impl IntoWorld) -> f64 {
        let view = self.steady();
        let on_screen = view.world_to_screen_f64(subject.into_world());
        on_screen.distance(anchor.into_world() * view.size().as_dvec2())
    }

    /// Returns how much of the screen lies in front of a moving subject, as a fraction of its length along the
    /// axis on which the subject mostly moves. `velocity` is in world units per second. Returns `None` for a
    /// subject that stands: below half a screen pixel per second. Shakes do not count.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [100, 50], Snap::Whole); // 320 x 180
    /// assert_eq!(view.ahead_of([20, 50], [90, 0]), Some(0.75));
    /// assert_eq!(view.ahead_of([20, 50], [-90, 0]), Some(0.25));
    /// assert_eq!(view.ahead_of([20, 50], [0, 0]), None);
    /// ```
    #[must_use]
    pub fn ahead_of(&self, subject: impl IntoWorld, velocity: impl IntoWorld) -> Option<f64> {
        let view = self.steady();
        let way = view.lens().to_screen_axes(velocity.into_world());
        if way.length() <= STANDING_SPEED || !way.is_finite() {
            return None;
        }
        let at: DVec2 = view.world_to_screen_f64(subject.into_world()) / view.size().as_dvec2();
        let axis = usize::from(way.y.abs() > way.x.abs());
        let ahead = if way[axis] > 0.0 { 1.0 - at[axis] } else { at[axis] };
        Some(ahead.clamp(0.0, 1.0))
    }
}
