// Lays a canvas into its target: one triangle over the target, cut by the scissor.
// `present_canvas` is the library's own filter, which stands before this text.

struct Placed {
    @builtin(position) position: vec4<f32>,
    // The canvas' origin in target pixels, and target pixels per canvas pixel.
    @location(0) @interpolate(flat) placement: vec4<f32>,
}

@group(0) @binding(0) var canvas: texture_2d<f32>;

// What happens to a color on its way: 0 nothing, 1 encoded sRGB becomes light, 2 light becomes encoded sRGB.
override conversion: u32 = 0;

@vertex
fn cover_target(@builtin(vertex_index) index: u32, @location(0) placement: vec4<f32>) -> Placed {
    let corner = vec2<f32>(f32(index & 1u), f32(index >> 1u));
    return Placed(vec4<f32>(corner * 4.0 - 1.0, 0.0, 1.0), placement);
}

// IEC 61966-2-1.
fn decoded(encoded: vec3<f32>) -> vec3<f32> {
    let curve = pow((encoded + 0.055) / 1.055, vec3<f32>(2.4));
    return select(curve, encoded / 12.92, encoded <= vec3<f32>(0.04045));
}

fn encoded(light: vec3<f32>) -> vec3<f32> {
    let curve = 1.055 * pow(light, vec3<f32>(1.0 / 2.4)) - 0.055;
    return select(curve, light * 12.92, light <= vec3<f32>(0.0031308));
}

@fragment
fn show_canvas(placed: Placed) -> @location(0) vec4<f32> {
    let shown = present_canvas(canvas, placed.position.xy, placed.placement.xy, placed.placement.z);
    if (conversion == 0u || shown.a <= 0.0) {
        return shown;
    }
    // Colors are premultiplied: what is converted is the color itself.
    let color = clamp(shown.rgb / shown.a, vec3<f32>(0.0), vec3<f32>(1.0));
    if (conversion == 1u) {
        return vec4<f32>(decoded(color) * shown.a, shown.a);
    }
    return vec4<f32>(encoded(color) * shown.a, shown.a);
}
