//! Ride figures: what a ride is like, in numbers.

use serde::Serialize;
use velvet_pan::glam::DVec2;
use velvet_pan::{Rect, ShakeOffset, View};

use crate::fault::Fault;
use crate::moment::Moment;
use crate::ride::Ride;
use crate::take::Take;

/// The figures of a ride; none where the ride does not tell (a subject that never stops has no
/// settling).
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Figures {
    /// The ride's name.
    pub ride: String,
    /// Screen pixels from the subject to its anchor: the mean, …
    pub lag_mean: Option<f64>,
    /// … the 95th percentile, …
    pub lag_p95: Option<f64>,
    /// … and the worst.
    pub lag_worst: Option<f64>,
    /// Seconds from the subject's stop to the camera's, at worst.
    pub settle: Option<f64>,
    /// Screen pixels past the place of rest, at worst.
    pub overshoot: Option<f64>,
    /// The share of the screen's length in front of the subject along its motion, on average.
    pub view_ahead: Option<f64>,
    /// How uneven the picture's steps are at steady speed, in window pixels: the root of the mean
    /// squared difference from the true steps; shaken frames left out.
    pub judder: Option<f64>,
    /// The longest step there and back of the drawn subject, while it did not turn itself, in window
    /// pixels.
    pub tremble: Option<f64>,
    /// Changes of the camera's direction per second, along both axes.
    pub turns: f64,
    /// Screen pixels per second.
    pub peak_speed: f64,
    /// Screen pixels per second².
    pub peak_acceleration: f64,
    /// The largest area shown outside the world, in square screen pixels; none without bounds.
    pub out_of_bounds: Option<f64>,
    /// The share of frames with the subject off the screen.
    pub lost: Option<f64>,
}

/// Slower than this, in screen pixels per second, something stands …
const STANDS: f64 = 0.5;
/// … and the camera has come to rest: less than a fifteenth of a pixel a frame.
const RESTS: f64 = 4.0;

/// A frame as the figures need it.
#[derive(Clone, Copy, Debug)]
struct Frame {
    t: f64,
    view: View,
    /// The unshaken centre, in world units.
    centre: DVec2,
    scale: f64,
    subject: Option<DVec2>,
    /// The subject in the unsnapped, unshaken view, in screen pixels.
    on_screen: Option<DVec2>,
    lag: Option<f64>,
    /// Where the world's origin is shown in the window, as drawn and truly, in window pixels.
    drawn: DVec2,
    truly: DVec2,
    /// Where the subject is drawn in the window.
    sprite: Option<DVec2>,
    size: DVec2,
    outside: Option<f64>,
    shaken: bool,
}

impl Frame {
    fn of(take: &Take, moment: &Moment) -> Self {
        let (view, steady) = (&moment.view, moment.view.steady());
        let size = steady.size().as_dvec2();
        let on_screen = moment.subject.map(|subject| steady.world_to_screen_f64(subject));
        let placement = view.placement();
        let corner = steady.lens().to_screen_axes(view.centre()) - size / 2.0;
        let truly = -corner * placement.scale;
        Self {
            t: moment.t,
            view: moment.view,
            centre: steady.centre(),
            scale: steady.scale(),
            subject: moment.subject,
            on_screen,
            lag: moment.lag(take),
            drawn: drawn_origin(view),
            truly,
            sprite: moment.subject.map(|subject| {
                let own = steady.followed_placement(subject);
                (own.origin + steady.followed_position(subject).as_dvec2() * own.scale).round()
            }),
            size,
            shaken: view.shake() != ShakeOffset::default(),
            outside: take.settings.bounds.map(|bounds| outside(view, &bounds.rect)),
        }
    }
}

/// Where the world's origin is drawn in the window, in whole window pixels.
pub fn drawn_origin(view: &View) -> DVec2 {
    let placement = view.placement();
    (placement.origin - view.canvas_corner() * placement.scale).round()
}

/// The area that a view shows outside a rectangle, in square screen pixels.
fn outside(view: &View, rect: &Rect) -> f64 {
    let shown = view.visible_world();
    let common = (shown.max.min(rect.max) - shown.min.max(rect.min)).max(DVec2::ZERO);
    let all = shown.size();
    let area = (all.x * all.y - common.x * common.y) * view.scale() * view.scale();
    // The rounding of large coordinates is no area.
    if area < 1e-3 { 0.0 } else { area }
}

impl Figures {
    /// Rides a take and measures the ride.
    ///
    /// # Errors
    ///
    /// Settings that can't be used.
    pub fn of_take(take: &Take) -> Result<Self, Fault> {
        Ok(Self::of(take, &take.name, Ride::new(take)?))
    }

    /// Measures the moments of a ride; `name` is what the figures call it.
    pub fn of(take: &Take, name: &str, moments: impl Iterator<Item = Moment>) -> Self {
        let frames: Vec<Frame> = moments.map(|moment| Frame::of(take, &moment)).collect();
        let mut lags: Vec<f64> = frames.iter().filter_map(|frame| frame.lag).collect();
        lags.sort_by(f64::total_cmp);
        let speeds = speeds(&frames);
        let (settle, overshoot) = stops(&frames);
        let seconds = frames.last().map_or(0.0, |last| last.t).max(1e-9);
        let off = |frame: &Frame| {
            let at = frame.on_screen?;
            Some(at.cmplt(DVec2::ZERO).any() || at.cmpge(frame.size).any())
        };
        let lost: Vec<bool> = frames.iter().filter_map(off).collect();
        let outside: Vec<f64> = frames.iter().filter_map(|frame| frame.outside).collect();
        Self {
            ride: name.to_owned(),
            lag_mean: mean(&lags),
            lag_p95: lags.get(lags.len() * 95 / 100).copied(),
            lag_worst: lags.last().copied(),
            settle,
            overshoot,
            view_ahead: view_ahead(&frames),
            judder: judder(&frames),
            tremble: tremble(&frames),
            turns: turns(&speeds) / seconds,
            peak_speed: speeds.iter().map(|(_, speed)| speed.length()).fold(0.0, f64::max),
            peak_acceleration: accelerations(&speeds).fold(0.0, f64::max),
            out_of_bounds: outside.iter().copied().reduce(f64::max),
            lost: mean(&lost.iter().map(|lost| f64::from(u8::from(*lost))).collect::<Vec<_>>()),
        }
    }
}

fn mean(values: &[f64]) -> Option<f64> {
    (!values.is_empty()).then(|| values.iter().sum::<f64>() / values.len() as f64)
}

/// Whether the camera was elsewhere at once: no movement, and no speed.
fn is_cut(a: &Frame, b: &Frame) -> bool {
    ((b.centre - a.centre) * b.scale).abs().cmpgt(b.size).any()
}

/// The camera's velocity from frame to frame, in screen pixels per second, with the step's seconds.
fn speeds(frames: &[Frame]) -> Vec<(f64, DVec2)> {
    let speed = |pair: &[Frame]| {
        let seconds = pair[1].t - pair[0].t;
        let moved = (pair[1].centre - pair[0].centre) * pair[1].scale;
        let still = is_cut(&pair[0], &pair[1]) || seconds <= 0.0;
        (seconds, if still { DVec2::ZERO } else { moved / seconds })
    };
    frames.windows(2).map(speed).collect()
}

fn accelerations(speeds: &[(f64, DVec2)]) -> impl Iterator<Item = f64> {
    speeds.windows(2).map(|pair| (pair[1].1 - pair[0].1).length() / pair[1].0.max(1e-9))
}

/// How often the camera changes its direction, along either axis.
fn turns(speeds: &[(f64, DVec2)]) -> f64 {
    let along = |axis: usize| {
        let signs =
            speeds.iter().map(|(_, speed)| speed[axis]).filter(|speed| speed.abs() > STANDS);
        let signs: Vec<bool> = signs.map(|speed| speed > 0.0).collect();
        signs.windows(2).filter(|pair| pair[0] != pair[1]).count() as f64
    };
    along(0) + along(1)
}

/// The worst settling and the worst overshoot over all stops of the subject.
fn stops(frames: &[Frame]) -> (Option<f64>, Option<f64>) {
    let speeds = speeds(frames);
    let moves = |index: usize| match (frames[index].subject, frames[index + 1].subject) {
        (Some(a), Some(b)) => {
            let seconds = (frames[index + 1].t - frames[index].t).max(1e-9);
            a.distance(b) * frames[index].scale / seconds > STANDS
        }
        _ => false,
    };
    let stands: Vec<bool> = (0..speeds.len()).map(|index| !moves(index)).collect();
    let (mut settle, mut overshoot): (Option<f64>, Option<f64>) = (None, None);
    for stop in (1..stands.len()).filter(|index| stands[*index] && !stands[index - 1]) {
        let end = (stop..stands.len()).find(|index| !stands[*index]).unwrap_or(stands.len());
        // Only where the camera comes to rest before the subject goes on.
        let rests = speeds[..end].iter().rposition(|(_, speed)| speed.length() > RESTS);
        let rest = rests.map_or(0, |index| index + 1).max(stop);
        if rest >= end {
            continue;
        }
        let seconds = frames[rest].t - frames[stop].t;
        settle = Some(settle.map_or(seconds, |worst| worst.max(seconds)));
        let place = frames[rest].centre;
        let way = (place - frames[stop].centre).normalize_or_zero();
        let past = |frame: &Frame| (frame.centre - place).dot(way) * frame.scale;
        let most = frames[stop..=rest].iter().map(past).fold(0.0, f64::max);
        overshoot = Some(overshoot.map_or(most, |worst| worst.max(most)));
    }
    (settle, overshoot)
}

/// How much of the screen lies in front of the subject, along the axis on which it mostly moves.
fn view_ahead(frames: &[Frame]) -> Option<f64> {
    let share = |pair: &[Frame]| {
        let seconds = (pair[1].t - pair[0].t).max(1e-9);
        let velocity = (pair[1].subject? - pair[0].subject?) / seconds;
        pair[1].view.ahead_of(pair[1].subject?, velocity)
    };
    mean(&frames.windows(2).filter_map(share).collect::<Vec<_>>())
}

fn judder(frames: &[Frame]) -> Option<f64> {
    let uneven = |three: &[Frame]| {
        let [a, b, c] = three else { return None };
        let (before, truly) = (b.truly - a.truly, c.truly - b.truly);
        let alike = a.scale == c.scale && !is_cut(b, c) && !three.iter().any(|one| one.shaken);
        let steady = (truly - before).length() <= 0.05 * truly.length();
        let moves = truly.length() > 0.01 && alike && steady;
        moves.then(|| ((c.drawn - b.drawn) - truly).length_squared())
    };
    mean(&frames.windows(3).filter_map(uneven).collect::<Vec<_>>()).map(f64::sqrt)
}

/// A step there and a step back, while the subject itself did not turn.
fn tremble(frames: &[Frame]) -> Option<f64> {
    let back_and_forth = |three: &[Frame]| {
        let [a, b, c] = three else { return None };
        let (one, other) = (b.sprite? - a.sprite?, c.sprite? - b.sprite?);
        let (way, on) = (b.on_screen? - a.on_screen?, c.on_screen? - b.on_screen?);
        let along = |axis: usize| {
            let turned = way[axis] * on[axis] < 0.0 && way[axis].abs().max(on[axis].abs()) > 0.05;
            let trembles = one[axis] * other[axis] < 0.0 && !turned;
            if trembles { one[axis].abs().min(other[axis].abs()) } else { 0.0 }
        };
        Some(along(0).max(along(1)))
    };
    frames.windows(3).filter_map(back_and_forth).reduce(f64::max)
}
