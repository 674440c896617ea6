//! What the camera looks at.

use glam::DVec2;

use crate::convert::IntoWorld;

/// Something to follow: a position in the world.
///
/// Made from anything that is a world point, so `camera.follow(dt, player.position)` is enough.
///
/// ```
/// use velvet_pan::Subject;
///
/// let courier = Subject::from([120.0, 64.0]);
/// assert_eq!(courier.position.x, 120.0);
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Subject {
    /// Where it is, in world units. A position that is not finite counts as lost: the camera's
    /// goal stays where it was.
    pub position: DVec2,
}

impl<T: IntoWorld> From<T> for Subject {
    fn from(position: T) -> Self {
        Self { position: position.into_world() }
    }
}
