//! Drawing a finished canvas into the pixels of a window, on the CPU.
//!
//! At a whole scale, the nearest pixel is used. At other scales, each window pixel shows the part of the canvas that
//! it covers. A window pixel within one art pixel has exactly its colour, and only a window pixel that an edge crosses
//! is blended. So edges stay sharp, and all art pixels are equally wide.
//!
//! The work is done by art pixels, not by window pixels: each row of art is spread once, and window rows that show the
//! same row are copies.

use crate::lens::fit::Placement;
use crate::present::canvas::{Canvas, CanvasMut};
use crate::present::mixing::{Blending, Opaque, Over};
use crate::present::spreading::{Cover, Spread, Stripe};

/// The same filter for a graphics card: WGSL with the function
/// `present_canvas(canvas, window_pixel, origin, scale)`, which returns the colour of one window pixel. The
/// crate `velvet-pan-wgpu` is a presenter made of it.
///
/// * `canvas` is a `texture_2d<f32>` of [`View::canvas_size`](crate::View::canvas_size) pixels. It is read with
///   `textureLoad`: bind it without a sampler, with the sample type "unfilterable float".
/// * `window_pixel` is the `xy` of the fragment's `@builtin(position)`. It counts from the corner of the
///   framebuffer: for a part of it, use [`Placement::moved`].
/// * `origin` and `scale` are the first two numbers and the third of [`Placement::uniform`].
///
/// Draw a triangle that covers the window, with the scissor rectangle of [`Placement::on_canvas`]; outside of it the
/// function repeats the canvas' edge. Draw the rearmost canvas without blending, and the others over it with
/// premultiplied blending: source factor one, destination factor one minus source alpha.
///
/// If canvas and window have formats without sRGB, edges and layers blend as with [`Blending::Encoded`]; if both
/// have sRGB formats, as with [`Blending::Linear`]. With one of each the colours come out wrong unless the shader
/// converts them.
pub const PRESENT_WGSL: &str = include_str!("present.wgsl");

/// Draws `canvas` into `window` at `placement`, as if it were opaque.
///
/// At a whole scale each window pixel shows the nearest canvas pixel. At other scales it shows the average of the
/// canvas area that it covers. The bars around the picture, and what lies beside the canvas, are not changed. If a
/// buffer is shorter than its size says, the missing pixels are skipped. Nothing is allocated.
///
/// ```
/// use velvet_pan::{Blending, Lens, Canvas, CanvasMut, Screen, Snap, View, present};
/// use velvet_pan::glam::UVec2;
///
/// let screen = Screen { size: UVec2::new(2, 1), ..Screen::default() };
/// let view = View::new(Lens::new(&screen), [1.0, 0.5], Snap::Whole).with_window((5, 2));
/// let (red, green, bar) = ([255, 0, 0, 255], [0, 255, 0, 255], [9, 9, 9, 255]);
///
/// let canvas = [red, green];
/// let mut window = [bar; 10];
/// present(
///     Canvas::new(view.canvas_size(), &canvas),
///     CanvasMut::new(UVec2::new(5, 2), &mut window),
///     &view.placement(),
///     Blending::Encoded,
/// );
/// assert_eq!(window[..5], [red, red, green, green, bar]);
/// ```
pub fn present(
    canvas: Canvas<'_>,
    mut window: CanvasMut<'_>,
    placement: &Placement,
    blending: Blending,
) {
    let Some(spread) = Spread::new(&canvas, &window, placement, blending) else { return };
    for stripe in spread.stripes() {
        present_stripe(&canvas, &mut window, &spread, &stripe);
    }
}

fn present_stripe(
    canvas: &Canvas<'_>,
    window: &mut CanvasMut<'_>,
    spread: &Spread,
    stripe: &Stripe,
) {
    let (first, end) = (stripe.first, stripe.end);
    let lay = |cover: &Cover, row: &mut [[u8; 4]]| {
        let done = cover.only().is_some_and(|art| spread.lay_blocks(canvas.row(art), stripe, row));
        if !done {
            spread.lay(canvas, cover, stripe, row, &Opaque);
        }
    };
    let mut laid: Option<(usize, usize)> = None; // an art row, and a window row that shows just it
    for y in spread.down.first..spread.down.end {
        let cover = spread.down.cover(y);
        match laid {
            Some((_, shown)) if shown == y => {}
            Some((art, shown)) if cover.is_only(art) => window.copy_row(shown, y, first, end),
            Some((art, shown)) if spread.is_between(&cover, art, y + 1) => {
                // The next row shows one art row alone: laid first, the two need not be mixed column by column.
                let next = spread.down.cover(y + 1);
                lay(&next, window.row(y + 1, first, end));
                laid = Some((cover.first + 1, y + 1));
                if !window.mix_rows([shown, y, y + 1], (first, end), cover.last_share()) {
                    lay(&cover, window.row(y, first, end));
                }
            }
            _ => {
                lay(&cover, window.row(y, first, end));
                laid = cover.only().map(|art| (art, y)).or(laid);
            }
        }
    }
}

/// Draws `canvas`, with premultiplied opacity, over what `window` already contains. Use it for layers, from back to
/// front.
///
/// ```
/// use velvet_pan::{Blending, Lens, Canvas, CanvasMut, Screen, Snap, View, present_over};
/// use velvet_pan::glam::UVec2;
///
/// let screen = Screen { size: UVec2::new(2, 1), ..Screen::default() };
/// let view = View::new(Lens::new(&screen), [1.0, 0.5], Snap::Whole);
/// let canvas = [[0; 4], [0, 60, 0, 128]]; // clear, and half of a green
/// let mut window = [[200, 0, 0, 255]; 2];
/// let (size, placement) = (view.canvas_size(), view.placement());
/// let target = CanvasMut::new(size, &mut window);
/// present_over(Canvas::new(size, &canvas), target, &placement, Blending::Encoded);
/// assert_eq!(window, [[200, 0, 0, 255], [100, 60, 0, 255]]);
/// ```
pub fn present_over(
    canvas: Canvas<'_>,
    mut window: CanvasMut<'_>,
    placement: &Placement,
    blending: Blending,
) {
    let Some(spread) = Spread::new(&canvas, &window, placement, blending) else { return };
    for stripe in spread.stripes() {
        let mut y = spread.down.first;
        while y < spread.down.end {
            let rows = spread.down.alike(y);
            y = rows.end;
            let cover = spread.down.cover(rows.start);
            if let (true, Some(art)) = (spread.is_whole(), cover.only()) {
                spread.lay_over_rows(canvas.row(art), &stripe, &mut window, rows);
            } else {
                for y in rows {
                    let row = window.row(y, stripe.first, stripe.end);
                    spread.lay(&canvas, &cover, &stripe, row, &Over);
                }
            }
        }
    }
}
