//! What the user plays: each frame becomes a row of the take.

use std::path::Path as FilePath;

use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, Settings, YAxis};
use velvet_pan_takes::{
    Event, Fault, Files, Map, MapForm, Path, PathRow, Pictures, Player, PlayerKind, Take,
    TakeSubject,
};
use velvet_pan_terraces::art::tiles::is_solid;
use velvet_pan_terraces::{files, kite};

use super::mover::{Mover, Solids, Wish};

/// The name of Wren's subject.
pub const COURIER: &str = "courier";
const KITE: &str = "kite";

/// Where Wren's feet begin, and how far she may go, in world units.
const START: DVec2 = DVec2::new(200.0, 784.0);
const ENDS: [f64; 2] = [8.0, 3832.0];
/// Wren's feet, from her middle.
const FEET: DVec2 = DVec2::new(0.0, 10.0);
/// How high Wren jumps, in world units.
const LEAP: f64 = 62.3;
/// The falling speed at which a landing has full strength, in jumps a second.
const HARD: f64 = 8.0;

/// A player in the world of a take.
#[derive(Debug)]
pub struct Play {
    /// The take without what is played.
    base: Take,
    player: Player,
    solids: Solids,
    start: DVec2,
    mover: Mover,
    /// Where its position is, from its middle.
    position: DVec2,
}

impl Play {
    /// Creates Wren at the foot of the terraces.
    pub fn wren(settings: Settings) -> Result<Self, Fault> {
        let built_in = files::files();
        let map = FilePath::new("terraces.csv");
        let map = Map::read(Files::BuiltIn(&built_in), map, &MapForm::new([16.0, 16.0]))?;
        let actor = |position| {
            let row = PathRow { position, grounded: Some(true), ..PathRow::default() };
            let path = Path::starting(row).map_err(Fault::new)?;
            Ok::<_, Fault>(TakeSubject { path, weight: 1.0, rank: 0, margin: 0.0 })
        };
        let base = Take {
            name: "wren".to_owned(),
            settings,
            map: Some(map),
            watch: vec![COURIER.to_owned()],
            subjects: [(COURIER.to_owned(), actor(START)?), (KITE.to_owned(), actor(kite(0.0))?)]
                .into(),
            pictures: Pictures::of_demo(),
            ..Take::default()
        };
        let player = Player {
            subject: Some(COURIER.to_owned()),
            speed: 132.0,
            jump: LEAP,
            ..Player::new(PlayerKind::Runner)
        };
        let ground = base.map.as_ref().map_or(Rect::default(), |map| map.grid().rect());
        let half = player.size[0] / 2.0;
        let limits = Rect {
            min: DVec2::new(ENDS[0] - half, f64::NEG_INFINITY),
            max: DVec2::new(ENDS[1] + half, ground.max.y),
        };
        let solids = Solids::new(base.map.clone(), is_solid, limits, YAxis::Down);
        let start = START - FEET;
        Ok(Self { base, player, solids, start, mover: Mover::at(start), position: FEET })
    }

    /// Creates the player of a take where its subject begins.
    ///
    /// # Errors
    ///
    /// The take has no subject to play.
    pub fn of_take(take: &Take) -> Result<Self, Fault> {
        let player = take.player.clone().unwrap_or_default();
        let name = player.subject.clone().or_else(|| take.watch.first().cloned());
        let name = name.or_else(|| take.subjects.keys().next().cloned());
        let Some((name, actor)) = name.and_then(|name| take.subjects.get_key_value(&name)) else {
            let what = format!("{}: no subject to play: expected [subjects.NAME]", take.name);
            return Err(Fault::new(what));
        };
        let player = Player { subject: Some(name.clone()), ..player };
        let start = actor.path.position(0.0);
        let y_axis = take.settings.screen.y_axis;
        let limits = limits(take, y_axis, start, &player);
        let solids = Solids::new(take.map.clone(), |tile| tile != 0, limits, y_axis);
        let base = Take { events: Vec::new(), log: None, as_logged: false, ..take.clone() };
        let (mover, position) = (Mover::at(start), DVec2::ZERO);
        Ok(Self { base, player, solids, start, mover, position })
    }

    /// Returns how the player moves.
    pub fn player(&self) -> &Player {
        &self.player
    }

    /// Changes how the player moves, from now on.
    pub fn set_player(&mut self, player: Player) {
        self.player = player;
    }

    /// Returns the name of the subject that is played.
    pub fn subject(&self) -> &str {
        self.player.subject.as_deref().unwrap_or(COURIER)
    }

    /// Creates a take with one row, at the player's position.
    pub fn begin(&self, settings: Settings, fps: f64) -> Result<Take, Fault> {
        let mut take = Take { settings, fps, seconds: 0.0, ..self.base.clone() };
        for (name, row) in self.rows(0.0) {
            if let Some(actor) = take.subjects.get_mut(&name) {
                actor.path = Path::starting(row).map_err(Fault::new)?;
            }
        }
        Ok(take)
    }

    /// Returns the player to its starting position.
    pub fn go_home(&mut self) {
        self.mover = Mover::at(self.start);
    }

    /// Plays until the time of this row of the take.
    pub fn step(&mut self, take: &mut Take, row_number: u64, wish: Wish) -> Result<(), Fault> {
        let t = row_number as f64 / take.fps;
        let (fall, flew) = (self.mover.velocity.y.abs(), !self.mover.grounded);
        self.mover.step(&self.player, &self.solids, wish, 1.0 / take.fps);
        let calls_landing = take.settings.cues.contains_key("landing");
        let hard = HARD * self.player.jump;
        if calls_landing && flew && self.mover.grounded && fall > 0.2 * hard {
            take.events.push(Event {
                at: t,
                cue: Some("landing".to_owned()),
                from: Some((self.mover.middle + self.position).to_array()),
                strength: Some((fall / hard).min(1.0)),
                ..Event::default()
            });
        }
        for (name, row) in self.rows(t) {
            if let Some(actor) = take.subjects.get_mut(&name) {
                actor.path.push(row).map_err(Fault::new)?;
            }
        }
        take.seconds = t;
        Ok(())
    }

    /// Returns the positions of the subjects that move with the play, at this time.
    fn rows(&self, t: f64) -> Vec<(String, PathRow)> {
        let row = |position, grounded| PathRow { t, position, grounded, ..PathRow::default() };
        let runs = self.player.kind == PlayerKind::Runner;
        let grounded = runs.then_some(self.mover.grounded);
        let mut rows =
            vec![(self.subject().to_owned(), row(self.mover.middle + self.position, grounded))];
        if self.base.pictures.are_of_demo() && self.base.subjects.contains_key(KITE) {
            rows.push((KITE.to_owned(), row(kite(t), Some(true))));
        }
        rows
    }
}

/// Returns the world that the player does not leave: the map, or else the bounds. A runner without a map has a floor
/// where it begins, and in a map it may jump out at the top.
fn limits(take: &Take, y_axis: YAxis, start: DVec2, player: &Player) -> Rect {
    let everywhere = Rect { min: DVec2::NEG_INFINITY, max: DVec2::INFINITY };
    let bounds = take.settings.bounds.as_ref().map(|bounds| match bounds.outline {
        Some(_) => take.settings.extent(bounds).unwrap_or(everywhere),
        None => bounds.limits(y_axis),
    });
    let map = take.map.as_ref().map(|map| map.grid().rect());
    let mut limits = map.or(bounds).unwrap_or(everywhere);
    if player.kind == PlayerKind::Runner {
        let floor = map.is_none().then_some(player.size[1] / 2.0);
        match y_axis {
            YAxis::Down => {
                limits.min.y = f64::NEG_INFINITY;
                limits.max.y = floor.map_or(limits.max.y, |half| start.y + half);
            }
            YAxis::Up => {
                limits.max.y = f64::INFINITY;
                limits.min.y = floor.map_or(limits.min.y, |half| start.y - half);
            }
        }
    }
    limits
}
