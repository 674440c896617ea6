//! One room at a time: the view stays in the room of the subject.

use alloc::vec::Vec;

use glam::DVec2;

use crate::units::convert::IntoWorld;
use crate::units::keys::settings;
use crate::units::rect::Rect;
use crate::units::setting::{Setting, SettingKind};
use crate::units::sound::sound;

/// Rooms that the view shows one at a time: the `[rooms]` table of a tuning file. They are a grid of equal rooms, or a list
/// of rectangles.
///
/// In a room that is not larger than the view, the view stands in the middle of the room. In a larger room, the view follows
/// the subject and stays inside. The room changes when the subject is `overstep` of the [design screen](crate::Screen::design_size) past its
/// edge. Outside of all
/// listed rooms the last room is kept. Where rooms overlap, the present room is kept.
///
/// ```
/// use velvet_pan::{Rect, Rooms};
///
/// let rooms = Rooms::default(); // a grid of 320 x 180
/// assert_eq!(rooms.at([400, 20]), Some(Rect::from_corner_size([320, 0], [320, 180])));
///
/// let listed = Rooms { list: vec![Rect::new([0, 0], [500, 180])], ..Rooms::default() };
/// assert_eq!(listed.at([400, 20]), Some(Rect::new([0, 0], [500, 180])));
/// assert_eq!(listed.at([600, 20]), None);
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Rooms {
    /// The size of each room of the grid, in world units, above 0. Default 320 x 180.
    pub size: DVec2,
    /// The corner with the smallest coordinates of one room of the grid, in world units. Default 0, 0.
    pub origin: DVec2,
    /// Rooms of any size instead of the grid, in world units. In a file each is written as `[x, y, width, height]`. Default
    /// empty: the grid is used.
    #[cfg_attr(feature = "serde", serde(with = "crate::units::rect::serial_list"))]
    pub list: Vec<Rect>,
    /// How far the subject must be past a room's edge before the room changes, in fractions of the design screen: of its
    /// width for x, of its height for y. From 0 to 10. Default 0.02.
    pub overstep: f64,
    /// The time in which the view slides to the next room, in seconds. Default `None`: the view moves there with
    /// `follow.smoothing`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub slide: Option<f64>,
}

settings!(Rooms {
    size = Setting::pair("size", "the size of each room of a grid", "a width and a height in world units")
        .measured("world units").from(1e-3, f64::MAX).usual_from(80.0, 1280.0);
    origin = Setting::pair("origin", "a corner of the grid of rooms", "a world point").measured("world units").usual_from(-320.0, 320.0);
    list = Setting::other("list", SettingKind::Rects, "rooms of any size instead of a grid", "rectangles as x, y, width and height in world units, at most 1e100, width and height above 0, at least 1e-9")
        .measured("world units");
    overstep = Setting::number("overstep", "how far the subject is past a room's edge when the room changes", "a fraction of the design screen")
        .measured("of the design screen").from(0.0, 10.0).usual_from(0.0, 0.1);
    slide = Setting::number("slide", "the time in which the view slides to the next room; without it the view moves with its smoothing", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).optional();
});

impl Default for Rooms {
    fn default() -> Self {
        Self {
            size: DVec2::new(320.0, 180.0),
            origin: DVec2::ZERO,
            list: Vec::new(),
            overstep: 0.02,
            slide: None,
        }
    }
}

/// The room of the view.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct RoomMemory {
    min: DVec2,
    max: DVec2,
    /// Whether the view has reached it, and is now kept inside.
    pub arrived: bool,
}

sound!(RoomMemory { min, max, arrived });

impl RoomMemory {
    pub fn new(room: Rect, arrived: bool) -> Self {
        Self { min: room.min, max: room.max, arrived }
    }

    pub fn rect(&self) -> Rect {
        Rect { min: self.min, max: self.max }
    }

    pub fn translate(&mut self, delta: DVec2) {
        (self.min, self.max) = (self.min + delta, self.max + delta);
    }
}

impl Rooms {
    /// Returns the room that contains a world point. In a list it is the first such room; outside of all listed rooms,
    /// returns `None`.
    ///
    /// ```
    /// # use velvet_pan::{Rect, Rooms};
    /// let rooms = Rooms::default(); // a grid of 320 x 180
    /// assert_eq!(rooms.at([400, 20]), Some(Rect::new([320, 0], [640, 180])));
    /// ```
    #[must_use]
    pub fn at(&self, point: impl IntoWorld) -> Option<Rect> {
        let point = point.into_world();
        if !point.is_finite() {
            return None;
        }
        if self.list.is_empty() {
            let corner = self.origin + ((point - self.origin) / self.size).floor() * self.size;
            return Some(Rect { min: corner, max: corner + self.size });
        }
        self.list.iter().find(|room| room.contains(point)).copied()
    }

    /// The room to start in: the one that contains the point, or the nearest one.
    pub(crate) fn first(&self, point: DVec2) -> Option<Rect> {
        let away = |room: &&Rect| room.nearest(point).distance_squared(point);
        self.at(point)
            .or_else(|| self.list.iter().min_by(|a, b| away(a).total_cmp(&away(b))).copied())
    }

    /// The moment on the straight path between two positions at which the room changes, as a fraction of the path, and
    /// the new room. `design` is the size of the design screen.
    pub(crate) fn next(
        &self,
        present: &Rect,
        design: DVec2,
        from: DVec2,
        to: DVec2,
    ) -> Option<(f64, Rect)> {
        let overstep = design * self.overstep;
        let kept = Rect { min: present.min - overstep, max: present.max + overstep };
        let (start, end) = kept.stretch_of(from, to).unwrap_or((1.0, 1.0));
        if start <= 0.0 && end >= 1.0 {
            return None;
        }
        if self.list.is_empty() {
            let leaves = if start <= 0.0 { end } else { 0.0 };
            let past = from + (to - from) * (leaves + JUST_PAST).min(1.0);
            let room = self.at(past).filter(|room| room != present && !kept.contains(past));
            return room.map(|room| (leaves, room));
        }
        // A path that starts outside of the current room may come back to it, and leave it again.
        let outside = [(0.0, start), (end, 1.0)];
        let entered = |room: &Rect| {
            let (first, last) = room.stretch_of(from, to).filter(|_| room != present)?;
            outside.into_iter().find_map(|(leaves, back)| {
                let at = first.max(leaves);
                (at < last.min(back)).then_some((at, *room))
            })
        };
        self.list
            .iter()
            .filter_map(entered)
            .reduce(|first, other| if other.0 < first.0 { other } else { first })
    }
}

/// A fraction of a path that is enough to be past its line and too small to be visible.
pub(crate) const JUST_PAST: f64 = 1e-9;
