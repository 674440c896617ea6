//! What follows from settings, lens and bounds alone.

use glam::DVec2;

use super::{CameraState, Nudge};
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
    /// Where the bounds let the centre be.
    pub range: Rect,
}

impl Framing {
    pub fn new(settings: &Settings, state: &CameraState, window: WindowSize) -> Self {
        let screen = &settings.screen;
        let size = screen.fit.screen_size(screen.size, window);
        let (zones, own) = (&state.zones, &settings.zones);
        let follow = zones.follow(own, settings.follow);
        let by_hand = state.zoom.zoom(settings.zoom.whole);
        let zoom = state.party.zoom().map_or(by_hand, |zoom| {
            if settings.zoom.whole { libm::floor(zoom).max(1.0) } else { zoom }
        });
        let zoom = zones.zoom(own, zoom);
        let zoom = match &settings.bounds {
            // Zones and parties ask for no less than fits, either.
            Some(bounds) if settings.zoom.fill_bounds && zoom != by_hand => {
                let lens =
                    Lens::new(&Screen { size, ..*screen }).with_rotation(state.rotation.now());
                zoom.max(lens.zoom_to_fill(&bounds.rect))
            }
            _ => zoom,
        };
        let nudge = state.nudge.as_ref().map_or(1.0, Nudge::factor);
        let lens = Lens::new(&Screen { size, ..*screen })
            .with_zoom(zoom * nudge)
            .with_rotation(state.rotation.now());
        let mut framing = Self {
            follow,
            lens,
            view: lens.view_size(),
            half: lens.half_extents(),
            offset: lens.anchor_offset(follow.anchor),
            range: Rect::EVERYWHERE,
        };
        if let Some(bounds) = &settings.bounds {
            let range = bounds.centre_range(&lens);
            framing.range = state.bounds.map_or(range, |blend| blend.range(range));
        }
        framing.range = zones.range(own, &lens, framing.range);
        framing
    }
}

impl Framing {
    /// Where bounds and barrier let the centre be.
    #[inline]
    pub fn range_before(&self, barrier: Option<&Barrier>) -> Rect {
        barrier.map_or(self.range, |barrier| barrier.cut(self.range, self.half))
    }

    /// A course of the view's centre, held within bounds and barrier.
    #[inline]
    pub fn bound(&self, bounds: Option<&Bounds>, barrier: Option<&Barrier>, course: &mut Course) {
        let range = self.range_before(barrier);
        match bounds {
            Some(bounds) => bounds.clamp_course(course, &range),
            None => course.clamp(range.min, range.max),
        }
    }
}
