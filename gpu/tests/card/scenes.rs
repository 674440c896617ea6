//! The graphics card draws the same terraces as the command.

use std::path::Path;

use velvet_pan_takes::{Files, Overrides, Ride, Take};
use velvet_pan_terraces::art::palette::NIGHT;
use velvet_pan_terraces::own::Artwork;
use velvet_pan_terraces::scene::Scene;
use velvet_pan_wgpu::velvet_pan::glam::UVec2;
use velvet_pan_wgpu::wgpu::{Color, TextureFormat};

use crate::card;
use crate::painter::{Painter, Part};

/// The fraction of pixels that differ in some moments of a take.
fn differing(name: &str, overrides: &Overrides) -> f64 {
    let Some(card) = card() else { return 0.0 };
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../terraces/demo");
    let take = Take::read(Files::Disk, &demo.join(name), overrides).expect("a demo take");
    let scene = Scene::new(&take, &Artwork::Terraces);
    let (mut differ, mut all) = (0, 0);
    for moment in Ride::new(&take).expect("a ride").step_by(97) {
        let window = moment.view.window_size();
        let size = UVec2::new(window.width, window.height);
        let target = card.target(size, TextureFormat::Rgba8Unorm);
        let (device, queue) = (&card.device, &card.queue);
        let mut painter =
            Painter::new(device, queue, scene.pictures(), &moment.view, target.format())
                .expect("a painter");
        let [r, g, b, _] = NIGHT.map(|channel| f64::from(channel) / 255.0);
        let part = Part { cels: scene.cels(&moment), corner: UVec2::ZERO };
        painter.paint(device, queue, &target, Color { r, g, b, a: 1.0 }, &[part]).expect("drawn");
        let shown = card.read(&target).expect("pixels");
        let expected = scene.draw(&moment);
        let far = |(a, b): &(&[u8; 4], &[u8; 4])| (0..4).any(|i| a[i].abs_diff(b[i]) > 2);
        differ += shown.iter().zip(expected.pixels().data).filter(far).count();
        all += shown.len();
    }
    f64::from(differ as u32) / f64::from(all as u32)
}

#[test]
fn upright_scenes_are_the_same() {
    for take in ["terraces.toml", "house.toml", "kite.toml", "cable.toml", "shrine.toml"] {
        assert_eq!(differing(take, &Overrides::default()), 0.0, "{take}");
    }
}

/// Where the edge of a rotated picture passes the middle of a pixel within rounding, the two may differ.
#[test]
fn turned_scenes_are_the_same_but_for_edges() {
    let share = differing("changes.toml", &Overrides::default());
    assert!(share < 1e-3, "{share}");
}
