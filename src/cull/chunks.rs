//! Which chunks of a large map to have loaded.

use core::ops::Range;

use glam::{DVec2, UVec2};

use crate::base::maths::{MAX_EXACT_INTEGER, ceil_to_i64, floor_to_i64};
use crate::base::rect::Rect;
use crate::cull::grid::Grid;
use crate::view::view::View;

/// Tells which chunks of a large map to load and which to drop.
///
/// A chunk is loaded when the view touches it, widened by [`with_margin`](Self::with_margin) and by the distance that
/// the view covers in [`with_ahead`](Self::with_ahead) seconds. It is dropped when it is more than
/// [`with_keep`](Self::with_keep) tiles beyond that, so that a view that moves back and forth does not load and drop
/// the same chunks again and again. The loaded chunks always form a rectangle.
///
/// ```
/// use velvet_pan::{Camera, Chunks, Grid, Settings};
///
/// let mut chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]).with_ahead(0.5);
/// let mut camera = Camera::new(Settings::default())?;
/// let view = camera.follow(0.0, [200, 200]);
/// let change = chunks.update(&view);
/// for chunk in change.to_load() {
///     let _tiles = chunks.tiles(chunk); // generate or read these columns and rows
/// }
/// assert_eq!(change.to_load().count(), 1);
///
/// let view = camera.follow(0.1, [300, 200]); // quickly to the right
/// let columns: Vec<i64> = chunks.update(&view).to_load().map(|chunk| chunk.column).collect();
/// assert_eq!(columns, [1]); // the next chunk, before it is in view
/// assert_eq!(chunks.loaded().count(), 2);
/// # Ok::<(), velvet_pan::SettingsError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Chunks {
    grid: Grid,
    size: UVec2,
    margin: f64,
    keep: f64,
    ahead: f64,
    loaded: Block,
    /// The last view's centre and its time.
    last: Option<(DVec2, f64)>,
}

/// The greatest distance to look ahead, in views.
const MAX_AHEAD: f64 = 4.0;

/// A chunk of a grid. The map's top left chunk, as seen on the screen, is column 0 and row 0.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Chunk {
    /// Its column. It is below 0 only in an unbounded grid.
    pub column: i64,
    /// Its row.
    pub row: i64,
}

/// What to load and what to drop: see [`Chunks::update`].
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct ChunkChange {
    before: Block,
    after: Block,
}

impl Chunks {
    /// Creates chunks of this number of columns and rows of tiles, each at least 1. The margin is 1 tile, chunks are
    /// kept for half a chunk, and there is no look ahead.
    ///
    /// ```
    /// # use velvet_pan::{Chunks, Grid};
    /// let chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]); // 512 x 512 world units each
    /// assert_eq!(chunks.loaded().count(), 0);
    /// ```
    #[must_use]
    pub fn new(grid: &Grid, size: impl Into<UVec2>) -> Self {
        let size = size.into().max(UVec2::ONE);
        let keep = f64::from(size.max_element()) / 2.0;
        let loaded = Block::default();
        Self { grid: *grid, size, margin: 1.0, keep, ahead: 0.0, loaded, last: None }
    }

    /// Returns these chunks with another margin around the view, in tiles. A margin that is negative or not finite
    /// counts as 0.
    ///
    /// ```
    /// # use velvet_pan::{Chunks, Grid, Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [200, 256], Snap::Whole); // x from 40 to 360
    /// let chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]);
    /// assert_eq!(chunks.with_margin(0.0).update(&view).to_load().count(), 1);
    /// assert_eq!(chunks.with_margin(4.0).update(&view).to_load().count(), 2); // from −24
    /// ```
    #[must_use]
    pub fn with_margin(mut self, tiles: f64) -> Self {
        self.margin = usable(tiles);
        self
    }

    /// Returns these chunks with another distance beyond which chunks are dropped, in tiles. A distance that is
    /// negative or not finite counts as 0.
    ///
    /// ```
    /// # use velvet_pan::{Chunks, Grid, Lens, Screen, Snap, View};
    /// let at = |x| View::new(Lens::new(&Screen::default()), [x, 256], Snap::Whole);
    /// let mut chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]).with_keep(8.0);
    /// let _loads_columns_0_and_1 = chunks.update(&at(512));
    /// assert_eq!(chunks.update(&at(800)).to_drop().count(), 0); // 640 is within 8 tiles of 512
    /// assert_eq!(chunks.update(&at(900)).to_drop().count(), 1);
    /// ```
    #[must_use]
    pub fn with_keep(mut self, tiles: f64) -> Self {
        self.keep = usable(tiles);
        self
    }

    /// Returns these chunks with a look ahead along the view's motion, in seconds. The velocity is computed from two
    /// successive views and their [`time`](View::time). A movement longer than the view counts as a cut, not as motion.
    /// The look ahead is at most four views.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Chunks, Grid, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let mut chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]).with_ahead(0.5);
    /// let _first = chunks.update(&camera.follow(0.0, [200, 256]));
    /// // At 1,000 units a second, the view will be 500 units farther in half a second.
    /// let change = chunks.update(&camera.follow(0.1, [300, 256]));
    /// assert_eq!(change.to_load().next().map(|chunk| chunk.column), Some(1));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn with_ahead(mut self, seconds: f64) -> Self {
        self.ahead = usable(seconds);
        self
    }

    /// Updates the chunks for a view, and returns what to load and what to drop. Each change is returned once.
    ///
    /// ```
    /// # use velvet_pan::{Chunks, Grid, Lens, Screen, Snap, View};
    /// let view = View::new(Lens::new(&Screen::default()), [256, 256], Snap::Whole);
    /// let mut chunks = Chunks::new(&Grid::unbounded([16, 16]), [32, 32]);
    /// assert_eq!(chunks.update(&view).to_load().count(), 1);
    /// assert_eq!(chunks.update(&view).to_load().count(), 0); // it is loaded already
    /// ```
    #[must_use = "each change is reported once"]
    pub fn update(&mut self, view: &View) -> ChunkChange {
        let before = self.loaded;
        let needed = self.needed(view);
        let axis = |which: usize| {
            let cells = self.cells(which);
            let wide = cells.clamped(widened(needed[which], self.keep));
            let needed = cells.clamped(needed[which]);
            cells.kept(before.axes[which], cells.chunks(needed), cells.chunks(wide))
        };
        let axes = [axis(0), axis(1)];
        let empty = axes.iter().any(|span| span.is_empty());
        let laps = [self.cells(0).lap(), self.cells(1).lap()];
        let axes = if empty { [Span::default(); 2] } else { axes };
        self.loaded = Block { axes, laps };
        self.last = Some((view.steady().centre(), view.time()));
        ChunkChange { before: Block { laps, ..before }, after: self.loaded }
    }

    /// Returns all loaded chunks, row by row.
    pub fn loaded(&self) -> impl Iterator<Item = Chunk> {
        self.loaded.chunks()
    }

    /// Returns the columns and the rows of a chunk's tiles. Chunks at the far edges of the map may have fewer tiles.
    ///
    /// ```
    /// # use velvet_pan::{Chunk, Chunks, Grid};
    /// let chunks = Chunks::new(&Grid::new(40, 20, [16, 16]), [32, 32]);
    /// assert_eq!(chunks.tiles(Chunk { column: 1, row: 0 }), (32..40, 0..20));
    /// ```
    #[must_use]
    pub fn tiles(&self, chunk: Chunk) -> (Range<i64>, Range<i64>) {
        let axis = |which: usize, number: i64| {
            let Cells { chunk, count } = self.cells(which);
            let start = number.saturating_mul(chunk);
            let end = start.saturating_add(chunk);
            start..count.map_or(end, |(count, _)| end.min(count).max(start))
        };
        (axis(0, chunk.column), axis(1, chunk.row))
    }

    /// Returns the tiles that should be loaded, per axis.
    fn needed(&self, view: &View) -> [Span; 2] {
        let sight = view.sight().bounding();
        let way = self.way(view);
        let area =
            Rect { min: sight.min + way.min(DVec2::ZERO), max: sight.max + way.max(DVec2::ZERO) };
        let lattice = self.grid.lattice(view);
        // Along the axes of the screen the top comes first, for both directions of y.
        let (one, other) = (lattice.cell(area.min), lattice.cell(area.max));
        let (low, high) = (one.min(other), one.max(other));
        let beyond = |which: usize| {
            let cells = if which == 0 { &lattice.x } else { &lattice.y };
            let first = near(floor_to_i64(low[which] - cells.past));
            let end = near(ceil_to_i64(high[which] + cells.before));
            let (first, end) =
                if which == 1 { self.grid.row_span((first, end)) } else { (first, end) };
            let span = Span { first, end };
            let most = low[which].abs().max(high[which].abs());
            let blurred = high[which] - low[which] <= most * BLURRED;
            widened(span, self.margin + if blurred { 1.0 } else { 0.0 })
        };
        [beyond(0), beyond(1)]
    }

    /// Returns the movement of the view within the look-ahead time.
    fn way(&self, view: &View) -> DVec2 {
        let Some((centre, time)) = self.last else { return DVec2::ZERO };
        let (moved, seconds) = (view.steady().centre() - centre, view.time() - time);
        let jumped = moved.abs().cmpgt(view.lens().view_size()).any();
        if jumped || seconds <= 0.0 || !moved.is_finite() {
            return DVec2::ZERO;
        }
        let most = view.lens().view_size() * MAX_AHEAD;
        (moved / seconds * self.ahead).clamp(-most, most)
    }

    fn cells(&self, axis: usize) -> Cells {
        let count = self.grid.map_length(axis);
        Cells { chunk: i64::from(self.size[axis]), count }
    }
}

impl ChunkChange {
    /// Returns whether there is nothing to load and nothing to drop.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.before == self.after
            || (self.to_load().next().is_none() && self.to_drop().next().is_none())
    }

    /// Returns the chunks to load, row by row. The time depends on the change, not on the number of loaded chunks.
    pub fn to_load(&self) -> impl Iterator<Item = Chunk> {
        self.after.without(&self.before)
    }

    /// Returns the chunks to drop, row by row.
    pub fn to_drop(&self) -> impl Iterator<Item = Chunk> {
        self.before.without(&self.after)
    }
}

/// Numbers from `first` to just before `end`.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Span {
    first: i64,
    end: i64,
}

impl Span {
    fn is_empty(self) -> bool {
        self.first >= self.end
    }

    /// Returns the parts that another span does not contain, where numbers that differ by `lap` are the same. There
    /// are at most two, because no span is longer than a lap. Everything that both contain lies between them.
    fn without(self, other: Self, lap: Option<i64>) -> [Self; 2] {
        let within = |number: i64| number.clamp(self.first, self.end);
        let part =
            |first: i64, end: i64| Self { first: within(first), end: within(end.max(first)) };
        if other.is_empty() {
            return [self, part(self.end, self.end)];
        }
        let Some(lap) = lap else {
            return [part(self.first, other.first), part(other.end, self.end)];
        };
        // As it begins for the first time within this span, and as it ended the time before.
        let first = self.first + (other.first - self.first).rem_euclid(lap);
        let end = first + (other.end - other.first);
        [part(end - lap, first), part(end, self.end)]
    }
}

/// A rectangle of chunks. In a grid that wraps, its numbers continue beyond the edge.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Block {
    axes: [Span; 2],
    /// The number of chunks in a lap, per axis, in a grid that wraps.
    laps: [Option<i64>; 2],
}

impl Block {
    fn chunks(self) -> impl Iterator<Item = Chunk> {
        let [columns, rows] = self.axes;
        self.cross(rows, [columns, Span::default()])
    }

    /// Returns the chunks that another block does not contain, row by row.
    fn without(self, other: &Self) -> impl Iterator<Item = Chunk> {
        let [columns, rows] = self.axes;
        let whole = [columns, Span::default()];
        // If the other block contains the row too, only the columns that it does not contain.
        let part = columns.without(other.axes[0], self.laps[0]);
        let [above, below] = rows.without(other.axes[1], self.laps[1]);
        let both = |first: i64, end: i64| self.cross(Span { first, end }, part);
        both(rows.first, above.first)
            .chain(self.cross(above, whole))
            .chain(both(above.end, below.first))
            .chain(self.cross(below, whole))
    }

    /// Returns the chunks in these rows and in these two parts of the columns, row by row.
    fn cross(self, rows: Span, columns: [Span; 2]) -> impl Iterator<Item = Chunk> {
        let none = columns.iter().all(|span| span.is_empty());
        let end = if none { rows.first } else { rows.end };
        (rows.first..end).flat_map(move |row| {
            columns
                .into_iter()
                .flat_map(|span| span.first..span.end)
                .map(move |column| self.home(Chunk { column, row }))
        })
    }

    fn home(self, Chunk { column, row }: Chunk) -> Chunk {
        let home = |number: i64, lap: Option<i64>| lap.map_or(number, |lap| number.rem_euclid(lap));
        Chunk { column: home(column, self.laps[0]), row: home(row, self.laps[1]) }
    }
}

/// The tiles along an axis, in chunks.
#[derive(Clone, Copy, Debug)]
struct Cells {
    /// The number of tiles in a chunk.
    chunk: i64,
    /// The number of tiles in the map, and whether it wraps. `None` if it is unbounded.
    count: Option<(i64, bool)>,
}

impl Cells {
    /// Returns the number of chunks in a lap of a map that wraps.
    fn lap(self) -> Option<i64> {
        self.count.filter(|(_, wrapped)| *wrapped).map(|(count, _)| self.chunks_in(count))
    }

    fn chunks_in(self, tiles: i64) -> i64 {
        (tiles + self.chunk - 1) / self.chunk
    }

    /// Returns the wanted tiles that exist.
    fn clamped(self, span: Span) -> Span {
        match self.count {
            Some((count, false)) => {
                Span { first: span.first.clamp(0, count), end: span.end.clamp(0, count) }
            }
            Some((0, true)) => Span::default(),
            _ => span,
        }
    }

    /// Returns the chunks that contain these tiles. In a map that wraps, their numbers continue beyond the edge.
    fn chunks(self, tiles: Span) -> Span {
        let of = |tile: i64| match self.count {
            Some((count, true)) if count > 0 => {
                let (lap, within) = (tile.div_euclid(count), tile.rem_euclid(count));
                lap * self.chunks_in(count) + within / self.chunk
            }
            _ => tile.div_euclid(self.chunk),
        };
        if tiles.is_empty() {
            return Span { first: of(tiles.first), end: of(tiles.first) };
        }
        Span { first: of(tiles.first), end: of(tiles.end - 1) + 1 }
    }

    /// Returns the part of `loaded` within `wide`, grown to contain everything in `needed`.
    fn kept(self, loaded: Span, needed: Span, wide: Span) -> Span {
        let loaded = self.nearest_lap(loaded, needed);
        let apart = loaded.is_empty() || loaded.end < wide.first || loaded.first > wide.end;
        if apart {
            return self.once_around(needed);
        }
        let first = loaded.first.clamp(wide.first, needed.first);
        let end = loaded.end.clamp(needed.end, wide.end.max(needed.end));
        self.once_around(Span { first, end })
    }

    /// Returns the same chunks of a map that wraps, in the lap that is nearest to the needed ones.
    fn nearest_lap(self, loaded: Span, needed: Span) -> Span {
        let Some(lap) = self.lap().filter(|lap| *lap > 0) else { return loaded };
        let laps = (needed.first - loaded.first + lap / 2).div_euclid(lap);
        Span { first: loaded.first + laps * lap, end: loaded.end + laps * lap }
    }

    /// Each chunk of a map that wraps at most once.
    fn once_around(self, span: Span) -> Span {
        match self.lap() {
            Some(lap) => Span { end: span.end.min(span.first + lap), ..span },
            None => span,
        }
    }
}

/// A view smaller than this fraction of its distance from the map's corner, both in tiles: rounding may hide the tile
/// that it is in.
const BLURRED: f64 = 1e-12;

/// Returns a span of tiles, widened on both sides.
fn widened(span: Span, tiles: f64) -> Span {
    let tiles = ceil_to_i64(tiles);
    Span { first: span.first - tiles, end: span.end + tiles }
}

/// Limits a number so that it can still be added.
fn near(tile: i64) -> i64 {
    tile.clamp(-MAX_EXACT_INTEGER, MAX_EXACT_INTEGER)
}

fn usable(number: f64) -> f64 {
    if number > 0.0 && number <= 1e9 { number } else { 0.0 }
}
