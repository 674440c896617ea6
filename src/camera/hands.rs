//! Moving the view by hand: dragging, keys, the edge of the screen.

use glam::{DVec2, Vec2};

use crate::base::convert::IntoSeconds;
use crate::base::rect::Rect;
use crate::camera::hand::Hand;
use crate::curves::ease::{Ease, Timing};
use crate::lens::zoom::ZoomGlide;
use crate::settings::hands::HandReturn;

use super::Camera;
use super::arrival::Clock;
use super::change::FocusAfter;
use super::command::Command;
use super::framing::Framing;
use super::limits::Tether;
use super::rules::Rules;
use super::state::CameraState;
use super::told::{HandCommand, Moment};

/// The remaining fraction of a zoom about a point at which the point is released.
const ALL_BUT_REACHED: f64 = 0.01;

/// The fraction of the distance from the anchor to the edge of the screen at which the subject takes the view back
/// from a zoom about a point.
const NEAR_EDGE: f64 = 0.9;

impl Camera {
    /// Grabs the world point that the last view shows under this screen point without its shake, and holds it there from
    /// the start of the next frame. [`drag_to`](Self::drag_to) then moves it.
    ///
    /// Following continues underneath. After [`release`](Self::release) the view returns to the subject as
    /// [`Hands::back`](crate::Hands::back) says. If no subject is followed, the view stays.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let grabbed = camera.view().screen_to_world(Vec2::new(100.0, 50.0));
    /// camera.grab(Vec2::new(100.0, 50.0));
    /// camera.drag_to(Vec2::new(140.0, 80.0));
    /// let view = camera.advance(1.0 / 60.0);
    /// assert_eq!(view.world_to_screen(grabbed), Vec2::new(140.0, 80.0));
    /// camera.release();
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn grab(&mut self, screen: Vec2) {
        self.say(Command::Grab(screen));
    }

    /// Moves the view so that the grabbed world point is under this screen point. Without a grab it does
    /// nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.advance(0.0);
    /// let grabbed = camera.view().screen_to_world(Vec2::new(100.0, 90.0));
    /// camera.grab(Vec2::new(100.0, 90.0));
    /// camera.drag_to(Vec2::new(150.0, 90.0));
    /// camera.advance(1.0 / 60.0);
    /// assert_eq!(camera.view().screen_to_world(Vec2::new(150.0, 90.0)), grabbed);
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn drag_to(&mut self, screen: Vec2) {
        self.say(Command::DragTo(screen));
    }

    /// Ends a drag, a zoom about a point or a `show`.
    pub fn release(&mut self) {
        self.say(Command::Release);
    }

    /// Moves the view by this number of screen pixels along the screen's axes, in the next frame. For keys,
    /// pass direction times speed times seconds: the speed on the screen is then the same at every zoom.
    /// For a pointer at the screen's edge, see [`edge_push`](crate::edge_push).
    ///
    /// Pans before the same frame add up. The view returns to the subject when a frame begins without a pan.
    /// During a grab, pans do nothing.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Settings, glam::Vec2};
    /// let mut camera = Camera::new(Settings::default())?;
    /// camera.pan(Vec2::new(12.0, 0.0));
    /// assert_eq!(camera.advance(0.1).centre().round(), [12.0, 0.0].into());
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn pan(&mut self, pixels: Vec2) {
        self.say(Command::Pan(pixels));
    }

    /// Moves and zooms the view within `seconds` so that this world rectangle is completely visible, as far as
    /// the zoom's range allows. The view stays there until [`release`](Self::release), which keeps the zoom. The same
    /// rectangle may be given every frame.
    ///
    /// ```
    /// # use velvet_pan::{Camera, Ease, Rect, Settings};
    /// let mut camera = Camera::new(Settings::default())?;
    /// let valley = Rect::new([0, 0], [640, 360]);
    /// camera.show(&valley, 0.5, Ease::Smooth);
    /// camera.advance(0.0);
    /// let view = camera.advance(0.5);
    /// assert_eq!((view.centre(), view.lens().zoom()), (valley.centre(), 0.5));
    /// # Ok::<(), velvet_pan::SettingsError>(())
    /// ```
    pub fn show(&mut self, rect: &Rect, seconds: impl IntoSeconds, ease: Ease) {
        let seconds = seconds.into_seconds();
        self.say(Command::Show { rect: *rect, seconds, ease });
    }

    /// Takes a grabbed point, or the point of a zoom, in hand. This happens at the start of a step, or in a frame of no
    /// time.
    pub(super) fn take_point_in_hand(&mut self, clock: Clock) {
        let (hand, about) = (self.told.at_end.hand, self.told.at_end.about.take());
        if let Some(HandCommand::Grab(grip)) = hand {
            self.told.at_end.hand = None;
            self.state.ride.picture.take_in_hand(Hand::Grab(grip), self.shown_focus(clock));
        }
        let Some(grip) = about else { return };
        if hand == Some(HandCommand::Release) {
            self.told.at_end.hand = None;
            self.release_hand(clock);
        }
        if let Some(zoom) = self.told.at_end.zoom.take() {
            let zoom = self.limited_zoom(zoom);
            self.state.lens.zoom.head_for(zoom, self.framing.least_zoom);
        }
        let (rest, picture) = (self.state.lens.zoom.rest(), &self.state.ride.picture);
        if rest > 0.0 && !matches!(picture.hand, Hand::Grab(_)) {
            let pin = Hand::Pin(grip, rest * ALL_BUT_REACHED);
            self.state.ride.picture.take_in_hand(pin, self.shown_focus(clock));
        }
    }

    /// Applies the commands of hands.
    pub(super) fn apply_hand(&mut self, told: &Moment, clock: Clock) {
        let picture = &mut self.state.ride.picture;
        if let (Some(screen), Hand::Grab(grip)) = (told.drag, &mut picture.hand) {
            grip.screen = screen;
        }
        match told.hand {
            Some(HandCommand::Show(rect, timing)) => {
                let zoom = self.limited_zoom(self.framing.lens.zoom_to_fit(&rect));
                let (hand, wanted) = (Hand::Show(rect, zoom), self.state.lens.zoom.wanted());
                // The same one may be told every frame.
                if self.state.ride.picture.hand != hand || wanted != zoom {
                    let change = self.begin(timing, clock);
                    self.state.lens.zoom = ZoomGlide::at(zoom);
                    self.state.ride.picture.hand = hand;
                    self.fade(change, FocusAfter::Here, clock);
                }
            }
            Some(HandCommand::Travel) => self.begin_travel(told.route, clock),
            Some(HandCommand::Release) => self.release_hand(clock),
            Some(HandCommand::Grab(_)) | None => {}
        }
        let hand = self.state.ride.picture.hand;
        if told.pan != DVec2::ZERO && !matches!(hand, Hand::Grab(_)) {
            if hand != Hand::Pan {
                self.state.ride.picture.take_in_hand(Hand::Pan, self.shown_focus(clock));
            }
            self.state.ride.picture.hand_focus += self.framing.lens.to_world_axes(told.pan);
        }
        if self.state.pause > 0.0 && self.state.ride.picture.hand == Hand::Off {
            self.state.ride.picture.take_in_hand(Hand::Pause, self.shown_focus(clock));
        }
    }

    /// Ends the hand's control. The view returns to the followed subject; without one, its current position is the new
    /// goal.
    pub(super) fn release_hand(&mut self, clock: Clock) {
        let hand = self.state.ride.picture.hand;
        if hand == Hand::Off {
            return;
        }
        let shown = self.shown_focus(clock);
        let followed = clock.subject(&self.state.goal.track).is_some();
        let stays = followed && self.rules.settings.hands.back == HandReturn::Stay;
        let next = match hand {
            Hand::Pause => None,
            _ if self.state.pause > 0.0 => Some(Hand::Pause),
            _ => None,
        };
        if let Some(next) = next.or((stays && hand != Hand::Stay).then_some(Hand::Stay)) {
            return self.state.ride.picture.take_in_hand(next, shown);
        }
        let change = self.begin(Timing::smooth(self.rules.settings.hands.seconds()), clock);
        self.state.ride.picture.hand = Hand::Off;
        if followed {
            return self.fade(change, FocusAfter::Here, clock);
        }
        self.state.ride.picture.fades.clear();
        self.fade(change, FocusAfter::Restarted(shown), clock);
    }
}

impl Rules {
    /// Returns whether a zoom about a point is over: it is nearly complete, or the subject is near the edge of the
    /// screen. Without a subject, it stays there to the end.
    pub(super) fn ends_pin(&self, state: &CameraState, framing: &Framing, clock: Clock) -> bool {
        let Hand::Pin(_, rest) = state.ride.picture.hand else { return false };
        let zoom = &state.lens.zoom;
        let Some(subject) = clock.subject(&state.goal.track) else { return zoom.rests() };
        if zoom.rest() <= rest {
            return true;
        }
        let Framing { follow, lens, view, .. } = framing;
        let tether = Tether::new(framing, state.frees_from_leash(self), Some(subject));
        let shown = state.ride.shown_focus(framing, tether.as_ref());
        let away = lens.to_screen_orientation(subject.position - shown) / *view;
        let (before, after) = (follow.anchor * -NEAR_EDGE, (1.0 - follow.anchor) * NEAR_EDGE);
        away.cmplt(before).any() || away.cmpgt(after).any()
    }
}

/// Returns the direction in which a pointer near the screen's edge pushes the view, per axis from −1 to 1. It is −1 or 1
/// at the edge and outside of the screen, and 0 at `margin` screen pixels or more from it.
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
