//! Putting a finished canvas into a window's pixels, on the CPU.

use glam::UVec2;

use crate::fit::Placement;
use crate::window::WindowSize;

/// A picture in RGBA, 8 bits a channel, premultiplied, rows from the top, as `present` reads it.
#[derive(Clone, Copy, Debug)]
pub struct Pixels<'a> {
    /// The picture's size in pixels.
    pub size: UVec2,
    /// `size.x × size.y` pixels, row by row.
    pub data: &'a [[u8; 4]],
}

/// Lays `canvas` over `window` where `placement` says, nearest pixel.
///
/// `window` holds `window_size.width × window_size.height` pixels, row by row. The bars around the
/// picture are left as they are, and so is what shows through clear pixels of the canvas: fill the
/// window first, then present the canvases from back to front. Buffers shorter than their size says
/// are used as far as they go.
///
/// ```
/// use velvet_pan::{Lens, Pixels, Screen, Snap, View, glam::UVec2, present};
///
/// let screen = Screen { size: UVec2::new(2, 1), ..Screen::default() };
/// let view = View::new(Lens::new(&screen), [1.0, 0.5], Snap::Whole).in_window((5, 2));
/// let (red, green, bar) = ([255, 0, 0, 255], [0, 255, 0, 255], [9, 9, 9, 255]);
///
/// let canvas = Pixels { size: view.canvas_size(), data: &[red, green] };
/// let mut window = [bar; 10];
/// present(canvas, &mut window, (5, 2).into(), &view.placement());
/// assert_eq!(window[..5], [red, red, green, green, bar]);
/// ```
pub fn present(
    canvas: Pixels<'_>,
    window: &mut [[u8; 4]],
    window_size: WindowSize,
    placement: &Placement,
) {
    let width = window_size.width.max(1) as usize;
    let rows = window.chunks_exact_mut(width).take(placement.end.y as usize);
    for (y, row) in rows.enumerate().skip(placement.first.y as usize) {
        let Some(source) = source_row(&canvas, placement, y) else { continue };
        let (first, end) = (placement.first.x as usize, placement.end.x as usize);
        for (x, pixel) in row.iter_mut().enumerate().take(end).skip(first) {
            let column = (x as f64 + 0.5 - placement.origin.x) / placement.scale;
            if let Some(colour) = source.get(column as usize) {
                *pixel = over(*colour, *pixel);
            }
        }
    }
}

/// The canvas row that the middle of window row `y` falls on.
fn source_row<'a>(canvas: &Pixels<'a>, placement: &Placement, y: usize) -> Option<&'a [[u8; 4]]> {
    let row = (y as f64 + 0.5 - placement.origin.y) / placement.scale;
    let width = canvas.size.x as usize;
    let start = (row as usize).checked_mul(width)?;
    canvas.data.get(start..start.checked_add(width)?)
}

/// A premultiplied colour over another.
fn over(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    match above[3] {
        255 => above,
        0 => below,
        opacity => core::array::from_fn(|channel| {
            let shows = u16::from(below[channel]) * u16::from(255 - opacity) + 127;
            above[channel].saturating_add((shows / 255) as u8)
        }),
    }
}
