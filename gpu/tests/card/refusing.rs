//! Something that can't be presented gives an error or nothing, never a panic.

use velvet_pan_wgpu::velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_wgpu::velvet_pan::{Canvas, Lens, Placement, Screen, Snap, View};
use velvet_pan_wgpu::wgpu::{self, TextureFormat};
use velvet_pan_wgpu::{PlacedCanvas, PresentError, Presenter};

use crate::{card, pass};

fn view(size: UVec2) -> View {
    let screen = Screen { size, ..Screen::default() };
    View::new(Lens::new(&screen), [0.3, 0.4], Snap::Subpixel)
}

#[test]
fn formats_and_sizes_that_the_device_does_not_have() {
    let Some(card) = card() else { return };
    let device = &card.device;
    for format in [TextureFormat::Depth32Float, TextureFormat::R8Uint, TextureFormat::Bc1RgbaUnorm]
    {
        assert_eq!(Presenter::new(device, format).err(), Some(PresentError::Target(format)));
        let presenter = Presenter::new(device, TextureFormat::Rgba8Unorm).expect("a presenter");
        let canvas = presenter.canvas(device, &view(UVec2::ONE), format);
        assert_eq!(canvas.err(), Some(PresentError::Canvas(format)));
    }
    let presenter = Presenter::new(device, TextureFormat::Rgba8Unorm).expect("a presenter");
    let limit = device.limits().max_texture_dimension_2d;
    let large = view(UVec2::new(limit, 1)); // and one more, to slide in
    let mut canvas = presenter
        .canvas(device, &view(UVec2::new(8, 8)), TextureFormat::Rgba8Unorm)
        .expect("a canvas");
    let error = canvas.fit(device, &large).expect_err("too large");
    assert_eq!(error, PresentError::TooLarge { size: UVec2::new(limit + 1, 2), limit });
    assert!(error.to_string().contains("lower `screen.size`"), "{error}");
    assert_eq!(canvas.size(), UVec2::new(9, 9));
}

#[test]
fn odd_placements_and_pictures_draw_nothing_or_less() {
    let Some(card) = card() else { return };
    let (device, queue) = (&card.device, &card.queue);
    let target = card.target(UVec2::new(16, 16), TextureFormat::Rgba8Unorm);
    let mut presenter = Presenter::new(device, target.format()).expect("a presenter");
    let view = view(UVec2::new(8, 8));
    let canvas = presenter.canvas(device, &view, TextureFormat::Rgba8Unorm).expect("a canvas");
    canvas.upload(queue, Canvas::new(UVec2::new(9, 9), &[[255; 4]; 13])); // one row and a bit
    canvas.upload(queue, Canvas::new(UVec2::new(90, 0), &[[0; 4]; 0]));

    let whole = Placement { end: UVec2::splat(4000), first: UVec2::ZERO, ..view.placement() };
    let odd = [
        Placement { origin: DVec2::NAN, ..whole },
        Placement { scale: 0.0, ..whole },
        Placement { scale: f64::INFINITY, ..whole },
        Placement { first: UVec2::splat(4000), ..whole },
        Placement { origin: DVec2::splat(-1e300), ..whole },
        whole,
    ];
    let shown: Vec<PlacedCanvas<'_>> =
        odd.iter().map(|one| PlacedCanvas::over(&canvas, *one)).collect();
    presenter.prepare(device, queue, UVec2::new(16, 16), &shown);
    pass(&card, &target, wgpu::LoadOp::Clear(wgpu::Color::BLACK), |pass| {
        presenter.draw(pass);
        assert!(presenter.draw_one(pass, 5));
        assert!(!presenter.draw_one(pass, 6));
    });
    let pixels = card.read(&target).expect("pixels");
    // The row that was uploaded. Beside the canvas nothing is drawn, whatever a placement asks for.
    assert_eq!(pixels.iter().filter(|pixel| **pixel == [255; 4]).count(), 9);
}
