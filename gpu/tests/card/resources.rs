//! After the first frame nothing is created.

use velvet_pan_wgpu::velvet_pan::{Fit, Layer, Lens, Screen, Snap, View};
use velvet_pan_wgpu::wgpu::{self, TextureFormat};
use velvet_pan_wgpu::{PlacedCanvas, Presenter};

use crate::{card, pass};

/// The objects of the driver: buffers, textures, texture views and bind groups, and its memory.
fn held(device: &wgpu::Device) -> [isize; 6] {
    let hal = device.get_internal_counters().hal;
    let pipelines = hal.render_pipelines.read();
    [
        hal.buffers.read(),
        hal.textures.read(),
        hal.texture_views.read(),
        hal.bind_groups.read(),
        pipelines,
        hal.texture_memory.read(),
    ]
}

#[test]
fn a_frame_makes_nothing_that_lasts() {
    let Some(card) = card() else { return };
    let (device, queue) = (&card.device, &card.queue);
    let screen = Screen { fit: Fit::Reveal, ..Screen::default() };
    let target = card.target([640, 360].into(), TextureFormat::Rgba8Unorm);
    let mut presenter = Presenter::new(device, target.format()).expect("a presenter");
    let seen = |frame: u32| {
        let centre = [f64::from(frame) * 0.37, 0.0];
        View::new(Lens::new(&screen), centre, Snap::Subpixel).with_window((640, 360))
    };
    let mut canvas =
        presenter.canvas(device, &seen(0), TextureFormat::Rgba8Unorm).expect("a canvas");
    let mut after = Vec::new();
    for frame in 0..40 {
        let view = seen(frame);
        assert_eq!(canvas.fit(device, &view), Ok(false));
        let far = view.layer(&Layer::at_rate("ridge", [0.3, 0.3]));
        let shown = [view, far].map(|view| PlacedCanvas::over(&canvas, view.placement()));
        presenter.prepare(device, queue, [640, 360], &shown);
        pass(&card, &target, wgpu::LoadOp::Load, |pass| presenter.draw(pass));
        device.poll(wgpu::PollType::wait_indefinitely()).expect("a frame");
        after.push(held(device));
    }
    assert!(after[0][0] > 0, "the counters count");
    assert!(after[2..].iter().all(|held| *held == after[2]), "{after:?}");
}
