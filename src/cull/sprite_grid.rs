//! Finds the visible ones of a million sprites by their positions.

use alloc::vec::Vec;

use glam::{DVec2, UVec2, Vec4};

use crate::base::rect::Rect;
use crate::cull::boxes::OutwardBox;
use crate::cull::sight::Sight;

/// Sprites in a uniform grid, for up to millions of sprites. The time of a query depends on the number of sprites near
/// the view, not on their total number. Adding, moving and removing a sprite takes constant time.
///
/// A sprite is in one cell, that of its middle. A query includes cells outside of the sight, up to half of the largest
/// sprite away. Sprites larger than a cell are in coarser grids, with cells of twice the size, four times, and so on.
/// Sprites outside of the grid's area are found too, but more slowly. As in [`Boxes`](crate::Boxes), boxes are kept in
/// `f32` and rounded outwards: a query never misses a visible sprite.
///
/// A frame allocates memory only if there are more sprites, or more found sprites, than ever before.
///
/// ```
/// use velvet_pan::{Lens, Rect, Screen, Snap, SpriteGrid, View};
///
/// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
/// let box_at = |x: i32| Rect::from_corner_size([x, 100], [16, 16]);
/// let near = kites.insert(&box_at(100));
/// let far = kites.insert(&box_at(3000));
///
/// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
/// let mut found = Vec::new(); // kept from frame to frame
/// kites.seen(&view.sight(), &mut found);
/// assert_eq!(found, [near]);
///
/// kites.set(far, &box_at(200)); // it has flown over
/// kites.remove(near);
/// kites.seen(&view.sight(), &mut found);
/// assert_eq!(found, [far]);
/// ```
#[derive(Clone, Debug)]
pub struct SpriteGrid {
    corner: DVec2,
    tiers: Vec<Tier>,
    cells: Vec<Cell>,
    /// Runs of slots, one for each cell with sprites, and free runs between them.
    slots: Vec<Slot>,
    /// The first free run of each length.
    free_runs: [u32; 32],
    /// The place of each sprite.
    positions: Vec<SlotRef>,
    free_number: u32,
    count: usize,
}

/// A grid of cells of the same size.
#[derive(Clone, Copy, Debug)]
struct Tier {
    /// The side of a cell in world units, and the number of cells per world unit.
    side: f64,
    per_side: f64,
    size: UVec2,
    /// The cells of the tier: the first, and one past the last.
    first: usize,
    end: usize,
    /// The number of sprites.
    count: usize,
    /// The greatest reach of a sprite beyond its middle, of all sprites since the tier was empty.
    reach: f64,
}

/// The run of slots that contains a cell's sprites.
#[derive(Clone, Copy, Debug, Default)]
struct Cell {
    start: u32,
    count: u32,
    /// The number of slots in the run.
    room: u32,
}

#[derive(Clone, Copy, Debug, Default)]
struct Slot {
    sprite: OutwardBox,
    /// The number of the sprite. In the first slot of a free run, the start of the next free run of its length.
    number: u32,
}

/// The tier and cell in which a sprite belongs.
#[derive(Clone, Copy, Debug)]
struct Home {
    tier: usize,
    cell: u32,
    /// The reach of the sprite beyond its middle.
    reach: f64,
}

#[derive(Clone, Copy, Debug)]
struct SlotRef {
    /// `NONE` if there is no sprite with this number.
    cell: u32,
    /// The index among the cell's sprites. Without a sprite, the next free number.
    index: u32,
}

const NONE: u32 = u32::MAX;

/// The number of slots in the shortest run for a cell that grows. Each longer kind has twice as many.
const MIN_RUN: u32 = 4;

/// The maximum number of cells in the finest tier.
const MAX_CELLS: f64 = 4_194_304.0;

impl SpriteGrid {
    /// Creates a grid over the part of the world where most sprites are. `side` is the size of a cell in world units;
    /// twice the size of a typical sprite, up to half a view, is suitable.
    ///
    /// If there would be more than about four million cells, they are made larger. An invalid area or side gives a single
    /// cell.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0); // world units
    /// assert!(kites.is_empty());
    /// ```
    #[must_use]
    pub fn new(area: &Rect, side: f64) -> Self {
        let size = area.size();
        let (corner, size) =
            if area.has_area() { (area.min, size) } else { (DVec2::ZERO, DVec2::ONE) };
        let whole = size.max_element();
        let mut side = if side > 0.0 && side < whole { side } else { whole };
        while (size / side).ceil().element_product() > MAX_CELLS {
            side *= 2.0;
        }
        let mut grid = Self {
            corner,
            tiers: Vec::new(),
            cells: Vec::new(),
            slots: Vec::new(),
            free_runs: [NONE; 32],
            positions: Vec::new(),
            free_number: NONE,
            count: 0,
        };
        grid.lay_tiers((size / side).ceil().as_uvec2().max(UVec2::ONE), side);
        grid
    }

    /// Creates a grid with these sprites, numbered in order, from 0 on. It is faster than inserting them one by one.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let sprites: Vec<Rect> = (0..1000).map(|x| Rect::from_corner_size([x, 0], [1, 1])).collect();
    /// let grid = SpriteGrid::of(&Rect::new([0, 0], [1000, 100]), 16.0, &sprites);
    /// assert_eq!(grid.len(), 1000);
    /// ```
    #[must_use]
    pub fn of(area: &Rect, side: f64, sprites: &[Rect]) -> Self {
        let mut grid = Self::new(area, side);
        // Sprites are sorted by their cells, by counting first. Counts and starts are separate from the cells, to fit
        // into the processor's cache.
        let placed = |sprite: &Rect| {
            let home = grid.home_of(sprite);
            grid.tiers[home.tier].add(&home);
            SlotRef { cell: home.cell, index: 0 }
        };
        grid.positions = sprites.iter().map(placed).collect();
        grid.count = sprites.len();
        let mut counts = alloc::vec![0_u32; grid.cells.len()];
        for place in &mut grid.positions {
            let count = &mut counts[place.cell as usize];
            place.index = *count;
            *count += 1;
        }
        let starts = grid.lay_runs(counts);
        grid.slots.resize(sprites.len(), Slot::default());
        for (number, (sprite, position)) in (0..).zip(sprites.iter().zip(&grid.positions)) {
            let slot = &mut grid.slots[(starts[position.cell as usize] + position.index) as usize];
            *slot = Slot { sprite: OutwardBox::of(sprite), number };
        }
        grid
    }

    /// Gives each cell a run of slots for its number of sprites, one after the other. Returns where the runs start.
    fn lay_runs(&mut self, counts: Vec<u32>) -> Vec<u32> {
        let mut starts = counts;
        let mut start = 0;
        for (cell, entry) in self.cells.iter_mut().zip(&mut starts) {
            let count = core::mem::replace(entry, start);
            *cell = Cell { start, count, room: count };
            start += count;
        }
        starts
    }

    /// Adds tiers with cells of this side, of twice this side, and so on up to a single cell.
    fn lay_tiers(&mut self, mut size: UVec2, mut side: f64) {
        let mut first = 0;
        loop {
            let end = first + size.x as usize * size.y as usize;
            let per_side = 1.0 / side;
            self.tiers.push(Tier { side, per_side, size, first, end, count: 0, reach: 0.0 });
            first = end;
            if size == UVec2::ONE {
                break;
            }
            size = UVec2::new(size.x.div_ceil(2), size.y.div_ceil(2));
            side *= 2.0;
        }
        self.cells.resize(first, Cell::default());
    }

    /// Returns the number of sprites.
    #[must_use]
    pub fn len(&self) -> usize {
        self.count
    }

    /// Returns whether there are no sprites.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.count == 0
    }

    /// Adds a sprite and returns its number. Numbers of removed sprites are used again. A sprite with a NaN coordinate is
    /// kept, but never found.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
    /// assert_eq!((kites.insert(&Rect::new([0, 0], [8, 8])), kites.insert(&Rect::new([9, 0], [17, 8]))), (0, 1));
    /// ```
    pub fn insert(&mut self, sprite: &Rect) -> u32 {
        let number = self.free_number;
        let number = if number == NONE {
            self.positions.push(SlotRef { cell: NONE, index: NONE });
            self.positions.len() as u32 - 1
        } else {
            self.free_number = self.positions[number as usize].index;
            number
        };
        self.count += 1;
        self.put(&self.home_of(sprite), Slot { sprite: OutwardBox::of(sprite), number });
        number
    }

    /// Moves the sprite with this number to another rectangle. Returns `false` if there is no such sprite.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
    /// let kite = kites.insert(&Rect::new([0, 0], [8, 8]));
    /// assert!(kites.set(kite, &Rect::new([900, 0], [908, 8])) && !kites.set(7, &Rect::default()));
    /// assert_eq!(kites.get(kite), Some(Rect::new([900, 0], [908, 8])));
    /// ```
    pub fn set(&mut self, number: u32, sprite: &Rect) -> bool {
        let Some(position) = self.position(number) else { return false };
        let slot = Slot { sprite: OutwardBox::of(sprite), number };
        let home = self.home_of(sprite);
        if home.cell == position.cell {
            self.tiers[home.tier].widen(&home);
            let start = self.cells[home.cell as usize].start;
            self.slots[(start + position.index) as usize] = slot;
        } else {
            self.take(position);
            self.put(&home, slot);
        }
        true
    }

    /// Removes the sprite with this number. Returns `false` if there is no such sprite.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
    /// let kite = kites.insert(&Rect::new([0, 0], [8, 8]));
    /// assert!(kites.remove(kite) && !kites.remove(kite));
    /// ```
    pub fn remove(&mut self, number: u32) -> bool {
        let Some(position) = self.position(number) else { return false };
        self.take(position);
        self.positions[number as usize] = SlotRef { cell: NONE, index: self.free_number };
        self.free_number = number;
        self.count -= 1;
        true
    }

    /// Returns the rectangle of a sprite, at most one `f32` step larger than it was given; `None` if
    /// there is no sprite of this number.
    ///
    /// ```
    /// # use velvet_pan::{Rect, SpriteGrid};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [960, 960]), 64.0);
    /// let kite = kites.insert(&Rect::new([8, 8], [24, 24]));
    /// assert_eq!(kites.get(kite), Some(Rect::new([8, 8], [24, 24])));
    /// kites.clear();
    /// assert_eq!((kites.get(kite), kites.len()), (None, 0));
    /// ```
    #[must_use]
    pub fn get(&self, number: u32) -> Option<Rect> {
        let SlotRef { cell, index } = self.position(number)?;
        let slot = self.slots.get((self.cells[cell as usize].start + index) as usize)?;
        Some(slot.sprite.rect())
    }

    /// Removes all sprites and keeps the memory. Numbers start from 0 again.
    pub fn clear(&mut self) {
        self.cells.fill(Cell::default());
        self.tiers.iter_mut().for_each(|tier| tier.count = 0);
        self.slots.clear();
        self.free_runs = [NONE; 32];
        self.positions.clear();
        self.free_number = NONE;
        self.count = 0;
    }

    fn position(&self, number: u32) -> Option<SlotRef> {
        self.positions.get(number as usize).copied().filter(|position| position.cell != NONE)
    }

    /// Replaces the contents of `found` by the numbers of all visible sprites. Results are sorted by number, so the
    /// draw order is stable.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, Snap, SpriteGrid, View};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
    /// let near = kites.insert(&Rect::from_corner_size([100, 100], [16, 16]));
    /// kites.insert(&Rect::from_corner_size([3000, 100], [16, 16]));
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let mut found = Vec::new();
    /// kites.seen(&view.sight(), &mut found);
    /// assert_eq!(found, [near]);
    /// ```
    pub fn seen(&self, sight: &Sight, found: &mut Vec<u32>) {
        self.seen_in_any_order(sight, found);
        found.sort_unstable();
    }

    /// Replaces the contents of `found` by the same numbers as [`seen`](Self::seen), in unspecified order. It takes less
    /// time. Use it if you sort by depth anyway.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Rect, Screen, Snap, SpriteGrid, View};
    /// let mut kites = SpriteGrid::new(&Rect::new([0, 0], [3840, 960]), 64.0);
    /// kites.insert(&Rect::new([200, 100], [216, 116]));
    /// kites.insert(&Rect::new([40, 20], [56, 36]));
    /// let view = View::new(Lens::new(&Screen::default()), [160, 90], Snap::Whole);
    /// let mut found = Vec::new();
    /// kites.seen_in_any_order(&view.sight(), &mut found);
    /// assert!(found.len() == 2 && found.contains(&0) && found.contains(&1));
    /// ```
    pub fn seen_in_any_order(&self, sight: &Sight, found: &mut Vec<u32>) {
        found.clear();
        let area = OutwardBox::of(&sight.bounding());
        let mut batch = Batch::new(area.across());
        for tier in self.tiers.iter().filter(|tier| tier.count > 0) {
            let (low, high) = tier.cells_about(&area.rect(), self.corner);
            for row in low.y..=high.y {
                let first = tier.first + row as usize * tier.size.x as usize;
                let row = first + low.x as usize..=first + high.x as usize;
                self.add_row(&self.cells[row], &mut batch, found);
            }
        }
        batch.empty_into(found);
        if sight.is_turned() {
            found.retain(|number| self.is_seen(*number, sight));
        }
    }

    /// Adds the results of a batch from neighbouring cells. If their runs are adjacent, they are read at once.
    #[inline]
    fn add_row(&self, cells: &[Cell], batch: &mut Batch, found: &mut Vec<u32>) {
        let mut run = 0..0;
        for cell in cells {
            if cell.start != run.end {
                batch.add(&self.slots[run.start as usize..run.end as usize], found);
                run = cell.start..cell.start;
            }
            run.end += cell.count;
        }
        batch.add(&self.slots[run.start as usize..run.end as usize], found);
    }

    fn is_seen(&self, number: u32, sight: &Sight) -> bool {
        let SlotRef { cell, index } = self.positions[number as usize];
        let slot = &self.slots[(self.cells[cell as usize].start + index) as usize];
        sight.sees(&slot.sprite.rect())
    }

    /// Returns the cell of a sprite's middle, in the finest tier whose cells are larger than the sprite.
    #[inline]
    fn home_of(&self, sprite: &Rect) -> Home {
        // Slightly larger, so that rounding can't move it beyond the reach of a query.
        let size = sprite.size().max_element() * (1.0 + 1e-3);
        let last = self.tiers.len() - 1;
        let fits = |tier: &Tier| size <= tier.side;
        let index = self.tiers.iter().position(fits).unwrap_or(last);
        let tier = &self.tiers[index];
        let cell = tier.cell(sprite.centre() - self.corner);
        let cell = tier.first + cell.y as usize * tier.size.x as usize + cell.x as usize;
        Home { tier: index, cell: cell as u32, reach: size / 2.0 }
    }

    fn put(&mut self, home: &Home, slot: Slot) {
        let cell = home.cell;
        self.tiers[home.tier].add(home);
        if self.cells[cell as usize].count == self.cells[cell as usize].room {
            self.lengthen(cell);
        }
        let Cell { start, count, .. } = &mut self.cells[cell as usize];
        self.positions[slot.number as usize] = SlotRef { cell, index: *count };
        self.slots[(*start + *count) as usize] = slot;
        *count += 1;
    }

    /// Removes a sprite. The last sprite of the cell takes its place.
    fn take(&mut self, SlotRef { cell, index }: SlotRef) {
        let run = &mut self.cells[cell as usize];
        run.count -= 1;
        let last = self.slots[(run.start + run.count) as usize];
        self.slots[(run.start + index) as usize] = last;
        self.positions[last.number as usize].index = index;
        let run = *run;
        if run.count == 0 {
            self.free(run);
            self.cells[cell as usize].room = 0;
        }
        if let Some(tier) = self.tiers.iter_mut().find(|tier| (cell as usize) < tier.end) {
            tier.count -= 1;
        }
    }

    /// Moves the sprites of a full cell to a longer run.
    fn lengthen(&mut self, cell: u32) {
        let full = self.cells[cell as usize];
        let kind = kind_beyond(full.room);
        let start = self.free_run(kind);
        let from = full.start as usize..(full.start + full.count) as usize;
        self.slots.copy_within(from, start as usize);
        self.free(full);
        self.cells[cell as usize] = Cell { start, room: MIN_RUN << kind, ..full };
    }

    /// Returns a run of a kind: a free one, or a new one at the end.
    fn free_run(&mut self, kind: u32) -> u32 {
        let free = &mut self.free_runs[kind as usize % 32];
        if *free != NONE {
            let start = *free;
            *free = self.slots[start as usize].number;
            return start;
        }
        let start = self.slots.len();
        self.slots.resize(start + (MIN_RUN << kind) as usize, Slot::default());
        start as u32
    }

    /// Keeps a run for another cell, unless it is too short.
    fn free(&mut self, run: Cell) {
        if let Some(kind) = kind_within(run.room) {
            let free = &mut self.free_runs[kind as usize % 32];
            self.slots[run.start as usize].number = *free;
            *free = run.start;
        }
    }
}

/// Returns the shortest kind of run with more slots than this.
#[inline]
fn kind_beyond(slots: u32) -> u32 {
    (slots / MIN_RUN + 1).next_power_of_two().ilog2()
}

/// Returns the longest kind of run with no more slots than this.
#[inline]
fn kind_within(slots: u32) -> Option<u32> {
    (slots / MIN_RUN).checked_ilog2()
}

/// Collects the numbers of sprites that reach into an area, in parts.
struct Batch {
    /// The area's limits.
    across: Vec4,
    numbers: [u32; Self::ROOM],
    count: usize,
}

impl Batch {
    const ROOM: usize = 64;
    /// The number of slots that are read before there must be room again.
    const PART: usize = 32;

    fn new(across: Vec4) -> Self {
        Self { across, numbers: [0; Self::ROOM], count: 0 }
    }

    /// Adds the numbers of the sprites that reach into the area. It has no branch for each sprite, because the result
    /// at the edge of the area can't be predicted.
    #[inline]
    fn add(&mut self, slots: &[Slot], found: &mut Vec<u32>) {
        for part in slots.chunks(Self::PART) {
            if self.count + part.len() > Self::ROOM {
                self.empty_into(found);
            }
            for slot in part {
                self.numbers[self.count % Self::ROOM] = slot.number;
                self.count += usize::from(slot.sprite.reaches(self.across));
            }
        }
    }

    fn empty_into(&mut self, found: &mut Vec<u32>) {
        found.extend_from_slice(&self.numbers[..self.count.min(Self::ROOM)]);
        self.count = 0;
    }
}

impl Tier {
    /// Counts one more sprite.
    #[inline]
    fn add(&mut self, home: &Home) {
        if self.count == 0 {
            self.reach = 0.0;
        }
        self.count += 1;
        self.widen(home);
    }

    #[inline]
    fn widen(&mut self, home: &Home) {
        self.reach = self.reach.max(home.reach);
    }

    /// Returns the cells that may contain the middle of a sprite which reaches into an area: the first and the last.
    fn cells_about(&self, area: &Rect, corner: DVec2) -> (UVec2, UVec2) {
        (self.cell(area.min - self.reach - corner), self.cell(area.max + self.reach - corner))
    }

    /// Returns the cell that contains a point, given from the corner of the tier. For points outside, the nearest cell.
    #[inline]
    fn cell(&self, from_corner: DVec2) -> UVec2 {
        // The conversion turns negative numbers and NaN into 0.
        let cell = from_corner * self.per_side;
        UVec2::new(cell.x as u32, cell.y as u32).min(self.size - 1)
    }
}
