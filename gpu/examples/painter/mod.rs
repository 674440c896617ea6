//! Draws frames of the terraces on a graphics card: each cel is drawn into the canvas and then presented, back to
//! front.

use velvet_pan_terraces::card::Card as Quads;
use velvet_pan_terraces::cel::Cel;
use velvet_pan_terraces::picture::Picture;
use velvet_pan_wgpu::velvet_pan::View;
use velvet_pan_wgpu::velvet_pan::glam::UVec2;
use velvet_pan_wgpu::wgpu::{self, Color, Device, LoadOp, Operations, Queue, TextureFormat};
use velvet_pan_wgpu::{GpuCanvas, PlacedCanvas, PresentError, Presenter};

/// Everything that drawing a frame needs.
pub struct Painter {
    quads: Quads,
    presenter: Presenter,
    canvas: GpuCanvas,
}

/// The cels of one view, and the corner of the part of the target that shows them.
pub struct Part {
    pub cels: Vec<Cel>,
    pub corner: UVec2,
}

/// Encoded sRGB, in which the terraces are painted.
const CANVAS: TextureFormat = TextureFormat::Rgba8Unorm;

impl Painter {
    pub fn new(
        device: &Device,
        queue: &Queue,
        pictures: &[Picture],
        view: &View,
        target: TextureFormat,
    ) -> Result<Self, PresentError> {
        let presenter = Presenter::new(device, target)?;
        let canvas = presenter.canvas(device, view, CANVAS)?;
        Ok(Self { quads: Quads::new(device, queue, pictures, CANVAS), presenter, canvas })
    }

    /// Draws a frame. The views of all parts must have canvases of the same size.
    pub fn paint(
        &mut self,
        device: &Device,
        queue: &Queue,
        target: &wgpu::Texture,
        background: Color,
        parts: &[Part],
    ) -> Result<(), PresentError> {
        let cels: Vec<Cel> = parts.iter().flat_map(|part| part.cels.clone()).collect();
        let Some(first) = cels.first() else { return Ok(()) };
        self.canvas.fit(device, &first.view)?;
        let corners = parts.iter().flat_map(|part| part.cels.iter().map(|_| part.corner));
        let shown: Vec<PlacedCanvas<'_>> = cels
            .iter()
            .zip(corners)
            .map(|(cel, corner)| PlacedCanvas::over(&self.canvas, cel.placement.moved(corner)))
            .collect();
        let size = [target.width(), target.height()];
        self.presenter.prepare(device, queue, size, &shown);
        self.quads.prepare(device, queue, &cels);

        let mut encoder = device.create_command_encoder(&Default::default());
        let target = target.create_view(&Default::default());
        for index in 0..cels.len() {
            let canvas = [Some(self.canvas.cleared(Color::TRANSPARENT))];
            self.quads.draw(&mut pass(&mut encoder, &canvas), index);
            let load = if index == 0 { LoadOp::Clear(background) } else { LoadOp::Load };
            let window = [Some(wgpu::RenderPassColorAttachment {
                view: &target,
                depth_slice: None,
                resolve_target: None,
                ops: Operations { load, store: wgpu::StoreOp::Store },
            })];
            self.presenter.draw_one(&mut pass(&mut encoder, &window), index);
        }
        queue.submit([encoder.finish()]);
        Ok(())
    }
}

fn pass<'a>(
    encoder: &'a mut wgpu::CommandEncoder,
    attachments: &[Option<wgpu::RenderPassColorAttachment<'_>>],
) -> wgpu::RenderPass<'a> {
    encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
        color_attachments: attachments,
        ..Default::default()
    })
}
