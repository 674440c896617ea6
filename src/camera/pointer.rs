//! Control with a pointer, at positions in the window.
//!
//! A window position has its own type, [`WindowPoint`], so it can't be confused with a screen position.

use crate::base::window::WindowPoint;
use crate::camera::Camera;

impl Camera {
    /// Grabs the world point under this point of the window, like [`grab`](Self::grab).
    ///
    /// Returns `false` and does nothing if the picture is not there, for example in a bar.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, WindowPoint};
    /// let mut camera = Camera::new(Settings::default())?; // 320 x 180
    /// camera.resize((1300, 720)); // bars of 10 pixels to the left and the right
    /// assert!(!camera.grab_at_window((4.0, 360.0)));
    /// assert!(camera.grab_at_window((650.0, 360.0)));
    /// camera.drag_to_window((690.0, 360.0)); // 40 window pixels are 10 screen pixels
    /// assert_eq!(camera.advance(1.0 / 60.0).centre(), [-10.0, 0.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn grab_at_window(&mut self, point: impl Into<WindowPoint>) -> bool {
        let Some(screen) = self.view().window_to_screen(point) else { return false };
        self.grab(screen);
        true
    }

    /// Moves the view so that the grabbed world point is under this point of the window, like
    /// [`drag_to`](Self::drag_to). The drag continues outside the picture.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.resize((1280, 720)); // 4 window pixels per screen pixel
    /// camera.advance(0.0);
    /// assert!(camera.grab_at_window((400.0, 360.0)));
    /// camera.drag_to_window((440.0, 360.0));
    /// camera.advance(1.0 / 60.0);
    /// assert_eq!(camera.view().centre().x, -10.0); // 40 window pixels
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn drag_to_window(&mut self, point: impl Into<WindowPoint>) {
        self.drag_to(self.view().window_to_screen_unbounded(point.into()));
    }

    /// Zooms by this number of wheel notches about this point of the window, like
    /// [`zoom_by`](Self::zoom_by). Where the picture is not, it zooms without a point.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.resize((1280, 720));
    /// let under = camera.view().window_to_world((1000.0, 160.0)).unwrap();
    /// camera.zoom_by_at_window(3.0, (1000.0, 160.0));
    /// let view = camera.advance(0.1);
    /// let now = view.screen_to_window(view.world_to_screen(under));
    /// assert!((now.x - 1000.0).abs() < 0.04 && (now.y - 160.0).abs() < 0.04);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn zoom_by_at_window(&mut self, notches: f64, point: impl Into<WindowPoint>) {
        self.zoom_by(notches, self.view().window_to_screen(point));
    }
}
