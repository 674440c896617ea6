//! World points given as the types of the `mint` crate.
#![cfg(feature = "mint")]

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, IntoWorld, Rect, Settings};

#[test]
fn mint_points_and_vectors_are_world_points() {
    let expected = DVec2::new(3.0, -4.0);
    assert_eq!(mint::Point2 { x: 3.0_f64, y: -4.0 }.into_world(), expected);
    assert_eq!(mint::Point2 { x: 3.0_f32, y: -4.0 }.into_world(), expected);
    assert_eq!(mint::Point2 { x: 3_i32, y: -4 }.into_world(), expected);
    assert_eq!(mint::Vector2 { x: 3.0_f64, y: -4.0 }.into_world(), expected);
    assert_eq!(mint::Vector2 { x: 3.0_f32, y: -4.0 }.into_world(), expected);
    assert_eq!(mint::Vector2 { x: 3_i32, y: -4 }.into_world(), expected);
}

#[test]
fn a_camera_follows_a_mint_point() {
    let mut camera = Camera::new(Settings::default()).expect("valid settings");
    let view = camera.follow(0.0, mint::Point2 { x: 120.0_f32, y: 40.0 });
    assert_eq!(view.centre(), DVec2::new(120.0, 40.0));
    let size = mint::Vector2 { x: 320.0, y: 180.0 };
    let corner = mint::Point2 { x: -40.0, y: -50.0 };
    assert_eq!(view.visible_world(), Rect::from_corner_size(corner, size));
}
