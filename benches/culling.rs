//! The cost of finding what is visible: tiles compared with bare loops, sprites with a general-purpose spatial index.

use std::hint::black_box;

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use rstar::primitives::{GeomWithData, Rectangle};
use rstar::{AABB, RTree};
use velvet_pan::glam::DVec2;
use velvet_pan::{Boxes, Grid, GridEdge, Layer, Lens, Rect, Screen, Sight, Snap, SpriteGrid, View};

/// Views of 320 x 180 that move around a point.
fn views(around: DVec2, rotation: f64) -> Vec<View> {
    let lens = Lens::new(&Screen::default()).with_rotation(rotation);
    let at = |frame: u32| around + DVec2::from_angle(f64::from(frame) * 0.37) * 40.3;
    (0..64).map(|frame| View::new(lens, at(frame), Snap::Subpixel)).collect()
}

/// The visible tiles of maps of different sizes, each large enough to fill the view.
fn window(c: &mut Criterion) {
    let mut group = c.benchmark_group("tile window");
    for (side, tile) in [(10, 96.0), (100, 96.0), (1000, 96.0), (31_623, 96.0)] {
        let grid = Grid::new(side, side, [tile, tile]);
        let views = views(grid.rect().centre(), 0.0);
        let name = format!("{:.0e} tiles in the map", f64::from(side).powi(2));
        let mut frame = 0;
        group.bench_function(name, |b| {
            b.iter(|| {
                frame = (frame + 1) % views.len();
                let tiles = views[frame].tiles(black_box(&grid));
                tiles.rows().map(|row| row.columns().end - row.columns().start).sum::<i64>()
            });
        });
    }
    group.finish();
}

/// The visible tiles of a map of 1000 x 1000, summed up by two bare loops.
fn nested_loops(view: &View, map: &[u16]) -> u64 {
    let (low, size) = (view.corner(), view.canvas_size());
    let (tile, side) = (black_box(16), black_box(1000));
    let first = low / tile;
    let last = (low + size.as_i64vec2() - 1) / tile;
    let mut sum = 0_u64;
    for row in first.y.max(0)..=last.y.min(side - 1) {
        for column in first.x.max(0)..=last.x.min(side - 1) {
            sum += u64::from(map[(row * side + column) as usize]);
        }
    }
    sum
}

/// Visiting the visible tiles of a map of a million, compared with two bare nested loops.
fn visiting(c: &mut Criterion) {
    let grid = Grid::new(1000, 1000, [16, 16]);
    let map: Vec<u16> =
        (0..1_000_000_u32).map(|i| (i.wrapping_mul(2_654_435_761) >> 16) as u16).collect();
    let (upright, turned) = (views(grid.rect().centre(), 0.0), views(grid.rect().centre(), 0.4));
    let mut group = c.benchmark_group("visiting the visible of a million tiles");
    let mut frame = 0;
    group.bench_function("baseline: two nested loops", |b| {
        b.iter(|| {
            frame = (frame + 1) % upright.len();
            nested_loops(black_box(&upright[frame]), &map)
        });
    });
    for (name, views) in [("row by row", &upright), ("row by row, turned", &turned)] {
        group.bench_function(name, |b| {
            b.iter(|| {
                frame = (frame + 1) % views.len();
                let tiles = views[frame].tiles(black_box(&grid));
                let sum = |row: velvet_pan::TileRow<'_>| -> u64 {
                    map[row.indices()].iter().map(|number| u64::from(*number)).sum()
                };
                tiles.rows().map(sum).sum::<u64>()
            });
        });
    }
    group.bench_function("row by row, wrapped", |b| {
        let grid = grid.with_edges(GridEdge::Wrapped);
        b.iter(|| {
            frame = (frame + 1) % upright.len();
            let tiles = upright[frame].tiles(black_box(&grid));
            let sum = |row: velvet_pan::TileRow<'_>| -> u64 {
                map[row.indices()].iter().map(|number| u64::from(*number)).sum()
            };
            tiles.rows().map(sum).sum::<u64>()
        });
    });
    for (name, views) in
        [("with each tile's place", &upright), ("with each tile's place, turned", &turned)]
    {
        group.bench_function(name, |b| {
            b.iter(|| {
                frame = (frame + 1) % views.len();
                let tiles = views[frame].tiles(black_box(&grid));
                let mut sum = 0.0;
                for row in tiles.rows() {
                    for (tile, number) in row.filled(&map, |number| *number > 30_000) {
                        sum += tile.rect.min.x + f32::from(*number);
                    }
                }
                sum
            });
        });
    }
    let counts = |views: &[View]| {
        views.iter().map(|view| view.tiles(&grid).count()).sum::<usize>() as f64 / 64.0
    };
    println!("tiles in view: {:.1} upright, {:.1} turned", counts(&upright), counts(&turned));
    group.finish();
}

/// A million sprites, about sixty of which are in a view.
const SPRITES: usize = 1_000_000;
const WORLD: DVec2 = DVec2::new(44_000.0, 25_000.0);

fn crowd() -> Vec<Rect> {
    let mut random = SmallRng::seed_from_u64(3);
    let mut sprite = || {
        let corner =
            DVec2::new(random.random_range(0.0..WORLD.x), random.random_range(0.0..WORLD.y));
        Rect::from_corner_size(corner, DVec2::splat(random.random_range(4.0..28.0)))
    };
    (0..SPRITES).map(|_| sprite()).collect()
}

type Indexed = GeomWithData<Rectangle<[f64; 2]>, u32>;

fn indexed(crowd: &[Rect]) -> Vec<Indexed> {
    (0..).zip(crowd).map(|(number, rect)| indexed_one(number, rect)).collect()
}

fn indexed_one(number: u32, rect: &Rect) -> Indexed {
    GeomWithData::new(Rectangle::from_corners(rect.min.to_array(), rect.max.to_array()), number)
}

fn area() -> Rect {
    Rect { min: DVec2::ZERO, max: WORLD }
}

/// What views anywhere in the world see.
fn sights() -> Vec<Sight> {
    let mut random = SmallRng::seed_from_u64(4);
    let lens = Lens::new(&Screen::default());
    let mut centre =
        || DVec2::new(random.random_range(200.0..WORLD.x), random.random_range(200.0..WORLD.y));
    (0..512).map(|_| View::new(lens, centre(), Snap::Subpixel).sight()).collect()
}

fn seen_by_tree(tree: &RTree<Indexed>, sight: &Sight, found: &mut Vec<u32>) {
    let area = sight.bounding();
    let area = AABB::from_corners(area.min.to_array(), area.max.to_array());
    found.clear();
    found.extend(tree.locate_in_envelope_intersecting(area).map(|item| item.data));
}

fn sprites(c: &mut Criterion) {
    let (crowd, sights) = (crowd(), sights());
    let mut group = c.benchmark_group("a million sprites, those in view");
    let mut found = Vec::with_capacity(1000);
    let mut frame = 0;
    let tree = RTree::bulk_load(indexed(&crowd));
    group.bench_function("baseline: a general-purpose tree", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            seen_by_tree(&tree, &sights[frame], &mut found);
            found.sort_unstable();
            found.len()
        });
    });
    group.bench_function("baseline: the tree, in any order", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            seen_by_tree(&tree, &sights[frame], &mut found);
            found.len()
        });
    });
    let grid = SpriteGrid::of(&area(), 64.0, &crowd);
    group.bench_function("the grid", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            grid.seen(&sights[frame], &mut found);
            found.len()
        });
    });
    group.bench_function("the grid, in any order", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            grid.seen_in_any_order(&sights[frame], &mut found);
            found.len()
        });
    });
    let mean = sights.iter().map(|sight| {
        grid.seen(sight, &mut found);
        found.len()
    });
    println!("found on average: {:.1}", mean.sum::<usize>() as f64 / sights.len() as f64);
    let mut boxes = Boxes::new();
    for sprite in &crowd {
        boxes.push(sprite);
    }
    group.sample_size(20);
    group.bench_function("the linear pass", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            boxes.seen(&sights[frame], &mut found);
            found.len()
        });
    });
    group.finish();
    moving(c, crowd, grid, tree, &sights);
}

/// A crowd in which each sprite moves every tenth frame, after a thousand frames of mixing.
fn moving(
    c: &mut Criterion,
    crowd: Vec<Rect>,
    mut grid: SpriteGrid,
    mut tree: RTree<Indexed>,
    sights: &[Sight],
) {
    let mut crowd = Crowd { sprites: crowd, random: SmallRng::seed_from_u64(5), frame: 0 };
    let mut group = c.benchmark_group("a million sprites, one in ten moves");
    group.sample_size(10);
    group.bench_function("baseline: the tree, out and in again", |b| {
        b.iter(|| {
            crowd.walk(|number, before, now| {
                tree.remove(&indexed_one(number, before));
                tree.insert(indexed_one(number, now));
            });
        });
    });
    drop(tree);
    for (number, sprite) in (0..).zip(&crowd.sprites) {
        grid.set(number, sprite);
    }
    for _mixing in 0..1000 {
        crowd.walk(|number, _, now| assert!(grid.set(number, now)));
    }
    group.bench_function("the grid", |b| {
        b.iter(|| crowd.walk(|number, _, now| assert!(grid.set(number, now))));
    });
    group.bench_function("walking alone", |b| {
        b.iter(|| {
            crowd.walk(|_, _, now| {
                black_box(now);
            });
        });
    });
    group.finish();
    let (mut found, mut frame) = (Vec::with_capacity(1000), 0);
    let mut group = c.benchmark_group("a million sprites, well mixed, those in view");
    group.bench_function("the grid", |b| {
        b.iter(|| {
            frame = (frame + 1) % sights.len();
            grid.seen(&sights[frame], &mut found);
            found.len()
        });
    });
    group.finish();
}

/// Sprites that walk at random.
struct Crowd {
    sprites: Vec<Rect>,
    random: SmallRng,
    frame: usize,
}

impl Crowd {
    /// Runs a frame, in which one in ten moves. `moved` receives its number, and its old and new rectangle.
    fn walk(&mut self, mut moved: impl FnMut(u32, &Rect, &Rect)) {
        self.frame += 1;
        for number in (self.frame % 10..self.sprites.len()).step_by(10) {
            let way = DVec2::new(
                self.random.random_range(-8.0..8.0),
                self.random.random_range(-8.0..8.0),
            );
            let before = self.sprites[number];
            let now = Rect { min: before.min + way, max: before.max + way };
            self.sprites[number] = now;
            moved(number as u32, &before, &now);
        }
    }
}

fn building(c: &mut Criterion) {
    let crowd = crowd();
    let items = indexed(&crowd);
    let mut group = c.benchmark_group("a million sprites, built");
    group.sample_size(10);
    group.bench_function("baseline: a general-purpose tree, in bulk", |b| {
        b.iter_batched(|| items.clone(), RTree::bulk_load, BatchSize::PerIteration);
    });
    group.bench_function("the grid", |b| {
        b.iter_with_large_drop(|| SpriteGrid::of(&area(), 64.0, black_box(&crowd)));
    });
    group.finish();
}

/// The cost of a layer.
fn layers(c: &mut Criterion) {
    let view = views(DVec2::new(2000.0, 500.0), 0.0)[0].with_time(3.0);
    let ridge = Layer { drift: DVec2::new(-4.0, 0.0), ..Layer::at_rate("ridge", [0.2, 0.3]) };
    let far = Layer { response: 0.5, ..ridge.clone() };
    let picture = Rect::new([0, 0], [256, 180]);
    let mut group = c.benchmark_group("layers");
    group.bench_function("a layer", |b| b.iter(|| black_box(&view).layer(black_box(&ridge))));
    group.bench_function("a layer that zooms less", |b| {
        b.iter(|| black_box(&view).layer(black_box(&far)));
    });
    group.bench_function("its copies in sight", |b| {
        b.iter(|| {
            black_box(&view).copies(&picture, [256, 0]).map(|copy| copy.rect.min.x).sum::<f32>()
        });
    });
    group.finish();
}

criterion_group!(benches, window, visiting, sprites, building, layers);
criterion_main!(benches);
