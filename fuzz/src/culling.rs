//! Visible sprites, tiles and chunks, compared with lists that are checked one by one.

use std::collections::{BTreeMap, BTreeSet};

use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Boxes, Chunk, Chunks, Grid, GridEdge, Lens, PerAxis, Rect, Screen, Sight, Snap, SpriteGrid,
    Tile, View, YAxis,
};

use crate::draw::Draw;
use crate::random_play::Dice;

/// The number of chunks above which they are not listed.
const MAX_LISTED: usize = 10_000;

/// Moves sprites and views, or loads chunks, controlled by the bytes.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    let mut world = World(Draw::new(bytes));
    if world.0.one_in(2) { world.chunks() } else { world.sprites() }
}

struct World<'a>(Draw<'a>);

impl World<'_> {
    fn view(&mut self) -> View {
        let screen = Screen {
            size: UVec2::new(1 + self.0.below(90), 1 + self.0.below(90)),
            y_axis: self.0.pick(&[YAxis::Down, YAxis::Up]),
            ..Screen::default()
        };
        let lens = Lens::new(&screen).with_zoom(self.0.number(0.3, 4.0));
        let turned = if self.0.one_in(2) { self.0.number(-7.0, 7.0) } else { 0.0 };
        let centre = DVec2::new(self.0.number(-300.0, 300.0), self.0.number(-300.0, 300.0));
        let snap = self.0.pick(&[Snap::Off, Snap::Whole, Snap::Subpixel]);
        View::new(lens.with_rotation(turned), centre, snap)
    }

    fn sprite(&mut self) -> Rect {
        if self.0.one_in(40) {
            return self.0.any_rect();
        }
        let most = if self.0.one_in(5) { 400.0 } else { 20.0 };
        let corner = [self.0.fair(-400.0, 400.0), self.0.fair(-400.0, 400.0)];
        Rect::from_corner_size(corner, [self.0.fair(0.0, most), self.0.fair(0.0, most)])
    }

    fn sprites(&mut self) {
        // Smaller than where sprites may be: some are beyond it.
        let area = Rect::new([-250, -300], [260, 200]);
        let mut grid = SpriteGrid::new(&area, self.0.number(1.0, 200.0));
        let mut model: BTreeMap<u32, Rect> = BTreeMap::new();
        let mut found = vec![77];
        for _step in 0..400 {
            if self.0.is_over() {
                break;
            }
            let known: Vec<u32> = model.keys().copied().collect();
            match self.0.below(10) {
                0..4 => {
                    let sprite = self.sprite();
                    let before = model.insert(grid.insert(&sprite), sprite);
                    assert_eq!(before, None, "a number that is taken");
                }
                4..6 if !known.is_empty() => {
                    let (number, sprite) = (self.0.pick(&known), self.sprite());
                    assert!(grid.set(number, &sprite));
                    model.insert(number, sprite);
                }
                6 if !known.is_empty() => {
                    let number = self.0.pick(&known);
                    assert!(grid.remove(number) && !grid.remove(number));
                    model.remove(&number);
                }
                7 => {
                    let number = self.0.below(500);
                    let sprite = self.sprite();
                    assert_eq!(grid.set(number, &sprite), model.contains_key(&number));
                    model.entry(number).and_modify(|held| *held = sprite);
                }
                _ => {
                    let sight = self.view().sight();
                    grid.seen(&sight, &mut found);
                    seen_of(&found, &model, &sight);
                }
            }
            assert_eq!((grid.len(), grid.is_empty()), (model.len(), model.is_empty()));
        }
        let in_order: BTreeMap<u32, Rect> = (0..).zip(model.into_values()).collect();
        let mut boxes = Boxes::new();
        in_order.values().for_each(|sprite| assert!(boxes.push(sprite) < 500));
        let sight = self.view().sight();
        boxes.seen(&sight, &mut found);
        seen_of(&found, &in_order, &sight);
    }

    fn grid(&mut self) -> (Grid, [GridEdge; 2]) {
        const EDGES: [GridEdge; 3] = [GridEdge::Clamped, GridEdge::Wrapped, GridEdge::Unbounded];
        let edges = [self.0.pick(&EDGES), self.0.pick(&EDGES)];
        let tile = [self.0.number(8.0, 40.0), self.0.number(8.0, 40.0)];
        let grid = Grid::new(self.0.below(40), self.0.below(40), tile)
            .with_origin([self.0.number(-50.0, 50.0), self.0.number(-50.0, 50.0)]);
        let [x, y] = edges;
        (grid.with_edges(PerAxis { x, y }), edges)
    }

    /// The reported changes must be the difference between what was and what is loaded, and visible chunks must be
    /// loaded.
    fn chunks(&mut self) {
        let (grid, edges) = self.grid();
        let mut chunks = Chunks::new(&grid, (self.0.below(9), self.0.below(9)))
            .with_margin(self.0.number(0.0, 3.0))
            .with_keep(self.0.number(0.0, 8.0))
            .with_ahead(self.0.number(0.0, 1.0));
        let mut loaded: BTreeSet<Chunk> = BTreeSet::new();
        for time in 0..40 {
            if self.0.is_over() {
                break;
            }
            let view = self.view().with_time(f64::from(time) * 0.1);
            let tiles = view.tiles(&grid);
            let change = chunks.update(&view);
            if change.to_load().take(MAX_LISTED).count() == MAX_LISTED {
                break;
            }
            for chunk in change.to_drop() {
                assert!(loaded.remove(&chunk), "dropped, but not there: {chunk:?}");
            }
            for chunk in change.to_load() {
                assert!(loaded.insert(chunk), "loaded twice: {chunk:?}");
            }
            assert!(chunks.loaded().all(|chunk| loaded.contains(&chunk)));
            assert_eq!(chunks.loaded().count(), loaded.len());
            if edges == [GridEdge::Clamped; 2] {
                for row in tiles.rows().take(40) {
                    row.tiles().take(40).for_each(|tile| there(&chunks, &loaded, &tile));
                }
            }
        }
    }
}

fn there(chunks: &Chunks, loaded: &BTreeSet<Chunk>, tile: &Tile) {
    let mut tiles = loaded.iter().map(|chunk| chunks.tiles(*chunk));
    let there =
        tiles.any(|(columns, rows)| columns.contains(&tile.column) && rows.contains(&tile.row));
    assert!(there, "in view, and not loaded: {tile:?}");
}

/// Between the true result and that of boxes which are rounded outwards to `f32`. Beyond the largest `f32`, all
/// positions are one, so that a view from there may list what is not in it.
fn seen_of(found: &[u32], sprites: &BTreeMap<u32, Rect>, sight: &Sight) {
    assert!(found.is_sorted_by(|a, b| a < b), "in order, each once: {found:?}");
    assert!(found.iter().all(|number| sprites.contains_key(number)), "gone: {found:?}");
    let area = sight.bounding();
    let beyond = area.min.abs().max(area.max.abs()).max_element() > f32::MAX.into();
    for (number, sprite) in sprites {
        let listed = found.binary_search(number).is_ok();
        let slack = 1e-3 + sprite.min.abs().max(sprite.max.abs()) * 1e-6;
        let wide = Rect { min: sprite.min - slack, max: sprite.max + slack };
        assert!(listed || !sight.sees(sprite), "lost: {number}, {sprite:?}");
        assert!(
            !listed || beyond || sight.sees(&wide),
            "not in view: {number}, {sprite:?} in {sight:?}"
        );
    }
}
