//! Depth in a 2D world: layers that scroll at their own rates, repeat, and drift.
//!
//! The common mistake is to round all layers in the same way. Rounded to the world's pixels, a slow layer stands still
//! for some frames and then jumps. Here each layer has its own corner and its own residual, and is drawn on a canvas
//! of its own.
//!
//! Run with `cargo run --example 17_layers`.

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Layer, Rect, Settings, SettingsError, View};

const FRAMES: u32 = 240;

/// Returns where a point of a layer is shown in the window, frame by frame, while the camera pans.
fn shown(camera: &mut Camera, layer: usize, shared: bool) -> Vec<f64> {
    let mut place = |frame: u32| {
        let at = [400.0 + 37.0 / 60.0 * f64::from(frame), 90.0]; // 37 units a second
        let view = camera.follow(1.0 / 60.0, at);
        let layer = &camera.layers()[layer];
        let seen: View = if shared { view.layer_on(layer, &view) } else { view.layer(layer) };
        let placement = seen.placement();
        (placement.origin.x + f64::from(seen.canvas_position([120, 90]).x) * placement.scale)
            .round()
    };
    (0..FRAMES).map(&mut place).collect()
}

/// Returns how uneven the steps from frame to frame are: the root of their mean squared deviation.
fn judder(places: &[f64]) -> f64 {
    let steps: Vec<f64> = places.windows(2).map(|pair| pair[1] - pair[0]).collect();
    let mean = steps.iter().sum::<f64>() / steps.len() as f64;
    (steps.iter().map(|step| (step - mean).powi(2)).sum::<f64>() / steps.len() as f64).sqrt()
}

fn main() -> Result<(), SettingsError> {
    let mist = Layer { drift: DVec2::new(-6.0, 0.0), ..Layer::at_rate("mist", [0.2, 0.12]) };
    let layers = vec![
        Layer::at_rate("far ridge", [0.12, 0.08]),
        mist,
        Layer::at_rate("near ridge", [0.3, 0.16]),
        Layer::at_rate("reeds", [1.5, 0.0]),
        Layer::going_along("moon", 0.95), // with the camera, by 95 % of its way
    ];
    let mut camera = Camera::new(Settings { layers, ..Settings::default() })?;
    camera.resize((1280, 720)); // 4 window pixels to a screen pixel

    println!("a pan of 37 units a second; judder in window pixels, of 4 to a screen pixel\n");
    println!("  {:<12} {:>5} {:>15} {:>15}", "layer", "rate", "its own canvas", "on the world's");
    for layer in 0..4 {
        let own = judder(&shown(&mut camera, layer, false));
        let shared = judder(&shown(&mut camera, layer, true));
        let Layer { name, rate, .. } = &camera.layers()[layer];
        println!("  {name:<12} {:>5} {own:>15.2} {shared:>15.2}", rate.x);
    }

    let view = camera.view();
    let picture = Rect::from_corner_size([0, 60], [128, 60]);
    let ridge = view.layer(&camera.layers()[2]);
    println!("\nthe visible copies of a ridge that repeats every 128 units:");
    for copy in ridge.copies(&picture, [128, 0]) {
        println!("  number {:2}, drawn from x {:4} px", copy.column, copy.rect.min.x);
    }
    let (behind, before): (Vec<_>, Vec<_>) =
        camera.layers().iter().partition(|layer| !layer.is_foreground());
    println!("\nbehind the world: {}, in front of it: {}", behind.len(), before.len());
    Ok(())
}
