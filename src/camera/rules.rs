//! What the settings decide. It does not change during a frame.

use alloc::string::String;
use alloc::vec::Vec;

use super::goal::{leads_goal, shapes_goal};
use crate::base::nearby::Nearby;
use crate::base::rect::Rect;
use crate::goal::lure::Lure;
use crate::goal::rail::RailTrack;
use crate::limits::bounds::Bounds;
use crate::limits::halls::Halls;
use crate::limits::outline::{Outline, OutlineName};
use crate::settings::settings::Settings;
use crate::settings::zone::Zones;

/// The settings, and what follows from them alone.
#[derive(Clone, Debug)]
pub(super) struct Rules {
    pub settings: Settings,
    pub digest: u64,
    pub rail: RailTrack,
    pub lures: Nearby,
    pub zones: Nearby,
    /// The outlines by their names.
    pub outlines: Vec<(OutlineName, Halls)>,
    /// Whether rail, scroll, lures or rooms shape the goal.
    pub shapes: bool,
    /// Whether a rail or a scroll decides over the view, wherever the subject is on the screen.
    pub leads: bool,
}

impl Rules {
    pub fn new(settings: Settings) -> Self {
        let outlines = outlines(&settings);
        Self::with_outlines(settings, outlines)
    }

    /// Returns the rules of other settings. Finding the halls of outlines takes its time, so it is done only for other
    /// outlines.
    pub fn replaced(&mut self, settings: Settings) -> Self {
        if self.settings.outlines != settings.outlines {
            return Self::new(settings);
        }
        Self::with_outlines(settings, core::mem::take(&mut self.outlines))
    }

    fn with_outlines(settings: Settings, outlines: Vec<(OutlineName, Halls)>) -> Self {
        Self {
            digest: settings.digest(),
            rail: rail(&settings).unwrap_or_default(),
            lures: Nearby::of(settings.lures.iter().map(Lure::region)),
            zones: Nearby::of(settings.zones.iter().map(|zone| zone.rect)),
            outlines,
            shapes: shapes_goal(&settings),
            leads: leads_goal(&settings),
            settings,
        }
    }

    pub fn zones(&self) -> Zones<'_> {
        Zones { all: &self.settings.zones, nearby: &self.zones }
    }

    /// Returns the rectangle around all that bounds let the view show, with no side open.
    pub fn extent(&self, bounds: &Bounds) -> Option<Rect> {
        bounds.rect.or_else(|| self.halls_of(bounds).map(Halls::extent))
    }

    /// Returns whether the subject's place matters: there are rooms or zones.
    #[inline]
    pub fn has_places(&self) -> bool {
        self.settings.rooms.is_some() || !self.settings.zones.is_empty()
    }
}

/// Returns the halls of each outline. The checks of the settings refuse what has none.
fn outlines(settings: &Settings) -> Vec<(OutlineName, Halls)> {
    let named = |name: &String, outline: &Outline| {
        Some((OutlineName::new(name).ok()?, Halls::of(&outline.parts).ok()?))
    };
    settings.outlines.iter().filter_map(|(name, outline)| named(name, outline)).collect()
}

/// A bend of a rail that is smaller than this, in screen pixels, can't be seen.
const UNSEEN_PIXELS: f64 = 0.02;

/// Returns the rail, without bends that are too small to be seen at the largest zoom.
fn rail(settings: &Settings) -> Option<RailTrack> {
    let scale = settings.screen.unit_pixels * settings.zoom.range.max;
    settings.rail.as_ref().map(|rail| RailTrack::new(rail, UNSEEN_PIXELS / scale))
}
