//! What shows how a camera decides, as plain geometry over its view.

use glam::{DVec2, Vec2};

use crate::base::list::List;
use crate::base::rect::Rect;
use crate::limits::ratchet::Barrier;
use crate::view::view::View;

/// What a mark of the overlay shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum MarkKind {
    /// The world's bounds: a rectangle, or each edge of an outline that is seen.
    Bounds,
    /// The line behind which a ratcheted view does not go back.
    Barrier,
    /// The leash: the largest distance of the subject from its anchor.
    Leash,
    /// The deadzone.
    Deadzone,
    /// A line from the followed point to the point that look-ahead adds.
    LookAhead,
    /// The anchor: the position at which the subject appears.
    Anchor,
    /// The goal, after the bounds.
    Goal,
    /// The rectangle around the shown subjects of a party, with their margins.
    Party,
    /// The room that the view is in.
    Room,
    /// A zone that the subject is in.
    Zone,
    /// A line from the goal to a lure that pulls it.
    Lure,
    /// The segment of the rail that the goal is on.
    Rail,
}

/// One mark: a point, a line or a quadrilateral in the world.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Mark {
    /// What it shows.
    pub kind: MarkKind,
    points: List<DVec2, 4>,
}

impl Mark {
    fn new<const N: usize>(kind: MarkKind, corners: [DVec2; N]) -> Self {
        let mut points = List::default();
        corners.into_iter().for_each(|corner| {
            points.push(corner);
        });
        Self { kind, points }
    }

    /// Returns its points in world units: one for a point, two for a line, four for a quadrilateral.
    #[must_use]
    pub fn world_points(&self) -> &[DVec2] {
        &self.points
    }

    /// Returns the same points in screen pixels. Coordinates too large for that are clamped to ±1e30.
    ///
    /// ```
    /// # use velvet_pan::{Camera, MarkKind, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let view = camera.follow(0.0, [400, 300]);
    /// let overlay = camera.overlay();
    /// let goal = overlay.marks().find(|mark| mark.kind == MarkKind::Goal).unwrap();
    /// // The middle of the screen.
    /// assert_eq!(goal.screen_points(&view).next(), Some([160.0, 90.0].into()));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn screen_points(&self, view: &View) -> impl Iterator<Item = Vec2> {
        const OUT_OF_SIGHT: DVec2 = DVec2::splat(1e30);
        let point = |world: &DVec2| {
            view.world_to_screen_f64(*world).clamp(-OUT_OF_SIGHT, OUT_OF_SIGHT).as_vec2()
        };
        self.world_points().iter().map(point)
    }
}

/// Lines and points that show what a camera does: see [`Camera::overlay`](crate::Camera::overlay).
///
/// ```
/// use velvet_pan::{Camera, MarkKind, Settings};
///
/// let mut camera = Camera::new(Settings::default())?;
/// let view = camera.follow(0.0, [100, 100]);
/// for mark in camera.overlay().marks() {
///     let _points_to_draw: Vec<_> = mark.screen_points(&view).collect();
/// }
/// assert!(camera.overlay().marks().any(|mark| mark.kind == MarkKind::Anchor));
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Overlay {
    marks: List<Mark, MAX_MARKS>,
    /// What the view shows.
    seen: Rect,
}

/// The maximum number of marks in an overlay.
const MAX_MARKS: usize = 96;

/// The parts of a camera that its overlay shows.
#[derive(Clone, Copy, Debug)]
pub(crate) struct OverlayInput {
    pub view: View,
    pub anchor: DVec2,
    /// Left, right, top and bottom, in fractions of the screen from the anchor.
    pub deadzone: [f64; 4],
    pub leash: Option<DVec2>,
    pub bounds: Option<Rect>,
    pub barrier: Option<Barrier>,
    pub goal: DVec2,
    /// The followed point, and the point ahead of it.
    pub ahead: Option<[DVec2; 2]>,
    pub room: Option<Rect>,
    pub party: Option<[DVec2; 4]>,
    pub rail: Option<[DVec2; 2]>,
}

/// Returns a rectangle with its open sides, which are at infinity, out of sight.
fn near(rect: &Rect, view: &View) -> Rect {
    let shown = view.visible_world();
    let beyond = Rect { min: shown.min - shown.size(), max: shown.max + shown.size() };
    let side = |at: DVec2, beyond: DVec2| DVec2::select(at.is_finite_mask(), at, beyond);
    Rect { min: side(rect.min, beyond.min), max: side(rect.max, beyond.max) }
}

impl Overlay {
    pub(crate) fn new(input: &OverlayInput) -> Self {
        let position = |fraction: DVec2| {
            let pixels = fraction * input.view.size().as_dvec2();
            input.view.screen_to_world(pixels.as_vec2())
        };
        let around = |min: DVec2, max: DVec2| {
            [min, DVec2::new(max.x, min.y), max, DVec2::new(min.x, max.y)].map(position)
        };
        let anchor = input.anchor;
        let [left, right, top, bottom] = input.deadzone;
        let zone = around(anchor - DVec2::new(left, top), anchor + DVec2::new(right, bottom));
        let leash = input.leash.map(|reach| {
            around((anchor - reach).max(DVec2::ZERO), (anchor + reach).min(DVec2::ONE))
        });
        let barrier = input.barrier.map(|barrier| {
            let Rect { min, max } = input.view.visible_world();
            if barrier.is_across_y() {
                [DVec2::new(min.x, barrier.at), DVec2::new(max.x, barrier.at)]
            } else {
                [DVec2::new(barrier.at, min.y), DVec2::new(barrier.at, max.y)]
            }
        });
        let zone = (input.deadzone != [0.0; 4]).then_some(zone);
        let rect = |kind, rect: Rect| Mark::new(kind, rect.corners());
        let own = [
            input.bounds.map(|bounds| rect(MarkKind::Bounds, near(&bounds, &input.view))),
            input.room.map(|room| rect(MarkKind::Room, room)),
            input.party.map(|corners| Mark::new(MarkKind::Party, corners)),
            input.rail.map(|ends| Mark::new(MarkKind::Rail, ends)),
            barrier.map(|ends| Mark::new(MarkKind::Barrier, ends)),
            leash.map(|corners| Mark::new(MarkKind::Leash, corners)),
            zone.map(|corners| Mark::new(MarkKind::Deadzone, corners)),
            input.ahead.map(|ends| Mark::new(MarkKind::LookAhead, ends)),
            Some(Mark::new(MarkKind::Anchor, [position(anchor)])),
            Some(Mark::new(MarkKind::Goal, [input.goal])),
        ];
        let filler = Mark::new(MarkKind::Anchor, []);
        let shown = input.view.visible_world();
        let mut overlay = Self { marks: List::empty(filler), seen: shown };
        for mark in own.into_iter().flatten() {
            overlay.add(mark);
        }
        overlay
    }

    /// Adds an edge of the outline that is in force, if it may be seen.
    pub(crate) fn add_edge(&mut self, ends: [DVec2; 2]) {
        let seen = self.seen;
        let (low, high) = (ends[0].min(ends[1]), ends[0].max(ends[1]));
        if low.cmple(seen.max).all() && high.cmpge(seen.min).all() {
            self.add(Mark::new(MarkKind::Bounds, ends));
        }
    }

    /// Adds a zone.
    pub(crate) fn add_zone(&mut self, zone: &Rect) {
        self.add(Mark::new(MarkKind::Zone, zone.corners()));
    }

    /// Adds a lure that pulls a goal.
    pub(crate) fn add_lure(&mut self, goal: DVec2, lure: DVec2) {
        self.add(Mark::new(MarkKind::Lure, [goal, lure]));
    }

    /// Adds a mark if there is room for it.
    fn add(&mut self, mark: Mark) {
        self.marks.push(mark);
    }

    /// Returns its marks, in drawing order: from back to front.
    pub fn marks(&self) -> impl Iterator<Item = Mark> {
        self.marks.iter().copied()
    }
}
