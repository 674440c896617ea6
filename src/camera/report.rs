//! What a camera tells about itself: who decides, how far it is behind, where it is heading, what to draw over it.

use glam::DVec2;

use crate::base::rect::Rect;
use crate::camera::hand::Hand;
use crate::goal::subject::SubjectNow;
use crate::keys::per_axis::PerAxis;
use crate::limits::decision::{Decider, Decision};
use crate::limits::halls::Halls;
use crate::settings::settings::Settings;
use crate::view::overlay::{Overlay, OverlayInput};

use super::Camera;
use super::arrival::Clock;
use super::limits::room_range;
use super::ride::Ride;

impl Camera {
    /// Returns how far the view is behind its own goal, in screen pixels: what smoothing and limits leave. Look-ahead and
    /// the deadzone move the goal, so they are not lag. Shakes do not count. Returns `None` if no subject is followed.
    ///
    /// ```
    /// # use velvet_pan::{Camera, LookAhead, Settings, Smoothing};
    /// let mut settings = Settings::default();
    /// settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    /// let mut camera = Camera::new(settings)?;
    /// assert_eq!(camera.lag(), None);
    /// for frame in 0..120 {
    ///     camera.follow(1.0 / 60.0, [f64::from(frame) * 2.0, 0.0]); // 120 a second
    /// }
    /// let behind = Smoothing::HalfLife(0.1).lag_at(120.0);
    /// assert!((camera.lag().unwrap() - behind).abs() < 0.01);
    /// assert!(camera.ahead().unwrap() < 0.5);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn lag(&self) -> Option<f64> {
        Clock::Track.subject(&self.state.goal.track)?;
        let behind = self.goal() - self.centre(Clock::Track);
        Some(behind.length() * self.framing.lens.scale())
    }

    /// Returns how far the followed subject is from its anchor, in screen pixels: see
    /// [`View::off_anchor`](crate::View::off_anchor). The anchor is that of the current zone. With several subjects, it
    /// is their common point that counts. Returns `None` if no subject is followed.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::DVec2};
    /// let mut settings = Settings::default(); // the screen is 320 x 180
    /// settings.follow.anchor = DVec2::new(0.25, 0.5);
    /// settings.bounds = Some(velvet_pan::Bounds::new(velvet_pan::Rect::new([0, 0], [640, 180])));
    /// let mut camera = Camera::new(settings)?;
    /// camera.follow(0.0, [20, 90]);
    /// assert_eq!(camera.off_anchor(), Some(60.0)); // the bounds keep the view at 0
    /// assert_eq!(camera.lag(), Some(0.0)); // which is where it wants to be
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn off_anchor(&self) -> Option<f64> {
        let follow = &self.framing.follow;
        let subject = Clock::Track.subject(&self.state.goal.track)?;
        Some(self.view().off_anchor(subject.position + follow.offset, follow.anchor))
    }

    /// Returns the rectangle that limits the view in this frame: the bounds of the zone, else those in force, let out
    /// while they come into force. In an outline it is the hall that the view is in. Open sides are at infinity.
    /// Returns `None` without bounds.
    ///
    /// ```
    /// # use velvet_pan::{Bounds, Camera, Rect, Settings};
    /// let world = Rect::new([0, 0], [3840, 960]);
    /// let camera = Camera::new(Settings { bounds: Some(Bounds::new(world)), ..Settings::default() })?;
    /// assert_eq!(camera.bounds_now(), Some(world));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn bounds_now(&self) -> Option<Rect> {
        self.framing.walls.map(|walls| walls.rect)
    }

    /// Returns how much of the screen lies in front of the followed subject: see
    /// [`View::ahead_of`](crate::View::ahead_of). Returns `None` if no subject is followed, or if it stands.
    #[must_use]
    pub fn ahead(&self) -> Option<f64> {
        let SubjectNow { position, velocity } = Clock::Track.subject(&self.state.goal.track)?;
        self.view().ahead_of(position, velocity)
    }

    /// Returns the stage that decides where the view is, per axis of the world, and the speed of the view. It tells
    /// why a view does not follow. In a rotated view a leash counts on both axes.
    ///
    /// ```
    /// use velvet_pan::{Bounds, Camera, Decider, Rect, Settings};
    ///
    /// let bounds = Some(Bounds::new(Rect::new([0, 0], [1000, 180])));
    /// let mut camera = Camera::new(Settings { bounds, ..Settings::default() })?;
    /// camera.follow(0.0, [300, 90]);
    /// camera.follow(0.1, [310, 90]);
    /// let word = camera.decision();
    /// assert_eq!((word.x.by, word.x.velocity), (Decider::Motion, 100.0));
    /// assert_eq!((word.y.by, word.y.velocity), (Decider::Bounds, 0.0));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    #[must_use]
    pub fn decision(&self) -> PerAxis<Decision> {
        PerAxis { x: self.decision_on(0), y: self.decision_on(1) }
    }

    fn decision_on(&self, axis: usize) -> Decision {
        let Ride { on_leash, picture, .. } = &self.state.ride;
        let turned = self.framing.lens.is_rotated();
        let leashed = on_leash[axis] || (turned && *on_leash != [false; 2]);
        let (before, seconds) = picture.before;
        let moved = (self.shown_focus(Clock::Track) - before)[axis];
        let velocity = if seconds > 0.0 { moved / seconds } else { 0.0 };
        let still = |by| Decision { by, velocity: 0.0 };
        let moves = |by| Decision { by, velocity };
        match self.edge_on(axis) {
            _ if picture.hand != Hand::Off => still(Decider::Hand),
            _ if !picture.fades.is_empty() => moves(Decider::Transition),
            _ if !turned && !self.framing.follow.axes.has(axis) => still(Decider::Locked),
            Some(edge) => still(edge),
            None if leashed => moves(Decider::Leash),
            None => moves(self.leader_on(axis)),
        }
    }

    /// What the motion of the focus follows, on an axis.
    fn leader_on(&self, axis: usize) -> Decider {
        let Settings { rail, scroll, .. } = &self.rules.settings;
        match () {
            () if scroll.is_some_and(|scroll| scroll.has(axis)) => Decider::Scroll,
            () if rail.is_some() => Decider::Rail,
            () if self.state.goal.party.is_several() => Decider::Party,
            () => Decider::Motion,
        }
    }

    /// Returns the edge of the allowed range at which the view is, on an axis.
    fn edge_on(&self, axis: usize) -> Option<Decider> {
        let Ride { picture, room, .. } = &self.state.ride;
        let centre = self.centre(Clock::Track)[axis];
        let at = |range: &Rect| centre == range.min[axis] || centre == range.max[axis];
        if self.framing.walls.is_some() && at(&self.framing.range) {
            return Some(Decider::Bounds);
        }
        if at(&self.framing.range_before(picture.barrier.as_ref())) {
            return Some(Decider::Barrier);
        }
        let room = room.filter(|room| room.arrived);
        room.filter(|room| at(&room_range(room, &self.framing.lens))).map(|_| Decider::Room)
    }

    /// Returns where the camera is heading: the goal as a centre of the view, after the bounds, in world units.
    #[must_use]
    pub fn goal(&self) -> DVec2 {
        self.goal_at_rest() - self.framing.offset
    }

    /// Returns lines and points that show what the camera does: deadzone, leash, anchor, goal, bounds. Draw them while
    /// you tune.
    #[must_use]
    pub fn overlay(&self) -> Overlay {
        let follow = &self.framing.follow;
        let zone = &follow.deadzone;
        let ahead = self.framing.lens.to_world_orientation(self.state.ride.goal.look.ahead);
        let subject = self.state.goal.track.last().map(|last| last + follow.offset);
        let mut overlay = Overlay::new(&OverlayInput {
            room: self.room(),
            party: self.state.goal.party.outline(&self.framing.lens),
            rail: self
                .rules
                .settings
                .rail
                .as_ref()
                .map(|_| self.rules.rail.ends(self.state.ride.goal.rail)),
            view: self.view(),
            anchor: follow.anchor,
            deadzone: [zone.left, zone.right, zone.top, zone.bottom],
            leash: follow.leash.map(|leash| leash.0),
            bounds: self
                .framing
                .walls
                .map(|walls| walls.rect)
                .filter(|_| self.framing.outline.is_none()),
            barrier: self.state.ride.picture.barrier,
            goal: self.goal_at_rest(),
            ahead: subject.filter(|_| ahead != DVec2::ZERO).map(|from| [from, from + ahead]),
        });
        let halls = self.framing.outline.and_then(|_| self.rules.halls(&self.state.limits));
        for edge in halls.into_iter().flat_map(Halls::edges) {
            overlay.add_edge(*edge);
        }
        for zone in self.rules.zones().holding(self.state.goal.zones_at) {
            overlay.add_zone(&zone.rect);
        }
        let goal = self.state.ride.goal.point;
        for lure in self.rules.settings.lures.iter().filter(|lure| lure.reaches(goal)) {
            overlay.add_lure(goal, lure.at);
        }
        overlay
    }

    /// Returns the room that the view is in, or on its way to. Returns `None` without rooms, and while the view is aimed
    /// at a point with [`aim_at`](Self::aim_at).
    #[must_use]
    pub fn room(&self) -> Option<Rect> {
        self.state.ride.room.map(|room| room.rect())
    }
}
