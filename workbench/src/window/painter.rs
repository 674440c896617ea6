//! The picture on the graphics card: each cel on a canvas of its own, all drawn in egui's pass.

use std::sync::{Arc, Mutex, PoisonError};

use eframe::egui::PaintCallbackInfo;
use eframe::egui_wgpu::{CallbackResources, CallbackTrait, ScreenDescriptor};
use eframe::wgpu::{
    Color, CommandBuffer, CommandEncoder, Device, Queue, RenderPass, RenderPassDescriptor,
    TextureFormat,
};
use velvet_pan::glam::UVec2;
use velvet_pan_terraces::card::Card;
use velvet_pan_terraces::cel::Cel;
use velvet_pan_terraces::scenery::Scenery;
use velvet_pan_wgpu::{GpuCanvas, PlacedCanvas, PresentError, Presenter};

/// Encoded sRGB, in which the terraces are painted and egui blends.
const CANVAS: TextureFormat = TextureFormat::Rgba8Unorm;

/// The picture of one camera in a frame of the window.
pub struct DrawnView {
    /// Everything that can be drawn, shared while it stays the same.
    pub scenery: Arc<Scenery>,
    /// The cels, from back to front.
    pub cels: Vec<Cel>,
    /// The part of the window that shows it, in physical pixels: its corner and its size.
    pub corner: UVec2,
    pub size: UVec2,
}

/// Why something could not be drawn, for a message in the window.
pub type Trouble = Arc<Mutex<Option<String>>>;

/// A frame of the window's picture.
pub struct Frame {
    pub parts: Vec<DrawnView>,
    /// The format of the window.
    pub target: TextureFormat,
    pub trouble: Trouble,
}

/// What is kept from frame to frame.
struct Painter {
    presenter: Presenter,
    /// The quads of a scenery. The scenery is kept so that its address stays unique.
    quads: Vec<(Arc<Scenery>, Card)>,
    canvases: Vec<GpuCanvas>,
}

impl CallbackTrait for Frame {
    fn prepare(
        &self,
        device: &Device,
        queue: &Queue,
        screen: &ScreenDescriptor,
        encoder: &mut CommandEncoder,
        resources: &mut CallbackResources,
    ) -> Vec<CommandBuffer> {
        if resources.get::<Painter>().is_none() {
            match Presenter::new(device, self.target) {
                Ok(presenter) => {
                    resources.insert(Painter { presenter, quads: vec![], canvases: vec![] });
                }
                Err(error) => self.tell(&error),
            }
        }
        if let Some(painter) = resources.get_mut::<Painter>()
            && let Err(error) = painter.prepare(device, queue, screen.size_in_pixels, encoder, self)
        {
            self.tell(&error);
        }
        Vec::new()
    }

    fn paint(
        &self,
        _: PaintCallbackInfo,
        pass: &mut RenderPass<'static>,
        resources: &CallbackResources,
    ) {
        if let Some(painter) = resources.get::<Painter>() {
            painter.presenter.draw(pass);
        }
    }
}

impl Frame {
    fn tell(&self, error: &PresentError) {
        *self.trouble.lock().unwrap_or_else(PoisonError::into_inner) = Some(error.to_string());
    }
}

impl Painter {
    fn prepare(
        &mut self,
        device: &Device,
        queue: &Queue,
        window: [u32; 2],
        encoder: &mut CommandEncoder,
        frame: &Frame,
    ) -> Result<(), PresentError> {
        self.fit(device, &frame.parts)?;
        self.quads.retain(|(scenery, _)| {
            frame.parts.iter().any(|part| Arc::ptr_eq(&part.scenery, scenery))
        });
        let mut canvases = self.canvases.iter();
        for scenery in sceneries(&frame.parts) {
            let cels: Vec<&Cel> = cels_of(&frame.parts, scenery).collect();
            let quads = quads(&mut self.quads, device, queue, scenery);
            quads.prepare(device, queue, &cels);
            for (index, canvas) in (0..cels.len()).zip(&mut canvases) {
                let mut pass = encoder.begin_render_pass(&RenderPassDescriptor {
                    color_attachments: &[Some(canvas.cleared(Color::TRANSPARENT))],
                    ..Default::default()
                });
                quads.draw(&mut pass, index);
            }
        }
        let shown: Vec<PlacedCanvas<'_>> = self
            .canvases
            .iter()
            .zip(in_order(&frame.parts))
            .map(|(canvas, (part, cel))| {
                let mut placement = cel.placement;
                // The window may just have become smaller.
                placement.end = placement.end.min(part.size);
                PlacedCanvas::over(canvas, placement.moved(part.corner))
            })
            .collect();
        self.presenter.prepare(device, queue, window, &shown);
        Ok(())
    }

    /// Returns a canvas of the right size for each cel.
    fn fit(&mut self, device: &Device, parts: &[DrawnView]) -> Result<(), PresentError> {
        for (index, (_, cel)) in in_order(parts).enumerate() {
            match self.canvases.get_mut(index) {
                Some(canvas) => {
                    canvas.fit(device, &cel.view)?;
                }
                None => self.canvases.push(self.presenter.canvas(device, &cel.view, CANVAS)?),
            }
        }
        Ok(())
    }
}

/// Returns the sceneries of all parts, without duplicates.
fn sceneries(parts: &[DrawnView]) -> impl Iterator<Item = &Arc<Scenery>> {
    parts.iter().enumerate().filter_map(|(index, part)| {
        let seen = parts[..index].iter().any(|other| Arc::ptr_eq(&other.scenery, &part.scenery));
        (!seen).then_some(&part.scenery)
    })
}

fn cels_of<'a>(parts: &'a [DrawnView], scenery: &'a Arc<Scenery>) -> impl Iterator<Item = &'a Cel> {
    parts.iter().filter(|part| Arc::ptr_eq(&part.scenery, scenery)).flat_map(|part| &part.cels)
}

/// All cels with their parts, scenery by scenery.
fn in_order(parts: &[DrawnView]) -> impl Iterator<Item = (&DrawnView, &Cel)> {
    sceneries(parts).flat_map(|scenery| {
        let parts = parts.iter().filter(|part| Arc::ptr_eq(&part.scenery, scenery));
        parts.flat_map(|part| part.cels.iter().map(move |cel| (part, cel)))
    })
}

/// Returns the quads of a scenery, created when it first appears.
fn quads<'a>(
    all: &'a mut Vec<(Arc<Scenery>, Card)>,
    device: &Device,
    queue: &Queue,
    scenery: &Arc<Scenery>,
) -> &'a mut Card {
    let known = all.iter().position(|(one, _)| Arc::ptr_eq(one, scenery));
    let index = known.unwrap_or_else(|| {
        all.push((Arc::clone(scenery), Card::new(device, queue, scenery.pictures(), CANVAS)));
        all.len() - 1
    });
    &mut all[index].1
}
