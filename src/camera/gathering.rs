//! Frames with several subjects.

use glam::DVec2;

use super::Camera;
use crate::goal::party::{PartyFrame, PartyMemory};
use crate::goal::subject::Subject;
use crate::units::convert::IntoSeconds;
use crate::units::maths::usable_seconds;
use crate::view::view::View;

impl Camera {
    /// A frame with several subjects, `seconds` after the last, framed together as
    /// [`Party`](crate::Party) says. Those that join or leave the list fade in and out; so do those
    /// that are too far away to be kept. Lost ones (with a position that is not finite) leave. At most
    /// 64.
    ///
    /// Give each an [`id`](Subject::id) unless the list keeps its order. With none left the goal stays.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Subject};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let wren = |x: i32| Subject::from([x, 0]).with_id(1).with_margin(16.0);
    /// let kite = |x: i32| Subject::from([x, 0]).with_id(2).with_margin(16.0);
    /// let view = camera.follow_all(0.0, &[wren(0), kite(100)]);
    /// assert_eq!((view.centre().x, view.lens().zoom()), (50.0, 1.0));
    /// let view = camera.follow_all(10.0, &[wren(0), kite(500)]); // the view zooms out to hold both
    /// assert!(view.visible_world().contains([0, 0]) && view.visible_world().contains([500, 0]));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn follow_all(&mut self, seconds: impl IntoSeconds, subjects: &[Subject]) -> View {
        let seconds = usable_seconds(seconds.into_seconds());
        let point = self.with_party(seconds, |party, frame| party.gather(subjects, frame));
        let subject = match subjects {
            // What is known of one alone is known of the point.
            [only] if !self.state.party.is_several() => Some(*only),
            // Looking ahead would push those behind out of the picture.
            _ => point.map(|point| Subject::from(point).with_velocity(DVec2::ZERO)),
        };
        self.step(seconds, subject.as_ref())
    }

    /// Whether this subject of several is too far away to be framed for now: for an arrow at the edge
    /// that points to it.
    #[must_use]
    pub fn is_let_go(&self, id: u32) -> bool {
        self.state.party.is_let_go(id)
    }

    /// A frame with one subject, or none.
    #[inline]
    pub(super) fn follow_alone(&mut self, seconds: f64, subject: Option<&Subject>) -> View {
        if !self.state.party.is_idle() {
            let seconds = usable_seconds(seconds);
            self.with_party(seconds, |party, frame| {
                party.disband();
                party.advance_alone(frame);
            });
        }
        self.step(seconds, subject)
    }

    /// Does something with the party, and lets its zoom take effect.
    fn with_party<T>(
        &mut self,
        seconds: f64,
        work: impl FnOnce(&mut PartyMemory, &PartyFrame<'_>) -> T,
    ) -> T {
        let frame = PartyFrame {
            party: &self.settings.party,
            anchor: self.framing.follow.anchor,
            deadzone: &self.framing.follow.deadzone,
            lens: &self.framing.lens.with_zoom(1.0),
            zoom: self.state.zoom.zoom(self.settings.zoom.whole),
            seconds,
            cut: self.state.cut,
            alone: self.state.follow.track.last(),
        };
        let before = self.state.party.zoom();
        let answer = work(&mut self.state.party, &frame);
        if self.state.party.zoom() != before {
            self.refresh();
        }
        answer
    }
}
