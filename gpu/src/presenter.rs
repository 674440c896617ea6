//! Draws canvases into a target, back to front.

use velvet_pan::glam::UVec2;
use velvet_pan::{PRESENT_WGSL, Placement, View, WindowSize};
use wgpu::{
    BindGroup, BindGroupLayout, BindGroupLayoutDescriptor, BindGroupLayoutEntry, BindingType,
    BlendState, Buffer, BufferDescriptor, BufferUsages, ColorTargetState, ColorWrites, Device,
    FragmentState, PipelineCompilationOptions, PipelineLayoutDescriptor, Queue, RenderPass,
    RenderPipeline, RenderPipelineDescriptor, ShaderModule, ShaderModuleDescriptor, ShaderSource,
    ShaderStages, TextureFormat, TextureFormatFeatureFlags, TextureSampleType, TextureUsages,
    TextureViewDimension, VertexBufferLayout, VertexState, VertexStepMode, vertex_attr_array,
};

use crate::error::PresentError;
use crate::gpu_canvas::GpuCanvas;

/// How a canvas covers what is below it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Alpha {
    /// Replaces what is below. The opacity of the canvas is written to the target unchanged.
    Opaque,
    /// Blends over what is below. Colours are premultiplied by opacity.
    Premultiplied,
}

/// A canvas and its position in the target.
#[derive(Clone, Copy, Debug)]
pub struct PlacedCanvas<'a> {
    /// The canvas.
    pub canvas: &'a GpuCanvas,
    /// Its position in pixels of the target: [`View::placement`], or [`Placement::moved`] for a part of the target.
    pub placement: Placement,
    /// How it covers what is below.
    pub alpha: Alpha,
}

impl<'a> PlacedCanvas<'a> {
    /// Shows an opaque canvas; use it for the rearmost one. `placement` is in pixels of the target.
    #[must_use]
    pub fn opaque(canvas: &'a GpuCanvas, placement: Placement) -> Self {
        Self { canvas, placement, alpha: Alpha::Opaque }
    }

    /// Blends a premultiplied canvas over what is below. `placement` is in pixels of the target.
    #[must_use]
    pub fn over(canvas: &'a GpuCanvas, placement: Placement) -> Self {
        Self { canvas, placement, alpha: Alpha::Premultiplied }
    }
}

/// Draws canvases into a target, such as the surface of a window, with the library's own filter ([`PRESENT_WGSL`]):
/// nearest at whole scales, an area average at others.
///
/// Create it once for each target format. In each frame, call [`prepare`](Self::prepare) once with all canvases of the
/// frame, then [`draw`](Self::draw) in a render pass. After the first frame this creates no GPU objects and allocates
/// no memory, unless a later frame has more canvases than any before.
///
/// ```no_run
/// # use velvet_pan_wgpu::{GpuCanvas, PresentError, Presenter, PlacedCanvas, velvet_pan::View, wgpu};
/// # fn frame(
/// #     device: &wgpu::Device, queue: &wgpu::Queue, surface: &wgpu::Texture, view: &View,
/// #     presenter: &mut Presenter, canvas: &mut GpuCanvas,
/// # ) -> Result<(), PresentError> {
/// canvas.fit(device, view)?;
/// let window = [surface.width(), surface.height()];
/// presenter.prepare(device, queue, window, &[PlacedCanvas::opaque(canvas, view.placement())]);
///
/// let mut encoder = device.create_command_encoder(&Default::default());
/// let mut pass = encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
///     color_attachments: &[Some(canvas.cleared(wgpu::Color::BLACK))],
///     ..Default::default()
/// });
/// // Draw the game here: `view.relative_to_clip_matrix()` is the matrix.
/// drop(pass);
///
/// let target = surface.create_view(&Default::default());
/// let mut pass = encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
///     color_attachments: &[Some(wgpu::RenderPassColorAttachment {
///         view: &target,
///         depth_slice: None,
///         resolve_target: None,
///         ops: wgpu::Operations::default(), // clears: the bars
///     })],
///     ..Default::default()
/// });
/// presenter.draw(&mut pass);
/// drop(pass);
/// queue.submit([encoder.finish()]);
/// # Ok(())
/// # }
/// ```
#[derive(Debug)]
pub struct Presenter {
    target: TextureFormat,
    layout: BindGroupLayout,
    /// By whether the canvas holds linear light, and by how it covers.
    pipelines: [[RenderPipeline; 2]; 2],
    placements: Buffer,
    numbers: Vec<[f32; 4]>,
    prepared: Vec<Prepared>,
}

/// The data of one draw call.
#[derive(Debug)]
struct Prepared {
    canvas: BindGroup,
    holds_light: bool,
    alpha: Alpha,
    /// `None` if nothing of it is visible.
    scissor: Option<[u32; 4]>,
}

const PLACEMENT_BYTES: u64 = size_of::<[f32; 4]>() as u64;

impl Presenter {
    /// Creates a presenter for targets of this format, without multisampling.
    ///
    /// # Errors
    ///
    /// [`PresentError::Target`] if the device can't draw into the format and blend there.
    pub fn new(device: &Device, target: TextureFormat) -> Result<Self, PresentError> {
        let features = target.guaranteed_format_features(device.features());
        let blends = features.flags.contains(TextureFormatFeatureFlags::BLENDABLE);
        if !blends || !features.allowed_usages.contains(TextureUsages::RENDER_ATTACHMENT) {
            return Err(PresentError::Target(target));
        }
        let layout = device.create_bind_group_layout(&BindGroupLayoutDescriptor {
            label: Some("canvas"),
            entries: &[BindGroupLayoutEntry {
                binding: 0,
                visibility: ShaderStages::FRAGMENT,
                ty: BindingType::Texture {
                    sample_type: TextureSampleType::Float { filterable: false },
                    view_dimension: TextureViewDimension::D2,
                    multisampled: false,
                },
                count: None,
            }],
        });
        let text = [PRESENT_WGSL, include_str!("presenter.wgsl")].concat();
        let shader = device.create_shader_module(ShaderModuleDescriptor {
            label: Some("present"),
            source: ShaderSource::Wgsl(text.into()),
        });
        let pipelines = [false, true].map(|light| {
            [Alpha::Opaque, Alpha::Premultiplied]
                .map(|alpha| pipeline(device, &layout, &shader, target, light, alpha))
        });
        let placements = placement_buffer(device, 4);
        let (numbers, prepared) = (Vec::new(), Vec::new());
        Ok(Self { target, layout, pipelines, placements, numbers, prepared })
    }

    /// Returns the format of its targets.
    #[must_use]
    pub fn target_format(&self) -> TextureFormat {
        self.target
    }

    /// Creates a canvas of the size of this view, [`View::canvas_size`].
    ///
    /// # Errors
    ///
    /// [`PresentError::Canvas`] if the device can't draw into the format and read it. [`PresentError::TooLarge`] if
    /// the device has no texture of this size.
    pub fn canvas(
        &self,
        device: &Device,
        view: &View,
        format: TextureFormat,
    ) -> Result<GpuCanvas, PresentError> {
        GpuCanvas::new(device, &self.layout, view.canvas_size(), format)
    }

    /// Uploads the placements of all canvases of a frame, back to front. Call it once before each submission.
    ///
    /// `target` is the size of the target in pixels. A placement that reaches beyond it is clipped.
    pub fn prepare(
        &mut self,
        device: &Device,
        queue: &Queue,
        target: impl Into<WindowSize>,
        shown: &[PlacedCanvas<'_>],
    ) {
        let target = target.into();
        self.numbers.clear();
        self.numbers.extend(shown.iter().map(|one| one.placement.uniform()));
        let bytes: &[u8] = bytemuck::cast_slice(&self.numbers);
        if self.placements.size() < bytes.len() as u64 {
            self.placements = placement_buffer(device, shown.len().next_power_of_two() as u64);
        }
        if !bytes.is_empty() {
            queue.write_buffer(&self.placements, 0, bytes);
        }
        self.prepared.clear();
        self.prepared.extend(shown.iter().map(|one| Prepared {
            canvas: one.canvas.bind_group().clone(),
            holds_light: holds_light(one.canvas.format()),
            alpha: one.alpha,
            scissor: scissor(&one.placement.on_canvas(one.canvas.size()), target),
        }));
    }

    /// Draws all prepared canvases, back to front.
    ///
    /// The pass must draw into a target of the presenter's format, with a viewport that covers the placements. The
    /// bars around them are not drawn. Afterwards, the pass has the presenter's pipeline, bind group 0, vertex buffer
    /// 0 and scissor.
    pub fn draw(&self, pass: &mut RenderPass<'_>) {
        for index in 0..self.prepared.len() {
            self.draw_one(pass, index);
        }
    }

    /// Draws one of the prepared canvases, counted from 0 in the order of [`prepare`](Self::prepare), so that the same
    /// canvas can be drawn to again between two calls. Returns `false` if there is no such canvas.
    ///
    /// Afterwards, the state of the pass is as after [`draw`](Self::draw).
    pub fn draw_one(&self, pass: &mut RenderPass<'_>, index: usize) -> bool {
        let Some(one) = self.prepared.get(index) else { return false };
        let Some([x, y, width, height]) = one.scissor else { return true };
        let start = index as u64 * PLACEMENT_BYTES;
        pass.set_pipeline(&self.pipelines[usize::from(one.holds_light)][one.alpha as usize]);
        pass.set_bind_group(0, &one.canvas, &[]);
        pass.set_vertex_buffer(0, self.placements.slice(start..start + PLACEMENT_BYTES));
        pass.set_scissor_rect(x, y, width, height);
        pass.draw(0..3, 0..1);
        true
    }
}

fn placement_buffer(device: &Device, count: u64) -> Buffer {
    device.create_buffer(&BufferDescriptor {
        label: Some("placements"),
        size: count * PLACEMENT_BYTES,
        usage: BufferUsages::VERTEX | BufferUsages::COPY_DST,
        mapped_at_creation: false,
    })
}

/// Returns the pixels of the target that show the canvas, or `None` if nothing of it is visible.
fn scissor(placement: &Placement, target: WindowSize) -> Option<[u32; 4]> {
    let usable = placement.scale > 0.0 && placement.scale.is_finite();
    if !usable || !placement.origin.is_finite() {
        return None;
    }
    let end = placement.end.min(UVec2::new(target.width, target.height));
    Placement { end, ..*placement }.scissor()
}

/// Returns whether the numbers that a shader reads and writes are linear light and not encoded sRGB.
fn holds_light(format: TextureFormat) -> bool {
    use TextureFormat::{R16Float, R32Float, Rg16Float, Rg32Float, Rgba16Float, Rgba32Float};
    let float =
        matches!(format, R16Float | R32Float | Rg16Float | Rg32Float | Rgba16Float | Rgba32Float);
    format.is_srgb() || float
}

fn pipeline(
    device: &Device,
    layout: &BindGroupLayout,
    shader: &ShaderModule,
    target: TextureFormat,
    canvas_holds_light: bool,
    alpha: Alpha,
) -> RenderPipeline {
    let conversion = match (canvas_holds_light, holds_light(target)) {
        (false, true) => 1.0,
        (true, false) => 2.0,
        _ => 0.0,
    };
    let blend = (alpha == Alpha::Premultiplied).then_some(BlendState::PREMULTIPLIED_ALPHA_BLENDING);
    let layout = device.create_pipeline_layout(&PipelineLayoutDescriptor {
        label: Some("present"),
        bind_group_layouts: &[Some(layout)],
        immediate_size: 0,
    });
    device.create_render_pipeline(&RenderPipelineDescriptor {
        label: Some("present"),
        layout: Some(&layout),
        vertex: VertexState {
            module: shader,
            entry_point: Some("cover_target"),
            compilation_options: PipelineCompilationOptions::default(),
            buffers: &[Some(VertexBufferLayout {
                array_stride: PLACEMENT_BYTES,
                step_mode: VertexStepMode::Instance,
                attributes: &vertex_attr_array![0 => Float32x4],
            })],
        },
        primitive: Default::default(),
        depth_stencil: None,
        multisample: Default::default(),
        fragment: Some(FragmentState {
            module: shader,
            entry_point: Some("show_canvas"),
            compilation_options: PipelineCompilationOptions {
                constants: &[("conversion", conversion)],
                ..Default::default()
            },
            targets: &[Some(ColorTargetState {
                format: target,
                blend,
                write_mask: ColorWrites::ALL,
            })],
        }),
        multiview_mask: None,
        cache: None,
    })
}
