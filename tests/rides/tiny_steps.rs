//! Every stage against plain arithmetic in steps of a fifty-thousandth of a second, which knows nothing
//! of closed forms, courses or legs: a stage that did nothing would fail.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Airborne, Axes, Camera, LookAhead, Lure, Ratchet, Rect, Rooms, Settings, Smoothing,
};

use crate::path::{Path, TICK, hop};
use crate::stages::{STAGES, Stage, subjects};

const DT: f64 = 2e-5;
const SECONDS: f64 = 6.0;
const SIZE: DVec2 = DVec2::new(320.0, 180.0);
const LN_2: f64 = std::f64::consts::LN_2;

/// A camera by the textbook.
struct Plain<'a> {
    settings: &'a Settings,
    stages: &'a [Stage],
    path: &'a Path,
    t: f64,
    /// The focus, its velocity, and the goal before it is shaped.
    focus: DVec2,
    velocity: DVec2,
    goal: DVec2,
    ahead: f64,
    believed: f64,
    against: f64,
    held: Option<bool>,
    arc: f64,
    scroll: f64,
    room: Option<Rect>,
    barrier: f64,
    /// Logarithm of the zoom set by hand, its target; rotation, its target.
    zoom: [f64; 2],
    rotation: [f64; 2],
    weights: Vec<f64>,
    anchor: DVec2,
    third: f64,
    party_zoom: f64,
    told: u32,
}

fn ease(t: f64) -> f64 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

impl<'a> Plain<'a> {
    fn new(settings: &'a Settings, stages: &'a [Stage], path: &'a Path) -> Self {
        let mut plain = Self {
            settings,
            stages,
            path,
            t: 0.0,
            focus: DVec2::ZERO,
            velocity: DVec2::ZERO,
            goal: DVec2::ZERO,
            ahead: 0.0,
            believed: 0.0,
            against: 0.0,
            held: None,
            arc: 0.0,
            scroll: 0.0,
            room: None,
            barrier: f64::NEG_INFINITY,
            zoom: [0.0; 2],
            rotation: [0.0; 2],
            weights: settings.zones.iter().map(|_| 0.0).collect(),
            anchor: settings.follow.anchor,
            third: 0.0,
            party_zoom: 0.0,
            told: 0,
        };
        let subject = plain.subject(0.0).0;
        for (weight, zone) in plain.weights.iter_mut().zip(&settings.zones) {
            *weight = f64::from(u8::from(zone.rect.contains(subject)));
        }
        plain.anchor = plain.zoned_anchor();
        plain.goal = if plain.is_party() {
            plain.party(f64::INFINITY)
        } else {
            subject + settings.follow.offset
        };
        if settings.follow.axes == Axes::X {
            plain.goal.y = 0.0;
        }
        plain.scroll = plain.goal.x;
        plain.room = settings.rooms.as_ref().and_then(|rooms| rooms.at(subject));
        plain.arc = plain.nearest_arc(plain.goal);
        plain.focus = plain.shaped();
        plain
    }

    fn is_party(&self) -> bool {
        self.stages.iter().any(|stage| stage.party)
    }

    /// Position, velocity, and whether it stands.
    fn subject(&self, t: f64) -> (DVec2, DVec2, bool) {
        let hops = self.stages.iter().any(|stage| stage.hops);
        let at = |t: f64| {
            let height = if hops { hop(t).0 } else { 0.0 };
            self.path.at(t) - DVec2::new(0.0, height)
        };
        let velocity = (at(t) - at(t - 1e-6)) / 1e-6;
        (at(t), velocity, !hops || hop(t).1)
    }

    fn zoned_anchor(&self) -> DVec2 {
        let zones = self.settings.zones.iter().zip(&self.weights);
        zones.fold(self.settings.follow.anchor, |anchor, (zone, weight)| {
            zone.anchor.map_or(anchor, |other| anchor.lerp(other, ease(*weight)))
        })
    }

    fn shown_zoom(&self) -> f64 {
        let hand = if self.is_party() { self.party_zoom.exp() } else { self.zoom[0].exp() };
        let zones = self.settings.zones.iter().zip(&self.weights);
        let zoned = zones.fold(hand, |zoom, (zone, weight)| {
            zone.zoom.map_or(zoom, |other| zoom * (other / zoom).powf(ease(*weight)))
        });
        zoned * self.nudge()
    }

    /// By its cue: told at tick 23.
    fn nudge(&self) -> f64 {
        let Some(cue) = self.settings.cues.get("drum") else { return 1.0 };
        let (zoom, age) = (cue.zoom.expect("a nudge"), self.t - 23.0 * TICK);
        let part = if age < zoom.rise {
            age / zoom.rise
        } else {
            1.0 - (age - zoom.rise - zoom.hold).max(0.0) / zoom.fade
        };
        zoom.by.powf(ease(part))
    }

    fn pauses(&self) -> bool {
        let cue = self.settings.cues.get("gong").and_then(|cue| cue.pause);
        let since = self.t - 20.0 * TICK;
        cue.is_some_and(|pause| since > 0.0 && since <= pause)
    }

    fn view(&self) -> DVec2 {
        SIZE / self.shown_zoom()
    }

    /// From the centre to the anchor, turned with the camera.
    fn offset(&self) -> DVec2 {
        DVec2::from_angle(self.rotation[0]).rotate((self.anchor - 0.5) * self.view())
    }

    fn centre(&self) -> DVec2 {
        self.focus - self.offset()
    }

    fn step(&mut self) {
        self.t += DT;
        self.hear_events();
        self.move_lens();
        let (subject, velocity, stands) = self.subject(self.t);
        self.move_room(subject);
        if self.pauses() {
            return;
        }
        self.look(velocity);
        self.move_goal(subject, stands);
        self.move_shapes();
        self.move_focus();
        self.hold(subject, velocity);
    }

    fn hear_events(&mut self) {
        let tick = (self.t / TICK + 1e-9).floor() as u32;
        if tick == self.told {
            return;
        }
        self.told = tick;
        let names: Vec<&str> = self.stages.iter().map(|stage| stage.name).collect();
        match (names.contains(&"zoom"), names.contains(&"rotation"), tick) {
            (true, _, 12) => self.zoom[1] = 2.0_f64.ln(),
            (true, _, 30) => self.zoom[1] = 0.7_f64.ln(),
            (_, true, 15) => self.rotation[1] = 0.4,
            (_, true, 36) => self.rotation[1] = -0.2,
            _ => {}
        }
    }

    fn move_lens(&mut self) {
        self.zoom[0] += (self.zoom[1] - self.zoom[0]) * LN_2 / 0.15 * DT;
        self.rotation[0] += (self.rotation[1] - self.rotation[0]) * LN_2 / 0.15 * DT;
        let subject = self.subject(self.t).0;
        for (weight, zone) in self.weights.iter_mut().zip(&self.settings.zones) {
            let change = if zone.rect.contains(subject) { DT } else { -DT };
            *weight = (*weight + change / zone.blend).clamp(0.0, 1.0);
        }
        // Another anchor does not move the picture.
        let anchor = self.zoned_anchor();
        self.focus += (anchor - self.anchor) * self.view();
        self.anchor = anchor;
    }

    fn look(&mut self, velocity: DVec2) {
        let Some(LookAhead { seconds, reach, half_life, turn }) = self.settings.follow.look_ahead
        else {
            return;
        };
        let way = velocity.x * DT;
        if self.believed == 0.0 {
            self.against += way;
            if self.against.abs() >= turn {
                (self.believed, self.against) = (self.against.signum(), 0.0);
            }
        } else {
            self.against = (self.against - self.believed * way).max(0.0);
            if self.against >= turn {
                (self.believed, self.against) = (-self.believed, 0.0);
            }
        }
        let target = self.believed * (self.believed * velocity.x).max(0.0) * seconds.x;
        self.ahead += (target - self.ahead) * LN_2 / half_life * DT;
        let reach = reach.x * self.view().x;
        self.ahead = self.ahead.clamp(-reach, reach);
    }

    fn move_goal(&mut self, subject: DVec2, stands: bool) {
        let follow = &self.settings.follow;
        if self.is_party() {
            self.goal = self.party(DT);
            return;
        }
        let want = subject + follow.offset + DVec2::new(self.ahead, 0.0);
        let zone = self.settings.zones.iter().zip(&self.weights);
        let mut sides = [
            follow.deadzone.left,
            follow.deadzone.right,
            follow.deadzone.top,
            follow.deadzone.bottom,
        ];
        for (zone, weight) in
            zone.filter_map(|(zone, weight)| Some((zone.deadzone?, ease(*weight))))
        {
            let other = [zone.left, zone.right, zone.top, zone.bottom];
            sides = [0, 1, 2, 3].map(|side| sides[side] + (other[side] - sides[side]) * weight);
        }
        let (view, [left, right, top, bottom]) = (self.view(), sides);
        self.goal.x = self.goal.x.max(want.x - right * view.x).min(want.x + left * view.x);
        if follow.axes == Axes::X || self.is_held(subject, stands) {
            return;
        }
        self.goal.y = self.goal.y.max(want.y - bottom * view.y).min(want.y + top * view.y);
    }

    /// Whether the height is held: `Some(true)` while it is, `Some(false)` once it is let go of in the air.
    fn is_held(&mut self, subject: DVec2, stands: bool) -> bool {
        let follow = &self.settings.follow;
        if follow.airborne != Airborne::Hold || stands {
            if self.held.take() == Some(true) {
                self.goal.y = subject.y + follow.offset.y;
            }
            return false;
        }
        let leash = follow.leash.map_or(1.0, |leash| leash.0.y);
        let away = (subject.y - self.focus.y) / self.view().y;
        let inside = -leash.min(self.anchor.y) <= away && away <= leash.min(1.0 - self.anchor.y);
        let held = self.held.unwrap_or(true) && inside;
        self.held = Some(held);
        held
    }

    /// The middle of the party, moved so that all fit, and its zoom.
    fn party(&mut self, dt: f64) -> DVec2 {
        let tick = (self.t / TICK + 1e-9).floor();
        let there = (18.0..42.0).contains(&tick) && tick * TICK < self.t;
        let change = if there { DT } else { -DT };
        self.third = (self.third + change / self.settings.party.fade).clamp(0.0, 1.0);
        // All three, whether the third is named or not.
        let all = subjects(self.path, self.stages, self.t, Some(18));
        let share = |index: usize| if index == 2 { ease(self.third) } else { 1.0 };
        let weight: f64 = (0..3).map(share).sum();
        let mean = (0..3).map(|index| all[index].position * share(index)).sum::<DVec2>() / weight;
        let (mut low, mut high) = (mean, mean);
        for (index, one) in all.iter().enumerate() {
            let (at, margin) =
                (mean + (one.position - mean) * share(index), one.margin * share(index));
            (low, high) = (low.min(at - margin), high.max(at + margin));
        }
        let party = &self.settings.party;
        let wanted =
            (SIZE / (high - low)).min_element().min(party.zoom.max).max(party.zoom.min).ln();
        let half_life = if wanted < self.party_zoom { party.zoom_out } else { party.zoom_in };
        self.party_zoom += if dt.is_finite() {
            (wanted - self.party_zoom) * LN_2 / half_life * dt
        } else {
            wanted - self.party_zoom
        };
        let half = SIZE / self.party_zoom.exp() / 2.0;
        let fit = |axis: usize| {
            let (from, to) = (high[axis] - half[axis], low[axis] + half[axis]);
            if from <= to { mean[axis].clamp(from, to) } else { (low[axis] + high[axis]) / 2.0 }
        };
        DVec2::new(fit(0), fit(1))
    }

    fn move_shapes(&mut self) {
        if let Some(rail) = &self.settings.rail {
            match rail.speed {
                Some(speed) => self.arc += speed * DT,
                None => {
                    self.arc = self.downhill();
                }
            }
        }
        self.scroll += self.settings.scroll.map_or(0.0, |scroll| scroll.speed.x) * DT;
    }

    /// Downhill on the rail from where it was, in strides so small that no crest is missed.
    fn downhill(&self) -> f64 {
        const STRIDE: f64 = 0.002;
        let away = |arc: f64| self.on_rail(arc).distance_squared(self.goal);
        let mut arc = self.arc;
        let nearer = |arc: f64, other: f64| away(other) < away(arc);
        while nearer(arc, arc + STRIDE) {
            arc += STRIDE;
        }
        while nearer(arc, arc - STRIDE) {
            arc -= STRIDE;
        }
        arc
    }

    fn on_rail(&self, arc: f64) -> DVec2 {
        let points = &self.settings.rail.as_ref().expect("a rail").points;
        let mut left = arc.max(0.0);
        for pair in points.windows(2) {
            let length = pair[0].distance(pair[1]);
            if left <= length {
                return pair[0].lerp(pair[1], left / length);
            }
            left -= length;
        }
        points[points.len() - 1]
    }

    fn nearest_arc(&self, goal: DVec2) -> f64 {
        match &self.settings.rail {
            Some(rail) if rail.speed.is_none() => {
                let arcs = (0..200_000).map(|arc| f64::from(arc) * 0.01);
                let away = |arc: &f64| self.on_rail(*arc).distance(goal);
                arcs.min_by(|a, b| away(a).total_cmp(&away(b))).unwrap_or_default()
            }
            _ => 0.0,
        }
    }

    fn move_room(&mut self, subject: DVec2) {
        let Some((rooms, room)) = self.settings.rooms.as_ref().zip(self.room) else { return };
        let kept = Rect { min: room.min - rooms.margin, max: room.max + rooms.margin };
        if !kept.contains(subject) {
            self.room = Rooms::at(rooms, subject);
        }
    }

    /// The goal after rail, scroll, lures, room and bounds.
    fn shaped(&self) -> DVec2 {
        let mut goal = self.goal;
        if self.settings.rail.is_some() {
            goal = self.on_rail(self.arc);
        }
        if self.settings.scroll.is_some() {
            goal.x = self.scroll;
        }
        let pull = |Lure { at, radius, strength }: &Lure| {
            let near = 1.0 - (at.distance(goal) / radius).min(1.0);
            (*at - goal) * *strength * ease(near)
        };
        goal += self.settings.lures.iter().map(pull).sum::<DVec2>();
        let half = self.view() / 2.0;
        if let Some(room) = self.room {
            let fit = |axis: usize| {
                let (from, to) = (room.min[axis] + half[axis], room.max[axis] - half[axis]);
                if from <= to {
                    (goal - self.offset())[axis].clamp(from, to)
                } else {
                    room.centre()[axis]
                }
            };
            goal = DVec2::new(fit(0), fit(1)) + self.offset();
        }
        self.bounded(goal - self.offset(), true) + self.offset()
    }

    /// A centre within the bounds, with their cushion if it is the goal's.
    fn bounded(&self, mut centre: DVec2, cushioned: bool) -> DVec2 {
        let half = self.view() / 2.0;
        if let Some(bounds) = &self.settings.bounds {
            for axis in 0..2 {
                let (low, high) =
                    (bounds.rect.min[axis] + half[axis], bounds.rect.max[axis] - half[axis]);
                let width = if cushioned { bounds.cushion.min((high - low) / 2.0) } else { 0.0 };
                let slowed = |past: f64| {
                    if width > 0.0 {
                        past.min(2.0 * width) - past.min(2.0 * width).powi(2) / (4.0 * width)
                    } else {
                        0.0
                    }
                };
                let value = centre[axis];
                centre[axis] = if value > high - width {
                    high - width + slowed(value - high + width)
                } else if value < low + width {
                    low + width - slowed(low + width - value)
                } else {
                    value
                };
            }
        }
        for (zone, weight) in self.settings.zones.iter().zip(&self.weights) {
            let Some(rect) = zone.bounds.filter(|_| *weight > 0.0) else { continue };
            let away = self.view() * (1.0 / ease(*weight) - 1.0);
            centre = centre.max(rect.min + half - away).min(rect.max - half + away);
        }
        if self.settings.follow.ratchet == Ratchet::Right {
            centre.x = centre.x.max(self.barrier + half.x);
        }
        centre
    }

    fn move_focus(&mut self) {
        let goal = self.shaped();
        match self.settings.follow.smoothing.x {
            Smoothing::HalfLife(half_life) => {
                self.focus += (goal - self.focus) * LN_2 / half_life * DT;
            }
            Smoothing::Settle(settle) => {
                // (1 + x)e^(−x) = 1/100 at the settling time.
                let omega = 6.638_352_067_993_813 / settle;
                let pull = (goal - self.focus) * omega * omega - self.velocity * 2.0 * omega;
                self.velocity += pull * DT;
                self.focus += self.velocity * DT;
            }
            _ => self.focus = goal,
        }
    }

    fn hold(&mut self, subject: DVec2, velocity: DVec2) {
        if let Some(leash) = &self.settings.follow.leash {
            for axis in 0..2 {
                let reach = leash.0[axis].min(0.5) * self.view()[axis];
                let held = self.focus[axis].clamp(subject[axis] - reach, subject[axis] + reach);
                if held != self.focus[axis] {
                    (self.focus[axis], self.velocity[axis]) = (held, velocity[axis]);
                }
            }
        }
        let centre = self.centre();
        let held = self.bounded(centre, false);
        for axis in 0..2 {
            if held[axis] != centre[axis] {
                self.velocity[axis] = 0.0;
            }
        }
        self.focus += held - centre;
        if self.settings.follow.ratchet == Ratchet::Right {
            self.barrier = self.barrier.max(self.centre().x - self.view().x / 2.0);
        }
    }
}

/// The centres of a ride of the library at 120 frames a second, one every tick.
fn ride(settings: &Settings, stages: &[Stage], path: &Path) -> Vec<(DVec2, f64)> {
    let mut camera = Camera::new(settings.clone()).expect("valid settings");
    let mut centres = Vec::new();
    for frame in 0..=(SECONDS * 120.0) as u32 {
        let t = f64::from(frame) / 120.0;
        let tick = frame.is_multiple_of(20).then_some(frame / 20);
        if let Some(tick) = tick {
            stages.iter().for_each(|stage| (stage.event)(&mut camera, tick));
        }
        let step = if frame == 0 { 0.0 } else { 1.0 / 120.0 };
        let subjects = subjects(path, stages, t, tick);
        let view = match subjects.as_slice() {
            [only] => camera.follow(step, *only),
            several => camera.follow_all(step, several),
        };
        if tick.is_some() {
            centres.push((view.centre(), view.scale()));
        }
    }
    centres
}

#[test]
fn every_stage_is_the_limit_of_tiny_steps() {
    println!(
        "greatest distance from tiny steps, and from a ride without the stage, in screen pixels"
    );
    // What slides is a glide, which is shown for itself elsewhere.
    for stage in STAGES.iter().filter(|stage| stage.name != "rooms that slide") {
        let felt =
            [(Smoothing::HalfLife(0.12), 3), (Smoothing::Settle(0.5), 4)].map(|(kind, seed)| {
                let (gap, felt) = compare(stage, kind, &Path::random(seed));
                println!("{:<26} {:<16} {gap:9.4} {felt:9.2}", stage.name, format!("{kind:?}"));
                assert!(gap < 0.5, "{} with {kind:?}: {gap}", stage.name);
                felt
            });
        let shows = ["nothing else", "party"].contains(&stage.name) || felt[0].max(felt[1]) > 1.0;
        assert!(shows, "{} makes no difference", stage.name);
    }
}

/// How far the ride with a stage is from tiny steps, and from the ride without it.
fn compare(stage: &Stage, kind: Smoothing, path: &Path) -> (f64, f64) {
    let stages = [*stage];
    let mut settings = Settings::default();
    settings.follow.smoothing = kind.into();
    let bare = ride(&settings, &[Stage { event: |_, _| {}, ..*stage }], path);
    (stage.set)(&mut settings);
    let ours = ride(&settings, &stages, path);
    let mut plain = Plain::new(&settings, &stages, path);
    let mut gap: f64 = 0.0;
    for (centre, scale) in &ours {
        gap = gap.max((*centre - plain.centre()).length() * scale);
        for _step in 0..(TICK / DT).round() as u32 {
            plain.step();
        }
    }
    let apart =
        |(a, b): (&(DVec2, f64), &(DVec2, f64))| a.0.distance(b.0) + (a.1 - b.1).abs() * 100.0;
    (gap, ours.iter().zip(&bare).map(apart).fold(0.0, f64::max))
}
