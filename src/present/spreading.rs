//! The spread of art pixels over window pixels: the art pixels of each window pixel, and their shares.

use core::ops::Range;

use crate::lens::fit::{Placement, SLIVER};
use crate::present::canvas::{Canvas, CanvasMut};
use crate::present::mixing::{Blending, Colour, Mixer, Over, Put};

/// The spread of a canvas over a window, along both axes.
pub(crate) struct Spread {
    pub across: Axis,
    pub down: Axis,
    pub mixer: Mixer,
}

impl Spread {
    /// Returns `None` if no pixel of the canvas is visible.
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
        let (whole, shown) = (placement.is_whole(), placement.on_canvas(canvas.size));
        let axis = |axis: usize| Axis {
            origin: placement.origin[axis],
            scale: placement.scale,
            whole,
            start: if whole { placement.first_edge()[axis] } else { placement.origin[axis] },
            count: canvas.size[axis] as usize,
            first: shown.first[axis] as usize,
            end: shown.end[axis].min(window.size[axis]) as usize,
        };
        let (across, down) = (axis(0), axis(1));
        (across.first < across.end && down.first < down.end).then(|| Self {
            across,
            down,
            mixer: Mixer::new(blending),
        })
    }

    /// Returns whether every art pixel is the same whole number of window pixels.
    pub fn is_whole(&self) -> bool {
        self.across.whole
    }

    /// Returns whether a window row shows `art` and the next art row, and the window row `next` only that, so that it can
    /// be mixed from rows that are drawn already. In linear light the colours of the window can't be mixed.
    pub fn is_between(&self, cover: &Cover, art: usize, next: usize) -> bool {
        let is_pair = cover.count == 2 && cover.first == art && self.across.scale >= 1.0;
        is_pair
            && self.mixer.is_encoded()
            && next < self.down.end
            && self.down.cover(next).is_only(art + 1)
    }

    /// Returns the columns in stripes. Everything that is the same in every row is computed once for each stripe.
    pub fn stripes(&self) -> Stripes<'_> {
        let axis = &self.across;
        Stripes { axis, at: axis.first, column: axis.cover(axis.first).first }
    }

    /// Draws a stripe of one window row, which shows the art rows of `cover`.
    pub fn lay(
        &self,
        canvas: &Canvas<'_>,
        cover: &Cover,
        stripe: &Stripe,
        row: &mut [[u8; 4]],
        put: &impl Put,
    ) {
        if cover.count == 1 {
            let art = canvas.row(cover.first);
            if self.across.whole {
                return self.lay_art(art, stripe.steps(), stripe.first, row, put);
            }
            self.lay_columns(stripe, row, |column| colour_of(art, column), put);
        } else if cover.count == 2 {
            self.lay_columns(stripe, row, self.between(canvas, cover), put);
        } else {
            let sum = |column: usize| {
                let rows = (cover.first..cover.first + cover.count).enumerate();
                self.mixer.sum(
                    rows.map(|(index, y)| (colour_of(canvas.row(y), column), cover.share(index))),
                )
            };
            self.lay_columns(stripe, row, sum, put);
        }
    }

    /// Does the same for some columns of a row of art at a whole scale, at which no window pixel shows two. `first` is
    /// the window pixel at which `row` begins.
    fn lay_art(
        &self,
        art: &[[u8; 4]],
        steps: &[Step],
        first: usize,
        row: &mut [[u8; 4]],
        put: &impl Put,
    ) {
        for step in steps {
            let within = |at: usize| (at - first).min(row.len());
            let (start, end) = (within(step.start), within(step.end));
            put.run(&self.mixer, row, start, end, colour_of(art, step.column));
        }
    }

    /// Draws a stripe over several window rows that show the same row of art, at a whole scale. Clear stretches are
    /// skipped for all rows at once, and opaque ones are drawn once and copied.
    pub fn lay_over_rows(
        &self,
        art: &[[u8; 4]],
        stripe: &Stripe,
        window: &mut CanvasMut<'_>,
        rows: Range<usize>,
    ) {
        let opacity = |step: &Step| art.get(step.column).map_or(0, |colour| colour[3]);
        let mut rest = stripe.steps();
        while let Some(clear) = rest.iter().position(|step| opacity(step) > 0) {
            let is_opaque = opacity(&rest[clear]) == 255;
            let belongs = |step: &Step| match is_opaque {
                true => opacity(step) == 255,
                false => (1..255).contains(&opacity(step)),
            };
            let steps = &rest[clear..];
            let count = steps.iter().position(|step| !belongs(step)).unwrap_or(steps.len());
            let (steps, others) = steps.split_at(count);
            rest = others;
            let (Some(first), Some(last)) = (steps.first(), steps.last()) else { break };
            for y in rows.clone() {
                if is_opaque && y > rows.start {
                    window.copy_row(rows.start, y, first.start, last.end);
                } else {
                    let row = window.row(y, first.start, last.end);
                    self.lay_art(art, steps, first.start, row, &Over);
                }
            }
        }
    }

    /// Draws a stripe of one window row that shows a single row of opaque art at one of the usual whole scales: the
    /// same pixels as [`lay`](Self::lay), in blocks of constant length. Returns whether it could.
    pub fn lay_blocks(&self, art: &[[u8; 4]], stripe: &Stripe, row: &mut [[u8; 4]]) -> bool {
        if !self.across.whole {
            return false;
        }
        let [first, steps @ ..] = stripe.steps() else { return false };
        // The first block may begin outside the window.
        let (head, rest) = row.split_at_mut((first.end - stripe.first).min(row.len()));
        let after = art.get(first.column + 1..first.column + 1 + steps.len());
        let (Some(colour), Some(after)) = (art.get(first.column), after) else { return false };
        let lay = match self.across.scale as usize {
            1 => lay_blocks_of::<1>,
            2 => lay_blocks_of::<2>,
            3 => lay_blocks_of::<3>,
            4 => lay_blocks_of::<4>,
            5 => lay_blocks_of::<5>,
            6 => lay_blocks_of::<6>,
            8 => lay_blocks_of::<8>,
            12 => lay_blocks_of::<12>,
            _ => return false,
        };
        let even = rest.len().div_ceil(self.across.scale as usize) == after.len();
        if head.is_empty() || !even {
            return false;
        }
        head.fill(*colour);
        lay(after, rest);
        true
    }

    /// Returns the colours of the columns between two rows of art.
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
    fn lay_columns(
        &self,
        stripe: &Stripe,
        row: &mut [[u8; 4]],
        colour: impl Fn(usize) -> Colour,
        put: &impl Put,
    ) {
        if self.across.scale < 1.0 {
            return self.gather_columns(row, colour, put);
        }
        let Some(mut here) = stripe.steps().first().map(|step| colour(step.column)) else { return };
        for step in stripe.steps() {
            let (start, end) = (step.start - stripe.first, step.end - stripe.first);
            // A row may be shorter than the window's width.
            if end > row.len() {
                return put.run(&self.mixer, row, start.min(row.len()), row.len(), here);
            }
            if end > start {
                put.run(&self.mixer, row, start, end, here);
            }
            let next = colour(step.column + 1);
            if let (Some(blend), Some(pixel)) = (step.blend, row.get_mut(end)) {
                put.pixel(&self.mixer, pixel, self.mixer.mix(here, next, blend));
            }
            here = next;
        }
    }

    /// Does the same for a window smaller than the canvas, with several columns in each pixel.
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

/// The window pixels of one column of art.
#[derive(Clone, Copy, Default)]
struct Step {
    column: usize,
    /// The pixels that show only this column.
    start: usize,
    end: usize,
    /// The share of the next column in the pixel after these, if that pixel shows both.
    blend: Option<f32>,
}

/// Some adjacent columns, and their window pixels from `first` to `end`.
pub(crate) struct Stripe {
    steps: [Step; Self::MAX_WIDTH],
    count: usize,
    pub first: usize,
    pub end: usize,
}

impl Stripe {
    const MAX_WIDTH: usize = 384;

    fn steps(&self) -> &[Step] {
        &self.steps[..self.count]
    }
}

/// The stripes of a spread, from the left.
pub(crate) struct Stripes<'a> {
    axis: &'a Axis,
    at: usize,
    column: usize,
}

impl Stripes<'_> {
    /// Returns the window pixels of the next column.
    fn step(&mut self) -> Step {
        let Self { axis, at: start, column } = *self;
        let edge = axis.edge(column + 1);
        let is_last = column + 1 == axis.count;
        let whole = if is_last { axis.end } else { edge as i32 as usize };
        let end = whole.min(axis.end).max(start);
        // The part of the next pixel that still shows this column.
        let share = edge - whole as f64;
        let shows_both = !is_last && end < axis.end && share > SLIVER && edge >= end as f64;
        (self.at, self.column) = (end + usize::from(shows_both), column + 1);
        Step { column, start, end, blend: shows_both.then_some(1.0 - share as f32) }
    }
}

impl Iterator for Stripes<'_> {
    type Item = Stripe;

    fn next(&mut self) -> Option<Stripe> {
        let first = self.at;
        if first >= self.axis.end {
            return None;
        }
        let mut stripe =
            Stripe { steps: [Step::default(); Stripe::MAX_WIDTH], count: 0, first, end: 0 };
        if self.axis.scale < 1.0 {
            // Pixels are gathered one by one.
            self.at = self.axis.end;
        }
        while stripe.count < Stripe::MAX_WIDTH
            && self.at < self.axis.end
            && self.column < self.axis.count
        {
            stripe.steps[stripe.count] = self.step();
            stripe.count += 1;
        }
        if self.column >= self.axis.count {
            self.at = self.axis.end;
        }
        stripe.end = self.at;
        Some(stripe)
    }
}

/// Writes each art pixel to `N` window pixels. The part of the last one that does not fit is left out.
fn lay_blocks_of<const N: usize>(art: &[[u8; 4]], row: &mut [[u8; 4]]) {
    let (blocks, rest) = row.as_chunks_mut::<N>();
    for (block, colour) in blocks.iter_mut().zip(art) {
        *block = [*colour; N];
    }
    if let Some(colour) = art.last() {
        rest.fill(*colour);
    }
}

fn colour_of(art: &[[u8; 4]], column: usize) -> Colour {
    art.get(column).copied().map_or(Colour::CLEAR, Colour::Art)
}

/// One axis of a spread. Art pixel `i` begins at `origin + i·scale` in the window.
pub(crate) struct Axis {
    origin: f64,
    scale: f64,
    /// Whether edges are rounded to whole window pixels.
    whole: bool,
    /// The rounded edge of the first art pixel.
    start: f64,
    /// The number of art pixels.
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
    /// The shares of the first one, of each between, and of the last one. They add up to 1.
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
    /// Returns the start of art pixel `number`, in window pixels; never negative, because nothing is drawn there.
    #[inline]
    fn edge(&self, number: usize) -> f64 {
        let edge = self.start + number as f64 * self.scale;
        if edge > 0.0 { edge } else { 0.0 }
    }

    /// Returns the window pixels from `at` that show only the same single art pixel; at least `at` itself.
    pub fn alike(&self, at: usize) -> Range<usize> {
        let Some(art) = self.cover(at).only() else { return at..at + 1 };
        let others = (at + 1..self.end).take_while(|other| self.cover(*other).is_only(art));
        at..at + 1 + others.count()
    }

    /// Returns what the window pixel `at` shows: what lies between its edges, or, where edges are rounded,
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
