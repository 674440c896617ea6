//! Wren, played by the user: each frame becomes a row of the take.

use std::collections::BTreeMap;
use std::path::Path as FilePath;

use velvet_pan::Settings;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Actor, Event, Fault, Files, Map, MapForm, Path, PathRow, Take};
use velvet_pan_terraces::{Body, Land, files, kite};

/// The name of the player's subject.
pub const COURIER: &str = "courier";
const KITE: &str = "kite";

/// Where Wren begins, and how far she may go, in world units.
const START: DVec2 = DVec2::new(200.0, 784.0);
const ENDS: [f64; 2] = [8.0, 3832.0];
/// The falling speed at which a landing has full strength, in world units per second.
const HARD: f64 = 500.0;

/// The player's input in a frame.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Wish {
    /// Run to the left (−1), to the right (1) or not at all (0).
    pub way: f64,
    /// Jump, if Wren stands on the ground.
    pub leap: bool,
}

/// Wren, the land, and the flying kite.
#[derive(Debug)]
pub struct Play {
    land: Land,
    body: Body,
}

impl Play {
    /// Creates Wren at the foot of the terraces.
    pub fn new() -> Self {
        Self { land: Land::laid_out(), body: Body::at(START) }
    }

    /// Creates a take with one row, at Wren's position.
    pub fn begin(&self, settings: Settings, fps: f64) -> Result<Take, Fault> {
        let built_in = files::files();
        let map = FilePath::new("terraces.csv");
        let map = Map::read(Files::BuiltIn(&built_in), map, &MapForm::new([16.0, 16.0]))?;
        let actors = self.rows(0.0).map(|(name, row)| {
            let path = Path::starting(row).map_err(Fault::new)?;
            Ok((name.to_owned(), Actor { path, weight: 1.0, rank: 0, margin: 0.0 }))
        });
        Ok(Take {
            name: "wren".to_owned(),
            settings,
            seconds: 0.0,
            fps,
            window: [1280, 720].into(),
            map: Some(map),
            watch: vec![COURIER.to_owned()],
            subjects: actors.into_iter().collect::<Result<BTreeMap<_, _>, Fault>>()?,
            cameras: BTreeMap::new(),
            events: Vec::new(),
            gates: BTreeMap::new(),
            log: None,
            as_logged: false,
            hazards: Vec::new(),
        })
    }

    /// Returns Wren to her starting position.
    pub fn go_home(&mut self) {
        self.body = Body::at(START);
    }

    /// Plays until the time of this row of the take.
    pub fn step(&mut self, take: &mut Take, row_number: u64, wish: Wish) -> Result<(), Fault> {
        let t = row_number as f64 / take.fps;
        let (fall, flew) = (self.body.velocity.y, !self.body.grounded);
        if wish.leap && self.body.grounded {
            self.body.leap();
        }
        self.body.step(&self.land, wish.way, 1.0 / take.fps);
        if !(ENDS[0]..=ENDS[1]).contains(&self.body.feet.x) {
            self.body.feet.x = self.body.feet.x.clamp(ENDS[0], ENDS[1]);
            self.body.velocity.x = 0.0;
        }
        let calls_landing = take.settings.cues.contains_key("landing");
        if calls_landing && flew && self.body.grounded && fall > 0.2 * HARD {
            take.events.push(Event {
                at: t,
                cue: Some("landing".to_owned()),
                from: Some(self.body.feet.to_array()),
                strength: Some((fall / HARD).min(1.0)),
                ..Event::default()
            });
        }
        for (name, row) in self.rows(t) {
            if let Some(actor) = take.subjects.get_mut(name) {
                actor.path.push(row).map_err(Fault::new)?;
            }
        }
        take.seconds = t;
        Ok(())
    }

    /// The positions of all subjects at this time.
    fn rows(&self, t: f64) -> [(&'static str, PathRow); 2] {
        let Body { feet, grounded, .. } = self.body;
        let row = |position, grounded| PathRow {
            t,
            position,
            grounded: Some(grounded),
            ..PathRow::default()
        };
        [(COURIER, row(feet, grounded)), (KITE, row(kite(t), true))]
    }
}
