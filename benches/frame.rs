//! The cost of a frame, compared with a hand-written "move a fraction of the way and clamp".

use std::f64::consts::LN_2;
use std::hint::black_box;

use criterion::measurement::WallTime;
use criterion::{BenchmarkGroup, Criterion, Throughput, criterion_group, criterion_main};
use rand::{RngExt, SeedableRng};
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan::{
    Airborne, Blending, Bounds, Camera, Canvas, CanvasMut, Deadzone, Fit, Leash, Lens, LookAhead,
    Lure, Outline, Rail, Ratchet, Rect, Rooms, Screen, Settings, Shake, Smoothing, Snap, Subject,
    View, Zone, present,
};

/// Positions of a subject that moves through the world.
fn positions() -> Vec<DVec2> {
    let at = |i: u32| {
        let t = f64::from(i) / 60.0;
        DVec2::new(1900.0 + 1800.0 * (0.3 * t).sin(), 480.0 + 300.0 * (0.7 * t).cos())
    };
    (0..4096).map(at).collect()
}

/// A frame of a camera with these settings, at the time of the frame's number.
fn measure(
    group: &mut BenchmarkGroup<'_, WallTime>,
    name: &str,
    settings: Settings,
    step: impl Fn(usize) -> f64,
) {
    let positions = positions();
    let mut camera = Camera::new(settings).expect("valid settings");
    let mut frame = 0;
    group.bench_function(name, |b| {
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            camera.follow(black_box(step(frame)), black_box(positions[frame])).centre()
        });
    });
}

/// The closed forms of a typical camera, written for one game with constants: look-ahead, deadzone, bounds, half-life;
/// no zoom, no rotation, no errors, no other stage.
#[derive(Default)]
struct HandWritten {
    focus: DVec2,
    goal: DVec2,
    last: DVec2,
    mean: DVec2,
    ahead: f64,
    believed: f64,
    against: f64,
}

impl HandWritten {
    #[inline(never)]
    fn follow(&mut self, seconds: f64, subject: DVec2, ahead: bool) -> DVec2 {
        const VIEW: DVec2 = DVec2::new(320.0, 180.0);
        let (x, z) = (seconds * LN_2 / 0.12, seconds * LN_2 / 0.25);
        let (a, b) = (1.0 - (-x).exp(), 1.0 - (-z).exp());
        let way = subject - self.last;
        let mean = way / seconds;
        let [v0, v1] = [mean - (mean - self.mean) * 0.5, mean + (mean - self.mean) * 0.5];
        (self.last, self.mean) = (subject, mean);
        let before = self.goal;
        let mut want = subject;
        if ahead {
            self.against += way.x * if self.believed == 0.0 { 1.0 } else { -self.believed };
            if self.against.abs() >= 12.0 {
                (self.believed, self.against) = (way.x.signum(), 0.0);
            }
            let target = |v: f64| self.believed * (self.believed * v).max(0.0) * 0.4;
            let (from, to) = (target(v0.x), target(v1.x));
            self.ahead += (from - self.ahead) * b + (to - from) * (1.0 - b / z);
            self.ahead = self.ahead.clamp(-0.2 * VIEW.x, 0.2 * VIEW.x);
            want.x += self.ahead;
        }
        let (low, high) = (DVec2::new(0.04, 0.1) * VIEW, DVec2::new(0.04, 0.15) * VIEW);
        self.goal = self.goal.clamp(want - low, want + high);
        let (least, most) = (VIEW / 2.0, DVec2::new(3840.0, 960.0) - VIEW / 2.0);
        let (from, to) = (before.clamp(least, most), self.goal.clamp(least, most));
        self.focus += (from - self.focus) * a + (to - from) * (1.0 - a / x);
        self.focus
    }
}

fn hand_written(group: &mut BenchmarkGroup<'_, WallTime>, name: &str, ahead: bool) {
    let positions = positions();
    let (mut camera, mut frame) = (HandWritten::default(), 0);
    group.bench_function(name, |b| {
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            camera.follow(black_box(1.0 / 60.0), black_box(positions[frame]), ahead)
        });
    });
}

/// Deadzone, half-life and bounds.
fn typical() -> Settings {
    let mut typical = Settings::default();
    typical.follow.smoothing = Smoothing::HalfLife(0.12).into();
    typical.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    typical.follow.deadzone = Deadzone { left: 0.04, right: 0.04, top: 0.15, bottom: 0.1 };
    typical
}

fn following(c: &mut Criterion) {
    let positions = positions();
    let mut group = c.benchmark_group("following");

    group.bench_function("baseline: a fraction of the way, clamped", |b| {
        let (mut centre, mut frame) = (DVec2::ZERO, 0);
        let (low, high) = (DVec2::new(160.0, 90.0), DVec2::new(3680.0, 870.0));
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            centre += (black_box(positions[frame]) - centre) * black_box(0.1);
            centre = centre.clamp(low, high);
            centre
        });
    });

    hand_written(&mut group, "hand-written: deadzone, half-life and bounds", false);
    hand_written(&mut group, "hand-written: with look-ahead", true);
    let mut plain = Settings::default();
    plain.screen.snap = Snap::Off;
    let mut typical = typical();
    let steady = |_| 1.0 / 60.0;
    let varying = |frame: usize| (1.0 + 0.001 * (frame % 7) as f64) / 60.0;
    measure(&mut group, "everything off", plain, steady);
    measure(&mut group, "deadzone, half-life and bounds", typical.clone(), steady);
    typical.follow.look_ahead = Some(LookAhead::default());
    measure(&mut group, "typical: with look-ahead", typical.clone(), steady);
    measure(&mut group, "typical, the step varying", typical.clone(), varying);
    let mut all = typical;
    all.follow.smoothing = Smoothing::Settle(0.5).into();
    all.follow.leash = Some(Leash(DVec2::splat(0.3)));
    all.follow.ratchet = Ratchet::Right;
    all.follow.airborne = Airborne::Hold;
    all.bounds.as_mut().expect("just set").cushion_depth = 0.125;
    measure(&mut group, "everything on", all.clone(), steady);
    moving_lens(&mut group, all);
    group.finish();
}

/// Everything on, and a zoom under way in every frame.
fn moving_lens(group: &mut BenchmarkGroup<'_, WallTime>, settings: Settings) {
    let positions = positions();
    let mut camera = Camera::new(settings).expect("valid settings");
    let mut frame = 0;
    group.bench_function("everything on, the zoom gliding", |b| {
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            if frame % 24 == 0 {
                camera.zoom_to(if frame % 48 == 0 { 1.5 } else { 1.0 });
            }
            camera.follow(black_box(1.0 / 60.0), black_box(positions[frame])).centre()
        });
    });
}

/// Rooms, lures, zones and rails, compared with a frame without them.
fn framing(c: &mut Criterion) {
    let mut group = c.benchmark_group("framing");
    let steady = |_| 1.0 / 60.0;
    let mut plain = Settings::default();
    plain.follow.smoothing = Smoothing::HalfLife(0.12).into();
    measure(&mut group, "baseline: following alone", plain.clone(), steady);
    let with = |change: &dyn Fn(&mut Settings)| {
        let mut settings = plain.clone();
        change(&mut settings);
        settings
    };
    let place = |number: u32| {
        let spread = |salt: u32, size: f64| {
            f64::from(number.wrapping_mul(salt).wrapping_mul(2_654_435_761) >> 8)
                / f64::from(1 << 24)
                * size
        };
        DVec2::new(spread(7919, 3840.0), spread(104_729, 960.0))
    };
    measure(&mut group, "rooms", with(&|s| s.rooms = Some(Rooms::default())), steady);
    for count in [1, 100] {
        let lure = |number| Lure { at: place(number), radius: 120.0, strength: 0.5 };
        let lures = with(&|s| s.lures = (0..count).map(lure).collect());
        measure(&mut group, &format!("lures, {count}"), lures, steady);
    }
    for count in [1, 1000] {
        let zone = |number| Zone {
            anchor: Some(DVec2::new(0.4, 0.6)),
            ..Zone::new(Rect::from_corner_size(place(number), [40, 40]))
        };
        let zones = with(&|s| s.zones = (0..count).map(zone).collect());
        measure(&mut group, &format!("zones, {count}"), zones, steady);
    }
    // Above the way, so that none is ever entered: what many cost that are just there.
    let above = |number| Zone {
        zoom: Some(2.0),
        ..Zone::new(Rect::from_corner_size(place(number) - DVec2::new(0.0, 1000.0), [40, 40]))
    };
    let zones = with(&|s| s.zones = (0..1000).map(above).collect());
    measure(&mut group, "zones, 1000, none of them entered", zones, steady);
    outlines(&mut group, &plain);
    for count in [10, 10_000_u32] {
        let at = |number: u32| {
            let along = f64::from(number) / f64::from(count);
            DVec2::new(along * 3840.0, 480.0 + 200.0 * (along * 40.0).sin())
        };
        let points: Vec<DVec2> = (0..count).map(at).collect();
        let rail = with(&|s| s.rail = Some(Rail { points: points.clone(), ..Rail::default() }));
        measure(&mut group, &format!("a rail of {count} points"), rail, steady);
    }
    group.finish();
}

/// Bounds of one rectangle, and outlines of several.
fn outlines(group: &mut BenchmarkGroup<'_, WallTime>, plain: &Settings) {
    let steady = |_| 1.0 / 60.0;
    let world = Rect::new([0, 0], [3840, 960]);
    let bounded = Settings { bounds: Some(Bounds::new(world)), ..plain.clone() };
    measure(group, "bounds of one rectangle", bounded, steady);
    for count in [4, 40, 400] {
        for (height, where_to) in [(800.0, "rectangles"), (660.0, "rectangles, often at its edges")]
        {
            let mut outlined = plain.clone();
            outlined.outlines.insert("cellar".into(), cellar(count, height));
            outlined.bounds = Bounds::of_outline("cellar").ok();
            measure(group, &format!("an outline of {count} {where_to}"), outlined, steady);
        }
    }
}

/// A passage of some height through the world, where the subject is, and shafts above and below it.
fn cellar(count: u32, height: f64) -> Outline {
    let passage = Rect::around([1920.0, 480.0], [1920.0, height / 2.0]);
    let beside = |number: u32| {
        let along = f64::from(number) / f64::from(count);
        let down = f64::from(number * 7 % 5) * 60.0;
        Rect::from_corner_size([along * 3600.0, down - 120.0], [340.0, 960.0])
    };
    Outline::new(Vec::from_iter(std::iter::once(passage).chain((1..count).map(beside))))
}

/// Parties. Their zoom is under way.
fn parties(c: &mut Criterion) {
    let mut group = c.benchmark_group("framing together");
    let mut plain = Settings::default();
    plain.follow.smoothing = Smoothing::HalfLife(0.12).into();
    measure(&mut group, "baseline: following alone", plain.clone(), |_| 1.0 / 60.0);
    let positions = positions();
    let mut alone = Camera::new(plain.clone()).expect("valid settings");
    let mut frame = 0;
    group.bench_function("baseline: following alone, in eight frames for one", |b| {
        b.iter(|| {
            for _leg in 0..8 {
                frame = (frame + 1) % positions.len();
                black_box(alone.follow(black_box(1.0 / 480.0), black_box(positions[frame])));
            }
        });
    });
    for count in [2, 32_u32] {
        let mut camera = Camera::new(plain.clone()).expect("valid settings");
        let subject = |frame: u32, id: u32| {
            let swing = DVec2::from_angle(f64::from(frame) * 0.02 + f64::from(id)) * 120.0;
            Subject::from(swing).with_id(id).with_margin(12.0).with_rank(id as i32 % 3)
        };
        let party = |frame: u32| (0..count).map(|id| subject(frame, id)).collect();
        let parties: Vec<Vec<Subject>> = (0..314).map(party).collect();
        let mut frame = 0;
        group.bench_function(format!("a party of {count}"), |b| {
            b.iter(|| {
                frame = (frame + 1) % parties.len();
                camera.follow_all(1.0 / 60.0, black_box(&parties[frame])).centre()
            });
        });
    }
    group.finish();
}

/// Presenting, compared with copying the same number of bytes.
fn presenting(c: &mut Criterion) {
    let screen = Screen::default();
    for (window, name) in [((1920, 1080), "1920 x 1080"), ((3840, 2160), "3840 x 2160")] {
        let mut group = c.benchmark_group(format!("presenting 321 x 181 in {name}"));
        let size = UVec2::from(window);
        let source = vec![[7_u8, 8, 9, 255]; (size.x * size.y) as usize];
        let mut target = vec![[0_u8; 4]; source.len()];
        group.bench_function("baseline: copying as many bytes", |b| {
            b.iter(|| black_box(&mut target).copy_from_slice(black_box(&source)));
        });
        // A little less than the whole scale of 6 or 12, so that every edge is blended.
        let odd = (window.0 - 10, window.1 - 7);
        let cases = [("nearest", Fit::Whole, window), ("filtered", Fit::Contain, odd)];
        for (name, fit, window) in cases {
            let view = View::new(Lens::new(&screen), [100.37, 50.21], Snap::Subpixel)
                .with_fit(fit, screen.size)
                .with_window(window);
            let canvas: Vec<[u8; 4]> =
                (0..321 * 181_u32).map(|i| i.wrapping_mul(2_654_435_761).to_le_bytes()).collect();
            let placement = view.placement();
            group.bench_function(name, |b| {
                b.iter(|| {
                    let canvas = Canvas::new(view.canvas_size(), black_box(&canvas));
                    let target = CanvasMut::new(window.into(), black_box(&mut target));
                    present(canvas, target, &placement, Blending::Encoded);
                });
            });
        }
        group.finish();
    }
}

/// Active shakes, compared with one pair of random numbers for each axis and frame.
fn shaking(c: &mut Criterion) {
    let mut group = c.benchmark_group("shaking");
    group.bench_function("baseline: a random pair", |b| {
        let mut random = rand::rngs::SmallRng::seed_from_u64(1);
        b.iter(|| DVec2::new(random.random_range(-6.0..6.0), random.random_range(-3.0..3.0)));
    });
    for live in [0, 1, 12] {
        let mut camera = Camera::new(Settings::default()).expect("valid settings");
        for _ in 0..live {
            camera.shake(&Shake { hold: f64::INFINITY, ..Shake::default() }, 0.1);
        }
        group.bench_function(format!("a frame with {live} live"), |b| {
            b.iter(|| camera.advance(black_box(1.0 / 60.0)).centre());
        });
    }
    group.finish();
}

/// A server that culls for ten thousand players: a frame of each player's camera, compared with as many frames of one
/// camera.
fn many_cameras(c: &mut Criterion) {
    const PLAYERS: usize = 10_000;
    let positions = positions();
    let mut settings = typical();
    settings.follow.look_ahead = Some(LookAhead::default());
    let camera = Camera::new(settings).expect("valid settings");
    let mut group = c.benchmark_group("ten thousand cameras");
    group.throughput(Throughput::Elements(PLAYERS as u64));
    let mut frame = 0;
    let mut one = camera.clone();
    group.bench_function("baseline: one camera ten thousand times", |b| {
        b.iter(|| {
            for _player in 0..PLAYERS {
                frame = (frame + 1) % positions.len();
                black_box(one.follow(1.0 / 60.0, positions[frame]));
            }
        });
    });
    let mut cameras = vec![camera; PLAYERS];
    group.bench_function("a frame of each", |b| {
        b.iter(|| {
            frame = (frame + 1) % positions.len();
            for (player, camera) in cameras.iter_mut().enumerate() {
                let at = positions[(frame + player) % positions.len()];
                black_box(camera.follow(1.0 / 60.0, at));
            }
        });
    });
    println!("bytes of a camera: {}", size_of::<Camera>());
    group.finish();
}

criterion_group!(benches, following, framing, parties, presenting, shaking, many_cameras);
criterion_main!(benches);
