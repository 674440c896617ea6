//! A party in a leg and at the end of a step. It moves along the legs as one subject does.

use glam::DVec2;

use crate::goal::party::{LegTimes, PartyContext, PartyMemory};
use crate::goal::subject::{Stride, Subject, SubjectNow};
use crate::units::ease::Timing;
use crate::units::maths::{bisect, is_usable};

use super::Camera;
use super::arrival::{Arrival, Clock, Kind};
use super::change::Place;
use super::framing::Framing;
use super::leg::HALVINGS;
use super::rules::Rules;
use super::state::{CameraState, GoalState};

/// A line that a party crosses within this last fraction of a leg counts as crossed at its end.
const LINE_AT_END: f64 = 1e-6;

/// The values that the party needs for a leg.
fn context(rules: &Rules, framing: &Framing) -> PartyContext {
    PartyContext {
        party: rules.settings.party,
        anchor: framing.follow.anchor,
        deadzone: framing.follow.deadzone,
        lens: framing.lens.with_zoom(1.0),
        wanted: framing.wanted,
        whole: rules.settings.zoom.whole,
    }
}

/// Moves the party or the single subject through a leg. Returns its path, and the end of the leg, which is earlier if
/// the party crosses a line.
pub(super) fn move_along(
    arrival: &Arrival<'_>,
    rules: &Rules,
    framing: &Framing,
    state: &mut CameraState,
    [done, end]: [f64; 2],
) -> (Option<Stride>, f64) {
    let single = || arrival.part(done, end);
    if !arrival.together && state.goal.party.is_idle() {
        return (single(), end);
    }
    let context = context(rules, framing);
    let times = |end: f64| LegTimes {
        step: arrival.seconds,
        rest: arrival.seconds * (1.0 - done),
        leg: arrival.seconds * (end - done),
    };
    if !arrival.together {
        state.goal.party.advance_beside(arrival.party, &times(end), &context);
        return (single(), end);
    }
    let was = state.goal;
    let moved = |end: f64| was.with_party_moved(arrival, &times(end), &context);
    let changes = |goal: &GoalState| goal.party.reconsidered(&context).is_some();
    let (mut end, (mut goal, mut stride)) = (end, moved(end));
    if changes(&goal) {
        // A member is let go, or taken back, at its moment.
        end = bisect([done, end], HALVINGS, |end| changes(&moved(end).0))[1];
        (goal, stride) = moved(end);
    }
    let middle = |goal: &GoalState| goal.party.middle(&framing.lens);
    let line = middle(&was)
        .zip(middle(&goal))
        .filter(|_| rules.has_places())
        .and_then(|(from, to)| rules.crossing(framing, state.ride.room, from, to));
    if let Some(line) = line.filter(|line| *line < 1.0 - LINE_AT_END) {
        end = done + (end - done) * (line + LINE_AT_END);
        (goal, stride) = moved(end);
    }
    state.goal = goal;
    (stride, end)
}

/// The path of the subject, or of a party that moves on as before, through an instant.
pub(super) fn stride_of_instant(
    rules: &Rules,
    framing: &Framing,
    state: &mut CameraState,
    subject: Option<SubjectNow>,
    seconds: f64,
) -> Option<Stride> {
    let context = context(rules, framing);
    let party = &mut state.goal.party;
    if party.is_empty() {
        party.advance_alone(seconds, &context);
    } else {
        party.coast(seconds);
        let point = party.come_together(&context, Some(seconds));
        if party.is_several() {
            let from = subject?.position;
            let to = point.filter(|to| from.is_finite() && to.is_finite())?;
            return Some(Stride::straight(from, to, [DVec2::ZERO; 2]));
        }
    }
    let SubjectNow { position, velocity } = subject?;
    Some(Stride::straight(position, position + velocity * seconds, [velocity; 2]))
}

impl GoalState {
    /// Moves the subject to the party's point. Nothing else is remembered of it.
    pub(super) fn stand_for_party(&mut self, context: &PartyContext) {
        let point = self.party.point(context);
        if let Some(point) = point.filter(|point| self.track.last() != Some(*point)) {
            self.track.jump(point);
        }
    }

    /// The same after a leg of the party. A party has no look-ahead.
    fn with_party_moved(
        mut self,
        arrival: &Arrival<'_>,
        times: &LegTimes,
        context: &PartyContext,
    ) -> (Self, Option<Stride>) {
        let from = self.track.last();
        let to = arrival.party.and_then(|subjects| self.party.move_on(subjects, times, context));
        let stride = to.map(|to| {
            self.track.jump(to);
            Stride::straight(from.unwrap_or(to), to, [DVec2::ZERO; 2])
        });
        (self, stride)
    }
}

impl Camera {
    pub(super) fn frames_several(&self, arrival: &Arrival<'_>) -> bool {
        arrival.party.is_some() && self.state.goal.party.is_several()
    }

    pub(super) fn party_context(&self) -> PartyContext {
        context(&self.rules, &self.framing)
    }

    /// Updates the members with a fade, and returns the subject that represents them.
    pub(super) fn settle_party(&mut self, arrival: &Arrival<'_>) -> Option<Subject> {
        let next = self.next_party(arrival);
        let party = &self.state.goal.party;
        let fades = arrival.party.is_some()
            && !matches!(arrival.kind, Kind::Cut)
            && party.frames_others(&next);
        if fades {
            self.change_party(next, Clock::Track);
        } else if !(party.is_idle() && next.is_idle()) {
            self.state.goal.party = next;
            self.refresh(Clock::Track);
        }
        self.point_of_party(arrival)
    }

    /// The party at the end of this step.
    pub(super) fn next_party(&self, arrival: &Arrival<'_>) -> PartyMemory {
        let mut party = self.state.goal.party;
        let Some(subjects) = arrival.party else {
            party.disband();
            return party;
        };
        let cut = matches!(arrival.kind, Kind::Cut);
        if cut {
            party = PartyMemory::default();
        }
        let context = self.party_context();
        party.take_note(subjects, arrival.seconds);
        party.drop_and_take_back(&context);
        party.come_together(&context, Some(0.0).filter(|_| !cut));
        party
    }

    /// The subject that represents the party, with everything that is known of a single followed one.
    pub(super) fn point_of_party(&self, arrival: &Arrival<'_>) -> Option<Subject> {
        match arrival.party? {
            [only] if !self.state.goal.party.is_several() => {
                let only = Some(only).filter(|only| is_usable(only.position));
                arrival.subject.or(only).copied()
            }
            _ => {
                let point = self.state.goal.party.point(&self.party_context())?;
                Some(Subject::from(point).with_velocity(DVec2::ZERO))
            }
        }
    }

    /// The party without members that have moved too far away within a leg, and with those that returned, if it changes.
    pub(super) fn reconsidered_party(&self) -> Option<PartyMemory> {
        self.state.goal.party.reconsidered(&self.party_context())
    }

    /// Frames other members from now on. The picture reaches them in its own time.
    pub(super) fn change_party(&mut self, next: PartyMemory, clock: Clock) {
        let fade = Timing::smooth(self.rules.settings.party.fade);
        let change = self.begin(fade, clock);
        self.state.goal.party = next;
        self.state.goal.stand_for_party(&self.party_context());
        self.fade(change, Place::AsFarBehind, clock);
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
        self.state.goal.party.is_dropped(id)
    }
}
