//! One room at a time: the view stays in the room of the subject.

use alloc::vec::Vec;

use glam::DVec2;

use crate::base::convert::IntoWorld;
use crate::base::rect::Rect;
use crate::base::sound::sound;
use crate::keys::keys::{names, settings};
use crate::keys::setting::Setting;
use crate::lens::screen::Screen;

/// Rooms that the view shows one at a time: the `[rooms]` table of a tuning file. They are a grid of equal rooms, or a
/// list of rectangles.
///
/// In a room that is not larger than the view, the view stands in the middle of the room. In a larger room, the view
/// follows the subject and stays inside. The room changes when the subject is `overstep` of the [design
/// screen](crate::Screen::design_size) past its edge. Where rooms overlap, the present room is kept. Outside of all
/// listed rooms, `outside` decides.
///
/// ```
/// use velvet_pan::{Rect, Rooms, Screen};
///
/// let screen = Screen::default();
/// let rooms = Rooms::default(); // a grid of rooms as large as the screen, 320 x 180
/// assert_eq!(rooms.at([400, 20], &screen), Some(Rect::from_corner_size([320, 0], [320, 180])));
///
/// let listed = Rooms { list: vec![Rect::new([0, 0], [500, 180])], ..Rooms::default() };
/// assert_eq!(listed.at([400, 20], &screen), Some(Rect::new([0, 0], [500, 180])));
/// assert_eq!(listed.at([600, 20], &screen), None);
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(default, deny_unknown_fields)
)]
pub struct Rooms {
    /// The size of each room of the grid, in world units, above 0. Default `None`: as large as the design screen.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub size: Option<DVec2>,
    /// The corner with the smallest coordinates of one room of the grid, in world units. Default 0, 0.
    pub origin: DVec2,
    /// Rooms of any size instead of the grid, in world units. In a file each is written as `[x, y, width, height]`.
    /// Default empty: the grid is used.
    pub list: Vec<Rect>,
    /// Where the view is while the subject is outside of all listed rooms. Default `Outside::Keep`. A grid has no
    /// outside.
    pub outside: Outside,
    /// How far the subject must be past a room's edge before the room changes, in fractions of the design screen: of its
    /// width for x, of its height for y. From 0 to 10. Default 0.02.
    pub overstep: f64,
    /// The time in which the view slides to the next room, in seconds. Default `None`: the view moves there with
    /// `follow.smoothing`.
    #[cfg_attr(feature = "serde", serde(skip_serializing_if = "Option::is_none"))]
    pub slide: Option<f64>,
}

settings!(Rooms {
    size = Setting::pair("size", "the size of each room of a grid; without it, that of the design screen", "a width and a height in world units")
        .measured("world units").from(1e-3, f64::MAX).usual_from(80.0, 1280.0).optional();
    origin = Setting::pair("origin", "a corner of the grid of rooms", "a world point").measured("world units").usual_from(-320.0, 320.0);
    list = Setting::rects("list", "rooms of any size instead of a grid");
    outside = Setting::choice("outside", "where the view is while the subject is outside of all listed rooms", Outside::NAMES);
    overstep = Setting::number("overstep", "how far the subject is past a room's edge when the room changes", "a fraction of the design screen")
        .measured("of the design screen").from(0.0, 10.0).usual_from(0.0, 0.1);
    slide = Setting::number("slide", "the time in which the view slides to the next room; without it the view moves with its smoothing", "a time in seconds")
        .measured("s").from(0.0, 1000.0).usual_from(0.0, 2.0).optional();
});

impl Default for Rooms {
    fn default() -> Self {
        Self {
            size: None,
            origin: DVec2::ZERO,
            list: Vec::new(),
            outside: Outside::default(),
            overstep: 0.02,
            slide: None,
        }
    }
}

/// Where the view is while the subject is outside of all listed rooms.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(rename_all = "snake_case")
)]
#[non_exhaustive]
pub enum Outside {
    /// It stays in the last room. The first room is the nearest one.
    #[default]
    Keep,
    /// It follows the subject as if there were no rooms: houses in an open world.
    Free,
}

names!(Outside { Keep = "keep", Free = "free" });

/// The room of the view.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct RoomMemory {
    rect: Rect,
    /// Whether the view has reached it, and is now kept inside.
    pub arrived: bool,
}

sound!(RoomMemory { rect, arrived });

impl RoomMemory {
    pub fn new(room: Rect, arrived: bool) -> Self {
        Self { rect: room, arrived }
    }

    pub fn rect(&self) -> Rect {
        self.rect
    }

    pub fn translate(&mut self, delta: DVec2) {
        self.rect.translate(delta);
    }
}

impl Rooms {
    /// Returns the room that contains a world point. In a list it is the first such room; outside of all listed rooms,
    /// returns `None`.
    ///
    /// ```
    /// # use velvet_pan::{Rect, Rooms, Screen, glam::DVec2};
    /// let rooms = Rooms { size: Some(DVec2::new(400.0, 200.0)), ..Rooms::default() };
    /// assert_eq!(rooms.at([450, 20], &Screen::default()), Some(Rect::new([400, 0], [800, 200])));
    /// ```
    #[must_use]
    pub fn at(&self, point: impl IntoWorld, screen: &Screen) -> Option<Rect> {
        self.around(point.into_world(), screen.design_size())
    }

    /// Returns the room around a point. `design` is the size of the design screen.
    fn around(&self, point: DVec2, design: DVec2) -> Option<Rect> {
        if !point.is_finite() {
            return None;
        }
        if self.list.is_empty() {
            let size = self.size.unwrap_or(design);
            let corner = self.origin + ((point - self.origin) / size).floor() * size;
            return Some(Rect { min: corner, max: corner + size });
        }
        self.list.iter().find(|room| room.contains(point)).copied()
    }

    /// Returns the room to start in: the one that contains the point, or the nearest one, if one is always kept.
    pub(crate) fn first(&self, point: DVec2, design: DVec2) -> Option<Rect> {
        let away = |room: &&Rect| room.nearest(point).distance_squared(point);
        let nearest = || self.list.iter().min_by(|a, b| away(a).total_cmp(&away(b))).copied();
        self.around(point, design).or_else(|| nearest().filter(|_| self.outside == Outside::Keep))
    }

    /// The moment on the straight path between two positions at which the room changes, as a fraction of the path, and
    /// the new room, if it is not the open. `design` is the size of the design screen.
    pub(crate) fn next(
        &self,
        present: Option<&Rect>,
        design: DVec2,
        [from, to]: [DVec2; 2],
    ) -> Option<(f64, Option<Rect>)> {
        let overstep = design * self.overstep;
        let kept = present.map(|room| Rect { min: room.min - overstep, max: room.max + overstep });
        let stay = kept.and_then(|kept| kept.stretch_of(from, to));
        let (start, end) = stay.unwrap_or((1.0, 1.0));
        if start <= 0.0 && end >= 1.0 {
            return None;
        }
        let leaves = if start <= 0.0 { end } else { 0.0 };
        if self.list.is_empty() {
            let past = from + (to - from) * (leaves + JUST_PAST).min(1.0);
            let is_other = |room: &Rect| {
                present != Some(room) && !kept.is_some_and(|kept| kept.contains(past))
            };
            return self.around(past, design).filter(is_other).map(|room| (leaves, Some(room)));
        }
        // A path that starts outside of the current room may come back to it, and leave it again.
        let outside = [(0.0, start), (end, 1.0)];
        let entered = |room: &Rect| {
            let (first, last) = room.stretch_of(from, to).filter(|_| present != Some(room))?;
            outside.into_iter().find_map(|(leaves, back)| {
                let at = first.max(leaves);
                (at < last.min(back)).then_some((at, Some(*room)))
            })
        };
        // Into the open only where no other room begins.
        let open = present.filter(|_| self.outside == Outside::Free).map(|_| (leaves, None));
        let rooms = self.list.iter().filter_map(entered);
        rooms.chain(open).reduce(|first, other| if other.0 < first.0 { other } else { first })
    }
}

/// A fraction of a path that is enough to be past its line and too small to be visible.
pub(crate) const JUST_PAST: f64 = 1e-9;
