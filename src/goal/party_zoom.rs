//! The zoom at which a party is shown.

use glam::DVec2;

use crate::base::sound::sound;
use crate::curves::half_life::HalfLifeFactors;
use crate::curves::half_life::REST_PIXELS;
use crate::goal::deadzone::Deadzone;
use crate::goal::party::Party;
use crate::lens::lens::Lens;

/// The values of a step that the party needs.
#[derive(Clone, Copy, Debug)]
pub(crate) struct PartyContext {
    pub party: Party,
    pub anchor: DVec2,
    pub deadzone: Deadzone,
    /// At zoom 1.
    pub lens: Lens,
    /// The zoom of the zone or the camera.
    pub wanted: f64,
    /// Whether only whole-number zooms are shown.
    pub whole: bool,
}

/// The zoom of a party: `min(wanted, fit)`, and what is left of the way there.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub(crate) struct PartyZoom {
    /// The largest zoom at which the members fit, but not less than the widest.
    fit: f64,
    /// The logarithm of the shown zoom, as a multiple of the smaller of the two.
    behind: f64,
}

sound!(PartyZoom { fit in 1e-6..=1e6, behind in -100.0..=100.0 });

impl Default for PartyZoom {
    fn default() -> Self {
        Self::at(MAX_ZOOM)
    }
}

impl PartyZoom {
    /// Creates a zoom at rest, for members that fit at this zoom.
    pub fn at(fit: f64) -> Self {
        Self { fit, behind: 0.0 }
    }

    /// Returns whether every wanted zoom is shown as it is.
    pub fn is_free(self) -> bool {
        self == Self::default()
    }

    /// Returns the shown zoom for a wanted one. If only whole zooms are shown, the party gets the next smaller one.
    pub fn shown(self, wanted: f64, whole: bool) -> f64 {
        if self.is_free() {
            return wanted;
        }
        let zoom = wanted.min(self.fit) * libm::exp(self.behind);
        if whole { libm::floor(zoom).max(1.0) } else { zoom }
    }

    /// Returns the zoom after a short step to another fit, which the members take evenly.
    pub fn step(self, fit: f64, context: &PartyContext, seconds: f64) -> Self {
        if fit == self.fit && seconds <= 0.0 {
            return self;
        }
        let [from, to] = [self.fit, fit].map(|fit| libm::log(context.wanted.min(fit)));
        let now = from + self.behind;
        let half_life = if to < now { context.party.widen } else { context.party.narrow };
        let next = HalfLifeFactors::new(half_life, seconds).advance(now, from, to);
        let pixels = context.lens.size().as_dvec2().length();
        let rests = from == to && (next - to).abs() * pixels < REST_PIXELS;
        Self { fit, behind: if rests { 0.0 } else { next - to } }
    }
}

/// No camera has a larger zoom.
pub(crate) const MAX_ZOOM: f64 = 1e6;
