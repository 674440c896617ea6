//! How the followed subject reached its position: moved, jumped, cut or lost.

use glam::DVec2;

use crate::base::maths::is_usable;
use crate::goal::subject::{Stride, Subject, SubjectNow, Track};

use super::command::Command;
use super::state::{Cut, GoalState};
use super::told::Told;

/// What a frame is given.
#[derive(Clone, Copy, Debug)]
pub(super) struct Input<'a> {
    pub seconds: f64,
    /// All subjects if several may be shown together.
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
    /// All members if several are shown together; `None` for a single subject or none.
    pub party: Option<&'a [Subject]>,
    /// Whether several are shown together during this step.
    pub together: bool,
    /// Whether the subject is in the air at the end of the step.
    pub in_air: bool,
    /// Whether its velocity was unknown until now.
    pub is_new: bool,
    /// The fraction of the step at which the subject came, or the aim: 0 for one that was there.
    turn: f64,
    /// The way until then of the one that was followed before, as it moved last.
    coasting: Option<Stride>,
    /// The way of one that is lost, jumps or is cut to: it moves on to the end of the step, and then that happens.
    pub leaving: Option<Stride>,
}

/// How a subject reached its position.
#[derive(Clone, Copy, Debug)]
pub(super) enum Kind {
    /// Nothing is followed; the goal stays.
    Lost,
    /// It moved from its last position, or since it came, in a straight line or on a parabola.
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

/// A moment that is this fraction of a step away is the same.
pub(super) const SAME_MOMENT: f64 = 1e-9;

/// Determines how the subject reached its position, and remembers the way. This is the only place that checks subjects:
/// one that is not finite, or too far away, counts as lost, and one that is farther away than `reach` has jumped. A
/// command with a time tells when it came.
#[inline]
pub(super) fn arrive<'a>(
    input: &Input<'a>,
    goal: &mut GoalState,
    told: &Told,
    reach: DVec2,
    offset: DVec2,
) -> Arrival<'a> {
    let Input { seconds, party, alone } = *input;
    let known = party.and_then(|party| goal.party.only_one(party));
    let together = party.is_some() && !goal.party.is_empty() && known.is_none();
    // A party of which nobody is left moves on to the frame's end.
    let leaves = party.is_none() && alone.is_none() && goal.party.is_several();
    let together = together || leaves;
    let usable = |subject: &&Subject| is_usable(subject.position + offset);
    let track = &mut goal.track;
    let (before, is_new) = (track.end(), !track.knows_velocity());
    if core::mem::take(&mut goal.switched) {
        track.forget();
    }
    let last = track.last();
    let subject = alone.filter(usable).or(known).or_else(|| nearest_of(party?, last));
    let in_air = subject.is_some_and(|subject| subject.grounded == Some(false)) && !together;
    let mut turn = 0.0;
    let kind = match subject {
        None => {
            track.forget();
            Kind::Lost
        }
        Some(_) if goal.cut != Cut::No => Kind::Cut,
        // A party moves along ways of its own.
        Some(_) if together => Kind::Lost,
        Some(subject) => {
            let from = last.filter(|_| party.is_some() || !goal.party.is_several());
            let far = |from: DVec2| (subject.position - from).abs().cmpgt(reach).any();
            let jumped = from.is_none_or(far);
            match comes_at(told, seconds, jumped) {
                Some(moment) => {
                    turn = moment;
                    meet(subject, party, track);
                    Kind::Moved(Stride::until(subject, seconds * (1.0 - turn)))
                }
                None if jumped => Kind::Jumped,
                None => Kind::Moved(track.advance(subject, seconds)),
            }
        }
    };
    let is_aim = |command: &Command| matches!(command, Command::AimAt(_));
    let nobody = alone.is_none() && party.is_none();
    let aims = nobody.then(|| told.moment_of(seconds, is_aim)).flatten();
    turn = if nobody { aims.unwrap_or(0.0) } else { turn };
    let coasts = |left: SubjectNow| left.coasts(seconds * turn);
    let coasting = before.filter(|_| turn > 0.0).map(coasts);
    let gone = !together && turn <= 0.0 && !matches!(kind, Kind::Moved(_));
    let left = before.filter(|_| gone);
    Arrival {
        seconds,
        kind,
        subject,
        party,
        together,
        in_air,
        is_new,
        turn,
        coasting,
        leaving: left.filter(|_| aims.is_none()).map(|left| left.coasts(seconds)),
    }
}

/// When a subject came: with the first command that brings another one, or moves this one.
#[inline]
fn comes_at(told: &Told, seconds: f64, jumped: bool) -> Option<f64> {
    if !told.has_due() {
        return None;
    }
    told.moment_of(seconds, |command| match command {
        Command::SwitchSubject => true,
        Command::Cut => jumped,
        _ => false,
    })
}

/// Handles a subject that arrived without moving. Nothing more is known about a point that represents a party.
pub(super) fn meet(subject: &Subject, party: Option<&[Subject]>, track: &mut Track) {
    if party.is_some_and(|subjects| subjects.len() > 1) {
        track.jump(subject.position);
    } else {
        track.meet(subject);
    }
}

/// Returns the member of a new party that was followed alone before.
fn nearest_of(party: &[Subject], last: Option<DVec2>) -> Option<&Subject> {
    let usable = party.iter().filter(|subject| is_usable(subject.position));
    let Some(last) = last else { return usable.into_iter().next() };
    let away = |subject: &&Subject| subject.position.distance_squared(last);
    usable.min_by(|a, b| away(a).total_cmp(&away(b)))
}

impl Arrival<'_> {
    /// Returns the way through the whole step of a subject that was there.
    #[inline]
    pub fn stride(&self) -> Option<Stride> {
        match self.kind {
            Kind::Moved(stride) if self.turn <= 0.0 => Some(stride),
            _ => None,
        }
    }

    /// Returns the subject at a fraction of the step, if it is there.
    pub fn at(&self, fraction: f64) -> Option<SubjectNow> {
        match self.kind {
            Kind::Moved(stride) if self.has_come(fraction) => {
                Some(stride.at(self.since_turn(fraction)))
            }
            _ => None,
        }
    }

    /// Returns the subject at a fraction of the step before the one came that is followed at its end, if another one did.
    pub fn before_turn(&self, fraction: f64) -> Option<SubjectNow> {
        self.coasting.map(|way| way.at((fraction / self.turn).min(1.0)))
    }

    /// Returns whether the subject, or the aim, is already there at a fraction of the step.
    pub fn has_come(&self, fraction: f64) -> bool {
        fraction >= self.turn - SAME_MOMENT
    }

    /// Returns whether the subject, or the aim, comes with the commands of this moment.
    pub fn comes_with(&self, moment: f64) -> bool {
        self.turn > 0.0 && (moment - self.turn).abs() <= SAME_MOMENT
    }

    /// Returns a fraction of the step as a fraction of the rest since the subject came.
    #[inline]
    fn since_turn(&self, fraction: f64) -> f64 {
        let rest = 1.0 - self.turn;
        if rest <= 0.0 { 1.0 } else { ((fraction - self.turn) / rest).max(0.0) }
    }

    /// Returns the followed subject: the point that represents a party, or the single subject.
    pub fn one_of(&self, point_of_party: Option<Subject>) -> Option<Subject> {
        point_of_party.or(self.subject.copied().filter(|_| self.party.is_none()))
    }

    /// Returns where the subject is at a fraction of the step.
    pub fn clock(&self, fraction: f64) -> Clock {
        if self.together {
            return Clock::Track;
        }
        if let Some(leaving) = &self.leaving {
            return Clock::Step(Some(leaving.at(fraction)));
        }
        if self.has_come(fraction) {
            return Clock::Step(self.at(fraction));
        }
        Clock::Step(self.coasting.map(|way| way.at(fraction / self.turn)))
    }

    /// Returns where the subject is that was followed until the subject came.
    pub fn clock_before(&self) -> Clock {
        Clock::Step(self.coasting.map(|way| way.end()))
    }
}
