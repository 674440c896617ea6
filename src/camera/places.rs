//! Rooms and zones, which depend on the subject's position and change at the moment when it crosses a line.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::curves::ease::Timing;
use crate::goal::rooms::{RoomMemory, Rooms};

use super::Camera;
use super::arrival::Clock;
use super::change::FocusAfter;
use super::framing::Framing;
use super::rules::Rules;
use super::state::CameraState;

impl CameraState {
    /// Enters the room and the zones of a position, without fades and slides.
    pub(super) fn enter_places(&mut self, rules: &Rules, position: DVec2) {
        let design = rules.settings.screen.design_size();
        let rooms = rules.settings.rooms.as_ref();
        let room = rooms.and_then(|rooms| rooms.first(position, design));
        self.ride.room = room.map(|room| RoomMemory::new(room, true));
        self.goal.zones_at = Some(position);
    }
}

impl Rules {
    /// Returns the first line that a straight path crosses, as a fraction of the path.
    pub(super) fn crossing(
        &self,
        framing: &Framing,
        room: Option<RoomMemory>,
        from: DVec2,
        to: DVec2,
    ) -> Option<f64> {
        if from == to {
            return None;
        }
        let next = |rooms: &Rooms| next_room(rooms, room, framing.design, [from, to]);
        let room = self.settings.rooms.as_ref().and_then(next).map(|(at, _)| at);
        let zone = self.zones().next_crossing(from, to);
        room.into_iter().chain(zone).reduce(f64::min).filter(|at| *at < 1.0)
    }
}

impl Camera {
    /// Enters another room, or the open, where the leash takes hold in the time in which a hand's view returns.
    fn enter_room(&mut self, room: Option<Rect>, clock: Clock) {
        let settings = &self.rules.settings;
        let leashed = room.is_none() && self.framing.follow.leash.is_some();
        let slide = settings.rooms.as_ref().and_then(|rooms| rooms.slide);
        let slide = slide.or(Some(settings.hands.seconds()).filter(|_| leashed));
        let slide = slide.filter(|slide| *slide > 0.0);
        let change = slide.map(|slide| self.begin(Timing::smooth(slide), clock));
        self.state.ride.room = room.map(|room| RoomMemory::new(room, slide.is_some()));
        if let Some(change) = change {
            self.fade(change, FocusAfter::AsFarBehind, clock);
        }
    }

    /// Updates rooms and zones for the subject at this position. With a slide or a fade, the picture takes its time.
    /// Returns whether another room or other zones were entered.
    pub(super) fn pass_lines(&mut self, position: DVec2, clock: Clock) -> bool {
        let design = self.framing.design;
        let room = self.state.ride.room;
        let next = |rooms: &Rooms| next_room(rooms, room, design, [position; 2]);
        let room = self.rules.settings.rooms.as_ref().and_then(next);
        if let Some((_, room)) = room {
            self.enter_room(room, clock);
        }
        let (before, now) = (self.state.goal.zones_at, Some(position));
        let fade = self.rules.zones().fade_between(before, now);
        let change = fade.map(|fade| self.begin(Timing::smooth(fade), clock));
        self.state.goal.zones_at = now;
        if let Some(change) = change {
            self.refresh_framing();
            if self.state.goal.party.is_several() {
                self.state.goal.stand_for_party(&self.party_context());
            }
            self.fade(change, FocusAfter::AsFarBehind, clock);
        }
        room.is_some() || fade.is_some()
    }
}

/// The next room on a straight path, or the open, and where on it. Without a present room the first one is entered where
/// the path begins, if there is one to enter.
fn next_room(
    rooms: &Rooms,
    present: Option<RoomMemory>,
    design: DVec2,
    path: [DVec2; 2],
) -> Option<(f64, Option<Rect>)> {
    let present = present.map(|room| room.rect());
    let first = || rooms.first(path[0], design).filter(|_| present.is_none());
    first()
        .map_or_else(|| rooms.next(present.as_ref(), design, path), |room| Some((0.0, Some(room))))
}
