//! The point of a sprite that its position refers to.

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::lens::screen::YAxis;
use crate::view::view::View;

/// The point of a sprite that its position refers to, as seen on the screen.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum Origin {
    /// The top left corner.
    Corner,
    /// The middle.
    #[default]
    Centre,
    /// The middle of the lower edge.
    Feet,
    /// Another point, in fractions of the sprite's size from its top left corner.
    At(DVec2),
}

impl Origin {
    fn fraction(self) -> DVec2 {
        match self {
            Self::Corner => DVec2::ZERO,
            Self::Centre => DVec2::splat(0.5),
            Self::Feet => DVec2::new(0.5, 1.0),
            Self::At(fraction) => fraction,
        }
    }

    /// Returns the world rectangle of a sprite from its position and size, all in world units.
    ///
    /// ```
    /// use velvet_pan::{Origin, Rect, YAxis};
    ///
    /// let (position, size) = ([100, 50], [16, 24]);
    /// let rect = |origin: Origin, y_axis| origin.rect(position, size, y_axis);
    /// assert_eq!(rect(Origin::Feet, YAxis::Down), Rect::new([92, 26], [108, 50]));
    /// assert_eq!(rect(Origin::Feet, YAxis::Up), Rect::new([92, 50], [108, 74]));
    /// assert_eq!(rect(Origin::Corner, YAxis::Up), Rect::new([100, 26], [116, 50]));
    /// ```
    #[must_use]
    pub fn rect(self, position: impl IntoWorld, size: impl IntoWorld, y_axis: YAxis) -> Rect {
        let (position, size) = (position.into_world(), size.into_world());
        let DVec2 { x, y } = self.fraction();
        // From the corner with the smallest coordinates.
        let fraction = DVec2::new(x, if y_axis == YAxis::Down { y } else { 1.0 - y });
        Rect::from_corner_size(position - size * fraction, size)
    }
}

impl View {
    /// Returns the world rectangle of a sprite from its position and size, all in world units. `origin` is the point
    /// that the position refers to.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Origin, Rect, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole);
    /// let hut = view.sprite_rect([40, 20], [32, 20], Origin::Centre);
    /// assert_eq!(hut, Rect::new([24, 10], [56, 30]));
    /// ```
    #[must_use]
    pub fn sprite_rect(
        &self,
        position: impl IntoWorld,
        size: impl IntoWorld,
        origin: Origin,
    ) -> Rect {
        origin.rect(position, size, self.lens().y_axis())
    }
}
