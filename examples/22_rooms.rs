//! One room at a time: the view stays in the room of the subject.
//!
//! The common mistakes are a view that flips back and forth while the player stands in the doorway, a slide whose
//! duration depends on the machine, and a view that stays in the house after the player has left it.
//!
//! Run with `cargo run --example 22_rooms`.

use velvet_pan::{Camera, Outside, Rect, Rooms, Settings, SettingsError};

fn main() -> Result<(), SettingsError> {
    let list = vec![
        Rect::from_corner_size([0, 0], [320, 180]),   // the porch
        Rect::from_corner_size([320, 0], [640, 180]), // the drying hall, two screens wide
        Rect::from_corner_size([960, 0], [320, 180]), // the loft
    ];
    let outside = Outside::Free;
    let rooms = Rooms { list, overstep: 0.02, slide: Some(0.5), outside, ..Rooms::default() };
    let mut camera = Camera::new(Settings { rooms: Some(rooms), ..Settings::default() })?;

    println!("  time    wren    room from    centre");
    let mut x = 250.0;
    camera.follow(0.0, [x, 120.0]);
    for frame in 1..=300 {
        // To the doorway, waits there, then on through the hall and out of the loft.
        let t = f64::from(frame) / 20.0;
        x = match t {
            t if t < 1.0 => 250.0 + 70.0 * t,
            t if t < 3.0 => 320.0 + 5.0 * (9.0 * t).sin(),
            t => 320.0 + 100.0 * (t - 3.0),
        };
        let view = camera.follow(1.0 / 20.0, [x, 120.0]);
        if frame % 10 == 0 {
            let room = camera.room().map_or("open".to_owned(), |room| room.min.x.to_string());
            println!("{t:5.1} s  {x:6.1}    {room:>9}    {:6.1}", view.centre().x);
        }
    }
    println!(
        "\nIn the doorway the view does not flip. The hall is wider than the view, so the view follows.\n\
         Behind the loft the view is free."
    );
    assert!((camera.view().centre().x - x).abs() < 1.0 && camera.room().is_none());
    Ok(())
}
