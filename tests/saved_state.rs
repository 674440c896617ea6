//! A ride that is saved in the middle, written, read and continued: exactly the same.
#![cfg(feature = "serde")]

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Camera, CameraState, Ease, LookAhead, Lure, Rect, Rooms, Settings, Shake, Smoothing,
    Subject, View, Zone,
};

fn settings(rooms: bool) -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::Settle(0.5).into();
    settings.follow.look_ahead = Some(LookAhead::default());
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    settings.lures = vec![Lure { at: DVec2::new(500.0, 300.0), radius: 200.0, strength: 0.5 }];
    settings.zones = vec![Zone { zoom: Some(1.5), ..Zone::new(Rect::new([400, 0], [900, 900])) }];
    settings.rooms = rooms.then(|| Rooms { slide: Some(0.4), ..Rooms::default() });
    settings
}

/// A frame of the ride, with commands now and then.
fn frame(camera: &mut Camera, number: u32) -> View {
    let t = f64::from(number) / 60.0;
    let wren = DVec2::new(300.0 + 140.0 * t, 400.0 + 90.0 * (1.7 * t).sin());
    match number {
        30 => camera.shake(&Shake { hold: 2.0, ..Shake::default() }, 1.0),
        70 => camera.zoom_to(2.0),
        110 => camera.glide(0.7, Ease::InOut),
        _ => {}
    }
    if number % 100 < 60 {
        camera.follow(1.0 / 60.0, wren)
    } else {
        let kite = Subject::from(wren + DVec2::new(120.0, -30.0)).with_id(2).with_margin(10.0);
        camera.follow_all(1.0 / 60.0, &[Subject::from(wren).with_id(1), kite])
    }
}

#[test]
fn a_ride_goes_on_from_what_was_written() {
    for rooms in [false, true] {
        let mut whole = Camera::new(settings(rooms)).unwrap();
        let views: Vec<View> = (0..240).map(|number| frame(&mut whole, number)).collect();
        for cut in [1, 33, 75, 100, 115, 150, 200] {
            let mut first = Camera::new(settings(rooms)).unwrap();
            (0..cut).for_each(|number| {
                frame(&mut first, number);
            });
            let written = serde_json::to_string(&first.state()).unwrap();
            drop(first);
            let read: CameraState = serde_json::from_str(&written).unwrap();
            let mut second = Camera::new(settings(rooms)).unwrap();
            second.restore(read).expect("a state of the same settings");
            for number in cut..240 {
                let view = frame(&mut second, number);
                assert_eq!(view, views[number as usize], "cut at {cut}, frame {number}");
            }
        }
    }
}
