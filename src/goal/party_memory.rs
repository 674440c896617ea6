//! What a party remembers from frame to frame: its members, and its zoom.

use glam::{DVec2, Vec2};

use crate::base::list::List;
use crate::base::maths::is_usable;
use crate::base::rect::Rect;
use crate::base::sound::sound;
use crate::goal::member::{Member, MemberSet, MemberWay, MovingMember, WayTime, velocity};
use crate::goal::party_zoom::{MAX_ZOOM, PartyContext, PartyZoom};
use crate::goal::subject::Subject;
use crate::lens::lens::Lens;

/// The members of the party and their weights.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct PartyMemory {
    members: List<Member, { PartyMemory::MAX_MEMBERS }>,
    zoom: PartyZoom,
}

sound!(PartyMemory { members, zoom });

/// What steps move of a party.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct PartyMoving {
    zoom: PartyZoom,
    members: List<MovingMember, { PartyMemory::MAX_MEMBERS }>,
}

sound!(PartyMoving { zoom, members });

impl PartyMoving {
    pub fn translate(&mut self, delta: DVec2) {
        for member in self.members.iter_mut() {
            member.position += delta;
        }
    }
}

/// The ways of all members through a frame.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct MemberWays(List<MemberWay, { PartyMemory::MAX_MEMBERS }>);

impl MemberWays {
    /// Continues them backwards to where members were earlier.
    pub fn continued_to(mut self, early: &PartyMoving) -> Self {
        for (way, early) in self.0.iter_mut().zip(early.members.iter()) {
            way.early = early.position;
        }
        self
    }
}

impl PartyMemory {
    /// The maximum number of members. More are ignored.
    pub const MAX_MEMBERS: usize = 16;

    /// Returns whether more than one is shown.
    #[inline]
    pub fn is_several(&self) -> bool {
        self.members.len() > 1
    }

    /// Returns what steps move.
    pub fn moving(&self) -> PartyMoving {
        let mut members = List::default();
        for member in self.members.iter() {
            let Member { position, dropped, gone, .. } = *member;
            members.push(MovingMember { position, dropped, gone });
        }
        PartyMoving { zoom: self.zoom, members }
    }

    /// Takes what steps move.
    pub fn put(&mut self, moving: &PartyMoving) {
        self.zoom = moving.zoom;
        for (member, from) in self.members.iter_mut().zip(moving.members.iter()) {
            (member.position, member.dropped) = (from.position, from.dropped);
            member.gone = from.gone;
        }
    }

    /// Moves members through a whole frame, and returns their ways.
    pub fn ways(&mut self, subjects: &[Subject], seconds: f64, reach: DVec2) -> MemberWays {
        let was = self.members;
        self.begin_step();
        self.advance(subjects, seconds);
        let mut ways = List::default();
        for (index, (from, to)) in was.iter().zip(self.members.iter()).enumerate() {
            let moves = with_id(subjects, to.id, index).is_some_and(|to| is_usable(to.position));
            if (to.position - from.position).abs().cmpgt(reach).any() {
                // It is there at the end. Until then it moves on.
                let mut left = *from;
                left.coast_for(seconds);
                ways.push(MemberWay { to: left.position, ..MemberWay::at_rest(from.position) });
                continue;
            }
            let bulge = if moves { to.bend().as_dvec2() * seconds } else { DVec2::ZERO };
            ways.push(MemberWay {
                early: from.position,
                from: from.position,
                to: to.position,
                bulge,
            });
        }
        MemberWays(ways)
    }

    /// Places the members on their ways, after some seconds in which nothing else happened.
    pub fn place(&mut self, ways: &MemberWays, at: WayTime, seconds: f64) {
        for (member, way) in self.members.iter_mut().zip(ways.0.iter()) {
            member.position = way.at(at);
            member.gone = (member.gone + seconds as f32).min(1e6);
        }
    }

    /// Moves the zoom through a short step. Returns the point to follow.
    pub fn step(&mut self, context: &PartyContext, seconds: f64) -> Option<DVec2> {
        let together = self.together(context, seconds);
        if together.is_none() && !self.zoom.is_free() {
            self.zoom = self.zoom.step(MAX_ZOOM, context, seconds);
        }
        let (point, zoom) = together?;
        self.zoom = zoom;
        Some(point)
    }

    /// Shows the members at once at the zoom at which they fit.
    pub fn zoom_at_once(&mut self, context: &PartyContext) {
        let hull = self.mean_and_hull(&context.lens, self.kept());
        self.zoom = hull.map_or(self.zoom, |(_, hull)| PartyZoom::at(self.fit(&hull, context)));
    }

    /// Returns whether no member is shown.
    #[inline]
    pub fn is_empty(&self) -> bool {
        self.members.is_empty()
    }

    /// Returns the only subject that was shown so far, if the game still names it.
    pub fn only_one<'a>(&self, subjects: &'a [Subject]) -> Option<&'a Subject> {
        let [only] = &*self.members else { return None };
        with_id(subjects, only.id, 0).filter(|subject| is_usable(subject.position))
    }

    /// Returns whether it may change the zoom.
    #[inline]
    pub fn may_zoom(&self) -> bool {
        self.is_several() || !self.zoom.is_free()
    }

    /// Returns whether there is no member, and no zoom of a party either.
    #[inline]
    pub fn is_idle(&self) -> bool {
        self.members.is_empty() && self.zoom.is_free()
    }

    /// Returns the corners, in the world, of the rectangle around the shown members with their margins.
    pub fn outline(&self, lens: &Lens) -> Option<[DVec2; 4]> {
        let (_, hull) = self.mean_and_hull(lens, self.kept()).filter(|_| self.members.len() > 1)?;
        Some(hull.corners().map(|corner| lens.to_world_orientation(corner)))
    }

    /// Returns the weighted mean of the shown members, in the world: the position of the party, for any view.
    pub fn middle(&self, lens: &Lens) -> Option<DVec2> {
        self.mean_and_hull(lens, self.kept()).map(|(mean, _)| lens.to_world_orientation(mean))
    }

    /// Removes all members. The zoom stays and glides back.
    pub fn disband(&mut self) {
        self.members.truncate(0);
    }

    /// Moves everybody by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        for member in self.members.iter_mut() {
            member.position += delta;
        }
    }

    /// Returns the shown zoom for a wanted one.
    #[inline]
    pub fn zoom(&self, wanted: f64, whole: bool) -> f64 {
        self.zoom.shown(wanted, whole)
    }

    /// Returns whether this one is too far away for now.
    pub fn is_dropped(&self, id: u32) -> bool {
        self.members.iter().any(|member| member.id == id && member.dropped)
    }

    /// Moves everybody through a frame, to where the game has them at its end. Who is not named leaves there, and moves on
    /// until then.
    fn advance(&mut self, subjects: &[Subject], seconds: f64) {
        for (index, member) in self.members.iter_mut().enumerate() {
            match with_id(subjects, member.id, index).filter(|to| is_usable(to.position)) {
                Some(to) => member.move_to(to, seconds),
                None => member.coast_for(seconds),
            }
        }
    }

    /// Continues the movement of every member for some seconds, as it was at the end of the last step.
    pub fn coast(&mut self, seconds: f64) {
        for member in self.members.iter_mut() {
            // From the middle of a step to its end, the velocity changes as between two middles.
            let end_velocity = member.velocity + (member.velocity - member.before) * 0.5;
            member.position += end_velocity.as_dvec2() * seconds;
        }
    }

    /// Begins a step. Until the game gives a member's new position, its velocity changes as before, but never so much
    /// that the member would turn.
    pub fn begin_step(&mut self) {
        for member in self.members.iter_mut() {
            let most = if member.has_landed { Vec2::ZERO } else { member.velocity.abs() };
            let change = (member.velocity - member.before).clamp(-most, most);
            let next = (member.velocity + change).clamp(Vec2::splat(-1e30), Vec2::splat(1e30));
            (member.before, member.velocity) = (member.velocity, next);
        }
    }

    /// Sets the velocity of members that joined with the last step.
    pub fn learn_velocities(&mut self, subjects: &[Subject], seconds: f64) {
        for (index, member) in self.members.iter_mut().enumerate() {
            if member.has_moved {
                continue;
            }
            let to = with_id(subjects, member.id, index).filter(|to| is_usable(to.position));
            let known = to.and_then(|to| velocity(to.position - member.position, seconds));
            member.velocity = known.unwrap_or(member.velocity);
            member.before = member.velocity;
        }
    }

    /// Returns whether the shown members differ from those of this party.
    pub fn shows_others(&self, party: &Self) -> bool {
        let shown = |party: &Self, index: usize| {
            party.members.get(index).map(|member| (member.id, member.dropped))
        };
        let most = self.members.len().max(party.members.len());
        (0..most).any(|index| shown(self, index) != shown(party, index))
    }

    /// Returns the point to follow as everybody is now.
    pub fn point(&self, context: &PartyContext) -> Option<DVec2> {
        self.together(context, 0.0).map(|(point, _)| point)
    }

    /// Returns the point to follow, and the zoom after some seconds.
    fn together(&self, context: &PartyContext, seconds: f64) -> Option<(DVec2, PartyZoom)> {
        let (mean, hull) = self.mean_and_hull(&context.lens, self.kept())?;
        let zoom = self.zoom.step(self.fit(&hull, context), context, seconds);
        Some((self.point_of(context, mean, &hull, zoom), zoom))
    }

    /// Returns the point at which a party with this hull is shown: its mean, as far as all fit.
    fn point_of(&self, context: &PartyContext, mean: DVec2, hull: &Rect, zoom: PartyZoom) -> DVec2 {
        let half = self.half_space(context, zoom.shown(context.wanted, context.whole));
        // As little as needed; if it does not fit, its middle.
        let (low, high) = (hull.max - half, hull.min + half);
        let middle = hull.centre();
        let axis = |axis: usize| {
            if low[axis] <= high[axis] {
                mean[axis].clamp(low[axis], high[axis])
            } else {
                middle[axis]
            }
        };
        context.lens.to_world_orientation(DVec2::new(axis(0), axis(1)))
    }

    /// Updates the members at the end of a step of some seconds: new subjects join, and subjects that are no longer
    /// named leave.
    pub fn take_note(&mut self, subjects: &[Subject], seconds: f64) {
        let mut index = 0;
        self.members.retain(|member| {
            let named = with_id(subjects, member.id, index);
            index += 1;
            named.is_some_and(|subject| is_usable(subject.position))
        });
        let usable = |number: f64| if number > 0.0 && number < 1e9 { number } else { 0.0 };
        for (index, subject) in (0_u32..).zip(subjects) {
            if !is_usable(subject.position) {
                continue; // lost: it has left
            }
            let id = subject.id.unwrap_or(index);
            let at = find_from(index as usize, &self.members, |_, one| one.id == id);
            let known = at.map(|at| &mut self.members[at]);
            let mut before = known.as_ref().map_or(Member::default(), |known| **known);
            // One that did not get here on its way has jumped: nothing is known of its velocity.
            let jumps = seconds > 0.0 && before.position != subject.position;
            if jumps {
                (before.velocity, before.before) = (Vec2::ZERO, Vec2::ZERO);
            }
            let in_air = subject.grounded == Some(false);
            let now = Member {
                id,
                in_air,
                has_landed: before.in_air && !in_air,
                position: subject.position,
                weight: usable(subject.weight),
                margin: usable(subject.margin),
                rank: subject.rank,
                coasts: (2.0 * seconds).min(1e6) as f32,
                has_moved: known.is_some() && !jumps && (before.has_moved || seconds > 0.0),
                ..before
            };
            match known {
                Some(known) => *known = now,
                None => {
                    self.members.push(now);
                }
            }
        }
    }

    /// Drops members that are too far away, and takes back those that are not.
    pub fn drop_and_take_back(&mut self, context: &PartyContext) {
        let shown = self.who_fits(context);
        for (index, member) in self.members.iter_mut().enumerate() {
            let leaves = !shown.contains(index);
            if leaves && !member.dropped {
                member.gone = 0.0;
            }
            member.dropped = leaves;
        }
    }

    /// Returns whether members would be dropped or taken back.
    pub fn changes(&self, context: &PartyContext) -> bool {
        self.who_fits(context) != self.shown()
    }

    /// Returns the party after dropping and taking back members, or `None` if that changes nothing.
    pub fn reconsidered(&self, context: &PartyContext) -> Option<Self> {
        if !self.changes(context) {
            return None;
        }
        let mut next = *self;
        next.drop_and_take_back(context);
        Some(next)
    }

    /// Returns the members that are shown so far.
    fn shown(&self) -> MemberSet {
        let kept = self.members.iter().enumerate().filter(|(_, member)| is_kept(member));
        kept.fold(MemberSet::default(), |shown, (index, _)| shown.with(index))
    }

    /// Returns the members to context.
    fn who_fits(&self, context: &PartyContext) -> MemberSet {
        let widest = PartyZoom::at(context.party.widest);
        let half = self.half_space(context, widest.shown(context.wanted, context.whole));
        let mut shown = self.shown();
        if shown.count() < self.members.len() {
            shown = self.take_back(shown, half, context);
        }
        // Dropped, the least important first, until the rest fits.
        for _member in 1..self.members.len() {
            let hull = self.mean_and_hull(&context.lens, |index| shown.contains(index));
            if shown.count() < 2 || hull.is_none_or(|(_, hull)| hull.size().cmple(half * 2.0).all())
            {
                break;
            }
            let kept = (0..self.members.len()).rev().filter(|index| shown.contains(*index));
            let Some(least) = kept.min_by_key(|index| self.members[*index].rank) else { break };
            shown = shown.without(least);
        }
        shown
    }

    /// Takes members back, the most important first, if a tenth of the space is left beside those of the same rank or
    /// higher, and not before the picture has reached the remaining members.
    fn take_back(&self, mut shown: MemberSet, half: DVec2, context: &PartyContext) -> MemberSet {
        let fade = context.party.fade as f32 * 0.999_999;
        for index in self.in_order(|member| member.dropped && member.gone >= fade) {
            let Some(back) = index else { break };
            let rank = self.members[back].rank;
            let counts = |index| {
                (shown.contains(index) && self.members[index].rank >= rank) || index == back
            };
            let fits = self
                .mean_and_hull(&context.lens, counts)
                .is_some_and(|(_, hull)| (hull.size() * 1.1).cmple(half * 2.0).all());
            shown = if fits { shown.with(back) } else { shown };
        }
        shown
    }

    /// Returns the members for which a condition is true, the most important first.
    fn in_order(&self, is_in: impl Fn(&Member) -> bool) -> [Option<usize>; Self::MAX_MEMBERS] {
        let mut order = [None; Self::MAX_MEMBERS];
        let mut count = 0;
        for (index, _) in self.members.iter().enumerate().filter(|(_, member)| is_in(member)) {
            order[count] = Some(index);
            count += 1;
        }
        let rank = |index: &Option<usize>| index.map_or(0, |index| self.members[index].rank);
        order[..count].sort_unstable_by_key(|index| (core::cmp::Reverse(rank(index)), *index));
        order
    }

    /// Returns whether the member with an index is shown now.
    fn kept(&self) -> impl Fn(usize) -> bool {
        |index| is_kept(&self.members[index])
    }

    /// Returns the weighted mean of the counted members, by their indices, and the rectangle around them with their
    /// margins, along the axes of the screen.
    fn mean_and_hull(&self, lens: &Lens, counts: impl Fn(usize) -> bool) -> Option<(DVec2, Rect)> {
        let (mut sum, mut all) = (DVec2::ZERO, 0.0);
        let (mut min, mut max) = (DVec2::INFINITY, DVec2::NEG_INFINITY);
        for (_, member) in self.members.iter().enumerate().filter(|(index, _)| counts(*index)) {
            let position = lens.to_screen_orientation(member.position);
            // A member without weight is shown, but does not move the middle.
            let weight = member.weight.max(1e-9);
            (sum, all) = (sum + position * weight, all + weight);
            (min, max) = (min.min(position - member.margin), max.max(position + member.margin));
        }
        if all <= 0.0 {
            return None;
        }
        let mean = sum / all;
        Some((mean, Rect { min: mean.min(min), max: mean.max(max) }))
    }

    /// Half of the space around the anchor at a zoom: `(min(a, 1 − a) − deadzone side)·V`.
    fn half_space(&self, context: &PartyContext, zoom: f64) -> DVec2 {
        let anchor = context.anchor.min(1.0 - context.anchor);
        let zone = context.deadzone;
        let side = DVec2::new(zone.left.max(zone.right), zone.top.max(zone.bottom));
        (anchor - side).max(DVec2::splat(0.01)) * context.lens.view_size() / zoom
    }

    /// Returns the largest zoom at which several members fit, but not less than the widest.
    fn fit(&self, hull: &Rect, context: &PartyContext) -> f64 {
        if !self.is_several() {
            return MAX_ZOOM;
        }
        let half = self.half_space(context, 1.0);
        let fit = (half * 2.0 / hull.size().max(DVec2::splat(1e-9))).min_element();
        fit.clamp(context.party.widest, MAX_ZOOM)
    }
}

/// Returns whether a member is shown now.
fn is_kept(member: &Member) -> bool {
    !member.dropped
}

/// Returns the subject with this id, which is its own or its index in the list. Most subjects keep their index, so that
/// index is tried first.
fn with_id(subjects: &[Subject], id: u32, first: usize) -> Option<&Subject> {
    let is_it = |index: usize, subject: &Subject| subject.id.unwrap_or(index as u32) == id;
    find_from(first, subjects, is_it).map(|index| &subjects[index])
}

/// Returns the index of an item for which `is_it` is true: `first` if possible, else the first of all.
fn find_from<T>(first: usize, items: &[T], is_it: impl Fn(usize, &T) -> bool) -> Option<usize> {
    let here = items.get(first).is_some_and(|item| is_it(first, item));
    if here {
        return Some(first);
    }
    items.iter().enumerate().position(|(index, item)| is_it(index, item))
}
