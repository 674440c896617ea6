//! Several subjects framed together.

use glam::{DVec2, Vec2};

use crate::goal::deadzone::Deadzone;
use crate::goal::subject::Subject;
use crate::lens::lens::Lens;
use crate::lens::zoom::ZoomRange;
use crate::units::ease::Ease;
use crate::units::error::{Report, check};
use crate::units::list::List;
use crate::units::rect::Rect;

/// How several subjects are framed together: the `[party]` table of a tuning file, for
/// [`Camera::follow_all`](crate::Camera::follow_all).
///
/// The view looks at their weighted mean, moved as little as needed for the rectangle around all of
/// them, with their margins, to fit; it zooms out as they part. Where they are too far apart for the
/// smallest zoom, the one of least rank is let go first, and taken back once it would fit with a
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
/// let courier = Subject::from([0, 0]).with_weight(2.0).with_margin(20.0);
/// let kite = Subject::from([90, -40]).with_margin(10.0);
/// assert_eq!(camera.follow_all(0.0, &[courier, kite]).centre(), DVec2::new(30.0, -40.0 / 3.0));
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
    pub zoom: ZoomRange,
    /// Half-life of zooming out, in seconds, 0 or more. Default 0.12: nobody is lost.
    pub zoom_out: f64,
    /// Half-life of zooming in. Default 0.5: there is time.
    pub zoom_in: f64,
}

impl Default for Party {
    fn default() -> Self {
        Self { fade: 0.6, zoom: ZoomRange { min: 0.5, max: 1.0 }, zoom_out: 0.12, zoom_in: 0.5 }
    }
}

impl Party {
    pub(crate) fn check(&self, report: Report<'_>) {
        self.zoom.check("party.zoom", report);
        let mut time = |field: &'static str, seconds: f64| {
            check(report, field, seconds, 0.0..=1000.0, "a time in seconds, from 0 to 1000");
        };
        time("party.fade", self.fade);
        time("party.zoom_out", self.zoom_out);
        time("party.zoom_in", self.zoom_in);
    }
}

/// Who is in the party, and how much.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct PartyMemory {
    members: List<Member, { PartyMemory::MOST }>,
    /// The zoom that the party asks for, as a logarithm; none while there is no party.
    log_zoom: Option<f64>,
}

/// One of them.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
struct Member {
    id: u32,
    position: DVec2,
    velocity: Vec2,
    /// Seconds for which it goes on with that velocity once it is not named any more.
    coasts: f32,
    weight: f64,
    margin: f64,
    rank: i32,
    /// From 0 to 1, evenly in time.
    presence: f64,
    /// Whether the game named it in the last frame.
    here: bool,
    /// Too far away for now.
    let_go: bool,
}

/// What the party needs to know of a frame.
#[derive(Clone, Copy, Debug)]
pub(crate) struct PartyFrame<'a> {
    pub party: &'a Party,
    pub anchor: DVec2,
    pub deadzone: &'a Deadzone,
    /// At zoom 1.
    pub lens: Lens,
    /// The zoom that is set by hand.
    pub zoom: f64,
}

impl PartyMemory {
    /// Members at once; more are passed over.
    pub const MOST: usize = 32;

    /// Whether more than one is framed.
    #[inline]
    pub fn is_several(&self) -> bool {
        self.members.len() > 1
    }

    /// Whether nobody is framed.
    #[inline]
    pub fn is_empty(&self) -> bool {
        self.members.is_empty()
    }

    /// The subject that is framed alone until now, if the game still names it.
    pub fn only_one<'a>(&self, subjects: &'a [Subject]) -> Option<&'a Subject> {
        let [only] = &*self.members else { return None };
        with_id(subjects, only.id).filter(|subject| subject.position.is_finite())
    }

    /// Whether there is nobody, and no zoom of theirs either.
    #[inline]
    pub fn is_idle(&self) -> bool {
        self.members.is_empty() && self.log_zoom.is_none()
    }

    /// The corners, in the world, of the rectangle around those who are kept, with their margins.
    pub fn outline(&self, lens: &Lens) -> Option<[DVec2; 4]> {
        let kept = |member: &Member| f64::from(u8::from(member.here && !member.let_go));
        let (_, hull) = self.mean_and_hull(lens, kept).filter(|_| self.members.len() > 1)?;
        Some(hull.corners().map(|corner| lens.world_aligned(corner)))
    }

    /// Nobody any more; the zoom stays and glides back.
    pub fn disband(&mut self) {
        self.members.truncate(0);
    }

    /// Moves everybody by `delta`.
    pub fn translate(&mut self, delta: DVec2) {
        for member in self.members.iter_mut() {
            member.position += delta;
        }
    }

    /// The zoom that the party asks for.
    #[inline]
    pub fn zoom(&self) -> Option<f64> {
        self.log_zoom.map(libm::exp)
    }

    /// Whether this one is too far away for now.
    pub fn is_let_go(&self, id: u32) -> bool {
        self.members.iter().any(|member| member.id == id && member.let_go)
    }

    /// Moves everybody by `share` of what is left of their way to where the game has them, and lets
    /// zoom and fades go on for some seconds. Returns the point to follow.
    pub fn advance(
        &mut self,
        subjects: &[Subject],
        share: f64,
        seconds: f64,
        frame: &PartyFrame<'_>,
    ) -> Option<DVec2> {
        // One that comes back while it still fades is here again from the step's end on.
        for member in self.members.iter_mut().filter(|member| member.here) {
            let to = with_id(subjects, member.id).filter(|to| to.position.is_finite());
            if let Some(to) = to {
                let way = (to.position - member.position) * share;
                member.position += way;
                member.velocity = velocity(way, seconds).unwrap_or(member.velocity);
            } else {
                // It leaves with the end of this step, and goes on until then: for no longer than
                // twice its last step.
                let coasts = seconds.min(f64::from(member.coasts));
                member.position += member.velocity.as_dvec2() * coasts;
                member.coasts -= coasts as f32;
            }
        }
        self.let_go_and_take_back(frame);
        self.fade(frame, seconds);
        self.come_together(frame, Some(seconds))
    }

    /// At the end of a step of some seconds: who is new joins, who is not named any more leaves. `alone` is where the
    /// subject was that was followed alone until now; after a cut all are there at once. Returns the
    /// point to follow.
    pub fn settle(
        &mut self,
        subjects: &[Subject],
        seconds: f64,
        cut: bool,
        alone: Option<DVec2>,
        frame: &PartyFrame<'_>,
    ) -> Option<DVec2> {
        if cut {
            *self = Self::default();
        }
        self.take_note(subjects, seconds, alone.filter(|_| !cut));
        self.let_go_and_take_back(frame);
        // After a cut all are there, or let go, at once; so they are where nothing fades.
        self.fade(frame, if cut { f64::INFINITY } else { 0.0 });
        self.come_together(frame, Some(0.0).filter(|_| !cut))
    }

    /// The point to follow, and the zoom after some seconds; `None` is as long as it takes.
    fn come_together(&mut self, frame: &PartyFrame<'_>, seconds: Option<f64>) -> Option<DVec2> {
        let (mean, hull) = self.mean_and_hull(&frame.lens, |one| Ease::InOut.at(one.presence))?;
        self.advance_zoom(Some(&hull), frame, seconds);
        let zoom = self.zoom().unwrap_or(frame.zoom);
        let half = self.half_space(frame, zoom);
        // As little as needed; where it can't fit, its middle.
        let (low, high) = (hull.max - half, hull.min + half);
        let middle = hull.centre();
        let axis = |axis: usize| {
            if low[axis] <= high[axis] {
                mean[axis].clamp(low[axis], high[axis])
            } else {
                middle[axis]
            }
        };
        Some(frame.lens.world_aligned(DVec2::new(axis(0), axis(1))))
    }

    /// Glides back to the zoom that is set by hand.
    pub fn advance_alone(&mut self, seconds: f64, frame: &PartyFrame<'_>) {
        if self.log_zoom.is_some() {
            self.advance_zoom(None, frame, Some(seconds));
        }
    }

    pub fn is_sound(&self) -> bool {
        let member = |one: &Member| {
            one.position.is_finite()
                && one.velocity.is_finite()
                && (0.0..f32::INFINITY).contains(&one.coasts)
                && (0.0..1e9).contains(&one.weight)
                && (0.0..1e9).contains(&one.margin)
                && (0.0..=1.0).contains(&one.presence)
        };
        self.members.iter().all(member) && self.log_zoom.is_none_or(|log| log.abs() < 100.0)
    }

    fn take_note(&mut self, subjects: &[Subject], seconds: f64, alone: Option<DVec2>) {
        for member in self.members.iter_mut() {
            // Where one that was away comes back is no movement.
            member.velocity = if member.here { member.velocity } else { Vec2::ZERO };
            member.here = false;
        }
        let first = self.members.is_empty();
        let usable = |number: f64| if number > 0.0 && number < 1e9 { number } else { 0.0 };
        for (index, subject) in (0..).zip(subjects) {
            let position = subject.position;
            if !position.is_finite() {
                continue; // lost: it leaves
            }
            let id = subject.id.unwrap_or(index);
            let here = Member {
                id,
                position,
                weight: usable(subject.weight),
                margin: usable(subject.margin),
                rank: subject.rank,
                here: true,
                ..Member::default()
            };
            let known = self.members.iter_mut().find(|one| one.id == id);
            if let Some(known) = known {
                let Member { presence, let_go, velocity, .. } = *known;
                *known = Member {
                    presence,
                    let_go,
                    velocity,
                    coasts: (2.0 * seconds).min(1e6) as f32,
                    ..here
                };
            } else {
                let presence = if first { 1.0 } else { 0.0 };
                self.members.push(Member { presence, ..here });
            }
        }
        if let Some(alone) = alone.filter(|_| first) {
            self.continue_from(alone);
        }
    }

    /// One was followed alone until now: the nearest to it; the others join.
    fn continue_from(&mut self, alone: DVec2) {
        let away = |member: &Member| member.position.distance_squared(alone);
        let nearest = self.members.iter().map(away).fold(f64::INFINITY, f64::min);
        for member in self.members.iter_mut() {
            member.presence = if away(member) == nearest { 1.0 } else { 0.0 };
        }
    }

    fn let_go_and_take_back(&mut self, frame: &PartyFrame<'_>) {
        let half = self.half_space(frame, frame.party.zoom.min);
        // Back, the most important first, if there is a tenth to spare beside those that matter as much.
        for index in self.in_order(|member| member.here && member.let_go) {
            let Some(index) = index else { break };
            let own = self.members[index];
            let counts = |one: &Member| {
                let matters = one.here && !one.let_go && one.rank >= own.rank;
                f64::from(u8::from(matters || one.id == own.id))
            };
            let fits = self
                .mean_and_hull(&frame.lens, counts)
                .is_some_and(|(_, hull)| (hull.size() * 1.1).cmple(half * 2.0).all());
            self.members[index].let_go = !fits;
        }
        // Away, the least important first, until the rest fits.
        for _member in 1..self.members.len() {
            let kept = |member: &Member| f64::from(u8::from(member.here && !member.let_go));
            let Some((_, hull)) = self.mean_and_hull(&frame.lens, kept) else { break };
            if hull.size().cmple(half * 2.0).all() {
                break;
            }
            let several = self.members.iter().map(kept).sum::<f64>() > 1.0;
            let members = self.members.iter_mut().rev();
            let least = members
                .filter(|member| member.here && !member.let_go)
                .min_by_key(|member| member.rank);
            let Some(least) = least.filter(|_| several) else { break };
            least.let_go = true;
        }
    }

    /// Members that a condition holds for, the most important first.
    fn in_order(&self, holds: impl Fn(&Member) -> bool) -> [Option<usize>; Self::MOST] {
        let mut order = [None; Self::MOST];
        let mut count = 0;
        for (index, _) in self.members.iter().enumerate().filter(|(_, member)| holds(member)) {
            order[count] = Some(index);
            count += 1;
        }
        let rank = |index: &Option<usize>| index.map_or(0, |index| self.members[index].rank);
        order[..count].sort_unstable_by_key(|index| (core::cmp::Reverse(rank(index)), *index));
        order
    }

    fn fade(&mut self, frame: &PartyFrame<'_>, seconds: f64) {
        let fraction = if frame.party.fade > 0.0 { seconds / frame.party.fade } else { 1.0 };
        self.members.retain(|member| {
            let change = if member.here && !member.let_go { fraction } else { -fraction };
            member.presence = (member.presence + change).clamp(0.0, 1.0);
            member.here || member.presence > 0.0
        });
    }

    /// The weighted mean, and the rectangle around all with their margins; each member counts by its
    /// share, towards the mean, so that neither jumps when one joins or leaves. Along the screen's
    /// axes.
    fn mean_and_hull(&self, lens: &Lens, share: impl Fn(&Member) -> f64) -> Option<(DVec2, Rect)> {
        let counted =
            || self.members.iter().map(|one| (one, share(one))).filter(|(_, share)| *share > 0.0);
        let (mut sum, mut all) = (DVec2::ZERO, 0.0);
        for (member, share) in counted() {
            // One of no weight is framed, and has no say in where the middle is.
            let weight = member.weight.max(1e-9) * share;
            (sum, all) = (sum + lens.screen_aligned(member.position) * weight, all + weight);
        }
        if all <= 0.0 {
            return None;
        }
        let mean = sum / all;
        let nothing = Rect { min: mean, max: mean };
        let hull = counted().fold(nothing, |hull, (member, share)| {
            let position = mean + (lens.screen_aligned(member.position) - mean) * share;
            let margin = member.margin * share;
            Rect { min: hull.min.min(position - margin), max: hull.max.max(position + margin) }
        });
        Some((mean, hull))
    }

    /// Half of the room around the anchor at a zoom: `(min(a, 1 − a) − deadzone side)·V`.
    fn half_space(&self, frame: &PartyFrame<'_>, zoom: f64) -> DVec2 {
        let anchor = frame.anchor.min(1.0 - frame.anchor);
        let zone = frame.deadzone;
        let side = DVec2::new(zone.left.max(zone.right), zone.top.max(zone.bottom));
        (anchor - side).max(DVec2::splat(0.01)) * frame.lens.view_size() / zoom
    }

    /// Towards the zoom at which the rectangle fits.
    fn advance_zoom(&mut self, hull: Option<&Rect>, frame: &PartyFrame<'_>, seconds: Option<f64>) {
        let largest = frame.party.zoom.max.min(frame.zoom);
        let wanted = match hull {
            Some(hull) => {
                let half = self.half_space(frame, 1.0);
                let needed = (half * 2.0 / hull.size().max(DVec2::splat(1e-9))).min_element();
                needed.min(largest).max(frame.party.zoom.min.min(largest))
            }
            None => frame.zoom,
        };
        let target = libm::log(wanted);
        let now = self.log_zoom.unwrap_or_else(|| libm::log(frame.zoom));
        let half_life = if target < now { frame.party.zoom_out } else { frame.party.zoom_in };
        let rest = seconds
            .filter(|_| half_life > 0.0)
            .map_or(0.0, |seconds| libm::exp2(-seconds / half_life));
        let next = target + (now - target) * rest;
        let unseen = (target - next).abs() * frame.lens.size().as_dvec2().length() < 0.01;
        let next = if unseen { target } else { next };
        self.log_zoom = Some(next).filter(|_| hull.is_some() || next != target);
    }
}

/// The subject of this number: its own, or its index in the list.
fn with_id(subjects: &[Subject], id: u32) -> Option<&Subject> {
    (0..)
        .zip(subjects)
        .find(|(index, subject)| subject.id.unwrap_or(*index) == id)
        .map(|(_, one)| one)
}

/// The velocity of a way, as far as it tells one.
fn velocity(way: DVec2, seconds: f64) -> Option<Vec2> {
    Some((way / seconds).as_vec2()).filter(|velocity| seconds > 0.0 && velocity.is_finite())
}
