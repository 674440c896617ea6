//! How each subject reached its position: moved, jumped, cut or lost.

use crate::goal::party::PartyFrame;
use crate::goal::subject::{Stride, Subject};
use crate::units::maths::is_usable;

use super::Camera;

/// The input of a frame, and how its subject reached its position.
#[derive(Clone, Copy, Debug)]
pub(super) struct Arrival<'a> {
    pub seconds: f64,
    pub kind: Kind,
    /// The one that is followed: alone, or nearest to the one that was, until the party begins.
    pub subject: Option<&'a Subject>,
    /// All members if several are framed together; `None` for a single subject or none.
    pub party: Option<&'a [Subject]>,
    /// Whether several are framed together during this step.
    pub together: bool,
    /// Whether the subject is in the air at the end of the step.
    pub in_air: bool,
    /// Whether its velocity was unknown until now.
    pub is_new: bool,
}

/// How a subject reached its position.
#[derive(Clone, Copy, Debug)]
pub(super) enum Kind {
    /// Nothing is followed; the goal stays.
    Lost,
    /// It moved from its last position, in a straight line or on a parabola.
    Moved(Stride),
    /// It is new, returned, switched to, or moved by more than one view. It is here from the end of the step.
    Jumped,
    /// As jumped, and the view with it.
    Cut,
}

impl Arrival<'_> {
    pub fn stride(&self) -> Option<Stride> {
        match self.kind {
            Kind::Moved(stride) => Some(stride),
            _ => None,
        }
    }

    /// Returns the followed subject: the point that represents a party, or the single subject.
    pub fn one_of(&self, point_of_party: Option<Subject>) -> Option<Subject> {
        point_of_party.or(self.subject.copied().filter(|_| self.party.is_none()))
    }

    /// Returns the position of the subject at a fraction of the step.
    pub fn position_at(&self, fraction: f64) -> Option<glam::DVec2> {
        self.stride().map(|stride| stride.at(fraction).0)
    }
}

impl Camera {
    /// Determines how the subject reached its position. This is the only place that checks subjects: one that is not
    /// finite, or too far away, counts as lost.
    #[inline]
    pub(super) fn arrive<'a>(
        &mut self,
        seconds: f64,
        party: Option<&'a [Subject]>,
        alone: Option<&'a Subject>,
    ) -> Arrival<'a> {
        let known = party.and_then(|party| self.state.goal.party.only_one(party));
        let together = party.is_some() && !self.state.goal.party.is_empty() && known.is_none();
        let offset = self.rules.settings.follow.offset;
        let usable = |subject: &&Subject| is_usable(subject.position + offset);
        let subject = alone.filter(usable).or(known).or_else(|| self.nearest_of(party?));
        let in_air = subject.is_some_and(|subject| subject.grounded == Some(false)) && !together;
        let is_new = !self.state.goal.track.knows_velocity();
        let kind = self.kind_of(seconds, subject, together, party.is_none());
        Arrival { seconds, kind, subject, party, together, in_air, is_new }
    }

    fn kind_of(
        &mut self,
        seconds: f64,
        subject: Option<&Subject>,
        together: bool,
        alone: bool,
    ) -> Kind {
        let goal = &mut self.state.goal;
        let Some(subject) = subject else {
            goal.track.forget();
            return Kind::Lost;
        };
        if goal.cut {
            return Kind::Cut;
        }
        if together {
            // A party moves itself along the legs.
            return Kind::Lost;
        }
        let from = goal.track.last().filter(|_| !(alone && goal.party.is_several()));
        let far =
            |from: glam::DVec2| (subject.position - from).abs().cmpgt(self.framing.view).any();
        if from.is_none_or(far) {
            return Kind::Jumped;
        }
        Kind::Moved(goal.track.advance(subject, seconds))
    }

    /// The member of a new party that was followed alone before.
    fn nearest_of<'a>(&self, party: &'a [Subject]) -> Option<&'a Subject> {
        let usable = party.iter().filter(|subject| is_usable(subject.position));
        let Some(last) = self.state.goal.track.last() else { return usable.into_iter().next() };
        let away = |subject: &&Subject| subject.position.distance_squared(last);
        usable.min_by(|a, b| away(a).total_cmp(&away(b)))
    }

    /// Returns whether the party's subject with this id is too far away to be framed at the moment. Use it to draw an
    /// arrow at the screen's edge. Returns `false` for an unknown id.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Subject};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let wren = Subject::from([0.0, 0.0]).with_id(1).with_rank(1);
    /// let kite = Subject::from([9000.0, 0.0]).with_id(2); // too far away for any zoom
    /// camera.follow_all(0.0, &[wren, kite]);
    /// assert!(camera.is_let_go(2) && !camera.is_let_go(1));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn is_let_go(&self, id: u32) -> bool {
        self.state.goal.party.is_let_go(id)
    }

    /// The part of the frame that the party needs for a leg.
    pub(super) fn party_frame(&self) -> PartyFrame {
        PartyFrame {
            party: self.rules.settings.party,
            anchor: self.framing.follow.anchor,
            deadzone: self.framing.follow.deadzone,
            lens: self.framing.lens.with_zoom(1.0),
            zoom: self.state.lens.zoom.zoom(self.rules.settings.zoom.whole),
            whole: self.rules.settings.zoom.whole,
        }
    }
}
