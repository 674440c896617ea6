//! What it costs a game to log itself: a frame with its log, beside the same frame without.

use std::hint::black_box;
use std::path::PathBuf;

use criterion::{Criterion, criterion_group, criterion_main};
use velvet_pan::{Camera, Deadzone, LookAhead, Settings, Smoothing};
use velvet_pan_takes::{Keep, LogOptions, RideLog};

fn settings() -> Settings {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
    settings.follow.deadzone = Deadzone { left: 0.1, right: 0.1, ..Deadzone::default() };
    settings.follow.look_ahead = Some(LookAhead::default());
    settings
}

fn camera() -> Camera {
    Camera::new(settings()).expect("valid settings")
}

fn folder() -> PathBuf {
    std::env::temp_dir().join(format!("velvet-pan-bench-{}", std::process::id()))
}

fn place(frame: u32) -> [f64; 2] {
    let t = f64::from(frame) / 60.0;
    [1900.0 + 1800.0 * (0.3 * t).sin(), 480.0 + 300.0 * (0.7 * t).cos()]
}

fn frames(c: &mut Criterion) {
    let mut group = c.benchmark_group("a frame");
    let (mut bare, mut frame) = (camera(), 0);
    group.bench_function("without a log", |b| {
        b.iter(|| {
            frame += 1;
            bare.follow(1.0 / 60.0, black_box(place(frame))).centre()
        });
    });
    for (name, keep) in [
        ("everything is logged", Keep::Everything),
        ("the last 10 seconds are kept", Keep::Last { seconds: 10.0 }),
    ] {
        let options = LogOptions { keep, ..LogOptions::default() };
        let mut logged = RideLog::with(camera(), folder(), options).expect("a log");
        group.bench_function(name, |b| {
            b.iter(|| {
                frame += 1;
                logged.follow(1.0 / 60.0, black_box(place(frame))).centre()
            });
        });
    }
    group.finish();
    std::fs::remove_dir_all(folder()).expect("removed");
}

criterion_group!(benches, frames);
criterion_main!(benches);
