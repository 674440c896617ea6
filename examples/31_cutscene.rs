//! A cutscene as a value: along the terraces to the bell, which shakes the view while it rings, and back to Wren. Once it
//! runs, and once the player skips it.
//!
//! The common mistakes are seconds that a game counts by hand, so that a cutscene is another one on a slow machine, and a
//! skipped cutscene after which the camera is not where it would have been.
//!
//! Run with `cargo run --example 31_cutscene`.

use std::error::Error;

use velvet_pan::{
    Camera, Command, Cue, CueCall, Ease, Itinerary, ItineraryRun, Passage, Settings, Shake,
    Smoothing, Travel, Waypoint,
};

const STEP: f64 = 1.0 / 60.0;

/// Wren waits here.
const WREN: [f64; 2] = [120.0, 300.0];

fn scene() -> Itinerary {
    let to_the_bell = [
        Waypoint::at(WREN),
        Waypoint::at([420, 190]).with_zoom(0.8),
        Waypoint::at([760, 260]).with_zoom(1.5),
    ];
    let there = Travel::new(to_the_bell, 2.5).with_ease(Ease::InOut);
    let ring = Command::Cue { name: "bell".into(), call: CueCall::at([760, 240]) };
    Itinerary::default()
        .at(0.0, Command::Travel(there))
        .with(2.5, Passage::WaitForArrival)
        .at(2.6, ring)
        .mark(2.6, "Wren: the bell! I am late.")
        .with(3.2, Passage::WaitForGate("read".into()))
        .at(3.4, Command::ZoomTo(1.0))
        .at(3.4, Command::Glide { seconds: 1.0, ease: Ease::Smooth })
        .mark(4.4, "(the end)")
}

fn main() -> Result<(), Box<dyn Error>> {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
    settings.cues.insert("bell".into(), Cue { shake: Some(Shake::default()), ..Cue::default() });
    let mut watched = Camera::new(settings)?;
    watched.follow(0.0, WREN);
    let mut skipped = watched.clone();

    let mut run = ItineraryRun::new(scene())?;
    let mut frame = 0;
    while !run.is_over() {
        // A player who needs a moment to read.
        if frame == 260 {
            run.open("read");
        }
        for notice in run.advance(STEP, &mut watched) {
            println!(
                "  {:5.2} s  {}",
                f64::from(frame + 1) * STEP - notice.before_end,
                notice.name()
            );
        }
        let view = watched.follow(STEP, WREN);
        if frame % 30 == 0 {
            let (at, zoom) = (view.steady().centre(), view.lens().zoom());
            println!(
                "  {:5.2} s  {:6.1}, {:6.1}  zoom {zoom:.2}",
                f64::from(frame) * STEP,
                at.x,
                at.y
            );
        }
        frame += 1;
    }

    println!("skipped after a second:");
    let mut run = ItineraryRun::new(scene())?;
    for _frame in 0..60 {
        run.advance(STEP, &mut skipped).for_each(drop);
        skipped.follow(STEP, WREN);
    }
    for notice in run.skip(&mut skipped, |camera, dt| _ = camera.follow(dt, WREN)) {
        println!("           {}", notice.name());
    }
    let (one, other) = (watched.view().steady().centre(), skipped.view().steady().centre());
    println!(
        "  {:6.1}, {:6.1}  watched\n  {:6.1}, {:6.1}  skipped",
        one.x, one.y, other.x, other.y
    );
    Ok(())
}
