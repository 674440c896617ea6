//! Numbers that describe the current frame. See also [`Camera::last_word`].

use super::Camera;

impl Camera {
    /// Returns how far the followed subject is from its anchor, in screen pixels, as zones have the anchor.
    /// Returns `None` if no subject is followed. With several subjects, it is their common point that counts.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Smoothing};
    /// let mut settings = Settings::default();
    /// settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    /// let mut camera = Camera::new(settings)?;
    /// assert_eq!(camera.lag(), None);
    /// for frame in 0..120 {
    ///     camera.follow(1.0 / 60.0, [f64::from(frame) * 2.0, 0.0]); // 120 a second
    /// }
    /// let behind = Smoothing::HalfLife(0.1).lag_at(120.0);
    /// assert!((camera.lag().unwrap() - behind).abs() < 0.01);
    /// assert!(camera.ahead().unwrap() < 0.5);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn lag(&self) -> Option<f64> {
        let follow = &self.framing.follow;
        let (subject, _) = self.subject_now()?;
        Some(self.view().lag_of(subject + follow.offset, follow.anchor))
    }

    /// Returns how much of the screen lies in front of the followed subject: see
    /// [`View::ahead_of`](crate::View::ahead_of). Returns `None` if no subject is followed, or if it stands.
    #[must_use]
    pub fn ahead(&self) -> Option<f64> {
        let (subject, velocity) = self.subject_now()?;
        self.view().ahead_of(subject, velocity)
    }
}
