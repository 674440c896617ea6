//! The whole game of the examples in a window, drawn by the CPU:
//!
//! ```sh
//! cargo run --release -p velvet-pan-window
//! ```
//!
//! Run with A and D or the arrow keys, jump with space. P pauses, and shift slows down. Drag with the left button, zoom
//! with the wheel, and move the view with I, J, K and L, also while the game is paused. With `-- --frames 120` the
//! program ends after this number of frames.

use std::collections::HashSet;
use std::error::Error;
use std::num::NonZeroU32;
use std::rc::Rc;
use std::time::{Duration, Instant};

use game::{Game, Input};
use softbuffer::{Context, Surface};
use velvet_pan::glam::{UVec2, Vec2};
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, MouseButton, MouseScrollDelta, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop, OwnedDisplayHandle};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};

#[path = "../examples/a_whole_game/game.rs"]
mod game;

/// Nothing waits for the display here: at most 240 frames a second, so that a core is left to others.
const FRAME: Duration = Duration::from_micros(4167);

/// Screen pixels a second with I, J, K and L.
const PAN: f32 = 160.0;

fn main() -> Result<(), Box<dyn Error>> {
    let mut arguments = std::env::args().skip_while(|argument| argument != "--frames").skip(1);
    let frames = arguments.next().map(|count| count.parse()).transpose()?;
    let mut play =
        Play { game: Game::new()?, desk: Desk::default(), screen: None, frames, error: None };
    EventLoop::new()?.run_app(&mut play)?;
    play.error.map_or(Ok(()), Err)
}

/// The game, the player's hands, and the window once it exists.
struct Play {
    game: Game,
    desk: Desk,
    screen: Option<Screen>,
    /// The number of frames left to show, if the program ends by itself.
    frames: Option<u32>,
    error: Option<Box<dyn Error>>,
}

impl ApplicationHandler for Play {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        let screen = Screen::open(events).map(|screen| self.screen = Some(screen));
        self.end_if_failed(events, screen);
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::RedrawRequested => {
                let drawn = self.redraw(events);
                self.end_if_failed(events, drawn);
            }
            event => self.desk.hear(&event),
        }
    }
}

impl Play {
    fn redraw(&mut self, events: &ActiveEventLoop) -> Result<(), Box<dyn Error>> {
        let Some(screen) = &mut self.screen else { return Ok(()) };
        let seconds = screen.last.elapsed().as_secs_f64();
        screen.last = Instant::now();
        let input = self.desk.input(seconds as f32);
        self.game.frame(seconds, screen.size(), &input);
        screen.draw(&mut self.game, input.pointer)?;
        std::thread::sleep(FRAME.saturating_sub(screen.last.elapsed()));
        if let Some(left) = &mut self.frames {
            *left = left.saturating_sub(1);
            if *left == 0 {
                events.exit();
            }
        }
        Ok(())
    }

    /// Keeps an error for the end of the program, and ends it.
    fn end_if_failed(&mut self, events: &ActiveEventLoop, done: Result<(), Box<dyn Error>>) {
        if let Err(error) = done {
            self.error = Some(error);
            events.exit();
        }
    }
}

/// Keyboard and mouse.
#[derive(Default)]
struct Desk {
    held: HashSet<KeyCode>,
    paused: bool,
    pointer: Vec2,
    drag: bool,
    wheel: f64,
}

impl Desk {
    fn hear(&mut self, event: &WindowEvent) {
        match event {
            WindowEvent::KeyboardInput { event, .. } => self.key(event),
            WindowEvent::CursorMoved { position, .. } => {
                self.pointer = Vec2::new(position.x as f32, position.y as f32);
            }
            WindowEvent::MouseInput { state, button: MouseButton::Left, .. } => {
                self.drag = *state == ElementState::Pressed;
            }
            WindowEvent::MouseWheel { delta: MouseScrollDelta::LineDelta(_, notches), .. } => {
                self.wheel += f64::from(*notches);
            }
            // Keys that are released elsewhere are not told.
            WindowEvent::Focused(false) => self.held.clear(),
            _ => {}
        }
    }

    fn key(&mut self, event: &KeyEvent) {
        let PhysicalKey::Code(code) = event.physical_key else { return };
        if event.state == ElementState::Released {
            self.held.remove(&code);
        } else if self.held.insert(code) && code == KeyCode::KeyP {
            self.paused = !self.paused;
        }
    }

    /// What the hands want in a frame of this duration.
    fn input(&mut self, seconds: f32) -> Input {
        let held = |keys: &[KeyCode]| keys.iter().any(|key| self.held.contains(key));
        let way = |back, ahead| f32::from(i8::from(held(ahead)) - i8::from(held(back)));
        let (left, right) =
            ([KeyCode::KeyA, KeyCode::ArrowLeft], [KeyCode::KeyD, KeyCode::ArrowRight]);
        let across = way(&[KeyCode::KeyJ], &[KeyCode::KeyL]);
        let down = way(&[KeyCode::KeyI], &[KeyCode::KeyK]);
        Input {
            run: f64::from(way(&left, &right)),
            jump: held(&[KeyCode::Space]),
            slow: held(&[KeyCode::ShiftLeft, KeyCode::ShiftRight]),
            pan: Vec2::new(across, down) * PAN * seconds,
            pause: self.paused,
            pointer: self.pointer,
            drag: self.drag,
            wheel: std::mem::take(&mut self.wheel),
        }
    }
}

/// A window and its pixels.
struct Screen {
    window: Rc<Window>,
    surface: Surface<OwnedDisplayHandle, Rc<Window>>,
    last: Instant,
}

impl Screen {
    fn open(events: &ActiveEventLoop) -> Result<Self, Box<dyn Error>> {
        let attributes = Window::default_attributes()
            .with_title("Velvet Pan: a whole game")
            .with_inner_size(PhysicalSize::new(1280, 720));
        let window = Rc::new(events.create_window(attributes)?);
        let context = Context::new(events.owned_display_handle())?;
        let surface = Surface::new(&context, Rc::clone(&window))?;
        Ok(Self { window, surface, last: Instant::now() })
    }

    fn size(&self) -> UVec2 {
        let size = self.window.inner_size();
        UVec2::new(size.width, size.height)
    }

    fn draw(&mut self, game: &mut Game, pointer: Vec2) -> Result<(), Box<dyn Error>> {
        self.window.request_redraw();
        let size = self.size();
        let sides = NonZeroU32::new(size.x).zip(NonZeroU32::new(size.y));
        let Some((width, height)) = sides else { return Ok(()) }; // minimised
        self.surface.resize(width, height)?;
        let mut pixels = self.surface.buffer_mut()?;
        game.draw(&mut pixels, size, pointer);
        pixels.present()?;
        Ok(())
    }
}
