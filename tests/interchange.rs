//! World points, window points and matrices in the types of other crates.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, IntoWorld, Settings, WindowPoint};
use velvet_pan::{Lens, Screen, Snap, View};

const POINT: DVec2 = DVec2::new(3.0, -4.0);

#[test]
fn mint_points_and_vectors_are_world_points() {
    assert_eq!(mint::Point2 { x: 3.0_f64, y: -4.0 }.into_world(), POINT);
    assert_eq!(mint::Point2 { x: 3.0_f32, y: -4.0 }.into_world(), POINT);
    assert_eq!(mint::Point2 { x: 3_i32, y: -4 }.into_world(), POINT);
    assert_eq!(mint::Vector2 { x: 3.0_f64, y: -4.0 }.into_world(), POINT);
    assert_eq!(mint::Vector2 { x: 3.0_f32, y: -4.0 }.into_world(), POINT);
    assert_eq!(mint::Vector2 { x: 3_i32, y: -4 }.into_world(), POINT);
}

#[test]
fn a_camera_follows_a_mint_point_and_answers_with_one() {
    let mut camera = Camera::new(Settings::default()).expect("valid settings");
    let view = camera.follow(0.0, mint::Point2 { x: 120.0_f32, y: 40.0 });
    assert_eq!(view.centre(), DVec2::new(120.0, 40.0));
    let size = mint::Vector2 { x: 320.0, y: 180.0 };
    let corner = mint::Point2 { x: -40.0, y: -50.0 };
    assert_eq!(view.visible_world(), velvet_pan::Rect::from_corner_size(corner, size));

    let centre: mint::Vector2<f64> = view.centre().into();
    assert_eq!((centre.x, centre.y), (120.0, 40.0));
    let matrix: mint::ColumnMatrix4<f32> = view.canvas_to_clip_matrix().into();
    assert_eq!((matrix.w.x, matrix.w.y), (-1.0, 1.0));
}

#[test]
fn a_mint_point_of_the_window_goes_in_and_comes_out() {
    let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Off)
        .with_window(mint::Vector2 { x: 1280, y: 720 });
    let pointer = mint::Point2 { x: 640.0_f64, y: 360.0 };
    let screen = view.window_to_screen(pointer).expect("inside the picture");
    let back: mint::Point2<f32> = view.screen_to_window(screen).into();
    assert_eq!((back.x, back.y), (640.0, 360.0));
    let point = WindowPoint::from(mint::Point2 { x: 3.0_f32, y: -4.0 });
    assert_eq!(point, WindowPoint { x: 3.0, y: -4.0 });
    let size: mint::Vector2<u32> = view.window_size().into();
    assert_eq!((size.x, size.y), (1280, 720));
}

#[test]
fn a_matrix_is_plain_data() {
    let view = View::new(Lens::new(&Screen::default()), [0, 0], Snap::Whole);
    let matrix = view.canvas_to_clip_matrix();
    let numbers: Vec<f32> = bytemuck::bytes_of(&matrix)
        .chunks_exact(4)
        .map(|bytes| f32::from_ne_bytes(bytes.try_into().expect("four bytes")))
        .collect();
    assert_eq!(numbers, matrix.to_cols_array());
}
