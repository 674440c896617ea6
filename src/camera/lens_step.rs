//! The lens of a leg: zoom, rotation, the party's zoom and a cue's nudge, and what follows from them.

use glam::DVec2;

use super::Camera;
use super::state::{CameraState, LimitsState, Nudge};
use crate::lens::lens::Lens;
use crate::lens::screen::Screen;
use crate::limits::bounds::Bounds;
use crate::limits::ratchet::Barrier;
use crate::settings::follow::Follow;
use crate::settings::settings::Settings;
use crate::units::course::Course;
use crate::units::rect::Rect;
use crate::units::window::WindowSize;

/// What follows from settings, lens and bounds alone, worked out when these change.
#[derive(Clone, Copy, Debug)]
pub(super) struct Framing {
    /// Following as the zones have it.
    pub follow: Follow,
    pub lens: Lens,
    /// The view's size, and half of the upright rectangle that holds it, in world units.
    pub view: DVec2,
    pub half: DVec2,
    /// From the view's centre to the point at the anchor.
    pub offset: DVec2,
    /// Where the bounds let the centre be, and whether they leave anything out.
    pub range: Rect,
    pub bounded: bool,
}

impl Framing {
    pub fn new(settings: &Settings, state: &CameraState, window: WindowSize) -> Self {
        let screen = &settings.screen;
        let size = screen.fit.screen_size(screen.size, window);
        let (zones, own) = (&state.goal.zones, &settings.zones);
        let follow = zones.follow(own, settings.follow);
        let by_hand = state.lens.zoom.zoom(settings.zoom.whole);
        let zoom = state.goal.party.zoom().map_or(by_hand, |zoom| {
            if settings.zoom.whole { libm::floor(zoom).max(1.0) } else { zoom }
        });
        let zoom = zones.zoom(own, zoom);
        let zoom = match &settings.bounds {
            // Zones and parties ask for no less than fits, either.
            Some(bounds) if settings.zoom.fill_bounds && zoom != by_hand => {
                let lens =
                    Lens::new(&Screen { size, ..*screen }).with_rotation(state.lens.rotation.now());
                zoom.max(lens.zoom_to_fill(&bounds.rect))
            }
            _ => zoom,
        };
        let nudge = state.lens.nudge.as_ref().map_or(1.0, Nudge::factor);
        let lens = Lens::new(&Screen { size, ..*screen })
            .with_zoom(zoom * nudge)
            .with_rotation(state.lens.rotation.now());
        let mut framing = Self {
            follow,
            lens,
            view: lens.view_size(),
            half: lens.half_extents(),
            offset: lens.anchor_offset(follow.anchor),
            range: Rect::EVERYWHERE,
            bounded: false,
        };
        if let Some(bounds) = &settings.bounds {
            let range = bounds.centre_range(&lens);
            framing.range = state.limits.bounds.map_or(range, |blend| blend.range(range));
        }
        framing.range = zones.range(own, &lens, framing.range);
        framing.bounded = framing.range != Rect::EVERYWHERE;
        framing
    }
}

impl Framing {
    /// The smallest zoom that the bounds ask for, and with a ratchet what is left of them.
    pub fn least_zoom(&self, settings: &Settings, limits: &LimitsState) -> f64 {
        let Some(bounds) = &settings.bounds else { return 0.0 };
        let fill =
            if settings.zoom.fill_bounds { self.lens.zoom_to_fill(&bounds.rect) } else { 0.0 };
        let barrier = limits.barrier.as_ref();
        barrier.map_or(0.0, |barrier| barrier.least_zoom(&bounds.rect, &self.lens)).max(fill)
    }

    /// Where bounds and barrier let the centre be.
    #[inline]
    pub fn range_before(&self, barrier: Option<&Barrier>) -> Rect {
        barrier.map_or(self.range, |barrier| barrier.cut(self.range, self.half))
    }

    /// A course of the view's centre, held within bounds and barrier.
    #[inline]
    pub fn bound<const N: usize>(
        &self,
        bounds: Option<&Bounds>,
        barrier: Option<&Barrier>,
        course: &mut Course<N>,
    ) {
        let range = self.range_before(barrier);
        match bounds {
            Some(bounds) => bounds.clamp_course(course, &range),
            None => course.clamp(range.min, range.max),
        }
    }
}

impl Camera {
    /// Whether zoom, rotation, bounds, zones or the party's zoom are on their way.
    #[inline]
    pub(super) fn lens_moves(&self) -> bool {
        let (state, pending) = (&self.state, &self.state.pending);
        (!state.lens.zoom.rests() && !pending.zoom)
            || (!state.lens.rotation.rests() && !pending.rotation)
            || state.lens.nudge.is_some()
            || (state.limits.bounds.is_some() && !pending.bounds)
            || state.goal.zones.moves()
            || !state.goal.party.is_idle()
    }

    /// Zoom, rotation, nudge, bounds and zones go on for some seconds.
    pub(super) fn move_lens(&mut self, seconds: f64) {
        let pending = self.state.pending;
        let size = self.framing.lens.size().as_dvec2();
        if !pending.zoom {
            self.move_zoom(seconds);
        }
        if !pending.rotation {
            self.state.lens.rotation.advance(self.settings.rotation.half_life, seconds, size);
        }
        if self.state.lens.nudge.as_mut().is_some_and(|nudge| nudge.advance(seconds)) {
            self.state.lens.nudge = None;
        }
        let blend = self.state.limits.bounds.as_mut().filter(|_| !pending.bounds);
        if blend.is_some_and(|blend| blend.advance(seconds)) {
            self.state.limits.bounds = None;
        }
        self.state.goal.zones.advance(&self.settings.zones, seconds);
        let anchor = self.framing.follow.anchor;
        self.refresh_framing();
        self.keep_centre(anchor);
    }

    pub(super) fn move_zoom(&mut self, seconds: f64) {
        let settings = &self.settings.zoom;
        let zoom = &mut self.state.lens.zoom;
        let least = self.framing.least_zoom(&self.settings, &self.state.limits);
        let wanted = settings.limited(zoom.wanted(), least);
        if wanted != zoom.wanted() {
            zoom.head_for(wanted);
        }
        let size = self.framing.lens.size().as_dvec2();
        zoom.advance(settings.half_life, seconds, size, &mut self.zooming);
    }

    /// The focus for another anchor than this, so that the picture stays where it is.
    fn keep_centre(&mut self, before: DVec2) {
        if self.framing.follow.anchor != before {
            let moved = self.framing.offset - self.framing.lens.anchor_offset(before);
            self.move_focus(moved);
        }
    }

    /// Moves the focus and what a glide started from, with the anchor.
    pub(super) fn move_focus(&mut self, moved: DVec2) {
        self.state.motion.focus.position += moved;
        if let Some(glide) = &mut self.state.motion.glide {
            glide.from += moved;
        }
    }

    pub(super) fn refresh_framing(&mut self) {
        self.framing = Framing::new(&self.settings, &self.state, self.window);
    }

    pub(super) fn refresh(&mut self) {
        self.refresh_framing();
        self.stay_in_range();
    }
}
