//! A party in a leg and at the end of a step. It moves along the legs as one subject does.

use glam::DVec2;

use crate::base::maths::{bisect, is_usable};
use crate::curves::ease::Timing;
use crate::goal::member::LegTimes;
use crate::goal::party_memory::PartyMemory;
use crate::goal::party_zoom::PartyContext;
use crate::goal::subject::{Stride, Subject, SubjectNow};

use super::Camera;
use super::arrival::{Arrival, Clock, Kind};
use super::change::FocusAfter;
use super::framing::Framing;
use super::leg::HALVINGS;
use super::rules::Rules;
use super::state::{CameraState, GoalState};

/// A line that a party crosses within this last fraction of a leg counts as crossed at its end.
const LINE_AT_END: f64 = 1e-6;

/// Returns the values that the party needs for a leg.
pub(super) fn context(rules: &Rules, framing: &Framing) -> PartyContext {
    PartyContext {
        party: rules.settings.party,
        anchor: framing.follow.anchor,
        deadzone: framing.follow.deadzone,
        lens: framing.lens.with_zoom(1.0),
        wanted: framing.wanted,
        whole: rules.settings.zoom.whole,
    }
}

/// Returns the times of a leg between two fractions of a step.
fn times(arrival: &Arrival<'_>, [done, end]: [f64; 2]) -> LegTimes {
    LegTimes {
        step: arrival.seconds,
        rest: arrival.seconds * (1.0 - done),
        leg: arrival.seconds * (end - done),
    }
}

/// How far members are from a straight way through the rest of a step, in world units. `None` if the zoom changes there.
pub(super) fn bulge(
    arrival: &Arrival<'_>,
    rules: &Rules,
    framing: &Framing,
    party: &PartyMemory,
    done: f64,
) -> Option<f64> {
    if !party.may_zoom() {
        return Some(0.0);
    }
    let subjects = arrival.party.filter(|_| arrival.together)?;
    party.bulge(subjects, &times(arrival, [done, 1.0]), &context(rules, framing))
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
    let CameraState { goal, ride, .. } = state;
    if !arrival.together {
        goal.party.advance_beside(arrival.party, &times(arrival, [done, end]), &context);
        return (single(), end);
    }
    let was = *goal;
    let move_to = |goal: &mut GoalState, end: f64| {
        goal.move_party(arrival, &times(arrival, [done, end]), &context)
    };
    let again_to = |goal: &mut GoalState, end: f64| {
        *goal = was;
        move_to(goal, end)
    };
    let (mut end, mut stride) = (end, move_to(goal, end));
    if goal.party.changes(&context) {
        // A member is let go, or taken back, at its moment.
        end = bisect([done, end], HALVINGS, |end| {
            again_to(goal, end);
            goal.party.changes(&context)
        })[1];
        stride = again_to(goal, end);
    }
    if rules.has_places() {
        let middle = |goal: &GoalState| goal.party.middle(&framing.lens);
        let way = middle(&was).zip(middle(goal));
        let line = way.and_then(|(from, to)| rules.crossing(framing, ride.room, from, to));
        if let Some(line) = line.filter(|line| *line < 1.0 - LINE_AT_END) {
            end = done + (end - done) * (line + LINE_AT_END);
            stride = again_to(goal, end);
        }
    }
    (stride, end)
}

/// Returns the path of the subject, or of a party that moves on as before, through an instant.
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

    /// Moves the party through a leg, and the subject with it. Returns its way. A party has no look-ahead.
    fn move_party(
        &mut self,
        arrival: &Arrival<'_>,
        times: &LegTimes,
        context: &PartyContext,
    ) -> Option<Stride> {
        let to = self.party.move_on(arrival.party?, times, context)?;
        let from = self.track.last().unwrap_or(to);
        self.track.jump(to);
        Some(Stride::straight(from, to, [DVec2::ZERO; 2]))
    }
}

impl Camera {
    pub(super) fn shows_several(&self, arrival: &Arrival<'_>) -> bool {
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
            && party.shows_others(&next);
        if fades {
            self.change_party(next, Clock::Track);
        } else if !(party.is_idle() && next.is_idle()) {
            self.state.goal.party = next;
            self.refresh(Clock::Track);
        }
        self.point_of_party(arrival)
    }

    /// Returns the party at the end of this step.
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

    /// Returns the subject that represents the party, with everything that is known of a single followed one.
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

    /// Returns the party without members that have moved too far away within a leg, and with those that returned, if it
    /// changes.
    pub(super) fn reconsidered_party(&self) -> Option<PartyMemory> {
        self.state.goal.party.reconsidered(&self.party_context())
    }

    /// Shows other members from now on. The picture reaches them in its own time.
    pub(super) fn change_party(&mut self, next: PartyMemory, clock: Clock) {
        let fade = Timing::smooth(self.rules.settings.party.fade);
        let change = self.begin(fade, clock);
        self.state.goal.party = next;
        self.state.goal.stand_for_party(&self.party_context());
        self.fade(change, FocusAfter::AsFarBehind, clock);
    }

    /// Returns whether the party's subject with this id is too far away to be shown at the moment. Use it to draw an
    /// arrow at the screen's edge. Returns `false` for an unknown id.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, Subject};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let wren = Subject::from([0.0, 0.0]).with_id(1).with_rank(1);
    /// let kite = Subject::from([9000.0, 0.0]).with_id(2); // too far away for any zoom
    /// camera.follow_all(0.0, &[wren, kite]);
    /// assert!(camera.is_dropped(2) && !camera.is_dropped(1));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn is_dropped(&self, id: u32) -> bool {
        self.state.goal.party.is_dropped(id)
    }
}
