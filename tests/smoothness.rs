//! No change of the camera is abrupt: position and velocity are kept, and the acceleration is limited by the remaining
//! distance and time.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Camera, Cameras, Cue, CueCall, Ease, Party, Rect, Rooms, Settings, Smoothing, Subject, View,
    Zone,
};

use crate::support::smooth;

const DT: f64 = 1.0 / 60.0;

/// The frame before which the change is made.
const AT: i32 = 60;

/// A row of the table of durations: its duration, its settings, and the calls before each frame, with the change or,
/// in the reference ride, as if it had been so from the start.
struct Row {
    name: &'static str,
    seconds: f64,
    set: fn(&mut Settings),
    tell: fn(&mut Camera, i32),
    source: Source,
    /// The point of the screen at which the subject is: the anchor after the change.
    anchor: DVec2,
    /// The position of the subject after the change, from its position without it.
    jump: DVec2,
}

const MIDDLE: DVec2 = DVec2::splat(0.5);

/// The kind of reference.
#[derive(Clone, Copy, PartialEq)]
enum Source {
    /// The same ride without the change.
    Unchanged,
    /// The same ride with a change without duration.
    AtOnce,
    /// A view at rest.
    Standing,
}

fn nothing(_: &mut Settings) {}

fn on_line(seconds: f64) -> Zone {
    let anchor = Some(DVec2::new(0.3, 0.6));
    Zone { anchor, zoom: Some(1.5), fade: seconds, ..Zone::new(Rect::new([0, -900], [9000, 900])) }
}

/// A row whose subject runs on and is in the middle of the screen.
const fn row(name: &'static str, seconds: f64, source: Source, tell: fn(&mut Camera, i32)) -> Row {
    Row { name, seconds, set: nothing, tell, source, anchor: MIDDLE, jump: DVec2::ZERO }
}

const ROWS: [Row; 12] = [
    row("glide", 0.6, Source::AtOnce, |camera, frame| {
        if frame == AT {
            camera.glide(0.6, Ease::Smooth);
        }
    }),
    Row {
        jump: DVec2::new(-220.0, 60.0),
        ..row("glide to another", 0.6, Source::AtOnce, |camera, frame| {
            if frame == AT {
                camera.switch_subject();
                camera.glide(0.6, Ease::Smooth);
            }
        })
    },
    Row {
        set: |settings| {
            settings.cues.insert("gong".into(), Cue { glide: Some(0.5), ..Cue::default() });
        },
        ..row("cue: glide", 0.5, Source::AtOnce, |camera, frame| {
            if frame == AT {
                camera.cue("gong", CueCall::anywhere()).expect("a cue");
            }
        })
    },
    row("show", 0.7, Source::Standing, |camera, frame| {
        if frame == AT {
            camera.show(&Rect::new([-300, -50], [20, 130]), 0.7, Ease::Smooth);
        }
    }),
    row("release of show", 0.4, Source::Unchanged, |camera, frame| match frame {
        30 => camera.show(&Rect::new([-400, -90], [-80, 90]), 0.0, Ease::Smooth),
        AT => camera.release(),
        _ => {}
    }),
    row("release of a grab", 0.4, Source::Unchanged, |camera, frame| match frame {
        30 => camera.grab(Vec2::new(100.0, 50.0)),
        AT => camera.release(),
        _ => {}
    }),
    row("end of a pan", 0.4, Source::Unchanged, |camera, frame| {
        if (30..AT).contains(&frame) {
            camera.pan(Vec2::new(-2.0, 1.0));
        }
    }),
    Row {
        set: |settings| {
            settings.cues.insert("gong".into(), Cue { pause: Some(0.5), ..Cue::default() });
        },
        ..row("end of a pause", 0.4, Source::Unchanged, |camera, frame| {
            if frame == AT - 30 {
                camera.cue("gong", CueCall::anywhere()).expect("a cue");
            }
        })
    },
    Row {
        set: |settings| settings.zones.push(on_line(0.8)),
        anchor: DVec2::new(0.3, 0.6),
        ..row("into a zone", 0.8, Source::AtOnce, |_, _| {})
    },
    Row {
        set: |settings| {
            let (size, origin) = (DVec2::new(400.0, 400.0), DVec2::new(0.0, -200.0));
            let rooms = Rooms {
                size: Some(size),
                origin,
                slide: Some(0.5),
                overstep: 0.0,
                ..Rooms::default()
            };
            settings.rooms = Some(rooms);
        },
        ..row("a room's slide", 0.5, Source::AtOnce, |_, _| {})
    },
    row("settings", 0.3, Source::AtOnce, |camera, frame| {
        if frame == AT {
            let mut settings = camera.settings().clone();
            settings.follow.anchor = DVec2::new(0.7, 0.4);
            camera.set_settings(settings, 0.3).expect("valid");
        }
    }),
    row("bounds", 0.5, Source::Standing, |camera, frame| {
        if frame == AT {
            let bounds = velvet_pan::Bounds::new(Rect::new([-2000, -900], [150, 900]));
            camera.set_bounds(Some(bounds), 0.5).expect("valid");
        }
    }),
];

/// Runs to the right at a speed, and is at 0 in the frame before the change.
fn subject(frame: i32, speed: f64) -> DVec2 {
    DVec2::new(speed * DT * f64::from(frame - AT), 4.0)
}

fn looked_at(row: &Row, view: &View) -> DVec2 {
    view.centre() + view.lens().anchor_offset(row.anchor)
}

/// The subject of a row: another one that runs the other way, if it jumps.
fn subject_of(row: &Row, frame: i32, speed: f64) -> DVec2 {
    if frame < AT || row.jump == DVec2::ZERO {
        return subject(frame, speed);
    }
    row.jump + subject(frame, -speed)
}

fn settings(row: &Row, smoothing: Smoothing) -> Settings {
    let mut settings = smooth(smoothing);
    (row.set)(&mut settings);
    settings
}

fn ride(row: &Row, smoothing: Smoothing, speed: f64) -> Vec<DVec2> {
    let mut camera = Camera::new(settings(row, smoothing)).expect("valid settings");
    let views = (0..180).map(|frame| {
        (row.tell)(&mut camera, frame);
        let step = if frame == 0 { 0.0 } else { DT };
        let view = camera.follow(step, subject_of(row, frame, speed));
        looked_at(row, &view)
    });
    views.collect()
}

/// The reference picture after the change.
fn source(row: &Row, smoothing: Smoothing, speed: f64) -> Vec<DVec2> {
    match row.source {
        Source::Unchanged => {
            let unchanged = Row { tell: |_, _| {}, set: nothing, ..*row };
            ride(&unchanged, smoothing, speed)
        }
        Source::Standing => {
            let shown = ride(row, smoothing, speed);
            vec![shown[shown.len() - 1]; shown.len()]
        }
        Source::AtOnce => at_once(row, smoothing, speed),
    }
}

fn at_once(row: &Row, smoothing: Smoothing, speed: f64) -> Vec<DVec2> {
    let mut settings = settings(row, smoothing);
    for zone in &mut settings.zones {
        zone.fade = 0.0;
    }
    if let Some(rooms) = &mut settings.rooms {
        rooms.slide = Some(1e-9);
    }
    let mut camera = Camera::new(settings).expect("valid settings");
    let views = (0..180).map(|frame| {
        if frame == AT {
            match row.name {
                "settings" => {
                    let mut settings = camera.settings().clone();
                    settings.follow.anchor = DVec2::new(0.7, 0.4);
                    camera.set_settings(settings, 0.0).expect("valid");
                }
                "glide" | "glide to another" | "cue: glide" => camera.cut(),
                _ => {}
            }
        }
        let step = if frame == 0 { 0.0 } else { DT };
        let view = camera.follow(step, subject_of(row, frame, speed));
        looked_at(row, &view)
    });
    views.collect()
}

/// Per frame: `|change of velocity| ≤ dt·(6·|v0|/Tv + 5.8·|x0|/T² + a)`, where `a` is the acceleration of the source.
/// Returns the largest fraction of this limit.
fn largest_share(row: &Row, smoothing: Smoothing, speed: f64) -> f64 {
    let (shown, source) = (ride(row, smoothing, speed), source(row, smoothing, speed));
    let velocity = |way: &[DVec2], frame: usize| (way[frame] - way[frame - 1]) / DT;
    let bend =
        |way: &[DVec2], frame: usize| (velocity(way, frame + 1) - velocity(way, frame)).length();
    let at = AT as usize;
    let gap = (shown[at] - source[at]).length() + (source[at + 1] - source[at]).length();
    let faster = (velocity(&shown, at) - velocity(&source, at + 2)).length();
    let taken_up = row.seconds.min(0.25);
    let own = |frame: usize| {
        (frame.saturating_sub(2).max(at + 2)..=frame + 2)
            .map(|frame| bend(&source, frame))
            .fold(0.0, f64::max)
    };
    let share = |frame: usize| {
        let most = DT * (6.0 * faster / taken_up + 5.8 * gap / row.seconds.powi(2)) + own(frame);
        bend(&shown, frame) / (most + 1e-6)
    };
    (at..at + 100).map(share).fold(0.0, f64::max)
}

#[test]
fn every_row_of_the_table_is_smooth() {
    for row in &ROWS {
        for smoothing in [
            Smoothing::None,
            Smoothing::HalfLife(0.15),
            Smoothing::Settle(0.5),
            Smoothing::Speed(900.0),
        ] {
            for speed in [150.0, 600.0] {
                let share = largest_share(row, smoothing, speed);
                println!("{:<20} {smoothing:?} at {speed}: {share:.2}", row.name);
                assert!(share <= 1.0, "{} with {smoothing:?} at {speed}: {share}", row.name);
            }
        }
    }
}

/// The view of a running subject never stands while a change fades.
#[test]
fn no_frame_stands_while_the_source_runs() {
    for row in
        ROWS.iter().filter(|row| row.source != Source::Standing && row.name != "a room's slide")
    {
        let shown = ride(row, Smoothing::HalfLife(0.15), 150.0);
        for frame in AT as usize + 1..170 {
            let step = (shown[frame] - shown[frame - 1]).length();
            assert!(step > 0.0, "{} stands in frame {frame}", row.name);
        }
    }
}

/// A member joins, one leaves, and one is dropped.
#[test]
fn a_party_that_changes_is_smooth() {
    for speed in [150.0, 600.0] {
        let mut settings =
            Settings { party: Party { fade: 0.6, ..Party::default() }, ..Settings::default() };
        settings.party.widen = 0.4;
        let mut camera = Camera::new(settings).expect("valid settings");
        let mut centres = Vec::new();
        for frame in 0..300 {
            let at = subject(frame, speed);
            let mut all = vec![Subject::from(at).with_id(1), Subject::from(at + 60.0).with_id(2)];
            if (60..200).contains(&frame) {
                all.push(Subject::from(at + DVec2::new(90.0, -30.0)).with_id(3).with_rank(-1));
            }
            let step = if frame == 0 { 0.0 } else { DT };
            centres.push(camera.follow_all(step, &all).centre());
        }
        for frame in 2..centres.len() {
            let bend = centres[frame] - 2.0 * centres[frame - 1] + centres[frame - 2];
            // Whoever joins moves the middle by 30; its speed is the others'.
            let most = DT * DT * (5.8 * 60.0 / 0.36 + 6.0 * speed / 3.0 / 0.25);
            assert!(bend.length() <= most, "{} of {most} in frame {frame}", bend.length());
        }
    }
}

/// The picture glides from one moving camera to another without an abrupt change.
#[test]
fn a_glide_between_cameras_is_smooth() {
    let camera = || Camera::new(Settings::default()).expect("valid settings");
    let mut cameras = Cameras::new(1, camera());
    cameras.insert(2, camera());
    let mut centres = Vec::new();
    for frame in 0..200 {
        if frame == AT {
            assert!(cameras.glide_to(&2, 0.8, Ease::Smooth));
        }
        let step = if frame == 0 { 0.0 } else { DT };
        for (key, camera) in cameras.iter_mut() {
            let at = subject(frame, if *key == 1 { 600.0 } else { -150.0 });
            camera.follow(step, at + f64::from(*key) * 100.0);
        }
        centres.push(cameras.view(step).centre());
    }
    for frame in 2..centres.len() {
        let bend = centres[frame] - 2.0 * centres[frame - 1] + centres[frame - 2];
        let most = DT * DT * (5.8 * 142.0 / 0.64 + 6.0 * 750.0 / 0.25) + 1e-9;
        assert!(bend.length() <= most, "{} of {most} in frame {frame}", bend.length());
    }
}
