//! How art pixels spread over window pixels: which of them each window pixel shows, and by what share.

use crate::lens::fit::Placement;
use crate::present::canvas::{Canvas, CanvasMut};
use crate::present::mixing::{Blending, Colour, Mixer, Put};

/// How a canvas spreads over a window, along both axes.
pub(crate) struct Spread {
    pub across: Axis,
    pub down: Axis,
    pub mixer: Mixer,
}

impl Spread {
    /// None where nothing of the canvas would be seen.
    pub fn new(
        canvas: &Canvas<'_>,
        window: &CanvasMut<'_>,
        placement: &Placement,
        blending: Blending,
    ) -> Option<Self> {
        let usable = placement.scale > 0.0 && placement.scale.is_finite();
        if !usable || !placement.origin.is_finite() || canvas.size.min_element() == 0 {
            return None;
        }
        let whole = placement.is_whole();
        let axis = |axis: usize| Axis {
            origin: placement.origin[axis],
            scale: placement.scale,
            whole,
            start: if whole { placement.first_edge()[axis] } else { placement.origin[axis] },
            count: canvas.size[axis] as usize,
            first: placement.first[axis] as usize,
            end: placement.end[axis].min(window.size[axis]) as usize,
        };
        let (across, down) = (axis(0), axis(1));
        (across.first < across.end && down.first < down.end).then(|| Self {
            across,
            down,
            mixer: Mixer::new(blending),
        })
    }

    /// Lays one window row, which shows the art rows of `cover`.
    pub fn lay(&self, canvas: &Canvas<'_>, cover: &Cover, row: &mut [[u8; 4]], put: &impl Put) {
        if cover.count == 1 {
            let art = canvas.row(cover.first);
            self.lay_columns(row, |column| colour_of(art, column), put);
        } else if cover.count == 2 {
            self.lay_columns(row, self.between(canvas, cover), put);
        } else {
            let sum = |column: usize| {
                let rows = (cover.first..cover.first + cover.count).enumerate();
                self.mixer.sum(
                    rows.map(|(index, y)| (colour_of(canvas.row(y), column), cover.share(index))),
                )
            };
            self.lay_columns(row, sum, put);
        }
    }

    /// The colours of the columns between two rows of art.
    fn between<'a>(
        &'a self,
        canvas: &'a Canvas<'_>,
        cover: &'a Cover,
    ) -> impl Fn(usize) -> Colour + 'a {
        let (one, other) = (canvas.row(cover.first), canvas.row(cover.first + 1));
        move |column| {
            self.mixer.mix(colour_of(one, column), colour_of(other, column), cover.last_share())
        }
    }

    /// Spreads the colours of one row of art over a window row.
    fn lay_columns(&self, row: &mut [[u8; 4]], colour: impl Fn(usize) -> Colour, put: &impl Put) {
        if self.across.scale < 1.0 {
            return self.gather_columns(row, colour, put);
        }
        let axis = &self.across;
        let mut x = axis.first;
        let mut column = axis.cover(x).first;
        let mut here = colour(column);
        while x < axis.first + row.len() {
            // The pixels that show this column alone, then one that may show the next as well.
            let edge = axis.edge(column + 1);
            let whole = if column + 1 == axis.count { axis.end } else { edge as i32 as usize };
            let end = whole.min(axis.first + row.len());
            if end > x {
                put.run(&self.mixer, row, x - axis.first, end - axis.first, here);
                x = end;
            }
            column += 1;
            if x >= axis.first + row.len() || column >= axis.count {
                break;
            }
            let next = colour(column);
            let share = edge - whole as f64; // of the pixel, what still shows the column before
            if share > SLIVER && edge >= x as f64 {
                let mixed = self.mixer.mix(here, next, 1.0 - share as f32);
                put.pixel(&self.mixer, &mut row[x - axis.first], mixed);
                x += 1;
            }
            here = next;
        }
    }

    /// The same for a window smaller than the canvas: several columns in each pixel.
    fn gather_columns(
        &self,
        row: &mut [[u8; 4]],
        colour: impl Fn(usize) -> Colour,
        put: &impl Put,
    ) {
        for (x, pixel) in (self.across.first..).zip(row) {
            let cover = self.across.cover(x);
            let parts =
                (0..cover.count).map(|index| (colour(cover.first + index), cover.share(index)));
            put.pixel(&self.mixer, pixel, self.mixer.sum(parts));
        }
    }
}

fn colour_of(art: &[[u8; 4]], column: usize) -> Colour {
    art.get(column).copied().map_or(Colour::CLEAR, Colour::Art)
}

/// Shares of a window pixel below this are rounding.
const SLIVER: f64 = 1e-6;

/// One axis of a spread: art pixel `i` fills the window from `origin + i·scale` on.
pub(crate) struct Axis {
    origin: f64,
    scale: f64,
    /// Edges are rounded to whole window pixels.
    whole: bool,
    /// The edge of the first art pixel, so rounded.
    start: f64,
    /// Art pixels.
    count: usize,
    /// The window pixels that show any.
    pub first: usize,
    pub end: usize,
}

/// The art pixels that one window pixel shows.
#[derive(Clone, Copy)]
pub(crate) struct Cover {
    pub first: usize,
    pub count: usize,
    /// Shares of the first, of each between, and of the last; they add up to 1.
    shares: [f32; 3],
}

impl Cover {
    pub fn is_only(&self, art: usize) -> bool {
        self.count == 1 && self.first == art
    }

    pub fn only(&self) -> Option<usize> {
        (self.count == 1).then_some(self.first)
    }

    pub fn last_share(&self) -> f32 {
        self.shares[2]
    }

    fn share(&self, index: usize) -> f32 {
        match index {
            0 => self.shares[0],
            index if index + 1 == self.count => self.shares[2],
            _ => self.shares[1],
        }
    }
}

impl Axis {
    /// Where art pixel `number` begins, in window pixels; never negative, since nothing is drawn
    /// there.
    #[inline]
    fn edge(&self, number: usize) -> f64 {
        let edge = self.start + number as f64 * self.scale;
        if edge > 0.0 { edge } else { 0.0 }
    }

    /// What the window pixel `at` shows: what lies between its edges, or, where edges are rounded,
    /// what its middle falls on.
    pub fn cover(&self, at: usize) -> Cover {
        let last = self.count - 1;
        let art = |window: f64| (window - self.origin) / self.scale;
        let index = |position: f64| (position.max(0.0) as usize).min(last);
        let one = |first| Cover { first, count: 1, shares: [1.0; 3] };
        if self.whole {
            return one(index(art(at as f64 + 0.5)));
        }
        let low = art(at as f64).max(0.0);
        let high = art(at as f64 + 1.0).min(self.count as f64);
        let sliver = SLIVER / self.scale;
        let (first, end) = (index(low + sliver), index(high - sliver));
        if end <= first {
            return one(first);
        }
        let each = 1.0 / (high - low);
        let (head, tail) = (((first + 1) as f64 - low) * each, (high - end as f64) * each);
        Cover {
            first,
            count: end - first + 1,
            shares: [head, each, tail].map(|share| share as f32),
        }
    }
}
