// The colour that one window pixel shows of a canvas: the part of the canvas that the pixel
// covers. Where a pixel lies within one art pixel that is just its colour; only a pixel that an art
// edge crosses is blended. At whole scales the nearest pixel is taken.
//
// window_pixel: the fragment's @builtin(position).xy, that is the middle of the window pixel
// origin:       the canvas' top left corner in window pixels
// scale:        window pixels per canvas pixel
fn present_canvas(
    canvas: texture_2d<f32>,
    window_pixel: vec2<f32>,
    origin: vec2<f32>,
    scale: f32,
) -> vec4<f32> {
    let last = vec2<i32>(textureDimensions(canvas)) - vec2<i32>(1, 1);
    let middle = (window_pixel - origin) / scale;
    if (scale >= 1.0 && floor(scale) == scale) {
        let nearest = clamp(vec2<i32>(floor(middle)), vec2<i32>(0, 0), last);
        return textureLoad(canvas, nearest, 0);
    }
    let reach = vec2<f32>(0.5 / scale, 0.5 / scale);
    let low = max(middle - reach, vec2<f32>(0.0, 0.0));
    let high = min(middle + reach, vec2<f32>(textureDimensions(canvas)));
    // Edges that only rounding lets into the pixel are left out.
    let sliver = vec2<f32>(0.0001, 0.0001) / scale;
    let first = clamp(vec2<i32>(floor(low + sliver)), vec2<i32>(0, 0), last);
    let end = clamp(vec2<i32>(floor(high - sliver)), vec2<i32>(0, 0), last);
    var sum = vec4<f32>(0.0, 0.0, 0.0, 0.0);
    for (var y = first.y; y <= end.y; y = y + 1) {
        for (var x = first.x; x <= end.x; x = x + 1) {
            let cell = vec2<f32>(f32(x), f32(y));
            var share = (min(high, cell + vec2<f32>(1.0, 1.0)) - max(low, cell)) / (high - low);
            // Along an axis on which the pixel shows one art pixel alone, that is all of it.
            if (first.x == end.x) {
                share.x = 1.0;
            }
            if (first.y == end.y) {
                share.y = 1.0;
            }
            sum = sum + textureLoad(canvas, vec2<i32>(x, y), 0) * share.x * share.y;
        }
    }
    return sum;
}
