//! What follows from the lens and the bounds: the sizes of the view, and where its centre may be.

use glam::{DVec2, DVec4};

use super::rules::Rules;
use super::state::{CameraState, LensState, LimitsState};
use crate::base::rect::Rect;
use crate::base::window::WindowSize;
use crate::lens::lens::Lens;
use crate::lens::screen::Screen;
use crate::limits::bounds::Bounds;
use crate::limits::outline::OutlineName;
use crate::limits::ratchet::Barrier;
use crate::limits::walls::Walls;
use crate::settings::follow::Follow;
use crate::settings::settings::Settings;
use crate::settings::zone::Zone;
use crate::shake::cue::Nudge;

/// Values that depend only on settings, lens and bounds, computed when these change.
#[derive(Clone, Copy, Debug)]
pub(super) struct Framing {
    /// The settings of following, after those of the current zones.
    pub follow: Follow,
    /// The lens that is shown.
    pub lens: Lens,
    /// The zoom of the zone or, else, of the camera. A party zooms out from it.
    pub wanted: f64,
    /// The smallest zoom within the limits of bounds and ratchet.
    pub least_zoom: f64,
    /// The size of the design screen, in world units.
    pub design: DVec2,
    /// The view's size, and half of the upright rectangle that holds it, in world units.
    pub view: DVec2,
    pub half: DVec2,
    /// From the view's centre to the point at the anchor.
    pub offset: DVec2,
    /// The walls of the bounds in force, let out while they come into force.
    pub walls: Option<Walls>,
    /// The outline of which they are a hall.
    pub outline: Option<OutlineName>,
    /// Where they let the centre be.
    pub range: Rect,
    /// The depth of the cushion of the bounds that no zone has set, in fractions of the design screen.
    pub cushion: f64,
}

impl Framing {
    /// `lens` is the one before: what does not change about it is not computed again. `least_zoom` is the smallest zoom,
    /// if it is known.
    pub fn new(
        rules: &Rules,
        state: &CameraState,
        window: WindowSize,
        lens: &Lens,
        least_zoom: Option<f64>,
    ) -> Self {
        let settings = &rules.settings;
        let screen = &settings.screen;
        let size = screen.fit.screen_size(screen.size, window);
        let plain = Lens::turned_like(&Screen { size, ..*screen }, state.lens.rotation.now(), lens);
        let mut follow = settings.follow;
        let own_bounds = state.limits.bounds.or_own(settings.bounds);
        let mut walls = own_bounds.map(|bounds| rules.walls(&bounds, &state.limits));
        let mut outline = own_bounds.and_then(|bounds| bounds.outline);
        let mut zoom = None;
        if !settings.zones.is_empty() {
            for zone in rules.zones().holding(state.goal.zones_at) {
                let Zone { bounds: own, zoom: closer, .. } = *zone;
                follow = zone.follow(follow);
                walls = own.map(Walls::new).or(walls);
                outline = outline.filter(|_| own.is_none());
                zoom = closer.or(zoom);
            }
        }
        let walls = walls.map(|walls| let_out(walls, &state.limits));
        let barrier = state.ride.picture.barrier.as_ref();
        let least_zoom = least_zoom
            .unwrap_or_else(|| smallest_zoom(settings, walls.as_ref(), barrier, &plain, lens));
        let whole = settings.zoom.whole;
        let wanted = zoom.unwrap_or_else(|| state.lens.zoom.zoom(whole));
        let zoom = state.goal.party.zoom(wanted, whole);
        let lens = plain.with_zoom(shown(settings, &state.lens, zoom, least_zoom));
        Self {
            follow,
            lens,
            wanted,
            least_zoom,
            design: screen.design_size(),
            view: lens.view_size(),
            half: lens.half_extents(),
            offset: lens.anchor_offset(follow.anchor),
            walls,
            outline,
            range: walls.map_or(Rect::EVERYWHERE, |walls| walls.centre_range(&lens)),
            cushion: own_bounds.map_or(0.0, |bounds| bounds.cushion_depth),
        }
    }

    /// Returns the same after a change of the state, which remembers the smallest zoom.
    pub fn renewed(&self, rules: &Rules, state: &mut CameraState, window: WindowSize) -> Self {
        let framing = Self::new(rules, state, window, &self.lens, None);
        state.limits.least_zoom = framing.least_zoom;
        framing
    }

    /// Returns the allowed range of the centre, with bounds and barrier.
    #[inline]
    pub fn range_before(&self, barrier: Option<&Barrier>) -> Rect {
        barrier.map_or(self.range, |barrier| barrier.cut(self.range, self.half))
    }
}

impl Rules {
    /// Returns the walls of bounds: of the hall that the view is in, if they are an outline.
    #[inline]
    fn walls(&self, bounds: &Bounds, limits: &LimitsState) -> Walls {
        let rect = match bounds.outline {
            None => bounds.limits(self.settings.screen.y_axis),
            Some(_) => limits.hall.or_else(|| self.extent(bounds)).unwrap_or(Rect::EVERYWHERE),
        };
        Walls { rect, small: bounds.small }
    }
}

/// Walls that are moved out while they come into force.
fn let_out(walls: Walls, limits: &LimitsState) -> Walls {
    if limits.edges.is_empty() {
        return walls;
    }
    let out = limits.edges.shown(DVec4::ZERO);
    let (low, high) = (DVec2::new(out.x, out.y), DVec2::new(out.z, out.w));
    let rect = Rect { min: walls.rect.min - low, max: walls.rect.max + high };
    Walls { rect, ..walls }
}

/// A larger zoom than this is not needed for any bounds.
const MAX_USEFUL_ZOOM: f64 = 1e9;

/// Returns the smallest zoom that may be shown: one that fills the bounds, if required, and that keeps the ratchet's
/// line. For its line a view does not become larger than `before`, but not smaller either: bounds that close in push
/// the line back.
fn smallest_zoom(
    settings: &Settings,
    walls: Option<&Walls>,
    barrier: Option<&Barrier>,
    plain: &Lens,
    before: &Lens,
) -> f64 {
    let Some(Walls { rect, .. }) = walls else { return 0.0 };
    let fill = if settings.zoom.fill_bounds { plain.zoom_to_fill(rect) } else { 0.0 };
    let line = barrier.map_or(0.0, |barrier| {
        let as_large = barrier.across(plain.half_extents()) / barrier.across(before.half_extents());
        barrier.least_zoom(rect, plain).min(as_large)
    });
    line.max(fill).min(MAX_USEFUL_ZOOM)
}

/// Returns the shown zoom if the sources ask for `zoom`, including changes under way and a nudge.
fn shown(settings: &Settings, lens: &LensState, zoom: f64, least: f64) -> f64 {
    let mut zoom = zoom;
    if !lens.transitions.is_empty() {
        // What fades is the difference to a zoom within the limits.
        zoom = libm::exp(lens.transitions.shown(libm::log(zoom.max(least))));
        if settings.zoom.whole {
            zoom = libm::round(zoom).max(1.0);
        }
    }
    if settings.zoom.whole && zoom < least {
        zoom = libm::ceil(least);
    }
    let nudge = lens.nudge.as_ref().map_or(1.0, Nudge::factor);
    (zoom * nudge).max(least)
}
