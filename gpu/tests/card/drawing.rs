//! Coloured triangles through a matrix, the simplest way to draw with a graphics card.

use bytemuck::{Pod, Zeroable};
use velvet_pan_wgpu::velvet_pan::glam::{Mat4, UVec2, Vec2};
use velvet_pan_wgpu::wgpu::{self, TextureFormat, util::DeviceExt};

use crate::offscreen::Card;
use crate::pass;

const SHADER: &str = "
struct Placed { matrix: mat4x4<f32>, offset: vec4<f32> }
@group(0) @binding(0) var<uniform> placed: Placed;
struct Corner { @builtin(position) position: vec4<f32>, @location(0) @interpolate(flat) number: u32 }
@vertex fn place(@location(0) at: vec2<f32>, @location(1) number: u32) -> Corner {
    return Corner(placed.matrix * vec4<f32>(at + placed.offset.xy, 0.0, 1.0), number);
}
@fragment fn colour(corner: Corner) -> @location(0) vec4<f32> { return unpack4x8unorm(corner.number); }
";

/// A corner of a triangle, and the number that its pixels get; 0 is nothing.
#[repr(C)]
#[derive(Clone, Copy, Debug, Pod, Zeroable)]
pub struct Vertex {
    at: [f32; 2],
    number: u32,
}

/// Two triangles from one corner to the opposite one.
pub fn quad(one: Vec2, other: Vec2, number: u32) -> [Vertex; 6] {
    let corner = |x: f32, y: f32| Vertex { at: [x, y], number };
    let (a, b) = (corner(one.x, one.y), corner(other.x, one.y));
    let (c, d) = (corner(one.x, other.y), corner(other.x, other.y));
    [a, b, c, c, b, d]
}

/// The number of each pixel of a canvas on which these triangles are drawn; `offset` is added to each corner.
pub fn draw(card: &Card, size: UVec2, matrix: Mat4, offset: Vec2, corners: &[Vertex]) -> Vec<u32> {
    let device = &card.device;
    let target = card.target(size, TextureFormat::Rgba8Unorm);
    let pipeline = pipeline(device, target.format());
    let buffer = |contents: &[u8], usage| {
        device.create_buffer_init(&wgpu::util::BufferInitDescriptor {
            label: None,
            contents,
            usage,
        })
    };
    let mut placed = matrix.to_cols_array().to_vec();
    placed.extend([offset.x, offset.y, 0.0, 0.0]);
    let placed = buffer(bytemuck::cast_slice(&placed), wgpu::BufferUsages::UNIFORM);
    let vertices = buffer(bytemuck::cast_slice(corners), wgpu::BufferUsages::VERTEX);
    let group = device.create_bind_group(&wgpu::BindGroupDescriptor {
        label: None,
        layout: &pipeline.get_bind_group_layout(0),
        entries: &[wgpu::BindGroupEntry { binding: 0, resource: placed.as_entire_binding() }],
    });
    pass(card, &target, wgpu::LoadOp::Clear(wgpu::Color::TRANSPARENT), |pass| {
        pass.set_pipeline(&pipeline);
        pass.set_bind_group(0, &group, &[]);
        pass.set_vertex_buffer(0, vertices.slice(..));
        pass.draw(0..corners.len() as u32, 0..1);
    });
    card.read(&target).expect("pixels").into_iter().map(u32::from_le_bytes).collect()
}

fn pipeline(device: &wgpu::Device, format: TextureFormat) -> wgpu::RenderPipeline {
    let shader = device.create_shader_module(wgpu::ShaderModuleDescriptor {
        label: None,
        source: wgpu::ShaderSource::Wgsl(SHADER.into()),
    });
    device.create_render_pipeline(&wgpu::RenderPipelineDescriptor {
        label: None,
        layout: None,
        vertex: wgpu::VertexState {
            module: &shader,
            entry_point: None,
            compilation_options: Default::default(),
            buffers: &[Some(wgpu::VertexBufferLayout {
                array_stride: size_of::<Vertex>() as u64,
                step_mode: wgpu::VertexStepMode::Vertex,
                attributes: &wgpu::vertex_attr_array![0 => Float32x2, 1 => Uint32],
            })],
        },
        primitive: Default::default(),
        depth_stencil: None,
        multisample: Default::default(),
        fragment: Some(wgpu::FragmentState {
            module: &shader,
            entry_point: None,
            compilation_options: Default::default(),
            targets: &[Some(format.into())],
        }),
        multiview_mask: None,
        cache: None,
    })
}
