//! The graphics card and the CPU present the same picture.

use rand::rngs::SmallRng;
use rand::{RngExt, SeedableRng};
use velvet_pan_wgpu::velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_wgpu::velvet_pan::{
    Blending, Canvas, CanvasMut, Fit, Layer, Lens, Screen, Snap, View, present, present_over,
};
use velvet_pan_wgpu::wgpu::{self, TextureFormat};
use velvet_pan_wgpu::{Alpha, GpuCanvas, PlacedCanvas, Presenter};

use crate::offscreen::Card;
use crate::{card, pass};

type Pixels = Vec<[u8; 4]>;

/// A part of the target, and the canvases in it.
struct Part {
    corner: UVec2,
    size: UVec2,
    canvases: Vec<(View, Pixels)>,
}

struct Case {
    target: UVec2,
    parts: Vec<Part>,
}

/// Every fit and snap; one canvas to four; the whole target, two halves or four quarters.
fn random_case(random: &mut SmallRng, target: UVec2) -> Case {
    let splits = [UVec2::ONE, UVec2::new(2, 1), UVec2::new(1, 2), UVec2::new(2, 2)];
    let split = splits[random.random_range(0..if target.min_element() > 1 { 4 } else { 1 })];
    let (size, canvases) = (target / split, random.random_range(1..=4));
    let whole = random.random_range(0..3) == 0;
    let corners = (0..split.y).flat_map(|y| (0..split.x).map(move |x| size * UVec2::new(x, y)));
    let part = |corner| random_part(random, corner, size, canvases, whole);
    Case { target, parts: corners.map(part).collect() }
}

fn random_part(
    random: &mut SmallRng,
    corner: UVec2,
    size: UVec2,
    canvases: usize,
    whole: bool,
) -> Part {
    let fits = [Fit::Whole, Fit::Contain, Fit::Reveal, Fit::Cover];
    let snaps = [Snap::Off, Snap::Whole, Snap::Subpixel];
    let fit = if whole { Fit::Whole } else { fits[random.random_range(0..4)] };
    let snap = snaps[random.random_range(0..3)];
    // From screens much smaller than the window to such as are larger.
    let wide = random.random_range(0.1..1.6);
    let design = (size.as_dvec2() * wide).round().as_uvec2().clamp(UVec2::ONE, UVec2::splat(400));
    let screen = Screen { size: fit.screen_size(design, size.into()), ..Screen::default() };
    let centre =
        DVec2::from_array([random.random_range(-1e4..1e4), random.random_range(-1e4..1e4)]);
    let view = View::new(Lens::new(&screen), centre, snap).with_fit(fit, design).with_window(size);
    let canvases = (0..canvases)
        .map(|_| {
            let rate: f64 = random.random_range(0.0..1.5);
            let view = view.layer(&Layer::at_rate("layer", [rate, rate]));
            let area = view.canvas_size().element_product();
            (view, (0..area).map(|_| premultiplied(random)).collect())
        })
        .collect();
    Part { corner, size, canvases }
}

/// Clear, solid and half covered pixels, as art has them.
fn premultiplied(random: &mut SmallRng) -> [u8; 4] {
    let [red, green, blue, opacity]: [u8; 4] = random.random();
    let opacity = match random.random_range(0..3) {
        0 => 0,
        1 => 255,
        _ => opacity,
    };
    let times = |channel: u8| (u16::from(channel) * u16::from(opacity) / 255) as u8;
    [times(red), times(green), times(blue), opacity]
}

/// The content of the target before: a pattern that no bar has by chance.
fn background(size: UVec2) -> Pixels {
    let at = |x: u32, y: u32| [(x * 7) as u8, (y * 13) as u8, (x ^ y) as u8, 255];
    (0..size.y).flat_map(|y| (0..size.x).map(move |x| at(x, y))).collect()
}

/// The picture of the CPU, and the pixels of the bars, which no canvas covers.
fn on_the_cpu(case: &Case, blending: Blending) -> (Pixels, Vec<bool>) {
    let mut picture = background(case.target);
    let mut bars = vec![true; picture.len()];
    for part in &case.parts {
        let start = (part.corner.y * case.target.x + part.corner.x) as usize;
        for (index, (view, pixels)) in part.canvases.iter().enumerate() {
            let canvas = Canvas::new(view.canvas_size(), pixels);
            let window = CanvasMut {
                size: part.size,
                stride: case.target.x as usize,
                data: &mut picture[start..],
            };
            let draw = if index == 0 { present } else { present_over };
            draw(canvas, window, &view.placement(), blending);
            let placed = view.placement().moved(part.corner);
            for y in placed.first.y..placed.end.y {
                let row = (y * case.target.x) as usize;
                bars[row + placed.first.x as usize..row + placed.end.x as usize].fill(false);
            }
        }
    }
    (picture, bars)
}

fn on_the_card(
    card: &Card,
    case: &Case,
    presenter: &mut Presenter,
    canvas_format: TextureFormat,
) -> Pixels {
    let target = card.target(case.target, presenter.target_format());
    fill(card, &target, &background(case.target));
    let canvases: Vec<(GpuCanvas, &View, UVec2, Alpha)> = case
        .parts
        .iter()
        .flat_map(|part| {
            part.canvases.iter().enumerate().map(move |(index, one)| (part, index, one))
        })
        .map(|(part, index, (view, pixels))| {
            let canvas = presenter.canvas(&card.device, view, canvas_format).expect("small");
            canvas.upload(&card.queue, Canvas::new(view.canvas_size(), pixels));
            let alpha = if index == 0 { Alpha::Opaque } else { Alpha::Premultiplied };
            (canvas, view, part.corner, alpha)
        })
        .collect();
    let shown: Vec<PlacedCanvas<'_>> = canvases
        .iter()
        .map(|(canvas, view, corner, alpha)| {
            let placement = view.placement().moved(*corner);
            PlacedCanvas { canvas, placement, alpha: *alpha }
        })
        .collect();
    presenter.prepare(&card.device, &card.queue, case.target, &shown);
    pass(card, &target, wgpu::LoadOp::Load, |pass| presenter.draw(pass));
    card.read(&target).expect("pixels")
}

fn fill(card: &Card, target: &wgpu::Texture, pixels: &[[u8; 4]]) {
    let layout = wgpu::TexelCopyBufferLayout {
        offset: 0,
        bytes_per_row: Some(target.width() * 4),
        rows_per_image: None,
    };
    let bytes = bytemuck::cast_slice(pixels);
    card.queue.write_texture(target.as_image_copy(), bytes, layout, target.size());
}

/// The difference of each channel of each pixel.
fn differences(shown: &[[u8; 4]], expected: &[[u8; 4]]) -> impl Iterator<Item = u8> {
    let channels = shown.as_flattened().iter().zip(expected.as_flattened());
    channels.map(|(a, b)| a.abs_diff(*b))
}

fn worst(shown: &[[u8; 4]], expected: &[[u8; 4]]) -> u8 {
    differences(shown, expected).max().unwrap_or(0)
}

/// The results of one kind: the number of cases, the worst difference, and the channels that differ by more than 2.
#[derive(Clone, Copy, Debug, Default)]
struct Seen {
    cases: usize,
    worst: u8,
    channels: usize,
    far: usize,
}

/// By kind: one canvas at whole scales, one canvas filtered, then two, three and four canvases.
type Kinds = [Seen; 5];

fn kind(case: &Case) -> usize {
    let most = case.parts.iter().map(|part| part.canvases.len()).max().unwrap_or(0);
    let mut views = case.parts.iter().flat_map(|part| &part.canvases);
    match most {
        1 if views.all(|(view, _)| view.placement().is_whole()) => 0,
        most => most,
    }
}

fn compare(formats: (TextureFormat, TextureFormat), blending: Blending, sizes: &[UVec2]) {
    let mut kinds = Kinds::default();
    let Some(card) = card() else { return };
    let mut presenter = Presenter::new(&card.device, formats.1).expect("a target format");
    let mut random = SmallRng::seed_from_u64(16);
    for size in sizes {
        let case = random_case(&mut random, *size);
        let (expected, bars) = on_the_cpu(&case, blending);
        let shown = on_the_card(&card, &case, &mut presenter, formats.0);
        let untouched = background(case.target);
        for (index, _) in bars.iter().enumerate().filter(|(_, bar)| **bar) {
            assert_eq!(shown[index], untouched[index], "a bar of {size}, pixel {index}");
        }
        let seen = &mut kinds[kind(&case)];
        seen.cases += 1;
        seen.worst = seen.worst.max(worst(&shown, &expected));
        seen.channels += 4 * shown.len();
        seen.far += differences(&shown, &expected).filter(|away| *away > 2).count();
    }
    println!("{formats:?}: {kinds:#?}");
    let [nearest, filtered, layered @ ..] = kinds;
    assert!(nearest.cases > 10 && nearest.worst == 0, "{nearest:?}");
    assert!(filtered.cases > 10 && filtered.worst <= 1, "{filtered:?}");
    for (canvases, seen) in (2..).zip(layered) {
        // A card may round a colour to 8 bits before it blends, once for each canvas.
        assert!(seen.cases > 10 && seen.worst <= canvases, "{canvases} canvases: {seen:?}");
        assert!(seen.far * 10_000 <= seen.channels, "{canvases} canvases: {seen:?}");
    }
}

/// Windows of every size: many small ones, some large.
fn windows(count: usize, seed: u64) -> Vec<UVec2> {
    let mut random = SmallRng::seed_from_u64(seed);
    let mut sizes = vec![UVec2::ONE, UVec2::new(1, 200), UVec2::new(3840, 2160)];
    sizes.extend((3..count).map(|index| {
        let most = if index % 40 == 0 { UVec2::new(1920, 1080) } else { UVec2::new(400, 300) };
        UVec2::new(random.random_range(1..=most.x), random.random_range(1..=most.y))
    }));
    sizes
}

#[test]
fn encoded_colours_are_those_of_the_cpu() {
    let formats = (TextureFormat::Rgba8Unorm, TextureFormat::Rgba8Unorm);
    compare(formats, Blending::Encoded, &windows(320, 1));
}

#[test]
fn linear_colours_are_those_of_the_cpu() {
    let formats = (TextureFormat::Rgba8UnormSrgb, TextureFormat::Rgba8UnormSrgb);
    compare(formats, Blending::Linear, &windows(160, 2));
}

/// Canvas and target of different kinds: the kind of the canvas decides how the filter blends, and colours come out
/// right. The target decides how layers blend, so only single canvases are compared.
#[test]
fn a_canvas_in_a_target_of_the_other_kind_keeps_its_colours() {
    let mixed = [
        (TextureFormat::Rgba8Unorm, TextureFormat::Rgba8UnormSrgb, Blending::Encoded),
        (TextureFormat::Rgba8UnormSrgb, TextureFormat::Rgba8Unorm, Blending::Linear),
    ];
    let Some(card) = card() else { return };
    for (canvas, target, blending) in mixed {
        let mut presenter = Presenter::new(&card.device, target).expect("a target format");
        let mut random = SmallRng::seed_from_u64(3);
        for size in windows(40, 3).into_iter().filter(|size| size.x < 1000) {
            let mut case = random_case(&mut random, size);
            for part in &mut case.parts {
                part.canvases.truncate(1);
                for pixel in part.canvases.iter_mut().flat_map(|(_, pixels)| pixels) {
                    pixel[3] = 255; // a premultiplied colour of the other kind is another number
                }
            }
            let (expected, _) = on_the_cpu(&case, blending);
            let shown = on_the_card(&card, &case, &mut presenter, canvas);
            assert!(worst(&shown, &expected) <= 1, "{canvas:?} in {target:?} of {size}");
        }
    }
}
