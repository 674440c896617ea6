//! Draws a moment of the terraces on a graphics card, without a window, and writes it to a PNG file:
//!
//! ```sh
//! cargo run --release -p velvet-pan-wgpu --example headless -- terraces.png
//! ```
//!
//! Layers, tiles and the courier are instanced quads, placed by the view's matrices. Each layer is drawn into the
//! canvas and presented, one after the other. Then the same moment is drawn on the CPU, and the two pictures are
//! compared.

mod offscreen;
mod painter;

use std::error::Error;
use std::fs::File;
use std::path::Path;

use offscreen::Card;
use painter::{Painter, Part};
use velvet_pan_takes::{Files, Overrides, Ride, Take};
use velvet_pan_terraces::art::palette::NIGHT;
use velvet_pan_terraces::files;
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_terraces::scene::Scene;
use velvet_pan_wgpu::velvet_pan::glam::UVec2;
use velvet_pan_wgpu::wgpu::{Color, TextureFormat};

fn main() -> Result<(), Box<dyn Error>> {
    let files = files::files();
    let take = Take::read(Files::BuiltIn(&files), Path::new(files::TAKE), &Overrides::default())?;
    let scene = Scene::new(&take, &Artwork::Terraces);
    let moment = Ride::new(&take)?.nth(take.rows() as usize / 2).ok_or("the take is empty")?;
    let window = moment.view.window_size();
    let size = UVec2::new(window.width, window.height);

    let card = Card::open()?;
    let target = card.target(size, TextureFormat::Rgba8Unorm);
    let (device, queue) = (&card.device, &card.queue);
    let mut painter = Painter::new(device, queue, scene.pictures(), &moment.view, target.format())?;
    let part = Part { cels: scene.cels(&moment), corner: UVec2::ZERO };
    painter.paint(device, queue, &target, background(), &[part])?;
    let pixels = card.read(&target)?;
    let picture = Picture::from_fn(size, |x, y| pixels[(y * size.x + x) as usize]);

    let expected = scene.draw(&moment);
    let differ = pixels.iter().zip(expected.pixels().data).filter(|(a, b)| a != b).count();
    println!("{} at {:.2} s on {}", take.name, moment.t, card.name);
    println!("{differ} of {} pixels differ from the picture drawn on the CPU", pixels.len());
    if let Some(path) = std::env::args_os().nth(1) {
        picture.write_png(&mut File::create(&path)?)?;
        println!("wrote {}", Path::new(&path).display());
    }
    if differ == 0 { Ok(()) } else { Err("the two pictures differ".into()) }
}

/// The colour of the bars.
fn background() -> Color {
    let [r, g, b, _] = NIGHT.map(|channel| f64::from(channel) / 255.0);
    Color { r, g, b, a: 1.0 }
}
