//! Everything that a game may ask of a frame, as one number.

use std::fmt::{self, Debug, Write};

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Blending, Boxes, Camera, Canvas, CanvasMut, Chunks, Grid, GridEdge, Layer, LayerShake, Origin,
    Overhang, PerAxis, Rect, SpriteGrid, View, WindowPoint, YAxis, edge_push, present,
    present_over,
};

/// The hash FNV-1a over what is written.
pub struct Digest(pub u64);

impl Write for Digest {
    fn write_str(&mut self, text: &str) -> fmt::Result {
        for byte in text.bytes() {
            self.0 = (self.0 ^ u64::from(byte)).wrapping_mul(0x0000_0100_0000_01b3);
        }
        Ok(())
    }
}

impl Digest {
    /// Adds a result as text, with all digits, so that each bit counts.
    pub fn add(&mut self, answer: impl Debug) {
        write!(self, "{answer:?}").expect("a number takes any text");
    }

    /// Adds what the getters of a view return. Renaming a private field does not change the digest.
    fn view(&mut self, view: &View) {
        let lens = view.lens();
        self.add((view.centre(), lens.zoom(), lens.rotation(), view.scale(), view.size()));
        self.add((view.corner(), view.residual(), view.canvas_size(), view.placement()));
        self.add((view.time(), view.snap(), view.window_size(), view.shake()));
    }
}

/// A small world with everything, and the digest of its results.
pub struct DigestInput {
    pub digest: Digest,
    frames: u32,
    grids: [Grid; 3],
    sprites: SpriteGrid,
    boxes: Boxes,
    chunks: Chunks,
    layers: Vec<Layer>,
    found: Vec<u32>,
}

impl DigestInput {
    pub fn new() -> Self {
        let edges = PerAxis { x: GridEdge::Wrapped, y: GridEdge::Clamped };
        let overhang = Overhang { left: 3.0, right: 5.0, up: 20.0, down: 1.0 };
        let grids = [
            Grid::new(60, 40, [16, 12]).with_origin([-120, -90]).with_overhang(overhang),
            Grid::new(23, 17, [20, 20]).with_edges(edges),
            Grid::unbounded([31.0, 17.5]).with_origin([3, 4]),
        ];
        let sprite = |index: i32| {
            let (x, y) = (f64::from(index * 137 % 2000 - 500), f64::from(index * 71 % 1000 - 400));
            Rect::from_corner_size([x, y], [f64::from(index % 40), f64::from(index % 23 + 1)])
        };
        let sprites: Vec<Rect> = (0..600).map(sprite).collect();
        let mut boxes = Boxes::new();
        sprites.iter().for_each(|sprite| assert!(boxes.push(sprite) < 600));
        let ridge = Layer {
            rate: DVec2::new(0.3, 0.5),
            align: DVec2::new(40.0, -7.0),
            drift: DVec2::new(-4.0, 1.0),
            repeat: DVec2::new(210.0, 0.0),
            response: 0.6,
            ..Layer::named("ridge")
        };
        let near = Layer {
            rate: DVec2::new(1.4, 1.2),
            rotates: false,
            shake: LayerShake::Whole,
            ..Layer::named("mist")
        };
        Self {
            digest: Digest(0xcbf2_9ce4_8422_2325),
            frames: 0,
            chunks: Chunks::new(&grids[2], [4, 5]).with_margin(1.5).with_keep(2.0).with_ahead(0.3),
            grids,
            sprites: SpriteGrid::of(&Rect::new([-400, -300], [1400, 500]), 64.0, &sprites),
            boxes,
            layers: vec![ridge, near],
            found: Vec::new(),
        }
    }

    /// Adds a frame: the view each time, and the other results in turn.
    pub fn see(&mut self, camera: &Camera, view: &View) {
        self.digest.view(view);
        self.frames += 1;
        match self.frames % 12 {
            0 => self.continued(camera, view),
            1 => self.positions(view),
            2 => self.window(view),
            3 => self.layers(camera, view),
            4 => self.tiles(view),
            5 => self.sprites(view),
            6 => self.chunks(view),
            7 => self.camera(camera, view),
            8 => self.picture(view),
            _ => {}
        }
    }

    /// How a fresh camera continues with this one's state.
    fn continued(&mut self, camera: &Camera, view: &View) {
        let mut other = Camera::new(camera.settings().clone()).expect("valid settings");
        other.resize(view.window_size());
        other.restore(camera.state()).expect("the state of a camera with these settings");
        let goal = camera.goal();
        for step in 0..3 {
            let subject = goal + DVec2::new(9.0, -4.0) * f64::from(step);
            let next = other.follow(0.02, subject);
            self.digest.view(&next);
        }
        let next = other.advance(0.02);
        self.digest.view(&next);
    }

    fn positions(&mut self, view: &View) {
        let (world, screen) = (view.centre() + DVec2::new(31.7, -12.2), Vec2::new(77.5, 20.25));
        self.digest.add((
            (view.world_to_screen(world), view.screen_to_world(screen)),
            (view.world_to_screen_vector([3.0, 4.0]), view.screen_to_world_vector(screen)),
            (view.world_to_screen_length(3.0), view.screen_to_world_length(3.0)),
            view.canvas_position(world),
            (view.visible_world(), view.world_to_screen_rect(&view.visible_world())),
            (view.world_to_relative(world), view.world_to_canvas_matrix()),
            (view.world_to_clip_matrix(), view.relative_to_clip_matrix()),
            (view.canvas_to_clip_matrix(), view.relative_to_canvas_matrix()),
            (view.corner(), view.residual(), view.lens().half_extents()),
        ));
    }

    fn window(&mut self, view: &View) {
        let world = view.centre() + DVec2::new(31.7, -12.2);
        let point = WindowPoint { x: 300.5, y: 200.25 };
        let placement = view.placement();
        self.digest.add((
            (placement.scissor(), placement.uniform(), placement.shows(4.0, 5.0)),
            (view.followed_placement(world), view.safe_area(), view.visible_screen()),
            (view.window_to_screen(point), view.window_to_world(point)),
            view.screen_to_window(Vec2::new(12.5, 90.0)),
            edge_push(Vec2::new(self.frames as f32 % 320.0, 3.0), view.size(), 12.0),
        ));
    }

    fn layers(&mut self, camera: &Camera, view: &View) {
        let bounds = Rect::new([-300, -200], [1300, 600]);
        let covering = Layer::named("sky").covering(
            [500, 260],
            &bounds,
            &camera.settings().screen,
            [0.7, 2.0],
        );
        for layer in self.layers.iter().chain(camera.layers()).chain([&covering]) {
            let seen = view.layer(layer);
            self.digest.view(&seen);
            self.digest.view(&view.layer_on(layer, &seen));
            let rect = Rect::from_corner_size([10, 20], [150, 60]);
            for copy in seen.copies(&rect, layer.repeat).take(40) {
                self.digest.add(copy);
            }
            self.digest.add(seen.visible_part(&rect, UVec2::new(300, 120)));
        }
    }

    fn tiles(&mut self, view: &View) {
        for grid in &self.grids {
            let tiles = view.tiles(grid);
            self.digest.add((tiles.columns(), tiles.row_numbers(), tiles.count()));
            self.digest.add(view.in_grid(grid, view.centre()));
            for row in tiles.rows().take(40) {
                self.digest.add((row.row(), row.columns(), row.indices(), row.canvas_position()));
                self.digest.add(row.tiles().take(3).collect::<Vec<_>>());
            }
            self.digest.add(grid.tile_rect(5, 7, YAxis::Up));
        }
    }

    fn sprites(&mut self, view: &View) {
        let sight = view.sight();
        self.sprites.seen(&sight, &mut self.found);
        self.digest.add(&self.found);
        self.boxes.seen(&sight.padded(4.0), &mut self.found);
        self.digest.add(&self.found);
        let at = view.centre() + DVec2::new(150.0, -70.0);
        let sprite = view.sprite_rect(at, [30, 20], Origin::Feet);
        self.digest.add((sprite, view.sees(&sprite), sight.bounding()));
        self.digest.add((sight.sees_circle(at, 20.0), sight.sees_point(at)));
        let number = self.frames % 600;
        let moved = self.sprites.set(number, &sprite) && self.boxes.set(number, &sprite);
        self.digest.add(moved);
    }

    fn chunks(&mut self, view: &View) {
        let change = self.chunks.update(view);
        self.digest.add((change.to_load().take(30).collect::<Vec<_>>(), change.is_empty()));
        self.digest.add(change.to_drop().take(30).collect::<Vec<_>>());
    }

    fn camera(&mut self, camera: &Camera, view: &View) {
        let line = camera.barrier().map(|line| (line.at, line.stop(view.centre(), 3.0)));
        self.digest.add((camera.goal(), camera.lag(), camera.ahead(), line));
        self.digest.add((camera.is_in_hand(), camera.is_gliding(), camera.is_shaking()));
        self.digest.add((camera.shake_envelope(), view.shake()));
        self.digest.view(&view.steady());
        for mark in camera.overlay().marks() {
            self.digest.add((mark.kind, mark.screen_points(view).collect::<Vec<_>>()));
        }
    }

    fn picture(&mut self, view: &View) {
        let art: Vec<[u8; 4]> = (0..48_u8).map(|index| [index * 5, 90, 255 - index, 255]).collect();
        let mut window = vec![[9, 8, 7, 255]; 40 * 30];
        let size = UVec2::new(8, 6);
        let mut placement = view.placement();
        (placement.first, placement.end) = (UVec2::ZERO, UVec2::new(40, 30));
        placement.origin %= 9.0;
        present(
            Canvas::new(size, &art),
            CanvasMut::new(UVec2::new(40, 30), &mut window),
            &placement,
            Blending::Encoded,
        );
        placement.scale *= 0.73;
        let target = CanvasMut::new(UVec2::new(40, 30), &mut window);
        present_over(Canvas::new(size, &art), target, &placement, Blending::Linear);
        self.digest.add(window);
    }
}
