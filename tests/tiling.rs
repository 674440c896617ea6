//! Tiles in view, against brute force.

use std::collections::BTreeSet;
use std::ops::Range;

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Grid, GridEdge, Lens, Overhang, PerAxis, Screen, Snap, View, YAxis};

use crate::support::properties::properties;
use crate::support::{canvas, corners, overlap};

#[derive(Debug)]
struct Case {
    view: View,
    grid: Grid,
    edges: PerAxis<GridEdge>,
    overhang: Overhang,
    from_bottom: bool,
}

impl Case {
    fn plain(view: View, grid: Grid) -> Self {
        let (edges, overhang) = (PerAxis::default(), Overhang::default());
        Self { view, grid, edges, overhang, from_bottom: false }
    }

    /// The number of the row that is this many rows below the top.
    fn number(&self, from_top: i64) -> i64 {
        if self.from_bottom { i64::from(self.grid.rows()) - 1 - from_top } else { from_top }
    }
}

const EDGES: [GridEdge; 4] =
    [GridEdge::Clamped, GridEdge::Clamped, GridEdge::Wrapped, GridEdge::Unbounded];

fn overhangs() -> impl Strategy<Value = Overhang> {
    let side = || prop_oneof![3 => Just(0.0), 1 => Just(1.0), 1 => 0.0..2.5_f64];
    (side(), side(), side(), side()).prop_map(|(left, right, up, down)| Overhang {
        left,
        right,
        up,
        down,
    })
}

prop_compose! {
    fn cases(turned: bool)(
        size in (1..90_u32, 1..90_u32),
        unit_pixels in prop_oneof![Just(1.0), 0.3..4.0_f64],
        up in any::<bool>(),
        zoom in prop_oneof![Just(1.0), Just(2.0), 0.4..3.0_f64],
        angle in -7.0..7.0_f64,
        snap in prop::sample::select(&[Snap::Off, Snap::Whole, Snap::Subpixel]),
        grid in (1..14_u32, 1..14_u32),
        tile in prop_oneof![Just((16.0, 16.0)), (5.0..40.0_f64, 5.0..40.0_f64)],
        origin in prop_oneof![Just((0.0, 0.0)), (-300.0..300.0_f64, -300.0..300.0_f64)],
        centre in (-0.3..1.3_f64, -0.3..1.3_f64),
        whole in any::<bool>(),
        edges in (prop::sample::select(&EDGES), prop::sample::select(&EDGES)),
        overhang in overhangs(),
        from_bottom in any::<bool>(),
    ) -> Case {
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let screen = Screen { size: size.into(), unit_pixels, y_axis, ..Screen::default() };
        let rotation = if turned { angle } else { 0.0 };
        let lens = Lens::new(&screen).with_zoom(zoom).with_rotation(rotation);
        let edges = PerAxis { x: edges.0, y: edges.1 };
        let grid = Grid::new(grid.0, grid.1, tile).with_origin(origin).with_edges(edges).with_overhang(overhang);
        let grid = if from_bottom { grid.with_rows_from_bottom() } else { grid };
        let at = grid.rect().min + grid.rect().size() * DVec2::from(centre);
        let at = if whole { at.round() } else { at };
        Case { view: View::new(lens, at, snap), grid, edges, overhang, from_bottom }
    }
}

/// The world corners of what a tile shows, in order around it.
fn tile_corners(
    grid: &Grid,
    y_axis: YAxis,
    overhang: &Overhang,
    column: i64,
    row: i64,
) -> [DVec2; 4] {
    let (tile, rect) = (grid.tile_size(), grid.rect());
    let top = if y_axis == YAxis::Down { rect.min.y } else { rect.max.y };
    let down = if y_axis == YAxis::Down { tile.y } else { -tile.y };
    let (left, right) = (column as f64 - overhang.left, column as f64 + 1.0 + overhang.right);
    let (above, below) = (row as f64 - overhang.up, row as f64 + 1.0 + overhang.down);
    [(left, above), (right, above), (right, below), (left, below)]
        .map(|(x, y)| DVec2::new(rect.min.x + x * tile.x, top + y * down))
}

/// Columns and rows that may be in view, and some around them.
fn nearby(Case { view, grid, edges, overhang, .. }: &Case) -> (Range<i64>, Range<i64>) {
    let corners = corners(&canvas(view)).map(|corner| view.lens().to_world_axes(corner));
    let origin = tile_corners(grid, view.lens().y_axis(), &Overhang::default(), 0, 0)[0];
    let cells = corners.map(|corner| ((corner - origin) / grid.tile_size()).abs());
    let most = cells.iter().map(|cell| cell.max_element()).fold(0.0, f64::max);
    let beyond =
        [overhang.left, overhang.right, overhang.up, overhang.down].into_iter().sum::<f64>();
    let far = (most + beyond) as i64 + 3;
    let near = |edge, count: u32| match edge {
        GridEdge::Clamped => 0..i64::from(count),
        _ => -far..far,
    };
    (near(edges.x, grid.columns()), near(edges.y, grid.rows()))
}

/// Each tile near the view with how far it reaches into the canvas, and whether it was listed.
fn brute_force(case: &Case) -> Vec<(i64, i64, f64, bool)> {
    let Case { view, grid, edges, overhang, .. } = case;
    let mut listed = BTreeSet::new();
    for piece in view.tiles(grid).rows() {
        let sliced = edges.x != GridEdge::Unbounded && edges.y != GridEdge::Unbounded;
        assert_eq!(piece.indices().is_empty(), !sliced);
        for (index, column) in piece.columns().enumerate() {
            assert!(listed.insert((column, piece.row())), "listed twice");
            // The piece is contiguous in the slice, and each index is its own tile's.
            let stands = grid.index(column, piece.row());
            assert_eq!(stands, sliced.then(|| piece.indices().start + index));
        }
    }
    let canvas = corners(&canvas(view));
    let (columns, rows) = nearby(case);
    let answer: Vec<_> = rows
        .flat_map(|row| columns.clone().map(move |column| (column, row)))
        .map(|(column, row)| {
            let corners = tile_corners(grid, view.lens().y_axis(), overhang, column, row)
                .map(|corner| view.lens().to_screen_axes(corner));
            let row = case.number(row);
            (column, row, overlap(&canvas, &corners), listed.remove(&(column, row)))
        })
        .collect();
    assert!(listed.is_empty(), "far from the view: {listed:?}");
    answer
}

properties! {
    #![cases(50_000)]

    #[test]
    fn listed_are_the_tiles_that_touch(case in cases(false)) {
        let mut count = 0;
        for (column, row, overlap, listed) in brute_force(&case) {
            count += usize::from(listed);
            // Where edges meet exactly, only the last bits of the test's own sums may differ.
            prop_assert!(overlap.abs() < 1e-9 || listed == (overlap > 0.0),
                "column {column}, row {row}: overlap {overlap}, listed {listed}");
        }
        prop_assert_eq!(count, case.view.tiles(&case.grid).count());
    }

    #[test]
    fn listed_are_the_tiles_that_touch_a_turned_view(case in cases(true)) {
        for (column, row, overlap, listed) in brute_force(&case) {
            prop_assert!(overlap.abs() < 1e-9 || listed == (overlap > 0.0),
                "column {column}, row {row}: overlap {overlap}, listed {listed}");
        }
    }

    /// On whole pixels the arithmetic is exact, and so is half-openness: no tile that only touches.
    #[test]
    fn whole_pixels_are_half_open(x in -40..400_i32, y in -40..400_i32, w in 1..80_u32, h in 1..80_u32) {
        let screen = Screen { size: UVec2::new(2 * w, 2 * h), ..Screen::default() };
        let view = View::new(Lens::new(&screen), [x, y], Snap::Whole);
        let case = Case::plain(view, Grid::new(20, 20, [16, 16]));
        for (column, row, overlap, listed) in brute_force(&case) {
            prop_assert_eq!(listed, overlap > 0.0, "column {}, row {}", column, row);
        }
    }

    #[test]
    fn neighbours_share_their_edges(case in cases(false)) {
        let mut last: Option<velvet_pan::Tile> = None;
        for tile in case.view.tiles(&case.grid).rows().flat_map(|row| row.tiles().collect::<Vec<_>>()) {
            if let Some(last) = last.filter(|last| last.row == tile.row) {
                prop_assert_eq!(last.rect.max.x, tile.rect.min.x);
            }
            if case.view.snap() != Snap::Off {
                prop_assert_eq!(tile.rect.min, tile.rect.min.round());
            }
            last = Some(tile);
        }
    }

    /// A tile is drawn where a point at its corner is placed.
    #[test]
    fn tiles_stand_where_the_ground_stands(case in cases(false)) {
        let tiles = case.view.tiles(&case.grid);
        let Some(row) = tiles.rows().next() else { return Ok(()) };
        let (y_axis, column) = (case.view.lens().y_axis(), row.columns().start);
        let from_top = case.number(row.row());
        let corner = tile_corners(&case.grid, y_axis, &Overhang::default(), column, from_top)[0];
        let apart = row.canvas_position() - case.view.canvas_position(corner);
        let most = if case.view.snap() == Snap::Off { 1e-3 } else { 1.0 };
        prop_assert!(apart.abs().max_element() <= most);
    }
}

properties! {
    #![cases(2000)]

    /// Only what is filled comes, each with its own number, whatever the slice's length.
    #[test]
    fn blank_tiles_are_passed_over(case in cases(true), map in prop::collection::vec(0..3_u8, 0..220)) {
        let all = case.view.tiles(&case.grid);
        let held = |column, row| {
            let index = case.grid.index(column, row)?;
            map.get(index).copied().filter(|number| *number != 0)
        };
        let expected: Vec<_> = all
            .rows()
            .flat_map(|row| row.tiles().collect::<Vec<_>>())
            .filter_map(|tile| Some((tile, held(tile.column, tile.row)?)))
            .collect();
        let listed: Vec<_> = all
            .rows()
            .flat_map(|row| row.filled(&map, |number| *number != 0).collect::<Vec<_>>())
            .map(|(tile, number)| (tile, *number))
            .collect();
        prop_assert_eq!(listed, expected);
    }
}

/// A lap of a wrapped world later everything is as it was.
#[test]
fn a_wrapped_map_comes_around() {
    let grid = Grid::new(40, 12, [16, 16]).with_edges(GridEdge::Wrapped);
    let seen = |x: f64| -> Vec<(usize, Vec2)> {
        let view = View::new(Lens::new(&Screen::default()), [x, 90.0], Snap::Subpixel);
        let tiles = view.tiles(&grid);
        let pieces = tiles.rows().map(|row| (row.indices().start, row.canvas_position()));
        pieces.collect()
    };
    for x in [0.0, 17.25, 333.3, 639.0] {
        assert_eq!(seen(x), seen(x + 640.0));
        assert_eq!(seen(x), seen(x - 3.0 * 640.0));
    }
}

/// Far from the origin and at any zoom, tiles are listed, and soon.
#[test]
fn grids_without_end_at_any_size() {
    for (place, zoom) in [(1e300, 1.0), (-1e18, 1e-9), (0.0, 1e-9), (1e15, 1e9)] {
        for rotation in [0.0, 1e-3] {
            let lens = Lens::new(&Screen::default()).with_zoom(zoom).with_rotation(rotation);
            let view = View::new(lens, [place, place], Snap::Subpixel);
            let tiles = view.tiles(&Grid::unbounded([1e-3, 1e3]));
            for row in tiles.rows().take(3) {
                assert_eq!(row.indices(), 0..0);
                assert!(row.tiles().take(3).count() <= 3);
            }
        }
    }
}

#[test]
fn grids_that_are_none_have_no_tiles() {
    let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off);
    for grid in [
        Grid::new(0, 5, [16, 16]),
        Grid::new(5, 5, [0, 16]),
        Grid::new(5, 5, [f64::NAN, 16.0]),
        Grid::new(5, 5, [16.0, f64::INFINITY]),
        Grid::new(5, 5, [16, 16]).with_origin([1e12, 0.0]),
    ] {
        let tiles = view.tiles(&grid);
        assert!(tiles.is_empty() && tiles.count() == 0 && tiles.rows().count() == 0, "{grid:?}");
    }
}

#[test]
fn the_tile_under_a_point() {
    for (y_axis, world) in [(YAxis::Down, [40.0, 8.0]), (YAxis::Up, [40.0, 952.0])] {
        let screen = Screen { y_axis, ..Screen::default() };
        let view = View::new(Lens::new(&screen), [100, 100], Snap::Off);
        let grid = Grid::new(240, 60, [16, 16]);
        assert_eq!(view.in_grid(&grid, world), DVec2::new(2.5, 0.5));
        assert_eq!(view.in_grid(&grid.with_rows_from_bottom(), world), DVec2::new(2.5, 59.5));
    }
}

#[test]
fn far_out_the_window_is_still_exact() {
    let grid = Grid::new(1000, 1000, [16, 16]).with_origin([1e7, -1e7]);
    let view = View::new(Lens::new(&Screen::default()), [1e7 + 1600.0, -1e7 + 800.0], Snap::Whole);
    let tiles = view.tiles(&grid);
    assert_eq!((tiles.columns(), tiles.row_numbers()), (90..110, 44..56));
    let first = tiles.rows().next().expect("in view");
    assert_eq!(first.canvas_position(), Vec2::new(0.0, -6.0));
}

/// A map that the game indexes with a `y` that points up is not upside down.
#[test]
fn rows_that_count_upwards() {
    let screen = Screen { y_axis: YAxis::Up, ..Screen::default() };
    let view = View::new(Lens::new(&screen), [160, 90], Snap::Off);
    let grid = Grid::new(20, 12, [16, 16]).with_rows_from_bottom();
    let map: Vec<(u32, u32)> = (0..12).flat_map(|y| (0..20).map(move |x| (x, y))).collect();
    for row in view.tiles(&grid).rows() {
        for (tile, (x, y)) in row.filled(&map, |_| true) {
            let middle = DVec2::new(f64::from(*x) + 0.5, f64::from(*y) + 0.5) * 16.0;
            assert_eq!(tile.rect.centre(), view.world_to_screen(middle));
            assert_eq!(grid.tile_rect(*x, *y, YAxis::Up).centre(), middle);
        }
    }
}

properties! {
    #![cases(500)]

    /// The filled extent, against asking every tile.
    #[test]
    fn the_filled_extent_holds_just_the_filled_tiles(
        size in (1..9_u32, 1..9_u32), filled in prop::collection::vec(prop::bool::weighted(0.1), 0..90),
        up in any::<bool>(), from_bottom in any::<bool>(), origin in (-99.0..99.0_f64, -99.0..99.0_f64),
    ) {
        let grid = Grid::new(size.0, size.1, [16, 9]).with_origin(origin);
        let grid = if from_bottom { grid.with_rows_from_bottom() } else { grid };
        let from_top = |row: u32| i64::from(if from_bottom { size.1 - 1 - row } else { row });
        let y_axis = if up { YAxis::Up } else { YAxis::Down };
        let corners = (0..size.1)
            .flat_map(|row| (0..size.0).map(move |column| (column, row)))
            .filter(|(column, row)| filled.get((row * size.0 + column) as usize) == Some(&true))
            .flat_map(|(column, row)| tile_corners(&grid, y_axis, &Overhang::default(), column.into(), from_top(row)));
        let corners: Vec<DVec2> = corners.collect();
        match grid.filled_rect(&filled, y_axis, |tile| *tile) {
            None => prop_assert!(corners.is_empty()),
            Some(rect) => {
                let min = corners.iter().copied().reduce(DVec2::min).expect("filled");
                let max = corners.iter().copied().reduce(DVec2::max).expect("filled");
                prop_assert!((rect.min - min).length() < 1e-9 && (rect.max - max).length() < 1e-9);
            }
        }
    }
}
