// Pictures of an atlas on a canvas, one quad each, by the nearest pixel.

struct Matrices {
    canvas_to_clip: mat4x4<f32>,
    relative_to_clip: mat4x4<f32>,
}

struct Quad {
    // Two opposite corners: canvas pixels, or world units relative to the camera.
    @location(0) first: vec2<f32>,
    @location(1) last: vec2<f32>,
    // Corner and size in the atlas.
    @location(2) texels: vec4<u32>,
    @location(3) kind: u32,
}

struct Corner {
    @builtin(position) position: vec4<f32>,
    @location(0) @interpolate(flat) first: vec2<f32>,
    @location(1) @interpolate(flat) last: vec2<f32>,
    @location(2) @interpolate(flat) texels: vec4<u32>,
    @location(3) @interpolate(flat) kind: u32,
    @location(4) part: vec2<f32>,
}

const MIRRORED: u32 = 1u;
const WORLD: u32 = 2u;

@group(0) @binding(0) var atlas: texture_2d<f32>;
@group(0) @binding(1) var<uniform> matrices: Matrices;

@vertex
fn place_quad(@builtin(vertex_index) index: u32, quad: Quad) -> Corner {
    let part = vec2<f32>(f32(index & 1u), f32(index >> 1u));
    // Not first + size: quads that share a corner share its bits, and leave no gap.
    let at = select(quad.first, quad.last, part > vec2<f32>(0.5));
    var position: vec4<f32>;
    if (quad.kind == WORLD) {
        position = matrices.relative_to_clip * vec4<f32>(at, 0.0, 1.0);
    } else {
        position = matrices.canvas_to_clip * vec4<f32>(at, 0.0, 1.0);
    }
    return Corner(position, quad.first, quad.last, quad.texels, quad.kind, part);
}

// The picture's pixel in whole numbers, so that no rounding can decide it.
fn nearest(pixel: vec2<i32>, corner: Corner) -> vec2<i32> {
    let first = vec2<i32>(corner.first);
    let size = vec2<i32>(corner.last) - first;
    let picture = vec2<i32>(corner.texels.zw);
    var texel = (2 * (pixel - first) + 1) * picture / (2 * size);
    if (corner.kind == MIRRORED) {
        texel.x = picture.x - 1 - texel.x;
    }
    return texel;
}

@fragment
fn show_picture(corner: Corner) -> @location(0) vec4<f32> {
    var texel = vec2<i32>(corner.part * vec2<f32>(corner.texels.zw));
    if (corner.kind != WORLD) {
        texel = nearest(vec2<i32>(corner.position.xy), corner);
    }
    let last = vec2<i32>(corner.texels.zw) - 1;
    let at = vec2<i32>(corner.texels.xy) + clamp(texel, vec2<i32>(0), last);
    let color = textureLoad(atlas, at, 0);
    if (color.a == 0.0) {
        discard;
    }
    return color;
}
