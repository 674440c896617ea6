//! Every stage compared with plain arithmetic in steps of a fifty-thousandth of a second, without closed forms.
//! A stage that did nothing would fail.

use velvet_pan::glam::{DVec2, DVec4};
use velvet_pan::{
    Airborne, Axes, Camera, LookAhead, Lure, Ratchet, Rect, Settings, Smoothing, Zone,
};

use super::path::{Path, TICK, hop};
use super::stages::{STAGES, Stage, subjects};

const DT: f64 = 2e-5;
const SECONDS: f64 = 6.0;
const SIZE: DVec2 = DVec2::new(320.0, 180.0);
const LN_2: f64 = std::f64::consts::LN_2;

/// A textbook camera.
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
    inside: Vec<bool>,
    third: bool,
    party_zoom: f64,
    commands: u32,
    /// The centre that a pause holds.
    paused: Option<DVec2>,
    /// Changes of the picture: centre and logarithm of the zoom. Changes of the bounds: how far each edge is widened.
    fades: Vec<Fade>,
    edges: Vec<Fade>,
    /// The picture of the last step.
    last: DVec4,
}

/// The rest of a change, integrated from its acceleration: for the gap, the quintic with zero slope and curvature at
/// both ends; for the velocity, the quartic that starts with it.
struct Fade {
    gap: DVec4,
    pace: DVec4,
    /// The velocity before the change, until that after it is known.
    before: Option<DVec4>,
    at: DVec4,
    velocity: DVec4,
    seconds: f64,
    t: f64,
}

impl Fade {
    fn new(gap: DVec4, before: DVec4, seconds: f64) -> Self {
        let (pace, velocity) = (DVec4::ZERO, DVec4::ZERO);
        Self { gap, pace, before: Some(before), at: gap, velocity, seconds, t: 0.0 }
    }

    /// Sets the velocity of the source after the change.
    fn learn(&mut self, after: DVec4) {
        if let Some(before) = self.before.take() {
            (self.pace, self.velocity) = (before - after, before - after);
        }
    }

    fn step(&mut self) {
        if self.before.is_some() {
            return;
        }
        let taken_up = self.seconds.min(0.25);
        let (tau, sigma) = (self.t / self.seconds, (self.t / taken_up).min(1.0));
        let gap = -60.0 * tau * (1.0 - tau) * (1.0 - 2.0 * tau) / self.seconds.powi(2);
        let pace = -6.0 * (1.0 - sigma) * (1.0 - 2.0 * sigma) / taken_up;
        self.velocity += (self.gap * gap + self.pace * pace) * DT;
        self.at += self.velocity * DT;
        self.t += DT;
    }
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
            inside: settings.zones.iter().map(|_| false).collect(),
            third: false,
            party_zoom: 0.0,
            commands: 0,
            paused: None,
            fades: Vec::new(),
            edges: Vec::new(),
            last: DVec4::ZERO,
        };
        let subject = plain.subject(0.0).0;
        for (inside, zone) in plain.inside.iter_mut().zip(&settings.zones) {
            *inside = zone.rect.contains(subject);
        }
        plain.goal = if plain.is_party() {
            plain.party(f64::INFINITY)
        } else {
            subject + settings.follow.offset
        };
        plain.scroll = plain.goal.x;
        plain.room = settings.rooms.as_ref().and_then(|rooms| rooms.at(subject, &settings.screen));
        plain.arc = plain.nearest_arc(plain.goal);
        plain.focus = plain.shaped();
        plain.last = plain.numbers();
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

    /// The settings of the last zone that contains the subject.
    fn zoned<T>(&self, of: impl Fn(&Zone) -> Option<T>) -> Option<T> {
        let zones = self.settings.zones.iter().zip(&self.inside);
        zones.filter(|(_, inside)| **inside).filter_map(|(zone, _)| of(zone)).last()
    }

    fn anchor(&self) -> DVec2 {
        self.zoned(|zone| zone.anchor).unwrap_or(self.settings.follow.anchor)
    }

    fn faded(fades: &[Fade]) -> DVec4 {
        fades.iter().map(|fade| fade.at).sum()
    }

    fn shown_zoom(&self) -> f64 {
        let hand = if self.is_party() { self.party_zoom.exp() } else { self.zoom[0].exp() };
        let source = self.zoned(|zone| zone.zoom).unwrap_or(hand);
        source * Self::faded(&self.fades).z.exp() * self.nudge()
    }

    /// The nudge of a cue, called at tick 23.
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

    /// The offset from the centre to the anchor, rotated with the camera.
    fn offset(&self) -> DVec2 {
        DVec2::from_angle(self.rotation[0]).rotate((self.anchor() - 0.5) * self.view())
    }

    /// The position of following.
    fn source(&self) -> DVec2 {
        self.focus - self.offset()
    }

    /// The shown position.
    fn centre(&self) -> DVec2 {
        let fade = Self::faded(&self.fades);
        let source = self.paused.unwrap_or_else(|| self.source());
        self.bounded(source + DVec2::new(fade.x, fade.y), false)
    }

    fn numbers(&self) -> DVec4 {
        let centre = self.centre();
        DVec4::new(centre.x, centre.y, self.shown_zoom().ln(), 0.0)
    }

    fn step(&mut self) {
        self.t += DT;
        let before = self.numbers();
        for fade in self.fades.iter_mut().chain(&mut self.edges) {
            fade.step();
        }
        self.fades.retain(|fade| fade.t < fade.seconds);
        self.edges.retain(|fade| fade.t < fade.seconds);
        self.hear_events();
        self.move_lens();
        let (subject, velocity, stands) = self.subject(self.t);
        self.move_room(subject);
        self.look(velocity);
        self.move_goal(subject, stands);
        self.move_shapes();
        self.move_focus();
        self.hold(subject, velocity);
        let now = self.numbers();
        for fade in &mut self.fades {
            fade.learn((now - before) / DT);
        }
        self.last = before;
        self.pass_changes(subject, stands);
    }

    /// Zones, the third of a party, pauses.
    fn pass_changes(&mut self, subject: DVec2, stands: bool) {
        let zones = &self.settings.zones;
        for (index, zone) in zones.iter().enumerate() {
            let now = zone.rect.contains(subject);
            if self.inside[index] != now {
                self.change(zone.fade, (subject, stands), |plain| plain.inside[index] = now);
            }
        }
        let tick = (self.t / TICK + 1e-9).floor();
        let third = self.is_party() && (18.0..42.0).contains(&tick);
        if self.third != third {
            let fade = self.settings.party.fade;
            self.change(fade, (subject, stands), |plain| plain.third = third);
        }
        match (self.pauses(), self.paused) {
            (true, None) => self.paused = Some(self.centre()),
            (false, Some(_)) => self.change(0.4, (subject, stands), |plain| plain.paused = None),
            _ => {}
        }
    }

    fn change(
        &mut self,
        seconds: f64,
        (subject, stands): (DVec2, bool),
        alter: impl FnOnce(&mut Self),
    ) {
        let (before, goal) = (self.numbers(), self.shaped());
        let pace = (before - self.last) / DT;
        let seen = Rect::around([before.x, before.y], self.view() / 2.0);
        alter(self);
        if let Some(rect) = self.bounds() {
            let (low, high) =
                ((rect.min - seen.min).max(DVec2::ZERO), (seen.max - rect.max).max(DVec2::ZERO));
            let gap = DVec4::new(low.x, low.y, high.x, high.y);
            let mut edge = Fade::new(gap, DVec4::ZERO, seconds);
            let outward = DVec4::new(-pace.x, -pace.y, pace.x, pace.y).max(DVec4::ZERO);
            edge.learn(
                -outward
                    * DVec4::from_array(gap.to_array().map(|out| f64::from(u8::from(out > 0.0)))),
            );
            self.edges.push(edge);
        }
        let mut fade = Fade::new(DVec4::ZERO, pace, seconds);
        fade.at.z = before.z - self.shown_zoom().ln();
        self.fades.push(fade);
        self.move_goal(subject, stands);
        self.focus += self.shaped() - goal;
        let centre = self.centre();
        if let Some(fade) = self.fades.last_mut() {
            (fade.at.x, fade.at.y) = (before.x - centre.x, before.y - centre.y);
            fade.gap = fade.at;
        }
    }

    fn hear_events(&mut self) {
        let tick = (self.t / TICK + 1e-9).floor() as u32;
        if tick == self.commands {
            return;
        }
        self.commands = tick;
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
    }

    fn look(&mut self, velocity: DVec2) {
        let Some(LookAhead { seconds, reach, half_life, turn_after }) =
            self.settings.follow.look_ahead
        else {
            return;
        };
        let way = velocity.x * DT;
        if self.believed == 0.0 {
            self.against += way;
            if self.against.abs() >= turn_after * SIZE.x {
                (self.believed, self.against) = (self.against.signum(), 0.0);
            }
        } else {
            self.against = (self.against - self.believed * way).max(0.0);
            if self.against >= turn_after * SIZE.x {
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
        let zone = self.zoned(|zone| zone.deadzone).unwrap_or(follow.deadzone);
        let sides = [zone.left, zone.right, zone.top, zone.bottom];
        let (view, [left, right, top, bottom]) = (self.view(), sides);
        self.goal.x = self.goal.x.max(want.x - right * view.x).min(want.x + left * view.x);
        if follow.axes == Axes::X || self.is_held(subject, stands) {
            return;
        }
        self.goal.y = self.goal.y.max(want.y - bottom * view.y).min(want.y + top * view.y);
    }

    /// Whether the height is held: `Some(true)` while it is, `Some(false)` after it was released in the air.
    fn is_held(&mut self, subject: DVec2, stands: bool) -> bool {
        let follow = &self.settings.follow;
        if follow.airborne != Airborne::Hold || stands {
            self.held = None;
            return false;
        }
        let leash = follow.leash.map_or(1.0, |leash| leash.0.y);
        let away = (subject.y - self.focus.y) / self.view().y;
        let anchor = self.anchor().y;
        let inside = -leash.min(anchor) <= away && away <= leash.min(1.0 - anchor);
        let held = self.held.unwrap_or(true) && inside;
        self.held = Some(held);
        held
    }

    /// The middle of the party, moved so that all members fit, and its zoom.
    fn party(&mut self, dt: f64) -> DVec2 {
        // All three, whether the third is named or not.
        let all = subjects(self.path, self.stages, self.t, Some(18));
        let all = &all[..if self.third { 3 } else { 2 }];
        let mean = all.iter().map(|one| one.position).sum::<DVec2>() / all.len() as f64;
        let (mut low, mut high) = (mean, mean);
        for one in all {
            low = low.min(one.position - one.margin);
            high = high.max(one.position + one.margin);
        }
        let party = &self.settings.party;
        let wanted = (SIZE / (high - low))
            .min_element()
            .min(self.settings.zoom.level)
            .max(party.widest)
            .ln();
        let half_life = if wanted < self.party_zoom { party.widen } else { party.narrow };
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

    /// Moves downhill on the rail, in steps so small that no crest is missed.
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
        let Some(rooms) = &self.settings.rooms else { return };
        let over = SIZE * rooms.overstep;
        let kept = |room: Rect| Rect { min: room.min - over, max: room.max + over };
        if !self.room.is_some_and(|room| kept(room).contains(subject)) {
            self.room = rooms.at(subject, &self.settings.screen);
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

    fn bounds(&self) -> Option<Rect> {
        self.zoned(|zone| zone.bounds).or(self.settings.bounds.and_then(|bounds| bounds.rect))
    }

    /// A centre within the bounds; for the goal, with the cushion.
    fn bounded(&self, mut centre: DVec2, cushioned: bool) -> DVec2 {
        let half = self.view() / 2.0;
        if let Some(rect) = self.bounds() {
            let out = Self::faded(&self.edges);
            let low = rect.min + half - DVec2::new(out.x, out.y);
            let high = rect.max - half + DVec2::new(out.z, out.w);
            let depth = self.settings.bounds.map_or(0.0, |bounds| bounds.cushion_depth);
            for axis in 0..2 {
                let cushion = depth * SIZE[axis];
                let (low, high) = (low[axis], high[axis]);
                let width = if cushioned { cushion.min((high - low) / 2.0) } else { 0.0 };
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
        let centre = self.source();
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
    // A room's slide is a transition like those of zones.
    for stage in STAGES.iter().filter(|stage| !stage.name.ends_with("that slide")) {
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

/// The distance between a ride with a stage and tiny steps, and the ride without the stage.
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
