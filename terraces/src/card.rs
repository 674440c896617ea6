//! Painting cels with a graphics card: instanced quads, placed by the view's matrices.

use std::borrow::Borrow;

use bytemuck::{Pod, Zeroable};
use velvet_pan::glam::{DVec2, Mat4};
use velvet_pan::{View, YAxis};
use wgpu::{
    BindGroup, BindGroupDescriptor, BindGroupEntry, BindGroupLayout, BindGroupLayoutDescriptor,
    BindGroupLayoutEntry, BindingResource, BindingType, Buffer, BufferBinding, BufferBindingType,
    BufferDescriptor, BufferSize, BufferUsages, ColorTargetState, Device, FragmentState,
    PipelineLayoutDescriptor, PrimitiveState, PrimitiveTopology, Queue, RenderPass, RenderPipeline,
    RenderPipelineDescriptor, ShaderStages, TextureFormat, TextureSampleType, TextureView,
    TextureViewDimension, VertexBufferLayout, VertexState, VertexStepMode, include_wgsl,
    vertex_attr_array,
};

use crate::atlas::Atlas;
use crate::cel::{Cel, Quad, QuadArea};
use crate::picture::Picture;

/// Draws cels into canvases on a graphics card.
#[derive(Debug)]
pub struct Card {
    atlas: Atlas,
    atlas_view: TextureView,
    layout: BindGroupLayout,
    pipeline: RenderPipeline,
    bind_group: BindGroup,
    matrices: Buffer,
    instances: Buffer,
    /// The first instance of each prepared cel, and the end.
    starts: Vec<u32>,
}

/// A quad, as the vertex shader receives it.
#[repr(C)]
#[derive(Clone, Copy, Debug, Pod, Zeroable)]
struct Instance {
    first: [f32; 2],
    last: [f32; 2],
    texels: [u32; 4],
    kind: u32,
}

const MIRRORED: u32 = 1;
const WORLD: u32 = 2;

/// The distance in bytes between the matrices of two cels, which every graphics card allows.
const STRIDE: u64 = 256;
const MATRICES: u64 = size_of::<[Mat4; 2]>() as u64;

impl Card {
    /// Uploads the pictures. `format` is that of the canvases.
    #[must_use]
    pub fn new(
        device: &Device,
        queue: &Queue,
        pictures: &[Picture],
        format: TextureFormat,
    ) -> Self {
        let atlas = Atlas::new(device, queue, pictures);
        let atlas_view = atlas.texture.create_view(&Default::default());
        let layout = device.create_bind_group_layout(&BindGroupLayoutDescriptor {
            label: Some("quads"),
            entries: &layout_entries(),
        });
        let pipeline = pipeline(device, &layout, format);
        let matrices = buffer(device, STRIDE, BufferUsages::UNIFORM);
        let instances = buffer(device, 1, BufferUsages::VERTEX);
        let bind_group = bind_group(device, &layout, &atlas_view, &matrices);
        let starts = Vec::new();
        Self { atlas, atlas_view, layout, pipeline, bind_group, matrices, instances, starts }
    }

    /// Uploads all cels of a frame. Call it once before each submission.
    pub fn prepare<C: Borrow<Cel>>(&mut self, device: &Device, queue: &Queue, cels: &[C]) {
        let mut instances: Vec<Instance> = Vec::new();
        let mut matrices = vec![0_u8; cels.len() * STRIDE as usize];
        self.starts.clear();
        for (cel, bytes) in
            cels.iter().map(Borrow::borrow).zip(matrices.chunks_exact_mut(STRIDE as usize))
        {
            let both = [cel.view.canvas_to_clip_matrix(), cel.view.relative_to_clip_matrix()];
            bytes[..MATRICES as usize].copy_from_slice(bytemuck::bytes_of(&both));
            self.starts.push(instances.len() as u32);
            instances.extend(cel.quads.iter().map(|quad| self.instance(quad, &cel.view)));
        }
        self.starts.push(instances.len() as u32);
        let instances: &[u8] = bytemuck::cast_slice(&instances);
        if self.instances.size() < instances.len() as u64 {
            self.instances = buffer(device, instances.len() as u64 * 3 / 2, BufferUsages::VERTEX);
        }
        if self.matrices.size() < matrices.len() as u64 {
            self.matrices = buffer(device, matrices.len() as u64, BufferUsages::UNIFORM);
            self.bind_group = bind_group(device, &self.layout, &self.atlas_view, &self.matrices);
        }
        queue.write_buffer(&self.instances, 0, instances);
        queue.write_buffer(&self.matrices, 0, &matrices);
    }

    /// Draws one of the prepared cels, in a pass into its canvas.
    pub fn draw(&self, pass: &mut RenderPass<'_>, cel: usize) {
        let (Some(first), Some(end)) = (self.starts.get(cel), self.starts.get(cel + 1)) else {
            return;
        };
        pass.set_pipeline(&self.pipeline);
        pass.set_bind_group(0, &self.bind_group, &[(cel as u64 * STRIDE) as u32]);
        pass.set_vertex_buffer(0, self.instances.slice(..));
        pass.draw(0..4, *first..*end);
    }

    fn instance(&self, quad: &Quad, view: &View) -> Instance {
        let (corner, size) = self.atlas.places[quad.picture];
        let texels = [corner.x, corner.y, size.x, size.y];
        match quad.place {
            QuadArea::Canvas { rect, mirrored } => Instance {
                first: rect.min.into(),
                last: rect.max.into(),
                texels,
                kind: if mirrored { MIRRORED } else { 0 },
            },
            QuadArea::World(rect) => {
                let (top, bottom) = match view.lens().y_axis() {
                    YAxis::Down => (rect.min.y, rect.max.y),
                    YAxis::Up => (rect.max.y, rect.min.y),
                };
                let relative = |x: f64, y: f64| view.world_to_relative(DVec2::new(x, y)).into();
                let (first, last) = (relative(rect.min.x, top), relative(rect.max.x, bottom));
                Instance { first, last, texels, kind: WORLD }
            }
        }
    }
}

fn buffer(device: &Device, size: u64, usage: BufferUsages) -> Buffer {
    device.create_buffer(&BufferDescriptor {
        label: Some("quads"),
        size: size.next_multiple_of(4),
        usage: usage | BufferUsages::COPY_DST,
        mapped_at_creation: false,
    })
}

fn layout_entries() -> [BindGroupLayoutEntry; 2] {
    [
        BindGroupLayoutEntry {
            binding: 0,
            visibility: ShaderStages::FRAGMENT,
            ty: BindingType::Texture {
                sample_type: TextureSampleType::Float { filterable: false },
                view_dimension: TextureViewDimension::D2,
                multisampled: false,
            },
            count: None,
        },
        BindGroupLayoutEntry {
            binding: 1,
            visibility: ShaderStages::VERTEX,
            ty: BindingType::Buffer {
                ty: BufferBindingType::Uniform,
                has_dynamic_offset: true,
                min_binding_size: BufferSize::new(MATRICES),
            },
            count: None,
        },
    ]
}

fn bind_group(
    device: &Device,
    layout: &BindGroupLayout,
    atlas: &TextureView,
    matrices: &Buffer,
) -> BindGroup {
    let matrices = BufferBinding { buffer: matrices, offset: 0, size: BufferSize::new(MATRICES) };
    device.create_bind_group(&BindGroupDescriptor {
        label: Some("quads"),
        layout,
        entries: &[
            BindGroupEntry { binding: 0, resource: BindingResource::TextureView(atlas) },
            BindGroupEntry { binding: 1, resource: BindingResource::Buffer(matrices) },
        ],
    })
}

fn pipeline(device: &Device, layout: &BindGroupLayout, format: TextureFormat) -> RenderPipeline {
    let shader = device.create_shader_module(include_wgsl!("card.wgsl"));
    let layout = device.create_pipeline_layout(&PipelineLayoutDescriptor {
        label: Some("quads"),
        bind_group_layouts: &[Some(layout)],
        immediate_size: 0,
    });
    device.create_render_pipeline(&RenderPipelineDescriptor {
        label: Some("quads"),
        layout: Some(&layout),
        vertex: VertexState {
            module: &shader,
            entry_point: Some("place_quad"),
            compilation_options: Default::default(),
            buffers: &[Some(VertexBufferLayout {
                array_stride: size_of::<Instance>() as u64,
                step_mode: VertexStepMode::Instance,
                attributes: &vertex_attr_array![
                    0 => Float32x2, 1 => Float32x2, 2 => Uint32x4, 3 => Uint32
                ],
            })],
        },
        primitive: PrimitiveState {
            topology: PrimitiveTopology::TriangleStrip,
            ..Default::default()
        },
        depth_stencil: None,
        multisample: Default::default(),
        fragment: Some(FragmentState {
            module: &shader,
            entry_point: Some("show_picture"),
            compilation_options: Default::default(),
            targets: &[Some(ColorTargetState::from(format))],
        }),
        multiview_mask: None,
        cache: None,
    })
}
