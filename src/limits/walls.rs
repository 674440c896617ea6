//! The rectangle in force: where it lets the view's centre be, and how a cushion slows the view down before an edge.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::keys::per_axis::PerAxis;
use crate::lens::lens::Lens;
use crate::limits::small_world::SmallWorld;

/// A rectangle that the view does not leave at this moment: that of the bounds, a hall of an outline, a room.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Walls {
    /// The rectangle; an open side is at infinity.
    pub rect: Rect,
    /// Where the world is shown on an axis on which it is smaller than the view.
    pub small: PerAxis<SmallWorld>,
}

impl Walls {
    /// Returns a world smaller than the view is centred.
    pub fn new(rect: Rect) -> Self {
        Self { rect, small: PerAxis::default() }
    }

    /// Returns where the view's centre may be, in world units.
    #[inline]
    pub fn centre_range(&self, lens: &Lens) -> Rect {
        let (half, rect) = (lens.half_extents(), self.rect);
        let (low, high) = (rect.min + half, rect.max - half);
        let middle = rect.centre();
        // The top of the screen is the largest y of the world if y points up.
        let (top, bottom) =
            if lens.y_axis().sign() > 0.0 { (low.y, high.y) } else { (high.y, low.y) };
        let (x0, x1) = axis_range(low.x, high.x, [low.x, middle.x, high.x], self.small.x);
        let (y0, y1) = axis_range(low.y, high.y, [top, middle.y, bottom], self.small.y);
        Rect { min: (x0, y0).into(), max: (x1, y1).into() }
    }
}

/// `low..=high`, or, if these cross, the single position that `small` selects from start, middle and end.
#[inline]
fn axis_range(low: f64, high: f64, positions: [f64; 3], small: SmallWorld) -> (f64, f64) {
    if low <= high {
        return (low, high);
    }
    let position = match small {
        SmallWorld::Start => positions[0],
        SmallWorld::Centre => positions[1],
        SmallWorld::End => positions[2],
    };
    (position, position)
}

/// How much slower a view becomes before the edges of a range: a cushion of depth `w`. With `w' = min(w, (hi − lo)/2)`, a
/// distance of `u` past `hi − w'` becomes `u − u²/(4w')`, and stays `w'` from `u = 2w'` on.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Cushion {
    low: f64,
    high: f64,
    /// `w'`.
    depth: f64,
}

impl Cushion {
    /// Returns the cushion of a range on an axis, if there is one.
    #[inline]
    fn of(range: &Rect, axis: usize, depth: DVec2) -> Option<Self> {
        let (low, high) = (range.min[axis], range.max[axis]);
        let depth = depth[axis].min((high - low) / 2.0);
        (depth > 0.0).then_some(Self { low, high, depth })
    }

    fn bent(&self, value: f64) -> f64 {
        let Self { low, high, depth } = *self;
        let slowed = |past: f64| {
            let past = past.min(2.0 * depth);
            past - past * past / (4.0 * depth)
        };
        if value > high - depth {
            high - depth + slowed(value - (high - depth))
        } else if value < low + depth {
            low + depth - slowed(low + depth - value)
        } else {
            value
        }
    }
}

/// Returns the point of a range nearest to a point, bent by a cushion of this depth.
#[inline]
pub(crate) fn clamp_with_cushion(range: &Rect, depth: DVec2, mut point: DVec2) -> DVec2 {
    for axis in 0..2 {
        if let Some(cushion) = Cushion::of(range, axis, depth) {
            point[axis] = cushion.bent(point[axis]);
        }
    }
    range.nearest(point)
}
