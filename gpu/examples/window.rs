//! The terraces in a window, drawn by a graphics card:
//!
//! ```sh
//! cargo run --release -p velvet-pan-wgpu --example window
//! ```
//!
//! Run with the arrow keys or A and D, jump with space. S splits the screen: the right half follows the kite. The
//! wheel zooms about the pointer, and dragging with the left button moves the view. The window can be resized. With
//! `-- --frames 120` the program ends after this number of frames and prints their durations.

mod painter;

use std::error::Error;
use std::sync::Arc;
use std::time::{Duration, Instant};

use painter::{Painter, Part};
use velvet_pan_takes::{Files, Map, MapForm};
use velvet_pan_terraces::art::courier::Pose;
use velvet_pan_terraces::art::palette::NIGHT;
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::scenery::{Figure, Role, Scenery};
use velvet_pan_terraces::{Body, Land, files, kite};
use velvet_pan_wgpu::velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_wgpu::velvet_pan::{Camera, Fit, Settings, Subject, WindowPoint};
use velvet_pan_wgpu::wgpu::{self, CurrentSurfaceTexture};
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, MouseButton, MouseScrollDelta, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};

fn main() -> Result<(), Box<dyn Error>> {
    let mut arguments = std::env::args().skip_while(|argument| argument != "--frames").skip(1);
    let frames = arguments.next().map(|count| count.parse()).transpose()?;
    let mut example = Example { world: World::new()?, screen: None, frames, error: None };
    EventLoop::new()?.run_app(&mut example)?;
    example.error.map_or(Ok(()), Err)
}

/// The world and the window, once it exists.
struct Example {
    world: World,
    screen: Option<Screen>,
    /// The number of frames left to show, if the program ends by itself.
    frames: Option<u32>,
    error: Option<Box<dyn Error>>,
}

impl ApplicationHandler for Example {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        let screen = Screen::open(events, &mut self.world);
        self.screen = self.unless_failed(events, screen);
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::Resized(size) => {
                self.world.resize(UVec2::new(size.width, size.height));
                if let Some(screen) = &mut self.screen {
                    screen.resize(size);
                }
            }
            WindowEvent::KeyboardInput { event, .. } => self.world.key(&event),
            WindowEvent::CursorMoved { position, .. } => {
                self.world.point((position.x, position.y).into());
            }
            WindowEvent::MouseInput { state, button: MouseButton::Left, .. } => {
                self.world.grab(state == ElementState::Pressed);
            }
            WindowEvent::MouseWheel { delta: MouseScrollDelta::LineDelta(_, notches), .. } => {
                self.world.zoom(f64::from(notches));
            }
            WindowEvent::RedrawRequested => self.redraw(events),
            _ => {}
        }
    }
}

impl Example {
    fn redraw(&mut self, events: &ActiveEventLoop) {
        let Some(screen) = &mut self.screen else { return };
        let drawn = screen.draw(&mut self.world);
        if self.unless_failed(events, drawn) != Some(true) {
            return;
        }
        let left = self.frames.as_mut().map(|left| {
            *left = left.saturating_sub(1);
            *left
        });
        if left == Some(0) {
            if let Some(screen) = &self.screen {
                println!("{}", screen.timing.report());
            }
            events.exit();
        }
    }

    /// Keeps an error for the end of the program, and ends it.
    fn unless_failed<T>(
        &mut self,
        events: &ActiveEventLoop,
        result: Result<T, Box<dyn Error>>,
    ) -> Option<T> {
        result
            .map_err(|error| {
                self.error = Some(error);
                events.exit();
            })
            .ok()
    }
}

/// The surface of a window, and everything that draws on it.
struct Screen {
    window: Arc<Window>,
    surface: wgpu::Surface<'static>,
    config: wgpu::SurfaceConfiguration,
    device: wgpu::Device,
    queue: wgpu::Queue,
    painter: Painter,
    last: Instant,
    timing: Timing,
}

impl Screen {
    fn open(events: &ActiveEventLoop, world: &mut World) -> Result<Self, Box<dyn Error>> {
        let attributes = Window::default_attributes()
            .with_title("Velvet Pan")
            .with_inner_size(PhysicalSize::new(1280, 720));
        let window = Arc::new(events.create_window(attributes)?);
        let size = window.inner_size();
        world.resize(UVec2::new(size.width, size.height));
        let instance = wgpu::Instance::default();
        let surface = instance.create_surface(Arc::clone(&window))?;
        let options = wgpu::RequestAdapterOptions {
            compatible_surface: Some(&surface),
            ..Default::default()
        };
        let adapter = pollster::block_on(instance.request_adapter(&options))?;
        let (device, queue) = pollster::block_on(adapter.request_device(&Default::default()))?;
        let config = surface
            .get_default_config(&adapter, size.width.max(1), size.height.max(1))
            .ok_or("the card can't draw in this window")?;
        surface.configure(&device, &config);
        let pictures = world.scenery.pictures();
        let view = world.cameras[0].view();
        let painter = Painter::new(&device, &queue, pictures, &view, config.format)?;
        let (last, timing) = (Instant::now(), Timing::default());
        Ok(Self { window, surface, config, device, queue, painter, last, timing })
    }

    fn resize(&mut self, size: PhysicalSize<u32>) {
        (self.config.width, self.config.height) = (size.width.max(1), size.height.max(1));
        self.surface.configure(&self.device, &self.config);
    }

    /// Draws a frame. Returns whether it is on the screen.
    fn draw(&mut self, world: &mut World) -> Result<bool, Box<dyn Error>> {
        let started = Instant::now();
        let seconds = (started - self.last).as_secs_f64().min(0.1);
        self.last = started;
        world.advance(seconds);
        let parts = world.parts();
        let ours = started.elapsed();
        self.window.request_redraw();
        let frame = match self.surface.get_current_texture() {
            CurrentSurfaceTexture::Success(frame) | CurrentSurfaceTexture::Suboptimal(frame) => {
                frame
            }
            CurrentSurfaceTexture::Outdated => {
                self.surface.configure(&self.device, &self.config);
                return Ok(false);
            }
            CurrentSurfaceTexture::Lost => return Err("the surface is lost".into()),
            _ => return Ok(false), // nobody would see it
        };
        let background = self.background();
        let encoding = Instant::now();
        self.painter.paint(&self.device, &self.queue, &frame.texture, background, &parts)?;
        let encoded = encoding.elapsed();
        self.queue.present(frame);
        self.timing.add(started.elapsed(), ours, encoded);
        self.window.set_title(&format!("Velvet Pan · {}", world.words()));
        Ok(true)
    }

    /// The colour of the bars. An sRGB surface expects linear light.
    fn background(&self) -> wgpu::Color {
        let srgb = self.config.format.is_srgb();
        let [r, g, b, _] = NIGHT.map(|channel| {
            let value = f64::from(channel) / 255.0;
            if srgb { ((value + 0.055) / 1.055).powf(2.4) } else { value }
        });
        wgpu::Color { r, g, b, a: 1.0 }
    }
}

/// The durations of frames.
#[derive(Default)]
struct Timing {
    frames: u32,
    whole: Duration,
    /// The step of the world, the camera, and the list of cels.
    listed: Duration,
    /// Submitting to the graphics card.
    encoded: Duration,
}

impl Timing {
    fn add(&mut self, whole: Duration, listed: Duration, encoded: Duration) {
        self.frames += 1;
        self.whole += whole;
        self.listed += listed;
        self.encoded += encoded;
    }

    fn report(&self) -> String {
        let each = |time: Duration| time.as_secs_f64() * 1e3 / f64::from(self.frames.max(1));
        let (whole, listed, encoded) = (each(self.whole), each(self.listed), each(self.encoded));
        format!(
            "{} frames, {:.1} a second: {whole:.2} ms each; world, camera and list {listed:.2} ms, \
             telling the card {encoded:.2} ms",
            self.frames,
            1e3 / whole,
        )
    }
}

/// The courier, the kite, and a camera for each half of the screen.
struct World {
    land: Land,
    scenery: Scenery,
    body: Body,
    faces_left: bool,
    time: f64,
    cameras: [Camera; 2],
    split: bool,
    window: UVec2,
    pointer: WindowPoint,
    left: bool,
    right: bool,
    leap: bool,
}

impl World {
    fn new() -> Result<Self, Box<dyn Error>> {
        let files = files::files();
        let built_in = Files::BuiltIn(&files);
        let map = Map::read(built_in, "terraces.csv".as_ref(), &MapForm::new([16.0, 16.0]))?;
        let mut settings: Settings = toml::from_str(&built_in.read("courier.toml".as_ref())?)?;
        settings.screen.fit = Fit::Reveal; // half a window shows more above and below, and no bars
        let camera = Camera::new(settings)?;
        Ok(Self {
            land: Land::laid_out(),
            scenery: Scenery::new(
                &Artwork::Terraces,
                camera.settings(),
                camera.layers(),
                Some(map),
            ),
            body: Body::at(DVec2::new(200.0, 780.0)),
            faces_left: false,
            time: 0.0,
            cameras: [camera.clone(), camera],
            split: false,
            window: UVec2::ONE,
            pointer: WindowPoint::default(),
            left: false,
            right: false,
            leap: false,
        })
    }

    /// The corner of each camera's part of the window, and the size of all parts.
    fn layout(&self) -> ([UVec2; 2], UVec2) {
        let half = self.window / UVec2::new(2, 1);
        let size = if self.split { half } else { self.window };
        ([UVec2::ZERO, UVec2::new(size.x, 0)], size)
    }

    fn shown(&self) -> usize {
        if self.split { 2 } else { 1 }
    }

    fn resize(&mut self, window: UVec2) {
        self.window = window;
        let (_, size) = self.layout();
        for camera in &mut self.cameras {
            camera.resize(size);
        }
    }

    /// The camera under the pointer, and the pointer's position in its part of the window.
    fn pointed(&self) -> (usize, WindowPoint) {
        let (corners, _) = self.layout();
        let index = usize::from(self.split && self.pointer.x >= corners[1].x as f32);
        (index, self.pointer.within(corners[index]))
    }

    fn point(&mut self, at: WindowPoint) {
        self.pointer = at;
        let (index, at) = self.pointed();
        self.cameras[index].drag_to_window(at);
    }

    fn grab(&mut self, down: bool) {
        let (index, at) = self.pointed();
        if !down {
            self.cameras.iter_mut().for_each(Camera::release);
        } else {
            self.cameras[index].grab_at_window(at);
        }
    }

    fn zoom(&mut self, notches: f64) {
        let (index, at) = self.pointed();
        self.cameras[index].zoom_by_at_window(notches, at);
    }

    fn key(&mut self, event: &KeyEvent) {
        let PhysicalKey::Code(code) = event.physical_key else { return };
        let down = event.state == ElementState::Pressed;
        match code {
            KeyCode::ArrowLeft | KeyCode::KeyA => self.left = down,
            KeyCode::ArrowRight | KeyCode::KeyD => self.right = down,
            KeyCode::Space if !event.repeat => self.leap |= down,
            KeyCode::KeyS if down && !event.repeat => {
                self.split = !self.split;
                self.resize(self.window);
            }
            _ => {}
        }
    }

    fn advance(&mut self, seconds: f64) {
        let way = f64::from(i8::from(self.right) - i8::from(self.left));
        if std::mem::take(&mut self.leap) && self.body.grounded {
            self.body.leap();
        }
        self.body.step(&self.land, way, seconds);
        if way != 0.0 {
            self.faces_left = way < 0.0;
        }
        self.time += seconds;
        let courier = Subject::from(self.body.feet).with_grounded(self.body.grounded);
        self.cameras[0].follow(seconds, courier);
        self.cameras[1].follow(seconds, kite(self.time));
    }

    fn parts(&self) -> Vec<Part> {
        let (corners, _) = self.layout();
        let Body { feet, velocity, grounded } = self.body;
        let pose = Pose::of(grounded, velocity.y < 0.0, velocity.x, feet.x);
        let figures = |camera: usize| {
            [
                Figure {
                    role: Role::Courier(pose),
                    at: feet,
                    left: self.faces_left,
                    followed: camera == 0,
                },
                Figure {
                    role: Role::Kite,
                    at: kite(self.time),
                    left: (self.time * 0.7).cos() < 0.0,
                    followed: camera == 1,
                },
            ]
        };
        let part = |camera: usize| Part {
            cels: self.scenery.cels(&self.cameras[camera].view(), &figures(camera)),
            corner: corners[camera],
        };
        (0..self.shown()).map(part).collect()
    }

    /// The world position at the pointer.
    fn words(&self) -> String {
        let (index, at) = self.pointed();
        match self.cameras[index].view().steady().window_to_world(at) {
            Some(world) => format!("pointer at {:.0}, {:.0} · S splits", world.x, world.y),
            None => "S splits the screen".to_owned(),
        }
    }
}
