//! The filter for graphics cards is valid WGSL.

use velvet_pan::PRESENT_WGSL;
use velvet_pan_wgpu::wgpu::naga;

#[test]
fn the_shader_is_valid() {
    let whole = format!(
        "{PRESENT_WGSL}
        @group(0) @binding(0) var canvas: texture_2d<f32>;
        @fragment fn main(@builtin(position) at: vec4<f32>) -> @location(0) vec4<f32> {{
            return present_canvas(canvas, at.xy, vec2<f32>(-1.5, 2.0), 5.97);
        }}"
    );
    let module = naga::front::wgsl::parse_str(&whole).expect("WGSL");
    let flags = naga::valid::ValidationFlags::all();
    let mut validator = naga::valid::Validator::new(flags, naga::valid::Capabilities::default());
    validator.validate(&module).expect("valid");
}
