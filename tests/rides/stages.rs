//! The stages of rides: settings, the subject's movement, and events at ticks.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Axes, Bounds, Camera, Cue, CueCall, Deadzone, Leash, LookAhead, Lure, Outline,
    Outside, Rail, Ratchet, Rect, Rooms, Scroll, Settings, Smoothing, Subject, Zone, ZoomNudge,
};

use super::path::{Path, hop};

/// One stage.
#[derive(Clone, Copy)]
pub struct Stage {
    pub name: &'static str,
    pub set: fn(&mut Settings),
    /// The calls before the frame that ends at this tick.
    pub event: fn(&mut Camera, u32),
    /// Whether the subject jumps, and whether there is a party.
    pub hops: bool,
    pub party: bool,
}

impl Stage {
    /// Whether the two set the same, so that one of them would do nothing.
    pub fn excludes(&self, other: &Self) -> bool {
        const SAME: [&[&str]; 5] = [
            &["bounds", "cushion", "outline", "outline that fills"],
            &["rooms", "rooms that slide", "houses in the open", "houses that slide"],
            &["rail", "travelling rail"],
            &["airborne hold", "airborne, off the leash"],
            // These pass back and forth between halls, many times in a frame: some rides would take minutes.
            &["outline that fills", "rail"],
        ];
        let both = |names: &&[&str]| names.contains(&self.name) && names.contains(&other.name);
        self.name == other.name || SAME.iter().any(both)
    }
}

const fn stage(name: &'static str, set: fn(&mut Settings)) -> Stage {
    Stage { name, set, event: |_, _| {}, hops: false, party: false }
}

/// Two rooms, one beside the other, in an open world.
fn houses() -> Rooms {
    let list = vec![Rect::new([715, 250], [905, 600]), Rect::new([905, 300], [1130, 800])];
    Rooms { list, outside: Outside::Free, ..Rooms::default() }
}

/// A passage with a hall above it, one below it, and a narrow stair.
fn in_a_cellar(settings: &mut Settings) {
    let parts =
        [[560, 380, 760, 210], [640, 300, 390, 300], [780, 380, 420, 330], [1060, 200, 200, 300]];
    let rect = |[x, y, width, height]: [i32; 4]| Rect::from_corner_size([x, y], [width, height]);
    settings.outlines.insert("cellar".into(), Outline::new(parts.map(rect)));
    settings.bounds = Some(Bounds::of_outline("cellar").expect("a name"));
}

pub const STAGES: [Stage; 26] = [
    stage("nothing else", |_| {}),
    stage("anchor and offset", |s| {
        s.follow.anchor = DVec2::new(0.35, 0.65);
        s.follow.offset = DVec2::new(12.0, -9.0);
    }),
    stage("x alone", |s| s.follow.axes = Axes::X),
    stage("deadzone", |s| {
        s.follow.deadzone = Deadzone { left: 0.08, right: 0.08, top: 0.15, bottom: 0.1 };
    }),
    stage("look-ahead", |s| s.follow.look_ahead = Some(LookAhead::default())),
    stage("bounds", |s| s.bounds = Some(Bounds::new(Rect::new([620, 330], [1200, 640])))),
    stage("cushion", |s| {
        let bounds = Bounds::new(Rect::new([620, 330], [1200, 640]));
        s.bounds = Some(Bounds { cushion_depth: 0.2, ..bounds });
    }),
    stage("leash", |s| s.follow.leash = Some(Leash(DVec2::splat(0.12)))),
    stage("ratchet", |s| s.follow.ratchet = Ratchet::Right),
    Stage {
        hops: true,
        ..stage("airborne hold", |s| {
            s.follow.airborne = Airborne::Hold;
            s.follow.anchor.y = 0.6;
        })
    },
    Stage {
        hops: true,
        ..stage("airborne, off the leash", |s| {
            s.follow.airborne = Airborne::Hold;
            s.follow.leash = Some(Leash(DVec2::new(0.3, 0.2)));
        })
    },
    stage("rooms", |s| {
        let (size, origin) = (DVec2::new(400.0, 250.0), DVec2::new(37.0, 11.0));
        s.rooms = Some(Rooms { size: Some(size), origin, ..Rooms::default() });
    }),
    stage("rooms that slide", |s| {
        let (size, origin) = (DVec2::new(400.0, 250.0), DVec2::new(37.0, 11.0));
        s.rooms = Some(Rooms { size: Some(size), origin, slide: Some(0.5), ..Rooms::default() });
    }),
    stage("houses in the open", |s| s.rooms = Some(houses())),
    stage("houses that slide", |s| s.rooms = Some(Rooms { slide: Some(0.5), ..houses() })),
    stage("lures", |s| {
        let lure = |x, y, strength| Lure { at: DVec2::new(x, y), radius: 160.0, strength };
        s.lures = vec![lure(700.0, 420.0, 0.5), lure(1150.0, 500.0, 0.9)];
    }),
    stage("zone: anchor, zoom", |s| {
        let anchor = Some(DVec2::new(0.3, 0.6));
        let rect = Rect::new([712, 100], [1013, 900]);
        s.zones.push(Zone { anchor, zoom: Some(1.6), ..Zone::new(rect) });
    }),
    stage("zone: deadzone, bounds", |s| {
        let deadzone = Some(Deadzone { left: 0.1, right: 0.1, top: 0.2, bottom: 0.2 });
        let bounds = Some(Rect::new([600, 300], [1250, 640]));
        let rect = Rect::new([777, 100], [1150, 500]);
        s.zones.push(Zone { deadzone, bounds, fade: 0.8, ..Zone::new(rect) });
    }),
    stage("rail", |s| {
        let points = [[300, 500], [700, 420], [900, 560], [1200, 460], [1500, 520]];
        let points = points.map(|[x, y]| DVec2::new(f64::from(x), f64::from(y))).to_vec();
        s.rail = Some(Rail { points, ..Rail::default() });
    }),
    stage("travelling rail", |s| {
        let points =
            vec![DVec2::new(500.0, 500.0), DVec2::new(800.0, 420.0), DVec2::new(1500.0, 600.0)];
        s.rail = Some(Rail { points, speed: Some(70.0), ..Rail::default() });
    }),
    stage("scroll", |s| s.scroll = Some(Scroll { speed: DVec2::new(35.0, 0.0) })),
    Stage { party: true, ..stage("party", |s| s.party.widest = 0.6) },
    Stage {
        event: |camera, tick| match tick {
            12 => camera.zoom_to(2.0),
            30 => camera.zoom_to(0.7),
            _ => {}
        },
        ..stage("zoom", |s| s.follow.anchor.x = 0.4)
    },
    Stage {
        event: |camera, tick| match tick {
            15 => camera.rotate_to(0.4),
            36 => camera.rotate_to(-0.2),
            _ => {}
        },
        ..stage("rotation", |s| s.follow.anchor.y = 0.6)
    },
    Stage {
        event: |camera, tick| {
            if tick == 20 {
                camera.cue("gong", CueCall::anywhere()).expect("a cue");
            }
        },
        ..stage("cue: pause", |s| {
            s.cues.insert("gong".into(), Cue { pause: Some(0.35), ..Cue::default() });
        })
    },
    Stage {
        event: |camera, tick| {
            if tick == 23 {
                camera.cue("drum", CueCall::anywhere()).expect("a cue");
            }
        },
        ..stage("cue: nudge", |s| {
            let zoom = Some(ZoomNudge { by: 1.3, rise: 0.2, hold: 0.1, fade: 0.7 });
            s.cues.insert("drum".into(), Cue { zoom, ..Cue::default() });
        })
    },
];

pub fn every_stage() -> impl Iterator<Item = Stage> {
    STAGES.into_iter().chain(OUTLINES)
}

/// The stage of this name.
pub fn named(name: &str) -> Stage {
    every_stage().find(|stage| stage.name == name).expect("the name of a stage")
}

/// Stages in place of those of bounds.
pub const OUTLINES: [Stage; 2] = [
    stage("outline", in_a_cellar),
    stage("outline that fills", |s| {
        in_a_cellar(s);
        s.zoom.fill_bounds = true;
    }),
];

pub const KINDS: [Smoothing; 5] = [
    Smoothing::None,
    Smoothing::HalfLife(0.12),
    Smoothing::HalfLife(0.35),
    Smoothing::Settle(0.5),
    Smoothing::Speed(240.0),
];

/// A subject, or a party, at a time of a path.
pub fn subjects(path: &Path, stages: &[Stage], t: f64, tick: Option<u32>) -> Vec<Subject> {
    let mut first = Subject::from(path.at(t));
    if stages.iter().any(|stage| stage.hops) {
        let (height, grounded) = hop(t);
        first.position.y -= height;
        // Said outright: how steep a jump is depends on the path.
        first = first.with_grounded(grounded).with_jump(!grounded);
    }
    if !stages.iter().any(|stage| stage.party) {
        return vec![first];
    }
    let kite = first.position + DVec2::new(120.0 + 90.0 * (1.1 * t).sin(), -60.0 * (0.9 * t).cos());
    let third = first.position + DVec2::new(-150.0, 40.0 + 30.0 * (0.7 * t).sin());
    let mut party = vec![first.with_id(1), Subject::from(kite).with_id(2).with_margin(10.0)];
    // The third is there between two ticks: it joins and leaves at moments that all rates share.
    let now = tick.map_or(t / super::path::TICK, f64::from);
    if (18.0..42.0).contains(&now) {
        party.push(Subject::from(third).with_id(3).with_rank(-1));
    }
    party
}
