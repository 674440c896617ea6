//! A tilted parallel camera over a scene in three dimensions: the ground seen from above at an angle, without
//! perspective.
//!
//! The common mistakes are to snap the camera along the ground, where a step away is not a whole pixel on the screen,
//! and a pointer that misses by the tilt. What the screen shows is a plane, and the camera of this library moves in
//! that plane: `x` to the right, and `v = z·sin φ + y·cos φ` up, for a point that is `z` away on the ground and `y`
//! above it.
//!
//! Run with `cargo run --example 30_tilted_scene`.

use velvet_pan::glam::{DQuat, DVec2, DVec3, Mat4, Vec4};
use velvet_pan::{Bounds, Camera, Rect, Settings, SettingsError, Smoothing, View, YAxis};

/// The angle φ between the ground and the line of sight, in radians.
const TILT: f64 = 0.9;
/// How far the scene reaches before and behind the middle of the view, for the depth buffer, in world units.
const DEPTH: f64 = 100.0;

/// A point of the scene in the plane of the screen.
fn plane(point: DVec3) -> DVec2 {
    DVec2::new(point.x, point.z * TILT.sin() + point.y * TILT.cos())
}

/// The point on the ground that is seen at a point of the plane.
fn ground(plane: DVec2) -> DVec3 {
    DVec3::new(plane.x, 0.0, plane.y / TILT.sin())
}

/// The matrix from points relative to `ground(view.centre())` to the clip space of the canvas. Snapping is in it.
fn matrix(view: &View) -> Mat4 {
    let (sin, cos, deep) = (TILT.sin() as f32, TILT.cos() as f32, DEPTH as f32 * 2.0);
    let tilt = Mat4::from_cols(
        Vec4::new(1.0, 0.0, 0.0, 0.0),
        Vec4::new(0.0, cos, -sin / deep, 0.0),
        Vec4::new(0.0, sin, cos / deep, 0.0),
        Vec4::new(0.0, 0.0, 0.5, 1.0),
    );
    view.relative_to_clip_matrix() * tilt
}

/// Where a point is on the canvas, in pixels.
fn drawn(view: &View, point: DVec3) -> DVec2 {
    // Subtracted in f64, so that it is exact far from the origin.
    let relative = (point - ground(view.centre())).as_vec3();
    let clip = matrix(view).transform_point3(relative);
    DVec2::new(f64::from(clip.x) + 1.0, 1.0 - f64::from(clip.y)) / 2.0
        * view.canvas_size().as_dvec2()
}

fn main() -> Result<(), SettingsError> {
    let mut settings = Settings::default();
    (settings.screen.unit_pixels, settings.screen.y_axis) = (16.0, YAxis::Up);
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    // The edges of the ground, 200 by 120, in the plane.
    let (near, far) = (DVec3::ZERO, DVec3::new(200.0, 0.0, 120.0));
    settings.bounds = Some(Bounds::new(Rect::new(plane(near), plane(far))));
    let mut camera = Camera::new(settings)?;
    camera.resize((1280, 720));

    let lantern = DVec3::new(31.0, 2.5, 33.0);
    let mut last: Option<DVec2> = None;
    println!("  time    Wren x, z       the lantern on the canvas    the canvas slides by");
    for frame in 0..=120 {
        let t = f64::from(frame) / 60.0;
        let wren = DVec3::new(25.0 + 4.0 * t, 0.0, 30.0 + 2.5 * t);
        let view = camera.follow(1.0 / 60.0, plane(wren));

        // From frame to frame, what stands moves by whole pixels of the canvas; the finished canvas slides by the rest.
        let at = drawn(&view, lantern);
        let step = last.map_or(DVec2::ZERO, |last| at - last);
        assert!((step - step.round()).abs().max_element() < 0.01, "{step}");
        last = Some(at);
        // It is where a camera of three dimensions has it, and where the plane has it.
        assert!((at - seen_by_a_camera(&view, lantern)).length() < 0.01);
        assert!((at - view.canvas_position(plane(lantern)).as_dvec2()).abs().max_element() <= 1.0);

        // The pointer, on the ground.
        let pointer = view.world_to_window(plane(wren));
        let under = view.window_to_world(pointer).map(ground);
        assert!(under.is_some_and(|under| (under - wren).length() < 0.01));
        if frame % 20 == 0 {
            let slide = view.residual();
            println!(
                "{t:5.2} s  {:5.1}, {:4.1}    {:9.2}, {:6.2} px    {:11.2}, {:5.2} px",
                wren.x, wren.z, at.x, at.y, slide.x, slide.y
            );
        }
    }
    println!("\nEvery step of the lantern is a whole number of canvas pixels.");
    Ok(())
}

/// The same by an ordinary camera: it stands back from the middle of the canvas, and looks along the tilted line of
/// sight.
fn seen_by_a_camera(view: &View, point: DVec3) -> DVec2 {
    let size = view.canvas_size().as_dvec2();
    // The middle of the canvas as drawn; on the screen, y points down.
    let middle = (view.canvas_corner() + size / 2.0) / view.scale() * DVec2::new(1.0, -1.0);
    let line_of_sight = DQuat::from_rotation_x(TILT) * DVec3::Z;
    let eye = ground(middle) - line_of_sight * DEPTH;
    let seen = DQuat::from_rotation_x(-TILT) * (point - eye);
    size / 2.0 + DVec2::new(seen.x, -seen.y) * view.scale()
}
