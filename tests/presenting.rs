//! Presenting a canvas in a window, compared with a reference that computes every window pixel separately.

use proptest::prelude::*;
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Blending, Canvas, CanvasMut, Fit, Lens, Placement, Screen, Snap, View, present, present_over,
};

use crate::support::properties::properties;

type Colour = [u8; 4];

const BAR: Colour = [1, 2, 3, 255];

/// Art in which every pixel differs from its neighbours.
fn art(size: UVec2) -> Vec<Colour> {
    let pixel = |index: u32| {
        let mixed = index.wrapping_mul(2_654_435_761) ^ (index >> 3);
        [(mixed >> 24) as u8, (mixed >> 16) as u8, (mixed >> 8) as u8, 255]
    };
    (0..size.x * size.y).map(pixel).collect()
}

/// Conversions of IEC 61966-2-1.
fn decoded(number: f64) -> f64 {
    let value = number / 255.0;
    if value <= 0.04045 { value / 12.92 } else { ((value + 0.055) / 1.055).powf(2.4) }
}

fn encoded(light: f64) -> f64 {
    let value =
        if light <= 0.003_130_8 { light * 12.92 } else { 1.055 * light.powf(1.0 / 2.4) - 0.055 };
    value * 255.0
}

#[derive(Debug)]
struct Case {
    view: View,
    canvas: Vec<Colour>,
}

prop_compose! {
    fn cases()(
        size in (1..24_u32, 1..24_u32),
        window in (1..120_u32, 1..120_u32),
        fit in prop::sample::select(&[Fit::Whole, Fit::Contain, Fit::Reveal, Fit::Cover]),
        snap in prop::sample::select(&[Snap::Whole, Snap::Subpixel]),
        centre in (-50.0..50.0_f64, -50.0..50.0_f64),
    ) -> Case {
        let design = UVec2::from(size);
        let size = fit.screen_size(design, window.into());
        let lens = Lens::new(&Screen { size, ..Screen::default() });
        let view = View::new(lens, centre, snap).with_fit(fit, design).with_window(window);
        Case { view, canvas: art(view.canvas_size()) }
    }
}

impl Case {
    fn window(&self) -> UVec2 {
        let window = self.view.window_size();
        UVec2::new(window.width, window.height)
    }

    fn presented(&self, blending: Blending) -> Vec<Colour> {
        let mut window = vec![BAR; (self.window().x * self.window().y) as usize];
        let canvas = Canvas::new(self.view.canvas_size(), &self.canvas);
        let target = CanvasMut::new(self.window(), &mut window);
        present(canvas, target, &self.view.placement(), blending);
        window
    }
}

/// The art pixels along one axis that a window pixel shows, with their shares.
fn shares(placement: &Placement, axis: usize, at: u32, count: u32) -> Vec<(usize, f64)> {
    let art = |window: f64| (window - placement.origin[axis]) / placement.scale;
    if placement.is_whole() {
        let nearest = art(f64::from(at) + 0.5).floor().clamp(0.0, f64::from(count) - 1.0);
        return vec![(nearest as usize, 1.0)];
    }
    let low = art(f64::from(at)).max(0.0);
    let high = art(f64::from(at) + 1.0).min(f64::from(count));
    let share = |index: u32| {
        let part = high.min(f64::from(index) + 1.0) - low.max(f64::from(index));
        (index as usize, (part / (high - low)).max(0.0))
    };
    (0..count).map(share).filter(|(_, share)| *share > 0.0).collect()
}

properties! {
    #![cases(600)]

    #[test]
    fn every_window_pixel_shows_what_it_covers(case in cases()) {
        let (presented, placement) = (case.presented(Blending::Encoded), case.view.placement());
        let (window, size) = (case.window(), case.view.canvas_size());
        for (index, shown) in presented.iter().enumerate() {
            let at = UVec2::new(index as u32 % window.x, index as u32 / window.x);
            if !placement.shows(f64::from(at.x), f64::from(at.y)) {
                prop_assert_eq!(*shown, BAR, "bars stay as they are");
                continue;
            }
            let across = shares(&placement, 0, at.x, size.x);
            let down = shares(&placement, 1, at.y, size.y);
            for (channel, shown) in shown.iter().enumerate() {
                let sum: f64 = down.iter().flat_map(|(y, h)| across.iter().map(move |(x, w)| (x, y, w * h)))
                    .map(|(x, y, share)| f64::from(case.canvas[y * size.x as usize + x][channel]) * share)
                    .sum();
                // Where an edge crosses a pixel along both axes, it is rounded twice.
                let most = if across.len() > 1 && down.len() > 1 { 1.01 } else { 0.51 };
                prop_assert!((f64::from(*shown) - sum).abs() <= most,
                    "{at}, channel {channel}: {shown} for {sum}");
            }
        }
    }

    /// The same in linear light, and drawn over a picture: rounded once, so within half a step.
    #[test]
    fn layers_come_upon_what_is_there(
        case in cases(), below in any::<[u8; 3]>(), opacities in prop::collection::vec(0..=255_u8, 1..9),
        blending in prop::sample::select(&[Blending::Encoded, Blending::Linear]),
    ) {
        let amount = |number: u8| match blending {
            Blending::Linear => decoded(f64::from(number)),
            _ => f64::from(number) / 255.0,
        };
        let number = |amount: f64| match blending {
            Blending::Linear => encoded(amount),
            _ => 255.0 * amount,
        };
        let most = |opacity: u8| number(f64::from(opacity) / 255.0) as u8;
        // Premultiplied: no channel holds more than the opacity lets through.
        let canvas: Vec<Colour> = (0..).zip(&case.canvas).map(|(index, [red, green, blue, _])| {
            let opacity = opacities[index % opacities.len()];
            let [red, green, blue] = [red, green, blue].map(|it| (*it).min(most(opacity)));
            [red, green, blue, opacity]
        }).collect();
        let ground = [below[0], below[1], below[2], 255];
        let (size, placement) = (case.view.canvas_size(), case.view.placement());
        let mut window = vec![ground; (case.window().x * case.window().y) as usize];
        let target = CanvasMut::new(case.window(), &mut window);
        present_over(Canvas::new(size, &canvas), target, &placement, blending);
        for (index, shown) in window.iter().enumerate() {
            let at = UVec2::new(index as u32 % case.window().x, index as u32 / case.window().x);
            if !placement.shows(f64::from(at.x), f64::from(at.y)) {
                continue;
            }
            let (across, down) = (shares(&placement, 0, at.x, size.x), shares(&placement, 1, at.y, size.y));
            let sum = |of: &dyn Fn(Colour) -> f64| -> f64 {
                down.iter().flat_map(|(y, h)| across.iter().map(move |(x, w)| (x, y, w * h)))
                    .map(|(x, y, share)| of(canvas[y * size.x as usize + x]) * share)
                    .sum()
            };
            let opacity = sum(&|colour| f64::from(colour[3]) / 255.0);
            for channel in 0..3 {
                let above = sum(&|colour| amount(colour[channel]));
                let exact = number((above + amount(ground[channel]) * (1.0 - opacity)).min(1.0));
                prop_assert!((f64::from(shown[channel]) - exact).abs() <= 0.51,
                    "{at}, channel {channel}: {} for {exact}", shown[channel]);
            }
        }
    }

    /// Windows with whole numbers as pixels hold the same bytes.
    #[test]
    fn whole_numbers_are_pixels(case in cases(), over in any::<bool>()) {
        let draw = if over { present_over } else { present };
        let (size, placement) = (case.window(), case.view.placement());
        let canvas = Canvas::new(case.view.canvas_size(), &case.canvas);
        let mut bytes = vec![BAR; (size.x * size.y) as usize];
        draw(canvas, CanvasMut::new(size, &mut bytes), &placement, Blending::Encoded);
        let numbers: Vec<u32> = case.canvas.iter().map(|pixel| u32::from_ne_bytes(*pixel)).collect();
        let canvas = Canvas::new(case.view.canvas_size(), &numbers);
        let mut window = vec![u32::from_ne_bytes(BAR); bytes.len()];
        draw(canvas, CanvasMut::new(size, &mut window), &placement, Blending::Encoded);
        let shown: Vec<Colour> = window.into_iter().map(u32::to_ne_bytes).collect();
        prop_assert_eq!(shown, bytes);
    }

    /// A canvas smaller than the picture, such as a sprite's own, is drawn where it is and nowhere else.
    #[test]
    fn a_small_canvas_is_drawn_where_it_is(
        case in cases(), origin in (-9.0..60.0_f64, -9.0..60.0_f64), small in (1..9_u32, 1..9_u32),
    ) {
        let (size, window) = (UVec2::from(small), case.window());
        let placement = Placement { origin: origin.into(), ..case.view.placement() };
        let sprite = vec![[200, 10, 30, 255]; (size.x * size.y) as usize];
        for draw in [present, present_over] {
            let mut shown = vec![BAR; (window.x * window.y) as usize];
            let target = CanvasMut::new(window, &mut shown);
            draw(Canvas::new(size, &sprite), target, &placement, Blending::Encoded);
            for (index, shown) in shown.iter().enumerate() {
                let (x, y) = (index as u32 % window.x, index as u32 / window.x);
                let middle = DVec2::new(f64::from(x) + 0.5, f64::from(y) + 0.5);
                let on_sprite = (middle - placement.origin) / placement.scale;
                let from_edge = on_sprite.abs().min((on_sprite - size.as_dvec2()).abs());
                if from_edge.min_element() < 1e-4 {
                    continue;
                }
                let inside = on_sprite.min_element() > 0.0 && (on_sprite - size.as_dvec2()).max_element() < 0.0;
                let covered = inside && placement.shows(f64::from(x), f64::from(y));
                prop_assert_eq!(*shown, if covered { sprite[0] } else { BAR }, "{} {}", x, y);
            }
        }
    }

    /// A part of a larger framebuffer shows what a window of its own shows, and its bars stay clear.
    #[test]
    fn a_part_of_a_framebuffer_is_a_window(case in cases(), corner in (0..40_u32, 0..40_u32)) {
        let (corner, window) = (UVec2::from(corner), case.window());
        let whole = window + corner + 3;
        let mut frame = vec![BAR; (whole.x * whole.y) as usize];
        let placement = case.view.placement().moved(corner);
        let canvas = Canvas::new(case.view.canvas_size(), &case.canvas);
        present(canvas, CanvasMut::new(whole, &mut frame), &placement, Blending::Encoded);
        let alone = case.presented(Blending::Encoded);
        let scissor = placement.scissor();
        for (index, shown) in frame.iter().enumerate() {
            let at = UVec2::new(index as u32 % whole.x, index as u32 / whole.x);
            let inside = at.cmpge(corner).all() && at.cmplt(corner + window).all();
            let own = at.saturating_sub(corner);
            let expected = if inside { alone[(own.y * window.x + own.x) as usize] } else { BAR };
            // Moved by whole pixels, a share may round to the next number.
            let apart = (0..4).map(|channel| shown[channel].abs_diff(expected[channel])).max();
            prop_assert!(apart <= Some(1), "{at}: {shown:?} for {expected:?}");
            let cut = scissor.is_some_and(|[x, y, width, height]| {
                (x..x + width).contains(&at.x) && (y..y + height).contains(&at.y)
            });
            prop_assert!(cut || *shown == BAR, "{at} is a bar");
        }
    }

    /// At scales of 1 and more, only a pixel that an edge crosses is blended.
    #[test]
    fn at_most_one_blended_pixel_for_each_edge(case in cases()) {
        let placement = case.view.placement();
        prop_assume!(placement.scale >= 1.0);
        // One row of art whose pixels are black and white in turn.
        let size = case.view.canvas_size();
        let canvas: Vec<Colour> = (0..size.x * size.y)
            .map(|index| if (index % size.x).is_multiple_of(2) { [0; 4] } else { [255; 4] })
            .collect();
        let presented = Case { canvas, ..case };
        let row = placement.first.y as usize * presented.window().x as usize;
        let pixels = presented.presented(Blending::Encoded);
        let pixels = &pixels[row + placement.first.x as usize..row + placement.end.x as usize];
        let blended = |pixel: &Colour| pixel[0] != 0 && pixel[0] != 255;
        prop_assert!(pixels.windows(2).all(|pair| !(blended(&pair[0]) && blended(&pair[1])) || placement.scale < 2.0));
        prop_assert!(!placement.is_whole() || !pixels.iter().any(blended));
        // No art pixel is wider than its neighbour by more than its fair share.
        let light: f64 = pixels.iter().map(|pixel| f64::from(pixel[0]) / 255.0).sum();
        let expected: f64 = (0..size.x).filter(|index| index % 2 == 1).map(|index| {
            let edge = |number: u32| {
                let edge = placement.origin.x + f64::from(number) * placement.scale;
                let last = if number == size.x { f64::from(placement.end.x) } else { edge };
                last.clamp(f64::from(placement.first.x), f64::from(placement.end.x))
            };
            edge(index + 1) - edge(index)
        }).sum();
        let most = if placement.is_whole() { 1.01 } else { 0.05 * f64::from(size.x) + 1.01 };
        prop_assert!((light - expected).abs() <= most, "{light} for {expected}");
    }

    #[test]
    fn what_lies_between_the_rows_is_left_alone(case in cases(), gap in 1..9_usize) {
        let (size, window) = (case.view.canvas_size(), case.window());
        let wide = window.x as usize + gap;
        let mut padded = vec![BAR; wide * window.y as usize];
        let target = CanvasMut { size: window, stride: wide, data: &mut padded };
        present(Canvas::new(size, &case.canvas), target, &case.view.placement(), Blending::Encoded);
        let plain = case.presented(Blending::Encoded);
        for (row, expected) in padded.chunks(wide).zip(plain.chunks(window.x as usize)) {
            prop_assert_eq!(&row[..window.x as usize], expected);
            prop_assert!(row[window.x as usize..].iter().all(|pixel| *pixel == BAR));
        }
    }

    /// An opaque canvas drawn over gives the same as one presented.
    #[test]
    fn over_and_presented_agree(case in cases(), linear in any::<bool>()) {
        let blending = if linear { Blending::Linear } else { Blending::Encoded };
        let mut window = vec![BAR; (case.window().x * case.window().y) as usize];
        let canvas = Canvas::new(case.view.canvas_size(), &case.canvas);
        let target = CanvasMut::new(case.window(), &mut window);
        present_over(canvas, target, &case.view.placement(), blending);
        // Blended down first, or across first: rounding may differ.
        for (one, other) in window.iter().zip(case.presented(blending)) {
            prop_assert!(one.iter().zip(other).all(|(a, b)| a.abs_diff(b) <= 2), "{one:?}, {other:?}");
        }
    }
}

#[test]
fn linear_light_is_brighter_in_between() {
    let canvas = [[0, 0, 0, 255], [255, 255, 255, 255]];
    let shown = |blending| {
        let mut window = [BAR; 3];
        let placement = Placement {
            origin: DVec2::ZERO,
            scale: 1.5,
            first: UVec2::ZERO,
            end: UVec2::new(3, 1),
        };
        let target = CanvasMut::new(UVec2::new(3, 1), &mut window);
        present(Canvas::new(UVec2::new(2, 1), &canvas), target, &placement, blending);
        window.map(|pixel| pixel[0])
    };
    assert_eq!(shown(Blending::Encoded), [0, 128, 255]);
    assert_eq!(shown(Blending::Linear), [0, 188, 255]); // half of the light
}

/// Black with half opacity halves the light, not the numbers.
#[test]
fn linear_light_is_halved_by_half_an_opacity() {
    let lens = Lens::new(&Screen { size: UVec2::new(1, 1), ..Screen::default() });
    let view = View::new(lens, [0.5, 0.5], Snap::Whole);
    let (canvas, mut window) = ([[0, 0, 0, 128]], [[200, 100, 50, 255]]);
    let target = CanvasMut::new(UVec2::ONE, &mut window);
    let canvas = Canvas::new(UVec2::ONE, &canvas);
    present_over(canvas, target, &view.placement(), Blending::Linear);
    assert_eq!(window, [[146, 71, 34, 255]]);
}

/// With rows farther apart than memory is long, only the first row exists, and nothing overflows.
#[test]
fn a_stride_may_be_longer_than_memory() {
    let art = [[9, 8, 7, 255]];
    let mut window = [BAR; 6];
    let end = UVec2::new(3, 4);
    let placement = Placement { origin: DVec2::ZERO, scale: 4.0, first: UVec2::ZERO, end };
    let target = CanvasMut { size: end, stride: usize::MAX, data: &mut window };
    present(Canvas::new(UVec2::ONE, &art), target, &placement, Blending::Encoded);
    assert_eq!(window, [art[0], art[0], art[0], BAR, BAR, BAR]);
}
