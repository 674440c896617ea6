//! A party within a frame and at its end.

use glam::DVec2;

use crate::base::maths::is_usable;
use crate::curves::ease::Timing;
use crate::goal::party_memory::PartyMemory;
use crate::goal::party_zoom::PartyContext;
use crate::goal::subject::{Stride, Subject, SubjectNow};

use super::Camera;
use super::arrival::{Arrival, Clock, Kind};
use super::change::FocusAfter;
use super::framing::Framing;
use super::rules::Rules;
use super::state::{CameraState, GoalState};

/// Returns the values that the party needs for a step.
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
    party.coast(seconds);
    let point = party.step(&context, seconds);
    if party.is_several() {
        let from = subject?.position;
        let to = point.filter(|to| from.is_finite() && to.is_finite())?;
        return Some(Stride::straight(from, to, [DVec2::ZERO; 2]));
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
        } else {
            let is_alike = party.moving() == next.moving();
            self.state.goal.party = next;
            if !is_alike {
                self.refresh(Clock::Track);
            }
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
        match cut {
            true => party.zoom_at_once(&context),
            false => _ = party.step(&context, 0.0),
        }
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

    /// Returns the party without members that have moved too far away within a frame, and with those that returned, if it
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
