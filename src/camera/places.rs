//! What depends on where the subject is: rooms, zones, and the shape of the goal's way.

use glam::DVec2;

use super::{Camera, Shapes};
use crate::camera::hands::Hand;
use crate::goal::lure::Lure;
use crate::goal::rail::RailPosition;
use crate::goal::rooms::{AFTER, RoomMemory};
use crate::goal::subject::Subject;
use crate::limits::bounds::Bounds;
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::settings::zone::next_crossing;
use crate::units::course::Course;
use crate::units::ease::Ease;
use crate::units::maths::mix;
use crate::units::rect::Rect;

/// Lines that a step may cross and still be parted at each; beyond, the rest is one part.
const MOST_CROSSINGS: usize = 16;

impl Camera {
    /// The room that the view is in, or on its way to; none without rooms, and while it looks at a
    /// position by name.
    #[must_use]
    pub fn room(&self) -> Option<Rect> {
        self.state.room.map(|room| room.rect())
    }

    /// The whole step. What happens at a place of the world (a room's line, a zone's edge) parts it at
    /// that moment, the subject moving straight.
    #[inline]
    pub(super) fn pass(&mut self, seconds: f64, subject: Option<&Subject>, gliding_off: bool) {
        match subject.filter(|_| self.has_places()) {
            None => self.leg(seconds, subject, gliding_off),
            Some(subject) => self.pass_places(seconds, subject, gliding_off),
        }
    }

    fn has_places(&self) -> bool {
        self.settings.rooms.is_some()
            || !self.settings.zones.is_empty()
            || !self.state.zones.is_empty()
    }

    fn pass_places(&mut self, seconds: f64, subject: &Subject, gliding_off: bool) {
        let (to, cut) = (subject.position, self.state.cut);
        if cut {
            self.enter(to, true);
        }
        let grounded = self.state.follow.is_grounded();
        let mut from = self.state.follow.track.last().filter(|_| !cut).unwrap_or(to);
        // A step longer than a view is no way, but a jump.
        if (to - from).abs().cmpgt(self.framing.view).any() {
            from = to;
        }
        let mut rest = seconds;
        for _crossing in 0..MOST_CROSSINGS {
            let Some(at) = self.next_crossing(from, to) else { break };
            let at = (at + AFTER).min(1.0);
            let position = mix(from, to, at);
            let on_its_way = Subject { position, grounded: Some(grounded), ..*subject };
            self.leg(rest * at, Some(&on_its_way), gliding_off);
            self.enter(position, false);
            rest *= 1.0 - at;
            from = position;
        }
        self.leg(rest, Some(subject), gliding_off);
        self.enter(to, false);
    }

    /// The next moment at which a position says something else, as a fraction of a straight way.
    fn next_crossing(&self, from: DVec2, to: DVec2) -> Option<f64> {
        if from == to {
            return None;
        }
        let room = self.settings.rooms.as_ref().zip(self.state.room);
        let room = room.and_then(|(rooms, room)| rooms.next(&room.rect(), from, to));
        let zone = next_crossing(&self.settings.zones, from, to);
        let room = room.map(|(at, _)| at);
        room.into_iter().chain(zone).reduce(f64::min).filter(|at| *at < 1.0)
    }

    /// The subject is here now; `at_once` where nothing blends or slides.
    fn enter(&mut self, position: DVec2, at_once: bool) {
        if let Some(rooms) = &self.settings.rooms {
            let next = match self.state.room.filter(|_| !at_once) {
                Some(room) => rooms.next(&room.rect(), position, position).map(|(_, room)| room),
                None => rooms.first(position),
            };
            if let Some(room) = next {
                self.change_room(room, at_once);
            }
        }
        self.state.zones.enter(&self.settings.zones, position, at_once);
        if at_once && !self.settings.zones.is_empty() {
            self.refresh();
        }
    }

    fn change_room(&mut self, room: Rect, at_once: bool) {
        self.state.room = Some(RoomMemory::new(room, at_once));
        let slide = self.settings.rooms.as_ref().and_then(|rooms| rooms.slide);
        let Some(slide) = slide.filter(|slide| *slide > 0.0) else { return };
        if !at_once && self.state.hand == Hand::Off {
            let from = self.focus();
            let position = self.goal() + self.framing.offset;
            self.state.focus = Moving { position, velocity: DVec2::ZERO };
            self.state.glide = Some(Glide::new(from, slide, Ease::InOut));
        }
    }

    /// Once the view has come to its room it is held inside.
    pub(super) fn arrive_in_room(&mut self) {
        let Some(room) = self.state.room.filter(|room| !room.arrived) else { return };
        if self.state.glide.is_some() || self.state.hand != Hand::Off {
            return;
        }
        let centre = self.centre_of(self.state.focus.position);
        let rest = (self.room_range(&room).nearest(centre) - centre).length();
        if rest * self.framing.lens.scale() < 1e-6 {
            self.state.room = Some(RoomMemory::new(room.rect(), true));
        }
    }

    /// Where the view's centre may be in a room.
    pub(super) fn room_range(&self, room: &RoomMemory) -> Rect {
        Bounds::new(room.rect()).centre_range(&self.framing.lens)
    }

    /// Whether the subject may be anywhere on the screen: then no leash holds it.
    pub(super) fn is_off_leash(&self) -> bool {
        let settings = &self.settings;
        settings.rooms.is_some()
            || settings.rail.is_some()
            || settings.scroll.is_some()
            || self.state.party.is_several()
    }

    // The shape of the goal's way: rail, scroll, lures, room.

    /// Begins anew where the goal is.
    pub(super) fn begin_shapes(&mut self) {
        let goal = self.state.follow.goal;
        self.state.shapes.scroll = goal;
        if let Some(rail) = self.settings.rail.as_ref().filter(|rail| rail.speed.is_none()) {
            self.state.shapes.rail = rail.nearest(goal);
        }
    }

    /// Shapes the way of the goal through a step; what is remembered of the goal stays as it is.
    pub(super) fn shape(&self, course: &mut Course, shapes: &mut Shapes, seconds: f64) {
        self.run_on_rail(course, &mut shapes.rail, seconds);
        self.scroll(course, &mut shapes.scroll, seconds);
        pull_to_lures(&self.settings.lures, course);
        if let Some(room) = self.state.room {
            let (range, offset) = (self.room_range(&room), self.framing.offset);
            course.clamp(range.min + offset, range.max + offset);
        }
    }

    /// A goal that stands, shaped.
    pub(super) fn shaped(&self, goal: DVec2) -> DVec2 {
        let (mut course, mut shapes) = (Course::straight(goal, goal), self.state.shapes);
        self.shape(&mut course, &mut shapes, 0.0);
        course.end()
    }

    fn run_on_rail(&self, course: &mut Course, position: &mut RailPosition, seconds: f64) {
        let Some(rail) = &self.settings.rail else { return };
        // Between two of these moments the goal goes straight.
        let parts = (seconds * 240.0).clamp(1.0, 8.0) as u32;
        for fraction in 1..parts {
            course.bend_at(f64::from(fraction) / f64::from(parts));
        }
        let first = *position;
        course.map_in_time(|at, goal| {
            *position = match rail.speed {
                None => rail.nearest_from(*position, goal),
                Some(speed) => rail.along(first, speed * seconds * at),
            };
            rail.point(*position)
        });
    }

    fn scroll(&self, course: &mut Course, position: &mut DVec2, seconds: f64) {
        let Some(scroll) = self.settings.scroll else { return };
        let (from, way) = (*position, scroll.way(seconds));
        course.map_in_time(|at, mut goal| {
            for axis in (0..2).filter(|axis| scroll.has(*axis)) {
                goal[axis] = from[axis] + way[axis] * at;
            }
            goal
        });
        // What the bounds hold back is not scrolled past them.
        let range = self.framing.range_before(self.state.barrier.as_ref());
        let offset = self.framing.offset;
        *position = range.nearest(from + way - offset) + offset;
    }
}

fn pull_to_lures(lures: &[Lure], course: &mut Course) {
    if lures.is_empty() {
        return;
    }
    if course.as_straight().is_none_or(|(from, to)| from != to) {
        for fraction in [0.25, 0.5, 0.75] {
            course.bend_at(fraction);
        }
    }
    course.map(|goal| Lure::pull(lures, goal));
}
