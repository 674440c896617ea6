//! How the followed subject reached its position: moved, jumped, cut or lost.

use glam::DVec2;

use crate::goal::subject::{Stride, Subject, SubjectNow, Track};
use crate::units::maths::is_usable;

use super::state::{Cut, GoalState};

/// What a frame is given.
#[derive(Clone, Copy, Debug)]
pub(super) struct Input<'a> {
    pub seconds: f64,
    /// All subjects if several may be framed together.
    pub party: Option<&'a [Subject]>,
    /// The single subject.
    pub alone: Option<&'a Subject>,
}

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
    /// The one that was followed until now, if it did not move here.
    pub left: Option<SubjectNow>,
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

/// Where the followed subject is at the present moment.
#[derive(Clone, Copy, Debug)]
pub(super) enum Clock {
    /// Where its track ends: between two frames, and for a party, whose track moves with it.
    Track,
    /// Within a step: here, if there is one.
    Step(Option<SubjectNow>),
}

impl Clock {
    #[inline]
    pub fn subject(self, track: &Track) -> Option<SubjectNow> {
        match self {
            Self::Step(subject) => subject,
            Self::Track => track.end(),
        }
    }
}

/// Determines how the subject reached its position, and remembers the way. This is the only place that checks subjects:
/// one that is not finite, or too far away, counts as lost, and one that is farther away than `reach` has jumped.
#[inline]
pub(super) fn arrive<'a>(
    input: &Input<'a>,
    goal: &GoalState,
    reach: DVec2,
    offset: DVec2,
) -> (Arrival<'a>, Track) {
    let Input { seconds, party, alone } = *input;
    let known = party.and_then(|party| goal.party.only_one(party));
    let together = party.is_some() && !goal.party.is_empty() && known.is_none();
    let usable = |subject: &&Subject| is_usable(subject.position + offset);
    let mut track = goal.track;
    if goal.switched {
        track.forget();
    }
    let last = track.last();
    let subject = alone.filter(usable).or(known).or_else(|| nearest_of(party?, last));
    let in_air = subject.is_some_and(|subject| subject.grounded == Some(false)) && !together;
    let kind = match subject {
        None => {
            track.forget();
            Kind::Lost
        }
        Some(_) if goal.cut != Cut::No => Kind::Cut,
        // A party moves itself along the legs.
        Some(_) if together => Kind::Lost,
        Some(subject) => {
            let from = last.filter(|_| party.is_some() || !goal.party.is_several());
            let far = |from: DVec2| (subject.position - from).abs().cmpgt(reach).any();
            match from.is_none_or(far) {
                true => Kind::Jumped,
                false => Kind::Moved(track.advance(subject, seconds)),
            }
        }
    };
    let is_new = !goal.track.knows_velocity();
    let left = goal.track.end().filter(|_| !together && !matches!(kind, Kind::Moved(_)));
    (Arrival { seconds, kind, subject, party, together, in_air, is_new, left }, track)
}

/// The member of a new party that was followed alone before.
fn nearest_of(party: &[Subject], last: Option<DVec2>) -> Option<&Subject> {
    let usable = party.iter().filter(|subject| is_usable(subject.position));
    let Some(last) = last else { return usable.into_iter().next() };
    let away = |subject: &&Subject| subject.position.distance_squared(last);
    usable.min_by(|a, b| away(a).total_cmp(&away(b)))
}

impl Arrival<'_> {
    #[inline]
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

    /// Where the subject is at a fraction of the step.
    pub fn clock(&self, fraction: f64) -> Clock {
        if self.together {
            return Clock::Track;
        }
        Clock::Step(self.stride().map(|stride| stride.at(fraction)))
    }

    /// Handles a subject that arrived without moving. Nothing more is known about a point that represents a party.
    pub fn meet(&self, subject: &Subject, track: &mut Track) {
        if self.party.is_some_and(|subjects| subjects.len() > 1) {
            track.jump(subject.position);
        } else {
            track.meet(subject);
        }
    }
}
