//! Presenting with any size, stride and placement, compared with a copy that is computed pixel by pixel.

use velvet_pan::glam::{DVec2, IVec2, UVec2};
use velvet_pan::{Blending, Canvas, CanvasMut, Placement, present, present_over};

use crate::draw::Draw;
use crate::random_play::Dice;

type Colour = [u8; 4];

/// The content of the window before.
const BEFORE: Colour = [1, 2, 3, 255];

/// Presents a canvas, controlled by the bytes.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    let mut draw = Draw::new(bytes);
    let canvas_size = UVec2::new(draw.below(24), draw.below(24));
    let window_size = UVec2::new(draw.below(100), draw.below(100));
    let placement = placement(&mut draw, window_size);
    let [canvas_stride, stride] = [canvas_size, window_size].map(|size| match draw.below(4) {
        0 => draw.below(200) as usize,
        1 => size.x as usize + draw.below(9) as usize,
        2 if draw.one_in(8) => usize::MAX,
        _ => size.x as usize,
    });
    let needed = |size: UVec2, stride: usize| stride.saturating_mul(size.y as usize).min(20_000);
    let shorter = if draw.one_in(3) { draw.below(300) as usize } else { 0 };
    let art = art(needed(canvas_size, canvas_stride).saturating_sub(shorter));
    let mut window = vec![BEFORE; needed(window_size, stride).saturating_sub(shorter / 2)];
    let blending = draw.pick(&[Blending::Encoded, Blending::Linear]);
    let over = draw.one_in(2);

    let canvas = Canvas { size: canvas_size, stride: canvas_stride, data: &art };
    let target = CanvasMut { size: window_size, stride, data: &mut window };
    if over {
        present_over(canvas, target, &placement, blending);
    } else {
        present(canvas, target, &placement, blending);
    }
    if stride < window_size.x as usize {
        return; // its rows lie upon each other
    }
    nothing_beside(&window, window_size, stride);
    if over {
        nothing_outside(&window, stride, &placement);
    }
    let whole = art.len() >= canvas_stride.saturating_mul(canvas_size.y as usize);
    if !over && canvas_stride >= canvas_size.x as usize && whole {
        nearest(&canvas, &window, window_size, stride, &placement);
    }
}

fn placement(draw: &mut Draw<'_>, window: UVec2) -> Placement {
    let corner =
        |draw: &mut Draw<'_>| UVec2::new(draw.below(window.x + 9), draw.below(window.y + 9));
    let scale = match draw.below(3) {
        0 => f64::from(1 + draw.below(12)),
        _ => draw.number(0.2, 9.0),
    };
    let origin = DVec2::new(draw.number(-90.0, 90.0), draw.number(-90.0, 90.0));
    Placement { origin, scale, first: corner(draw), end: corner(draw) }
}

/// Art in which every pixel differs from its neighbours, partly transparent.
fn art(pixels: usize) -> Vec<Colour> {
    let pixel = |index: u32| {
        let mixed = index.wrapping_mul(2_654_435_761) ^ (index >> 3);
        let alpha = if index.is_multiple_of(3) { 255 } else { (mixed >> 5) as u8 };
        [
            (mixed >> 24) as u8 & alpha,
            (mixed >> 16) as u8 & alpha,
            (mixed >> 8) as u8 & alpha,
            alpha,
        ]
    };
    (0..pixels as u32).map(pixel).collect()
}

/// The memory between the rows of the window must not change.
fn nothing_beside(window: &[Colour], size: UVec2, stride: usize) {
    for (index, pixel) in window.iter().enumerate() {
        let beside = index % stride.max(1) >= size.x as usize;
        let below = index / stride.max(1) >= size.y as usize;
        assert!(!(beside || below) || *pixel == BEFORE, "pixel {index} of a stride of {stride}");
    }
}

/// Drawing over may only change the placement's rectangle.
fn nothing_outside(window: &[Colour], stride: usize, placement: &Placement) {
    for (index, pixel) in window.iter().enumerate() {
        let at = [index % stride.max(1), index / stride.max(1)]
            .map(|part| u32::try_from(part).unwrap_or(u32::MAX));
        let at = UVec2::from(at);
        let inside = at.cmpge(placement.first).all() && at.cmplt(placement.end).all();
        assert!(inside || *pixel == BEFORE, "pixel {at}");
    }
}

/// At a whole scale, each window pixel must show the art pixel under its middle, and beside the canvas nothing.
fn nearest(
    canvas: &Canvas<'_>,
    window: &[Colour],
    size: UVec2,
    stride: usize,
    placement: &Placement,
) {
    let whole = placement.scale.fract() == 0.0 && placement.scale >= 1.0;
    let near = placement.origin.abs().cmplt(DVec2::splat(1e6)).all() && placement.scale < 1e6;
    let enough =
        stride >= size.x as usize && window.len() >= stride.saturating_mul(size.y as usize);
    if !(whole && near && enough) || canvas.size.min_element() == 0 {
        return;
    }
    let end = placement.end.min(size);
    for y in placement.first.y..end.y {
        for x in placement.first.x..end.x {
            let middle = DVec2::new(f64::from(x) + 0.5, f64::from(y) + 0.5);
            let art = (middle - placement.origin) / placement.scale;
            // Where the middle lies upon an edge, either is right.
            let edge = (art - art.round()).abs().min_element() < 1e-3;
            let at = art.floor().as_ivec2();
            let beside = at.cmplt(IVec2::ZERO).any() || at.cmpge(canvas.size.as_ivec2()).any();
            let pixel = || canvas.data[at.y as usize * canvas.stride + at.x as usize];
            let expected = if beside { BEFORE } else { pixel() };
            let shown = window[y as usize * stride + x as usize];
            assert!(
                edge || shown == expected,
                "{x}, {y}: {shown:?} for {expected:?}, {placement:?} of {:?}",
                canvas.size
            );
        }
    }
}
