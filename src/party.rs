//! Several subjects framed together.

use glam::DVec2;

use crate::ease::Ease;
use crate::error::{Report, SettingsError};
use crate::follow::Follow;
use crate::lens::Lens;
use crate::rect::Rect;
use crate::subject::Subject;

/// How several subjects are framed together: the `[party]` table of a tuning file, for
/// [`Camera::frame`](crate::Camera::frame).
///
/// The view looks at their weighted mean, moved as little as needed for the rectangle around all of
/// them, with their margins, to fit; it zooms out as they part. Where they are too far apart for the
/// smallest zoom, the one of least priority is let go first, and taken back once it would fit with a
/// tenth to spare.
///
/// A party has no leash and does not look ahead: both would push somebody out of the picture.
///
/// The mistake it prevents is the plain middle between players: one who joins or leaves jerks it, and
/// the one who stays behind drags everybody out of the picture.
///
/// ```
/// use velvet_pan::{Camera, Settings, Subject, glam::DVec2};
///
/// let mut camera = Camera::new(Settings::default())?;
/// let courier = Subject::from([0, 0]).weight(2.0).margin(20.0);
/// let kite = Subject::from([90, -40]).margin(10.0);
/// assert_eq!(camera.frame(0.0, &[courier, kite]).centre(), DVec2::new(30.0, -40.0 / 3.0));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Party {
    /// Seconds in which a member joins and leaves, from 0 to 1,000. Default 0.6.
    pub fade: f64,
    /// The smallest and the largest zoom, each from 1e-6 to 1e6; never larger than the zoom that is
    /// set by hand. Default 0.5 to 1.
    pub zoom: DVec2,
    /// Half-life of zooming out, in seconds, 0 or more. Default 0.12: nobody is lost.
    pub zoom_out: f64,
    /// Half-life of zooming in. Default 0.5: there is time.
    pub zoom_in: f64,
}

impl Default for Party {
    fn default() -> Self {
        Self { fade: 0.6, zoom: DVec2::new(0.5, 1.0), zoom_out: 0.12, zoom_in: 0.5 }
    }
}

impl Party {
    pub(crate) fn check(&self, report: Report<'_>) {
        let possible = 1e-6..=1e6;
        let (low, high) = (self.zoom.x, self.zoom.y);
        if !possible.contains(&low) || !possible.contains(&high) || low > high {
            let expected = "the smallest and the largest zoom, each from 0.000001 to 1000000";
            report(SettingsError::new("party.zoom", self.zoom, expected));
        }
        let mut time = |field: &'static str, seconds: f64| {
            if !(0.0..=1000.0).contains(&seconds) {
                report(SettingsError::new(field, seconds, "a time in seconds, from 0 to 1000"));
            }
        };
        time("party.fade", self.fade);
        time("party.zoom_out", self.zoom_out);
        time("party.zoom_in", self.zoom_in);
    }
}

/// Who is in the party, and how much.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct PartyMemory {
    members: [Member; PartyMemory::MOST],
    count: u8,
    /// The zoom that the party asks for, as a logarithm; none while there is no party.
    log_zoom: Option<f64>,
}

/// One of them.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Member {
    id: u32,
    place: DVec2,
    weight: f64,
    margin: f64,
    priority: i32,
    /// From 0 to 1, evenly in time.
    presence: f64,
    /// Whether the game named it in the last frame.
    here: bool,
    /// Too far away for now.
    let_go: bool,
}

impl Default for PartyMemory {
    fn default() -> Self {
        Self { members: [Member::default(); Self::MOST], count: 0, log_zoom: None }
    }
}

/// What the party needs to know of a frame.
#[derive(Clone, Copy, Debug)]
pub(crate) struct PartyFrame<'a> {
    pub party: &'a Party,
    pub follow: &'a Follow,
    /// At zoom 1.
    pub lens: &'a Lens,
    /// The zoom that is set by hand.
    pub zoom: f64,
    pub seconds: f64,
    /// Whether all is to be there at once.
    pub cut: bool,
    /// Where the subject was that was followed alone until now.
    pub alone: Option<DVec2>,
}

impl PartyMemory {
    /// Members at once; more are passed over.
    pub const MOST: usize = 64;

    fn members(&self) -> &[Member] {
        &self.members[..usize::from(self.count)]
    }

    /// Whether more than one is framed.
    #[inline]
    pub fn is_several(&self) -> bool {
        self.count > 1
    }

    /// Whether there is nobody, and no zoom of theirs either.
    #[inline]
    pub fn is_idle(&self) -> bool {
        self.count == 0 && self.log_zoom.is_none()
    }

    /// The corners, in the world, of the rectangle around those who are kept, with their margins.
    pub fn outline(&self, lens: &Lens) -> Option<[DVec2; 4]> {
        let kept = |member: &Member| f64::from(u8::from(member.here && !member.let_go));
        let (_, hull) = self.mean_and_hull(lens, kept).filter(|_| self.count > 1)?;
        Some(hull.corners().map(|corner| lens.unlevel(corner)))
    }

    /// Nobody any more; the zoom stays and glides back.
    pub fn disband(&mut self) {
        self.count = 0;
    }

    /// Moves everybody by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        for member in &mut self.members[..usize::from(self.count)] {
            member.place += delta;
        }
    }

    /// The zoom that the party asks for.
    #[inline]
    pub fn zoom(&self) -> Option<f64> {
        self.log_zoom.map(libm::exp)
    }

    /// Whether this one is too far away for now.
    pub fn is_let_go(&self, id: u32) -> bool {
        self.members().iter().any(|member| member.id == id && member.let_go)
    }

    /// Takes note of who is where, and answers the point to follow; none where nobody is left.
    pub fn gather(&mut self, subjects: &[Subject], frame: &PartyFrame<'_>) -> Option<DVec2> {
        if frame.cut {
            *self = Self::default();
        }
        self.take_note(subjects, frame);
        self.let_go_and_take_back(frame);
        self.fade(frame);
        let (mean, hull) = self.mean_and_hull(frame.lens, |one| Ease::InOut.at(one.presence))?;
        self.advance_zoom(Some(&hull), frame);
        let zoom = self.zoom().unwrap_or(frame.zoom);
        let room = self.room(frame, zoom);
        // As little as needed; where it can't fit, its middle.
        let (low, high) = (hull.max - room, hull.min + room);
        let middle = hull.centre();
        let axis = |axis: usize| {
            if low[axis] <= high[axis] {
                mean[axis].clamp(low[axis], high[axis])
            } else {
                middle[axis]
            }
        };
        Some(frame.lens.unlevel(DVec2::new(axis(0), axis(1))))
    }

    /// Glides back to the zoom that is set by hand.
    pub fn advance_alone(&mut self, frame: &PartyFrame<'_>) {
        if self.log_zoom.is_some() {
            self.advance_zoom(None, frame);
        }
    }

    fn take_note(&mut self, subjects: &[Subject], frame: &PartyFrame<'_>) {
        for member in &mut self.members[..usize::from(self.count)] {
            member.here = false;
        }
        let first = self.count == 0;
        let usable = |number: f64| if number > 0.0 && number < 1e9 { number } else { 0.0 };
        for (index, subject) in (0..).zip(subjects) {
            let place = subject.position;
            if !place.is_finite() {
                continue; // lost: it leaves
            }
            let id = subject.id.unwrap_or(index);
            let here = Member {
                id,
                place,
                weight: usable(subject.weight),
                margin: usable(subject.margin),
                priority: subject.priority,
                here: true,
                ..Member::default()
            };
            let known = self.members[..usize::from(self.count)].iter_mut().find(|one| one.id == id);
            if let Some(known) = known {
                let Member { presence, let_go, .. } = *known;
                *known = Member { presence, let_go, ..here };
            } else if usize::from(self.count) < Self::MOST {
                let presence = if first { 1.0 } else { 0.0 };
                self.members[usize::from(self.count)] = Member { presence, ..here };
                self.count += 1;
            }
        }
        if let Some(alone) = frame.alone.filter(|_| first) {
            self.continue_from(alone);
        }
    }

    /// One was followed alone until now: the nearest to it; the others join.
    fn continue_from(&mut self, alone: DVec2) {
        let away = |member: &Member| member.place.distance_squared(alone);
        let nearest = self.members().iter().map(away).fold(f64::INFINITY, f64::min);
        for member in &mut self.members[..usize::from(self.count)] {
            member.presence = if away(member) == nearest { 1.0 } else { 0.0 };
        }
    }

    fn let_go_and_take_back(&mut self, frame: &PartyFrame<'_>) {
        let room = self.room(frame, frame.party.zoom.x);
        // Back, the most important first, if there is a tenth to spare beside those that matter as much.
        for index in self.in_order(|member| member.here && member.let_go) {
            let Some(index) = index else { break };
            let own = self.members[index];
            let counts = |one: &Member| {
                let matters = one.here && !one.let_go && one.priority >= own.priority;
                f64::from(u8::from(matters || one.id == own.id))
            };
            let fits = self
                .mean_and_hull(frame.lens, counts)
                .is_some_and(|(_, hull)| (hull.size() * 1.1).cmple(room * 2.0).all());
            self.members[index].let_go = !fits;
        }
        // Away, the least important first, until the rest fits.
        for _member in 1..self.count {
            let kept = |member: &Member| f64::from(u8::from(member.here && !member.let_go));
            let Some((_, hull)) = self.mean_and_hull(frame.lens, kept) else { break };
            if hull.size().cmple(room * 2.0).all() {
                break;
            }
            let several = self.members().iter().map(kept).sum::<f64>() > 1.0;
            let members = self.members[..usize::from(self.count)].iter_mut().rev();
            let least = members
                .filter(|member| member.here && !member.let_go)
                .min_by_key(|member| member.priority);
            let Some(least) = least.filter(|_| several) else { break };
            least.let_go = true;
        }
    }

    /// Members that a condition holds for, the most important first.
    fn in_order(&self, holds: impl Fn(&Member) -> bool) -> [Option<usize>; Self::MOST] {
        let mut order = [None; Self::MOST];
        let mut count = 0;
        for (index, _) in self.members().iter().enumerate().filter(|(_, member)| holds(member)) {
            order[count] = Some(index);
            count += 1;
        }
        let priority =
            |index: &Option<usize>| index.map_or(0, |index| self.members[index].priority);
        order[..count].sort_unstable_by_key(|index| (core::cmp::Reverse(priority(index)), *index));
        order
    }

    fn fade(&mut self, frame: &PartyFrame<'_>) {
        let part = if frame.party.fade > 0.0 { frame.seconds / frame.party.fade } else { 1.0 };
        let mut kept = 0;
        for index in 0..usize::from(self.count) {
            let mut member = self.members[index];
            let change = if member.here && !member.let_go { part } else { -part };
            member.presence = (member.presence + change).clamp(0.0, 1.0);
            if member.here || member.presence > 0.0 {
                self.members[kept] = member;
                kept += 1;
            }
        }
        self.count = kept as u8;
    }

    /// The weighted mean, and the rectangle around all with their margins; each member counts by its
    /// share, towards the mean, so that neither jumps when one joins or leaves. Along the screen's
    /// axes.
    fn mean_and_hull(&self, lens: &Lens, share: impl Fn(&Member) -> f64) -> Option<(DVec2, Rect)> {
        let counted =
            || self.members().iter().map(|one| (one, share(one))).filter(|(_, share)| *share > 0.0);
        let (mut sum, mut all) = (DVec2::ZERO, 0.0);
        for (member, share) in counted() {
            // One of no weight is framed, and has no say in where the middle is.
            let weight = member.weight.max(1e-9) * share;
            (sum, all) = (sum + lens.level(member.place) * weight, all + weight);
        }
        if all <= 0.0 {
            return None;
        }
        let mean = sum / all;
        let nothing = Rect { min: mean, max: mean };
        let hull = counted().fold(nothing, |hull, (member, share)| {
            let place = mean + (lens.level(member.place) - mean) * share;
            let margin = member.margin * share;
            Rect { min: hull.min.min(place - margin), max: hull.max.max(place + margin) }
        });
        Some((mean, hull))
    }

    /// Half of the room around the anchor at a zoom: `(min(a, 1 − a) − deadzone side)·V`.
    fn room(&self, frame: &PartyFrame<'_>, zoom: f64) -> DVec2 {
        let anchor = frame.follow.anchor.min(1.0 - frame.follow.anchor);
        let zone = &frame.follow.deadzone;
        let side = DVec2::new(zone.left.max(zone.right), zone.top.max(zone.bottom));
        (anchor - side).max(DVec2::splat(0.01)) * frame.lens.view_size() / zoom
    }

    /// Towards the zoom at which the rectangle fits.
    fn advance_zoom(&mut self, hull: Option<&Rect>, frame: &PartyFrame<'_>) {
        let largest = frame.party.zoom.y.min(frame.zoom);
        let wanted = match hull {
            Some(hull) => {
                let room = self.room(frame, 1.0);
                let needed = (room * 2.0 / hull.size().max(DVec2::splat(1e-9))).min_element();
                needed.min(largest).max(frame.party.zoom.x.min(largest))
            }
            None => frame.zoom,
        };
        let target = libm::log(wanted);
        let now = self.log_zoom.unwrap_or_else(|| libm::log(frame.zoom));
        let half_life = if target < now { frame.party.zoom_out } else { frame.party.zoom_in };
        let rest = if half_life > 0.0 && !frame.cut {
            libm::exp2(-frame.seconds / half_life)
        } else {
            0.0
        };
        let next = target + (now - target) * rest;
        let unseen = (target - next).abs() * frame.lens.size().as_dvec2().length() < 0.01;
        let next = if unseen { target } else { next };
        self.log_zoom = Some(next).filter(|_| hull.is_some() || next != target);
    }
}

#[cfg(feature = "serde")]
mod serial {
    use alloc::vec::Vec;
    use serde::{Deserialize, Deserializer, Serialize, Serializer};

    use super::{Member, PartyMemory};

    /// Only those who are there are written.
    #[derive(Serialize, Deserialize)]
    struct Written {
        members: Vec<Member>,
        log_zoom: Option<f64>,
    }

    impl Serialize for PartyMemory {
        fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
            let members = self.members().to_vec();
            Written { members, log_zoom: self.log_zoom }.serialize(serializer)
        }
    }

    impl<'de> Deserialize<'de> for PartyMemory {
        fn deserialize<D: Deserializer<'de>>(input: D) -> Result<Self, D::Error> {
            let Written { members, log_zoom } = Written::deserialize(input)?;
            let mut party = Self { log_zoom, ..Self::default() };
            for (slot, member) in party.members.iter_mut().zip(members) {
                *slot = member;
                party.count += 1;
            }
            Ok(party)
        }
    }
}
