//! Moving the view by hand: dragging, keys, the screen's edge.

use glam::{DVec2, Vec2};

use crate::lens::lens::Lens;
use crate::motion::glide::Glide;
use crate::motion::motion::Moving;
use crate::units::convert::IntoSeconds;
use crate::units::ease::Ease;
use crate::units::maths::usable_seconds;
use crate::units::rect::Rect;
use crate::view::view::View;

use super::Camera;
use super::state::GoalMemory;

/// A world point that stays under a screen point.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct Grip {
    pub world: DVec2,
    pub screen: Vec2,
}

impl Grip {
    /// What this screen point shows.
    pub fn at(view: &View, screen: Vec2) -> Self {
        Self { world: view.screen_to_world(screen), screen }
    }

    /// The view's centre that has the world point there.
    #[inline]
    pub fn centre(&self, lens: &Lens) -> DVec2 {
        let from_middle = self.screen.as_dvec2() - lens.size().as_dvec2() / 2.0;
        self.world - lens.to_world_axes(from_middle)
    }
}

/// Which hand is on the view.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) enum Hand {
    /// None: the view follows.
    #[default]
    Off,
    /// It was moved, until the next frame.
    Nudge,
    /// A grabbed point, until it is let go.
    Grab(Grip),
    /// A zoom about a point, until it is reached.
    Pin(Grip),
    /// A position that is shown, until it is let go.
    Show(DVec2),
}

impl Hand {
    pub fn is_finite(&self) -> bool {
        match self {
            Self::Grab(grip) | Self::Pin(grip) => grip.world.is_finite() && grip.screen.is_finite(),
            Self::Show(centre) => centre.is_finite(),
            Self::Off | Self::Nudge => true,
        }
    }
}

impl Camera {
    /// Takes hold of what this screen point shows; [`drag_to`](Self::drag_to) then carries it.
    ///
    /// While the view is in the hand, following waits; let go, it takes over from where the view is.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let held = camera.view().screen_to_world(Vec2::new(100.0, 50.0));
    /// camera.grab(Vec2::new(100.0, 50.0));
    /// camera.drag_to(Vec2::new(140.0, 80.0));
    /// let view = camera.advance(1.0 / 60.0);
    /// assert_eq!(view.world_to_screen(held), Vec2::new(140.0, 80.0));
    /// camera.release();
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn grab(&mut self, screen: Vec2) {
        if screen.is_finite() {
            self.take_in_hand(Hand::Grab(Grip::at(&self.view(), screen)));
        }
    }

    /// Moves the view so that what was grabbed is under this screen point; without a grab, nothing.
    pub fn drag_to(&mut self, screen: Vec2) {
        if let Hand::Grab(grip) = &mut self.state.motion.hand
            && screen.is_finite()
        {
            grip.screen = screen;
            self.obey_hand();
            self.stay_in_range();
        }
    }

    /// Lets go of what is grabbed, pinned or shown.
    pub fn release(&mut self) {
        if self.state.motion.hand != Hand::Off {
            self.state.motion.focus.position = self.focus();
            self.state.motion.glide = None;
            self.state.motion.hand = Hand::Off;
            self.forget_goal(self.state.motion.focus.position);
        }
    }

    /// Moves the view by so many screen pixels along the screen's axes, for this frame: for keys,
    /// direction times speed times seconds, which is the same speed on the screen at every zoom;
    /// for a pointer at the screen's edge, see [`edge_push`](crate::edge_push).
    pub fn pan(&mut self, pixels: Vec2) {
        if pixels.is_finite() && pixels != Vec2::ZERO {
            if !matches!(self.state.motion.hand, Hand::Nudge | Hand::Grab(_)) {
                self.take_in_hand(Hand::Nudge);
            }
            self.state.motion.focus.position += self.framing.lens.to_world_axes(pixels.as_dvec2());
            self.stay_in_range();
        }
    }

    /// Shows this world rectangle whole, as large as the screen and the zoom's range allow, in
    /// `seconds`; following waits until [`release`](Self::release).
    pub fn show(&mut self, rect: &Rect, seconds: impl IntoSeconds, ease: Ease) {
        if !rect.is_finite() {
            return;
        }
        self.zoom_to(self.framing.lens.zoom_to_fit(rect));
        let seconds = usable_seconds(seconds.into_seconds());
        let from = self.focus();
        self.take_in_hand(Hand::Show(rect.centre()));
        if seconds > 0.0 {
            self.state.motion.glide = Some(Glide::new(from, seconds, ease));
        }
    }

    pub(super) fn take_in_hand(&mut self, hand: Hand) {
        self.state.motion.focus = Moving { position: self.focus(), velocity: DVec2::ZERO };
        self.state.motion.glide = None;
        self.state.motion.hand = hand;
    }

    /// Following begins anew with a goal, and with nothing else known.
    pub(super) fn forget_goal(&mut self, goal: DVec2) {
        let GoalMemory { rail, scroll, .. } = self.state.goal.memory;
        self.state.goal.memory = GoalMemory { goal, rail, scroll, ..GoalMemory::default() };
        self.state.goal.track.forget();
    }

    /// The focus where the hand has it.
    pub(super) fn obey_hand(&mut self) {
        let (lens, offset) = (&self.framing.lens, self.framing.offset);
        let centre = match &self.state.motion.hand {
            Hand::Grab(grip) | Hand::Pin(grip) => grip.centre(lens),
            Hand::Show(centre) => *centre,
            Hand::Off | Hand::Nudge => return,
        };
        self.state.motion.focus.position = centre + offset;
    }

    /// A nudge is over with its frame, a pin once its zoom is reached.
    pub(super) fn loosen_hand(&mut self) {
        let over = match self.state.motion.hand {
            Hand::Nudge => true,
            Hand::Pin(_) => self.state.lens.zoom.rests(),
            _ => false,
        };
        if over {
            self.release();
        }
    }
}

/// How hard a pointer near the screen's edge pushes, per axis from −1 to 1: all the way at the edge
/// and beyond, nothing from `margin` screen pixels on.
///
/// ```
/// use velvet_pan::{edge_push, glam::{UVec2, Vec2}};
///
/// let screen = UVec2::new(320, 180);
/// assert_eq!(edge_push(Vec2::new(160.0, 90.0), screen, 16.0), Vec2::ZERO);
/// assert_eq!(edge_push(Vec2::new(320.0, 90.0), screen, 16.0), Vec2::X);
/// assert_eq!(edge_push(Vec2::new(8.0, 90.0), screen, 16.0), Vec2::new(-0.5, 0.0));
/// ```
#[must_use]
pub fn edge_push(pointer: Vec2, screen: glam::UVec2, margin: f32) -> Vec2 {
    if !pointer.is_finite() || margin <= 0.0 || margin.is_nan() {
        return Vec2::ZERO;
    }
    let push = |within: f32| (1.0 - within / margin).clamp(0.0, 1.0);
    let (near, far) = (pointer, screen.as_vec2() - pointer);
    Vec2::new(push(far.x) - push(near.x), push(far.y) - push(near.y))
}
