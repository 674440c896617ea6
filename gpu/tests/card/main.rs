//! The pictures of a graphics card, compared with the library's own presenting on the CPU and with plain arithmetic.
//!
//! Without a graphics card (a software driver is one) these tests are skipped, and say so. With
//! `VELVET_PAN_CARD=required` in the environment a missing card is a failure.

mod drawing;
#[path = "../../examples/offscreen/mod.rs"]
mod offscreen;
#[path = "../../examples/painter/mod.rs"]
mod painter;
mod presenting;
mod refusing;
mod resources;
mod scenes;
mod shader;
mod straight;
mod tiles;

use std::sync::{LazyLock, Mutex, MutexGuard};

use offscreen::Card;
use velvet_pan_wgpu::wgpu;

static CARD: LazyLock<Option<Mutex<Card>>> = LazyLock::new(|| match Card::open() {
    Ok(card) => {
        eprintln!("drawn by {}", card.name);
        Some(Mutex::new(card))
    }
    Err(error) if std::env::var_os("VELVET_PAN_CARD").is_some() => panic!("no card: {error}"),
    Err(error) => {
        eprintln!("SKIPPED: no graphics card ({error})");
        None
    }
});

/// The one card that all tests use, one after the other; `None` to skip the test.
fn card() -> Option<MutexGuard<'static, Card>> {
    let card = CARD.as_ref()?;
    Some(card.lock().unwrap_or_else(std::sync::PoisonError::into_inner))
}

/// Draws into a target in one pass.
fn pass(
    card: &Card,
    target: &wgpu::Texture,
    load: wgpu::LoadOp<wgpu::Color>,
    draw: impl FnOnce(&mut wgpu::RenderPass<'_>),
) {
    let mut encoder = card.device.create_command_encoder(&Default::default());
    let view = target.create_view(&Default::default());
    draw(&mut encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
        color_attachments: &[Some(wgpu::RenderPassColorAttachment {
            view: &view,
            depth_slice: None,
            resolve_target: None,
            ops: wgpu::Operations { load, store: wgpu::StoreOp::Store },
        })],
        ..Default::default()
    }));
    card.queue.submit([encoder.finish()]);
}
