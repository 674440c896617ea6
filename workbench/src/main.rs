//! Run about the tea terraces in a real window, and feel what the camera does.
//!
//! ```sh
//! cargo run --release -p velvet-pan-workbench
//! ```
//!
//! Arrows or A and D run, space leaps. 1, 2 and 3 switch the snap (off, whole, subpixel), F the fit,
//! O the overlay. The wheel zooms about the pointer, the left button drags the view. The simulation
//! runs at a fixed step; the display shows the view between the last two.

mod world;

use std::num::NonZeroU32;
use std::rc::Rc;
use std::time::Instant;

use softbuffer::{Context, Surface};
use velvet_pan::glam::Vec2;
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, MouseButton, MouseScrollDelta, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};
use world::World;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let world = World::new()?;
    EventLoop::new()?.run_app(&mut Workbench { world, shown: None })?;
    Ok(())
}

/// The world, and the window once there is one.
struct Workbench {
    world: World,
    shown: Option<Shown>,
}

struct Shown {
    window: Rc<Window>,
    surface: Surface<Rc<Window>, Rc<Window>>,
    last: Instant,
    title: String,
}

impl ApplicationHandler for Workbench {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        match Shown::new(events, &mut self.world) {
            Ok(shown) => self.shown = Some(shown),
            Err(error) => {
                eprintln!("no window: {error}");
                events.exit();
            }
        }
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::Resized(size) => self.world.resize(size.width, size.height),
            WindowEvent::KeyboardInput { event, .. } => self.key(events, &event),
            WindowEvent::CursorMoved { position, .. } => {
                self.world.point(Vec2::new(position.x as f32, position.y as f32));
            }
            WindowEvent::MouseInput { state, button: MouseButton::Left, .. } => {
                self.world.grab(state == ElementState::Pressed);
            }
            WindowEvent::MouseWheel { delta, .. } => self.world.wheel(match delta {
                MouseScrollDelta::LineDelta(_, lines) => f64::from(lines),
                MouseScrollDelta::PixelDelta(pixels) => pixels.y / 40.0,
            }),
            WindowEvent::RedrawRequested => {
                if let Some(shown) = &mut self.shown
                    && let Err(error) = shown.draw(&mut self.world)
                {
                    eprintln!("not drawn: {error}");
                    events.exit();
                }
            }
            _ => {}
        }
    }
}

impl Workbench {
    fn key(&mut self, events: &ActiveEventLoop, event: &KeyEvent) {
        let PhysicalKey::Code(code) = event.physical_key else { return };
        let pressed = event.state == ElementState::Pressed;
        match code {
            KeyCode::ArrowLeft | KeyCode::KeyA => self.world.keys.left = pressed,
            KeyCode::ArrowRight | KeyCode::KeyD => self.world.keys.right = pressed,
            KeyCode::Space | KeyCode::ArrowUp if !event.repeat => self.world.keys.leap |= pressed,
            KeyCode::Escape => events.exit(),
            _ if pressed && !event.repeat => self.world.switch(code),
            _ => {}
        }
    }
}

impl Shown {
    fn new(
        events: &ActiveEventLoop,
        world: &mut World,
    ) -> Result<Self, Box<dyn std::error::Error>> {
        let size = PhysicalSize::new(1280, 720);
        let attributes =
            Window::default_attributes().with_title("Velvet Pan").with_inner_size(size);
        let window = Rc::new(events.create_window(attributes)?);
        // Not every system says the first size in an event of its own.
        let PhysicalSize { width, height } = window.inner_size();
        world.resize(width, height);
        let surface = Surface::new(&Context::new(Rc::clone(&window))?, Rc::clone(&window))?;
        Ok(Self { window, surface, last: Instant::now(), title: String::new() })
    }

    fn draw(&mut self, world: &mut World) -> Result<(), softbuffer::SoftBufferError> {
        let now = Instant::now();
        world.advance((now - self.last).as_secs_f64());
        self.last = now;
        let title = world.title();
        if self.title != title {
            self.window.set_title(&title);
            self.title = title;
        }
        let PhysicalSize { width, height } = self.window.inner_size();
        // A minimised window has no pixels to draw.
        if let (Some(w), Some(h)) = (NonZeroU32::new(width), NonZeroU32::new(height)) {
            self.surface.resize(w, h)?;
            let picture = world.draw(width, height);
            let mut buffer = self.surface.buffer_mut()?;
            for (pixel, [red, green, blue, _]) in buffer.iter_mut().zip(picture.pixels().data) {
                *pixel = u32::from_be_bytes([0, *red, *green, *blue]);
            }
            buffer.present()?;
        }
        self.window.request_redraw();
        Ok(())
    }
}
