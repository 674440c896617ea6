//! Rooms and zones, which depend on the subject's position and change at the moment when it crosses a line.

use glam::DVec2;

use crate::goal::rooms::{AFTER, RoomMemory};
use crate::limits::bounds::Bounds;
use crate::units::rect::Rect;

use super::Camera;
use super::arrivals::Arrival;

impl Camera {
    /// Returns the room that the view is in, or on its way to. Returns `None` without rooms, and while the view is aimed
    /// at a point with [`aim_at`](Self::aim_at).
    #[must_use]
    pub fn room(&self) -> Option<Rect> {
        self.state.ride.room.map(|room| room.rect())
    }

    /// The next moment after `done` and before `end`, as fractions of the step, at which the subject crosses a line.
    pub(super) fn next_line(&self, arrival: &Arrival<'_>, done: f64, end: f64) -> Option<f64> {
        let stride = arrival.stride()?;
        let line = |first: f64, last: f64| {
            let at = self.crossing(stride.at(first).0, stride.at(last).0)?;
            Some((first + (last - first) * at + AFTER).min(1.0))
        };
        let near = line(done, end)?;
        // The path may be curved, but close by it is nearly straight.
        let reach = 0.1 * (end - done);
        let fine = line((near - reach).max(done), (near + reach).min(end));
        Some(fine.unwrap_or(near)).filter(|at| *at < end)
    }

    /// The first crossing on a straight path, as a fraction of it.
    pub(super) fn crossing(&self, from: DVec2, to: DVec2) -> Option<f64> {
        if from == to {
            return None;
        }
        let (design, room) =
            (self.framing.design, self.rules.settings.rooms.as_ref().zip(self.state.ride.room));
        let room = room.and_then(|(rooms, room)| rooms.next(&room.rect(), design, from, to));
        let zone = self.rules.zones().next_crossing(from, to);
        let room = room.map(|(at, _)| at);
        room.into_iter().chain(zone).reduce(f64::min).filter(|at| *at < 1.0)
    }

    /// Updates rooms and zones for the subject at this fraction of the step.
    pub(super) fn pass_lines(&mut self, arrival: &Arrival<'_>, fraction: f64) {
        if !self.rules.has_places() {
            return;
        }
        let position = if arrival.together {
            self.middle_of_party()
        } else {
            // Just ahead of it, in its direction: a line that it stands on is left at once.
            arrival.position_at(if fraction < 1.0 { fraction + AFTER } else { fraction })
        };
        if let Some(position) = position {
            self.pass_lines_at(position);
        }
    }

    /// Updates rooms and zones for the subject at this position.
    pub(super) fn pass_lines_at(&mut self, position: DVec2) {
        if let Some(rooms) = &self.rules.settings.rooms {
            let next = match self.state.ride.room {
                Some(room) => rooms
                    .next(&room.rect(), self.framing.design, position, position)
                    .map(|(_, room)| room),
                None => rooms.first(position),
            };
            if let Some(room) = next {
                self.change_room(room);
            }
        }
        let (before, now) = (self.state.goal.zones_at, Some(position));
        if let Some(blend) = self.rules.zones().blend_between(before, now) {
            self.change_following(blend, |camera| {
                camera.state.goal.zones_at = now;
                camera.refresh_framing();
                camera.stand_for_party();
            });
        } else {
            self.state.goal.zones_at = now;
        }
    }

    /// Does the same after a cut, without fades and slides.
    pub(super) fn enter_places(&mut self, position: DVec2) {
        let room = self.rules.settings.rooms.as_ref().and_then(|rooms| rooms.first(position));
        self.state.ride.room = room.map(|room| RoomMemory::new(room, true));
        self.state.goal.zones_at = Some(position);
    }

    /// Changes the room. With a slide, the picture takes its time; without one, smoothing moves it.
    fn change_room(&mut self, room: Rect) {
        let slide = self.rules.settings.rooms.as_ref().and_then(|rooms| rooms.slide);
        let next = |arrived| Some(RoomMemory::new(room, arrived));
        match slide.filter(|slide| *slide > 0.0) {
            Some(slide) => self.change_following(slide, |camera| {
                camera.state.ride.room = next(true);
            }),
            None => self.state.ride.room = next(false),
        }
    }

    /// Limits the view to its room once it has reached it.
    pub(super) fn arrive_in_room(&mut self) {
        let Some(room) = self.state.ride.room.filter(|room| !room.arrived) else { return };
        let centre = self.centre_of(self.state.ride.focus.position);
        let rest = (self.room_range(&room).nearest(centre) - centre).length();
        if rest * self.framing.lens.scale() < 1e-6 {
            self.state.ride.room = Some(RoomMemory::new(room.rect(), true));
        }
    }

    /// The allowed range of the view's centre in a room.
    pub(super) fn room_range(&self, room: &RoomMemory) -> Rect {
        Bounds::new(room.rect()).centre_range(&self.framing.lens)
    }

    /// Whether the subject may be anywhere on the screen, so that no leash holds it.
    pub(super) fn is_off_leash(&self) -> bool {
        let settings = &self.rules.settings;
        settings.rooms.is_some()
            || settings.rail.is_some()
            || settings.scroll.is_some()
            || self.state.goal.party.is_several()
    }
}
