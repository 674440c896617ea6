//! The same game in another world: shifted, mirrored, with y upwards, at another scale. The views are the same, but for
//! rounding.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{
    Bounds, Camera, Ease, Fit, HandReturn, Ratchet, Rect, Rooms, Settings, Smoothing, Snap,
    Subject, Value, View, YAxis,
};

use crate::rides::random_play::{Dice, Game, Pcg};

/// Where the same world lies otherwise.
#[derive(Clone, Copy, Debug)]
struct World {
    shift: DVec2,
    /// −1 for an axis that is mirrored. A mirrored y points the other way on the screen as well.
    sign: DVec2,
    /// Only powers of two, which round nothing.
    scale: f64,
    /// How much slower everything is.
    time: f64,
}

impl World {
    const SAME: Self = Self { shift: DVec2::ZERO, sign: DVec2::ONE, scale: 1.0, time: 1.0 };

    fn point(&self, point: DVec2) -> DVec2 {
        point * self.sign * self.scale + self.shift
    }

    fn rect(&self, rect: &Rect) -> Rect {
        Rect::new(self.point(rect.min), self.point(rect.max))
    }

    fn bounds(&self, bounds: &Bounds) -> Bounds {
        Bounds { rect: bounds.rect.map(|rect| self.rect(&rect)), ..*bounds }
    }

    /// A fraction of the screen.
    fn fraction(&self, mut fraction: DVec2) -> DVec2 {
        if self.sign.x < 0.0 {
            fraction.x = 1.0 - fraction.x;
        }
        fraction
    }

    fn screen(&self, point: Vec2) -> Vec2 {
        if self.sign.x < 0.0 { Vec2::new(320.0 - point.x, point.y) } else { point }
    }

    fn rotation(&self, rotation: f64) -> f64 {
        rotation * self.sign.x
    }

    fn settings(&self, settings: &Settings) -> Settings {
        let mut settings = settings.clone();
        settings.screen.unit_pixels /= self.scale;
        if self.sign.y < 0.0 {
            settings.screen.y_axis = match settings.screen.y_axis {
                YAxis::Down => YAxis::Up,
                _ => YAxis::Down,
            };
        }
        let follow = &mut settings.follow;
        follow.anchor = self.fraction(follow.anchor);
        if self.sign.x < 0.0 {
            let zone = &mut follow.deadzone;
            (zone.left, zone.right) = (zone.right, zone.left);
            follow.ratchet = match follow.ratchet {
                Ratchet::Left => Ratchet::Right,
                Ratchet::Right => Ratchet::Left,
                other => other,
            };
        }
        for kind in [&mut follow.smoothing.x, &mut follow.smoothing.y] {
            match kind {
                Smoothing::Speed(speed) => *speed *= self.scale / self.time,
                Smoothing::HalfLife(seconds) | Smoothing::Settle(seconds) => *seconds *= self.time,
                _ => {}
            }
        }
        settings.bounds = settings.bounds.map(|bounds| self.bounds(&bounds));
        for part in settings.outlines.values_mut().flat_map(|outline| &mut outline.parts) {
            *part = self.rect(part);
        }
        if let Some(rooms) = &mut settings.rooms {
            let corner = self.point(rooms.origin);
            *rooms = Rooms {
                origin: corner,
                size: rooms.size.map(|size| size * self.scale),
                ..rooms.clone()
            };
        }
        if let Some(rail) = &mut settings.rail {
            rail.points.iter_mut().for_each(|point| *point = self.point(*point));
            rail.speed = rail.speed.map(|speed| speed * self.scale);
        }
        if let Some(scroll) = &mut settings.scroll {
            scroll.speed *= self.sign * self.scale;
        }
        for lure in &mut settings.lures {
            (lure.at, lure.radius) = (self.point(lure.at), lure.radius * self.scale);
        }
        for zone in &mut settings.zones {
            zone.rect = self.rect(&zone.rect);
            zone.bounds = zone.bounds.map(|bounds| self.rect(&bounds));
            zone.anchor = zone.anchor.map(|anchor| self.fraction(anchor));
            if let Some(zone) = zone.deadzone.as_mut().filter(|_| self.sign.x < 0.0) {
                (zone.left, zone.right) = (zone.right, zone.left);
            }
        }
        self.slow(&mut settings);
        settings
    }

    /// All settings that are measured in seconds.
    fn slow(&self, settings: &mut Settings) {
        if self.time == 1.0 {
            return;
        }
        for (path, setting) in settings.paths() {
            let factor = match setting.unit() {
                "s" => self.time,
                unit if unit.ends_with("/s") => 1.0 / self.time,
                _ => continue,
            };
            let slowed = match settings.get(&path) {
                Some(Value::Number(number)) => Value::Number(number * factor),
                Some(Value::Pair(pair)) => Value::Pair(pair.map(|number| number * factor)),
                _ => continue,
            };
            settings.set(&path, slowed).expect("a time");
        }
        if let HandReturn::Seconds(seconds) = &mut settings.hands.back {
            *seconds *= self.time;
        }
    }

    /// The centre of a view of this world, as it would be in the usual one.
    fn usual(&self, view: &View) -> (DVec2, f64, f64) {
        let view = view.steady();
        let centre = (view.centre() - self.shift) / self.scale * self.sign;
        (centre, view.lens().zoom(), self.rotation(view.lens().rotation()))
    }
}

/// Which games are compared.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Kind {
    All,
    /// No change takes longer than [`SHORT`].
    Quick,
}

/// Half of the time for which a change carries a velocity on, in seconds. That time is the same in every world.
const SHORT: f64 = 0.12;

fn shorten(settings: &mut Settings) {
    settings.party.fade = settings.party.fade.min(SHORT);
    settings.bounds = settings.bounds.map(|bounds| Bounds { fade: SHORT, ..bounds });
    settings.zones.iter_mut().for_each(|zone| zone.fade = zone.fade.min(SHORT));
    if let Some(rooms) = &mut settings.rooms {
        rooms.slide = rooms.slide.map(|slide| slide.min(SHORT));
    }
    settings.hands.back = HandReturn::Seconds(SHORT);
}

const GAMES: u64 = 120;
const FRAMES: u32 = 150;

/// A game's views, as they would be in the usual world.
fn play(seed: u64, world: &World, kind: Kind) -> Vec<(DVec2, f64, f64)> {
    let mut game = Game(Pcg(seed));
    let mut settings = game.camera().settings().clone();
    let mut dice = Pcg(seed ^ 0x5e1f);
    settings.screen.snap = Snap::Off;
    if kind == Kind::Quick {
        shorten(&mut settings);
    }
    settings.screen.fit = Fit::Whole;
    let mut camera = Camera::new(world.settings(&settings)).expect("valid settings");
    // Where an axis is not followed, the view stays where it is.
    camera.place_at(world.point(DVec2::ZERO));
    let mut at = [DVec2::new(300.0, 60.0), DVec2::new(380.0, 20.0), DVec2::new(250.0, 90.0)];
    let mut speed = [DVec2::new(120.0, 0.0); 3];
    let several = dice.one_in(3);
    let mut seen = Vec::new();
    for frame in 0..FRAMES {
        tell(&mut camera, &mut dice, world, kind);
        let step = if frame == 0 { 0.0 } else { dice.fair(0.004, 0.03) };
        let seconds = step * world.time;
        for (at, speed) in at.iter_mut().zip(&mut speed) {
            if dice.one_in(20) {
                *speed = DVec2::new(dice.fair(-300.0, 300.0), dice.fair(-120.0, 120.0));
            }
            *at += *speed * step;
        }
        let subject = |index: usize| {
            let place = Subject::from(world.point(at[index])).with_id(index as u32);
            place.with_margin(10.0 * world.scale).with_rank(-(index as i32))
        };
        let view = match several {
            true => camera.follow_all(seconds, &[0, 1, 2].map(subject)),
            false if dice.one_in(60) => camera.advance(seconds),
            false => camera.follow(seconds, subject(0)),
        };
        seen.push(world.usual(&view));
    }
    seen
}

/// Sometimes a command.
fn tell(camera: &mut Camera, dice: &mut Pcg, world: &World, kind: Kind) {
    if !dice.one_in(12) {
        return;
    }
    let longest: f64 = if kind == Kind::Quick { SHORT } else { 0.6 };
    let seconds = longest.min(dice.pick(&[0.0, 0.2, 0.6])) * world.time;
    let ease = dice.pick(&[Ease::Smooth, Ease::Smooth, Ease::InOut]);
    let point = DVec2::new(dice.fair(-200.0, 900.0), dice.fair(-200.0, 400.0));
    let screen = world.screen(Vec2::new(dice.below(320) as f32, dice.below(180) as f32));
    match dice.below(13) {
        0 => camera.cut(),
        1 => camera.glide(seconds, ease),
        2 => camera.zoom_to(dice.fair(0.5, 3.0)),
        3 => camera.zoom_by(dice.fair(-2.0, 2.0), Some(screen)),
        4 => camera.rotate_to(world.rotation(dice.fair(-1.0, 1.0))),
        5 => camera.grab(screen),
        6 => camera.drag_to(screen),
        7 => camera.release(),
        8 => camera.show(&world.rect(&Rect::around(point, [150.0, 90.0])), seconds, ease),
        9 => camera.aim_at(world.point(point)),
        10 => camera.switch_subject(),
        11 => {
            let bounds = Bounds::new(Rect::around(point, [700.0, 500.0]));
            camera.set_bounds(Some(world.bounds(&bounds)), seconds).expect("valid bounds");
        }
        _ => camera.pan(Vec2::new(6.0 * world.sign.x as f32, 2.0)),
    }
}

/// How far apart two pictures are, in screen pixels.
fn apart(usual: &(DVec2, f64, f64), other: &(DVec2, f64, f64)) -> f64 {
    let (moved, zoomed) = ((usual.0 - other.0).length() * usual.1, usual.1 / other.1);
    moved.max(zoomed.ln().abs() * 320.0).max((usual.2 - other.2).abs() * 320.0)
}

/// Compares games in the usual world with the same games in another one: no picture may differ by more than `most` screen
/// pixels.
fn compare(world: World, most: f64, kind: Kind) {
    for seed in 0..GAMES {
        let pairs = play(seed, &World::SAME, kind).into_iter();
        let pairs = pairs.zip(play(seed, &world, kind)).enumerate();
        for (frame, (usual, other)) in pairs {
            let apart = apart(&usual, &other);
            assert!(apart <= most, "{world:?}, game {seed}, frame {frame}: {apart} pixels");
        }
    }
}

/// Mirroring and powers of two round nothing.
#[test]
fn a_mirrored_or_scaled_world_looks_the_same() {
    compare(World { sign: DVec2::new(-1.0, 1.0), ..World::SAME }, 1e-6, Kind::All);
    compare(World { sign: DVec2::new(1.0, -1.0), ..World::SAME }, 1e-4, Kind::All);
    compare(World { scale: 4.0, ..World::SAME }, 1e-6, Kind::All);
    compare(World { scale: 0.125, ..World::SAME }, 1e-6, Kind::All);
}

/// Another origin rounds positions otherwise. A smoothed value rests within a hundredth of a pixel, which may be one
/// frame sooner or later. At a ratchet's line rounding may decide: of 1,000 games 3 differ, these do not.
#[test]
fn a_shifted_world_looks_the_same() {
    compare(World { shift: DVec2::new(4096.0, -2048.0), ..World::SAME }, 0.02, Kind::All);
}

/// A world that runs at half or twice the pace looks the same at all its moments. Steps are as long in both, and so is the
/// highest velocity that a change carries on, so this holds to 0.6 pixels in nine of ten games at half the pace, and to 2 at twice.
#[test]
fn a_slower_world_looks_the_same() {
    for (time, most) in [(2.0, 0.7), (0.5, 2.0)] {
        let world = World { time, ..World::SAME };
        let mut gaps: Vec<f64> = (0..GAMES)
            .map(|seed| {
                let usual = play(seed, &World::SAME, Kind::Quick);
                let pairs = usual.into_iter().zip(play(seed, &world, Kind::Quick));
                pairs.map(|(usual, other)| apart(&usual, &other)).fold(0.0, f64::max)
            })
            .collect();
        gaps.sort_by(f64::total_cmp);
        let at = |part: usize| gaps[gaps.len() * part / 100];
        println!("{time}: median {:.4}, 90th percentile {:.3}, 95th {:.3}", at(50), at(90), at(95));
        assert!(at(50) < 0.06 && at(90) < most, "{time}: {gaps:?}");
    }
}
