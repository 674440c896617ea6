//! The game. Its camera is in `new`, `frame`, `step` and `shown`; the rest is a small game around it.

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{
    Airborne, Blending, Bounds, Camera, Canvas, CanvasMut, Deadzone, Follow, Grid, LookAhead,
    Placement, Settings, SettingsError, Smoothing, Subject, Tile, View, present_over,
};

const STEP: f64 = 1.0 / 60.0; // of the simulation; the display may have any rate
const TILE: f64 = 16.0;
const START: DVec2 = DVec2::new(60.0, 240.0);
pub(crate) const GULLY: f64 = 816.0; // the middle of it
const DECK: DVec2 = DVec2::new(48.0, 8.0); // of the basket

/// What the player's hands do in a frame: run from −1, to the left, to 1; the pointer in window pixels, the wheel in
/// notches, and `pan` in screen pixels.
#[derive(Clone, Copy, Default)]
pub(crate) struct Input {
    pub(crate) run: f64,
    pub(crate) wheel: f64,
    pub(crate) pointer: Vec2,
    pub(crate) pan: Vec2,
    pub(crate) jump: bool,
    pub(crate) pause: bool,
    pub(crate) slow: bool,
    pub(crate) drag: bool,
}

/// All that moves, at the end of a step or between two.
#[derive(Clone, Copy)]
pub(crate) struct Moment {
    pub(crate) view: View,
    pub(crate) wren: Subject,
    pub(crate) basket: DVec2,
}

pub(crate) struct Game {
    camera: Camera,
    pub(crate) grid: Grid,
    map: Vec<u16>,
    last: Moment,
    pub(crate) now: Moment,
    time: f64,
    left: f64, // seconds that passed and are not simulated yet: less than a step
    pub(crate) riding: bool,
    dragging: bool,
    pub(crate) falls: u32,
    canvas: Vec<u32>,
}

impl Game {
    pub(crate) fn new() -> Result<Self, SettingsError> {
        let grid = Grid::new(96, 20, [TILE, TILE]);
        let follow = Follow {
            anchor: DVec2::new(0.5, 0.6),
            offset: DVec2::new(0.0, -8.0), // follow her middle, not her feet
            smoothing: Smoothing::HalfLife(0.1).into(),
            deadzone: Deadzone { top: 0.05, bottom: 0.05, ..Deadzone::default() },
            look_ahead: Some(LookAhead::default()),
            airborne: Airborne::Hold,
            ..Follow::default()
        };
        let bounds = Some(Bounds { cushion_depth: 0.08, ..Bounds::new(grid.rect()) });
        // A screen of 320 x 180 pixels.
        let mut camera = Camera::new(Settings { follow, bounds, ..Settings::default() })?;
        let wren = Subject::from(START);
        let now = Moment { view: camera.follow(0.0, wren), wren, basket: basket(0.0) };
        let map = (0..96 * 20).map(|index| tile(index % 96, index / 96)).collect();
        let (time, left, riding, dragging, falls) = (0.0, 0.0, false, false, 0);
        let (last, canvas) = (now, Vec::new());
        Ok(Self { camera, grid, map, last, now, time, left, riding, dragging, falls, canvas })
    }

    /// Runs a frame of the display, in a window of this size.
    pub(crate) fn frame(&mut self, seconds: f64, window: UVec2, input: &Input) {
        self.camera.resize(window);
        let touched = self.move_by_hand(input);
        if input.pause && touched {
            // In a frame of 0 seconds nothing moves on, and commands act.
            self.now.view = self.camera.follow(0.0, self.now.wren);
            self.last = self.now;
        }
        let speed = if input.slow { 0.25 } else { 1.0 };
        self.left += if input.pause { 0.0 } else { seconds.min(0.25) * speed };
        while self.left >= STEP {
            self.left -= STEP;
            self.step(input);
        }
    }

    /// Tells the camera what pointer and keys want. Returns whether they want anything.
    fn move_by_hand(&mut self, input: &Input) -> bool {
        let (camera, dragged) = (&mut self.camera, self.dragging);
        match (input.drag, dragged) {
            (true, false) => _ = camera.grab_at_window(input.pointer),
            (true, true) => camera.drag_to_window(input.pointer),
            (false, true) => camera.release(),
            (false, false) => {}
        }
        self.dragging = input.drag;
        camera.pan(input.pan);
        camera.zoom_by_at_window(input.wheel, input.pointer);
        if input.pause {
            // A glide takes time, and none passes.
            camera.zoom_now(camera.view().lens().zoom() * 1.2_f64.powf(input.wheel));
        }
        input.drag || dragged || input.pan != Vec2::ZERO || input.wheel != 0.0
    }

    /// Runs a step: first everything that moves, then the camera.
    fn step(&mut self, input: &Input) {
        self.time += STEP;
        self.last = self.now;
        self.now.basket = basket(self.time);
        self.now.wren = self.move_wren(input);
        let fell = self.now.wren.position.y > self.grid.rect().max.y + 40.0;
        if fell {
            self.falls += 1;
            self.now.wren = Subject::from(START);
            self.camera.cut();
        }
        self.now.view = self.camera.follow(STEP, self.now.wren);
        if fell {
            self.last = self.now; // nothing lies between the two places
        }
    }

    /// Moves Wren, as a physics engine would, and tells what it knows of her.
    fn move_wren(&mut self, input: &Input) -> Subject {
        let before = self.last.wren;
        let (mut at, mut velocity) = (before.position, before.velocity.unwrap_or_default());
        let jump = input.jump && before.grounded != Some(false);
        velocity.x = 142.0 * input.run;
        velocity.y = if jump { -335.0 } else { velocity.y + 900.0 * STEP };
        let (deck, swing) = (self.now.basket, self.now.basket - self.last.basket);
        at.x += velocity.x * STEP + if self.riding { swing.x } else { 0.0 };
        if self.is_solid(at - DVec2::new(0.0, 4.0)) {
            at.x = before.position.x;
        }
        at.y += velocity.y * STEP;
        let over_deck = before.position.y <= deck.y && (at.x - deck.x).abs() < DECK.x / 2.0;
        self.riding = over_deck && at.y >= deck.y;
        let stands = self.riding || self.is_solid(at);
        if stands {
            at.y = if self.riding { deck.y } else { (at.y / TILE).floor() * TILE };
            velocity.y = 0.0;
        }
        let carrier = if self.riding { swing / STEP } else { DVec2::ZERO };
        Subject { grounded: Some(stands), jump: Some(jump), carrier, ..Subject::from(at) }
            .with_velocity(velocity + carrier)
    }

    /// Collisions are tested in the world, never on the screen.
    pub(crate) fn is_solid(&self, at: DVec2) -> bool {
        let [column, row] = (at / TILE).floor().as_i64vec2().to_array();
        self.grid.index(column, row).is_some_and(|index| self.map[index] != 0)
    }

    /// The moment to draw: between the last two steps.
    pub(crate) fn shown(&self) -> Moment {
        let (last, now, fraction) = (&self.last, &self.now, self.left / STEP);
        Moment {
            view: View::between(&last.view, &now.view, fraction),
            wren: Subject::between(&last.wren, &now.wren, fraction),
            basket: last.basket.lerp(now.basket, fraction),
        }
    }

    /// Draws it into the pixels of a window, `0xAARRGGBB`.
    pub(crate) fn draw(&mut self, window: &mut [u32], size: UVec2, pointer: Vec2) {
        let Moment { view, wren, basket } = self.shown();
        window.fill(0xff_15_10_29);
        let mut show = |art: &[u32], art_size, placement: Placement| {
            let window = CanvasMut::new(size, window);
            present_over(Canvas::new(art_size, art), window, &placement, Blending::Encoded);
        };
        // The world: a dusk sky, tiles, the basket, and a line on the tile under the pointer.
        let canvas = &mut self.canvas;
        let (art_size, zoom) = (view.canvas_size(), view.scale() as f32);
        clear(canvas, art_size, 0xff_40_2a_5f);
        for (band, colour) in [(0.3, 0xff_6b_3f_77), (0.5, 0xff_a5_55_80), (0.7, 0xff_dd_7d_6c)] {
            let corner = Vec2::new(0.0, (band * art_size.y as f32).round());
            fill(canvas, art_size, corner, art_size.as_vec2(), colour);
        }
        for row in view.tiles(&self.grid).rows() {
            for (Tile { rect, .. }, number) in row.filled(&self.map, |number| *number != 0) {
                fill(canvas, art_size, rect.min, rect.size(), 0xff_43_2b_3d);
                let (top, grass) =
                    if *number == 1 { (4.0, 0xff_55_95_56) } else { (1.0, 0xff_5d_3b_47) };
                fill(canvas, art_size, rect.min, Vec2::new(rect.size().x, top * zoom), grass);
            }
        }
        let corner = view.canvas_position(basket - DVec2::new(DECK.x / 2.0, 0.0));
        fill(canvas, art_size, corner, DECK.as_vec2() * zoom, 0xff_b0_7a_5e);
        if let Some(at) = view.window_to_world(pointer) {
            let corner = view.canvas_position((at / TILE).floor() * TILE);
            fill(canvas, art_size, corner, Vec2::new(16.0 * zoom, 1.0), 0xff_ff_f1_c9);
        }
        show(canvas, art_size, view.placement());
        // Wren has a canvas of her own: 8 x 16 pixels, her feet at (4, 16). It is zoomed in the window.
        let art_size = UVec2::new(8, 16);
        clear(canvas, art_size, 0xff_2f_a8_a0);
        for (y, colour) in [(0.0, 0xff_1f_6d_7c), (3.0, 0xff_f0_bd_96), (14.0, 0xff_3b_23_30)] {
            fill(canvas, art_size, Vec2::new(0.0, y), Vec2::new(8.0, 3.0), colour);
        }
        let at = view.followed_placement(wren.position);
        let zoomed = Placement { scale: at.scale * view.lens().zoom(), ..at };
        show(canvas, art_size, zoomed.anchored([4.0, 16.0]));
        // The HUD does not slide with the world: how far she has come.
        clear(canvas, view.size(), 0);
        let (corner, way) = (view.safe_area().min + 8.0, wren.position.x / self.grid.rect().max.x);
        fill(canvas, view.size(), corner, Vec2::new(80.0, 5.0), 0xff_26_1a_42);
        fill(canvas, view.size(), corner, Vec2::new(80.0 * way as f32, 5.0), 0xff_fb_d6_8a);
        show(canvas, view.size(), view.hud_placement());
    }
}

fn clear(canvas: &mut Vec<u32>, size: UVec2, colour: u32) {
    canvas.clear();
    canvas.resize((size.x * size.y) as usize, colour);
}

fn fill(canvas: &mut [u32], size: UVec2, corner: Vec2, extent: Vec2, colour: u32) {
    let edge = |at: Vec2| at.clamp(Vec2::ZERO, size.as_vec2()).as_uvec2();
    let (low, high) = (edge(corner), edge(corner + extent));
    for y in low.y..high.y {
        canvas[(y * size.x + low.x) as usize..(y * size.x + high.x) as usize].fill(colour);
    }
}

/// The middle of the basket's deck, which swings from one side of the gully to the other.
fn basket(time: f64) -> DVec2 {
    DVec2::new(GULLY + 90.0 * (0.8 * time).cos(), 208.0)
}

/// The land: 0 is blank, 1 has grass on it, 2 is earth.
fn tile(column: u32, row: u32) -> u16 {
    let top = match column {
        0..20 => 15,
        20..44 | 58..76 => 13,
        44..58 => 20,
        _ => 11,
    };
    u16::from(row >= top) + u16::from(row > top)
}
