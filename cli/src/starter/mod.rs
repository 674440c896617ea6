//! The files that `new` writes.

/// A tuning, with a comment for each key.
pub const CAMERA: &str = include_str!("camera.toml");
/// The beginning of a take.
pub const RIDE: &str = include_str!("ride.toml");
/// Limits for its figures.
pub const LIMITS: &str = include_str!("ride.limits.toml");

/// A player who runs to the right, stops, jumps, and runs half of the way back: `t,x,y,grounded`.
pub fn path_csv() -> String {
    let mut text = String::from("t,x,y,grounded\n");
    let mut x = 160.0;
    for row in 0..=480 {
        let t = f64::from(row) / 60.0;
        let speed = match t {
            t if t < 1.0 => 0.0,
            t if t < 4.0 => 120.0,
            t if t < 5.5 => 0.0,
            t if t < 7.0 => -120.0,
            _ => 0.0,
        };
        x += speed / 60.0;
        // A leap of 0.7 s, 48 units high.
        let leap = ((t - 2.0) / 0.7).clamp(0.0, 1.0);
        let high = 4.0 * 48.0 * leap * (1.0 - leap);
        text += &format!("{t:.4},{x:.2},{:.2},{}\n", 240.0 - high, u8::from(high == 0.0));
    }
    text
}
