//! Chunks: needed ones are loaded, distant ones are not, and none flaps.

use std::collections::BTreeSet;

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{
    Chunk, Chunks, Grid, GridEdge, Lens, Overhang, PerAxis, Rect, Screen, Snap, View, YAxis,
};

use crate::support::properties::properties;

const EDGES: [GridEdge; 3] = [GridEdge::Clamped, GridEdge::Wrapped, GridEdge::Unbounded];

#[derive(Debug)]
struct Case {
    grid: Grid,
    edges: [GridEdge; 2],
    chunk: (u32, u32),
    overhang: Overhang,
    margin: f64,
    keep: f64,
    ahead: f64,
    y_axis: YAxis,
    from_bottom: bool,
    /// The movement from view to view, sometimes a cut.
    ways: Vec<DVec2>,
}

prop_compose! {
    fn overhangs()(left in 0.0..2.0_f64, right in 0.0..2.0_f64, up in 0.0..2.0_f64, down in 0.0..2.0_f64) -> Overhang {
        Overhang { left, right, up, down }
    }
}

prop_compose! {
    fn cases()(
        size in (1..40_u32, 1..40_u32), tile in (8.0..40.0_f64, 8.0..40.0_f64),
        edges in (prop::sample::select(&EDGES), prop::sample::select(&EDGES)),
        chunk in (1..9_u32, 1..9_u32), overhang in overhangs(), margin in 0.0..3.0_f64, keep in 0.0..8.0_f64,
        ahead in prop_oneof![Just(0.0), 0.0..1.0_f64], up in any::<bool>(), from_bottom in any::<bool>(),
        ways in prop::collection::vec(
            prop_oneof![9 => (-20.0..30.0_f64, -20.0..20.0_f64), 1 => (-900.0..900.0_f64, -900.0..900.0_f64)], 12,
        ),
    ) -> Case {
        let (x, y) = edges;
        let grid = Grid::new(size.0, size.1, tile).with_origin([-50, 30]).with_edges(PerAxis { x, y })
            .with_overhang(overhang);
        let grid = if from_bottom { grid.with_rows_from_bottom() } else { grid };
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let ways = ways.into_iter().map(DVec2::from).collect();
        Case { grid, edges: [x, y], chunk, overhang, margin, keep, ahead, y_axis, from_bottom, ways }
    }
}

/// The tiles whose pictures touch an area, by their own edges, as numbers per axis.
fn tiles_in(case: &Case, area: &Rect) -> [BTreeSet<i64>; 2] {
    let (tile, rect) = (case.grid.tile_size(), case.grid.rect());
    let count = [case.grid.columns(), case.grid.rows()];
    [0, 1].map(|axis| {
        let flipped = axis == 1 && case.y_axis == YAxis::Up;
        let (low, high) = if flipped {
            (rect.max.y - area.max.y, rect.max.y - area.min.y)
        } else {
            (area.min[axis] - rect.min[axis], area.max[axis] - rect.min[axis])
        };
        let Overhang { left, right, up, down } = case.overhang;
        let (before, past) = [(left, right), (up, down)][axis];
        // The edges decide; the ends only leave out what is far away.
        let (first, last) = ((low / tile[axis]) as i64 - 5, (high / tile[axis]) as i64 + 5);
        (first..=last)
            .filter(|number| {
                let (start, end) = (*number as f64 - before, *number as f64 + 1.0 + past);
                start * tile[axis] < high - 1e-6 && end * tile[axis] > low + 1e-6
            })
            .filter(|number| {
                case.edges[axis] != GridEdge::Clamped
                    || (0..i64::from(count[axis])).contains(number)
            })
            .map(|number| {
                let counts_up = axis == 1 && case.from_bottom;
                if counts_up { i64::from(count[1]) - 1 - number } else { number }
            })
            .collect()
    })
}

/// The chunk of each of these tiles, by the tile of the map if it wraps.
fn chunks_of(case: &Case, tiles: &[BTreeSet<i64>; 2]) -> BTreeSet<Chunk> {
    let count = [case.grid.columns(), case.grid.rows()].map(i64::from);
    let size = [case.chunk.0, case.chunk.1].map(i64::from);
    // A chunk is a column and a row of chunks: the axes do not depend on each other.
    let [columns, rows] = [0, 1].map(|axis| {
        let wraps = case.edges[axis] == GridEdge::Wrapped;
        let of_map = |tile: i64| if wraps { tile.rem_euclid(count[axis]) } else { tile };
        tiles[axis].iter().map(|tile| of_map(*tile).div_euclid(size[axis])).collect::<BTreeSet<_>>()
    });
    let pairs = rows.iter().flat_map(|row| columns.iter().map(move |column| (*column, *row)));
    pairs.map(|(column, row)| Chunk { column, row }).collect()
}

properties! {
    #![cases(10_000)]

    /// Over a walk of twelve views, all needed chunks are loaded, no distant one is, and the reported changes are the
    /// difference.
    #[test]
    fn what_is_needed_is_loaded(case in cases()) {
        let Case { grid, chunk, margin, keep, ahead, y_axis, .. } = &case;
        let mut chunks = Chunks::new(grid, *chunk).with_margin(*margin).with_keep(*keep).with_ahead(*ahead);
        let lens = Lens::new(&Screen { size: (60, 40).into(), y_axis: *y_axis, ..Screen::default() });
        let mut loaded = BTreeSet::new();
        let mut centre = grid.rect().centre();
        for (step, way) in case.ways.iter().enumerate() {
            centre += *way;
            let view = View::new(lens, centre, Snap::Whole).with_time(step as f64 * 0.5);
            let change = chunks.update(&view);
            let (load, drop): (Vec<_>, Vec<_>) = (change.to_load().collect(), change.to_drop().collect());
            prop_assert_eq!(change.is_empty(), load.is_empty() && drop.is_empty());
            for one in drop {
                prop_assert!(loaded.remove(&one), "dropped, but not there: {one:?}");
            }
            for one in load {
                prop_assert!(loaded.insert(one), "loaded twice: {one:?}");
            }
            let listed: Vec<Chunk> = chunks.loaded().collect();
            prop_assert_eq!(listed.len(), loaded.len());
            prop_assert!(listed.iter().all(|one| loaded.contains(one)));

            // All that the view shows, with the margin and the way ahead.
            let jumped = step == 0 || way.x.abs() > 60.0 || way.y.abs() > 40.0;
            let ahead = if jumped { DVec2::ZERO } else { *way / 0.5 * *ahead };
            let sight = view.sight().bounding();
            let area = Rect { min: sight.min + ahead.min(DVec2::ZERO), max: sight.max + ahead.max(DVec2::ZERO) };
            let widened = |tiles: f64| {
                let by = grid.tile_size() * tiles;
                chunks_of(&case, &tiles_in(&case, &Rect { min: area.min - by, max: area.max + by }))
            };
            let needed = widened(*margin);
            prop_assert!(needed.is_subset(&loaded), "missing: {:?}", needed.difference(&loaded));
            // Half a tile of rounding up, on each of the two margins.
            let wide = widened(margin.ceil() + keep.ceil() + 1.0);
            prop_assert!(loaded.is_subset(&wide), "too far: {:?}", loaded.difference(&wide));
        }
    }

    /// A view that swings about a line within the kept distance loads once and drops nothing.
    #[test]
    fn a_view_that_swings_loads_each_chunk_once(at in -300.0..300.0_f64, swing in 0.0..60.0_f64, size in 1..9_u32) {
        let grid = Grid::unbounded([16, 16]);
        let mut chunks = Chunks::new(&grid, (size, size)).with_keep(swing / 16.0 + 1.0);
        let lens = Lens::new(&Screen::default());
        let mut look = |x: f64| {
            let change = chunks.update(&View::new(lens, [x, 0.0], Snap::Subpixel));
            (change.to_load().count(), change.to_drop().count())
        };
        look(at);
        look(at + swing);
        for _swing in 0..4 {
            prop_assert_eq!(look(at), (0, 0));
            prop_assert_eq!(look(at + swing), (0, 0));
        }
    }
}

#[test]
fn a_chunk_knows_its_tiles() {
    let chunks = Chunks::new(&Grid::new(20, 9, [16, 16]), [8, 8]);
    assert_eq!(chunks.tiles(Chunk { column: 0, row: 0 }), (0..8, 0..8));
    assert_eq!(chunks.tiles(Chunk { column: 2, row: 1 }), (16..20, 8..9), "less at the far edges");
    let endless = Chunks::new(&Grid::unbounded([16, 16]), [8, 8]);
    assert_eq!(endless.tiles(Chunk { column: -1, row: 3 }), (-8..0, 24..32));
}

#[test]
fn odd_grids_have_an_answer() {
    let view = View::new(Lens::new(&Screen::default()), [1e300, 0.0], Snap::Off);
    let none = Grid::new(0, 0, [16, 16]);
    for grid in [
        none,
        none.with_edges(GridEdge::Wrapped),
        Grid::new(4, 4, [f64::NAN, 1.0]).with_edges(GridEdge::Unbounded),
    ] {
        let mut chunks = Chunks::new(&grid, [0, 0])
            .with_margin(f64::NAN)
            .with_keep(-3.0)
            .with_ahead(f64::INFINITY);
        assert!(chunks.update(&view).is_empty() && chunks.loaded().next().is_none());
    }
    let mut far = Chunks::new(&Grid::unbounded([1e-6, 1e6]), [1, 1]);
    assert!(far.update(&view).to_load().take(5).count() <= 5);
}

properties! {
    #![cases(150)]

    /// On a map that wraps, a loaded chunk within the kept distance stays loaded across the edge, and after any number
    /// of laps.
    #[test]
    fn what_is_near_stays_loaded_around_the_map(
        columns in 40..80_u32, size in 1..6_u32, keep in 0..6_u32,
        ways in prop::collection::vec((-28.0..28.0_f64, -15.0..15.0_f64, -2..=2_i32), 60), drift in -20.0..20.0_f64,
    ) {
        let edges = [GridEdge::Wrapped; 2];
        let grid = Grid::new(columns, 50, [10, 10]).with_edges(PerAxis::both(GridEdge::Wrapped));
        let case = Case {
            grid, edges, chunk: (size, size), margin: 0.0, keep: keep.into(), ahead: 0.0,
            y_axis: YAxis::Down,
            from_bottom: false, ways: vec![], overhang: Overhang::default(),
        };
        let mut chunks = Chunks::new(&grid, case.chunk).with_margin(0.0).with_keep(case.keep);
        let lens = Lens::new(&Screen { size: (60, 40).into(), ..Screen::default() });
        let mut at = DVec2::ZERO;
        for (x, y, laps) in ways {
            at += DVec2::new(x + drift, y);
            // The same place, some laps farther.
            let centre = at + DVec2::new(f64::from(columns), 50.0) * 10.0 * f64::from(laps);
            let loaded: BTreeSet<Chunk> = chunks.loaded().collect();
            let view = View::new(lens, centre, Snap::Whole);
            let change = chunks.update(&view);
            let dropped: BTreeSet<Chunk> = change.to_drop().collect();
            let mut near = tiles_in(&case, &view.sight().bounding());
            // Steps are shorter than a view, so that only needed columns and rows are new.
            let known: BTreeSet<Chunk> = chunks_of(&case, &near).union(&loaded).copied().collect();
            let is_known = |one: &Chunk| {
                known.iter().any(|other| other.column == one.column)
                    && known.iter().any(|other| other.row == one.row)
            };
            prop_assert!(change.to_load().all(|one| is_known(&one)), "loaded, but not needed");
            for tiles in &mut near {
                let (first, last) = (*tiles.first().unwrap(), *tiles.last().unwrap());
                *tiles = (first - i64::from(keep)..=last + i64::from(keep)).collect();
            }
            let near = chunks_of(&case, &near);
            let lost: Vec<_> = loaded.intersection(&near).filter(|one| dropped.contains(one)).collect();
            prop_assert!(lost.is_empty(), "dropped, but near: {lost:?}");
        }
    }
}
