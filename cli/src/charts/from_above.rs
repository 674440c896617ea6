//! The ways of rides through the world, seen from above.

use std::ops::Range;

use plotters::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{Outline, Rect, Settings};
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{PEBBLE, ROSE};

use crate::charts::over_time::range;
use crate::charts::plot::{LABELS, MARGIN, Plot, Points, TITLE, plot, rgb, titled};
use crate::charts::ridden::Ridden;
use crate::charts::surface::{Area, failed, px};
use crate::charts::thinned::{self, Thinned};

/// Returns the height at which the world fits the width of an area, within limits.
pub fn height(area: &Area<'_>, rides: &[Ridden], most: u32) -> u32 {
    let (x, y) = ranges(rides);
    let shape = (y.end - y.start) / (x.end - x.start);
    let width = area.dim_in_pixel().0.saturating_sub(px(LABELS.0 + MARGIN));
    let wanted = (f64::from(width) * shape) as u32;
    wanted.saturating_add(px(TITLE + LABELS.1)).clamp(px(170), most.max(px(170)))
}

/// Draws the paths of subject and view, bounds, rooms, and some rectangles of the view.
pub fn draw(area: &Area<'_>, rides: &[Ridden], colours: &[RGBColor]) -> Result<(), Fault> {
    let Settings { bounds, screen, outlines, .. } = &rides[0].take.settings;
    let every = match rides[0].curves.shown.every() {
        1 => "two seconds".to_owned(),
        2 => "four seconds".to_owned(),
        more => format!("{} seconds", 2 * more),
    };
    let title = format!("from above, in world units: what the view showed every {every}, and ways");
    let mut legend = vec![("subject".to_owned(), rgb(PEBBLE))];
    if bounds.is_some() {
        legend.push(("bounds".to_owned(), rgb(ROSE)));
    }
    let area = titled(area, &title, &legend)?;
    let (x, y) = even(&area, ranges(rides));
    let down = screen.y_axis == velvet_pan::YAxis::Down;
    let turned = if down { y.end..y.start } else { y.clone() };
    let mut plot = plot(&area, (x.clone(), turned), ("", ""), (10, 5))?;
    let inside = Rect { min: DVec2::new(x.start, y.start), max: DVec2::new(x.end, y.end) };
    if let Some(bounds) = bounds {
        let limits = bounds.limits(screen.y_axis);
        draw_sides(&mut plot, &limits, &inside, rgb(ROSE).stroke_width(px(1)))?;
        let outline = bounds.outline.as_ref().and_then(|name| outlines.get(name.as_str()));
        for edge in outline.into_iter().flat_map(Outline::edges) {
            draw_side(&mut plot, edge, &inside, rgb(ROSE).stroke_width(px(1)))?;
        }
    }
    for (ride, colour) in rides.iter().zip(colours) {
        for rect in ride.curves.shown.kept() {
            draw_sides(&mut plot, rect, &inside, colour.mix(0.3).stroke_width(px(1)))?;
        }
        for room in ride.take.settings.rooms.iter().flat_map(|rooms| &rooms.list) {
            draw_sides(&mut plot, room, &inside, rgb(PEBBLE).stroke_width(px(1)))?;
        }
        draw_way(&mut plot, &ride.curves.way, *colour)?;
    }
    draw_way(&mut plot, &rides[0].curves.subject, rgb(PEBBLE))
}

fn draw_way(
    plot: &mut Plot<'_, '_>,
    places: &Thinned<DVec2, { thinned::MAX_ITEMS }>,
    colour: RGBColor,
) -> Result<(), Fault> {
    let points: Points = places.kept().iter().map(|at| (at.x, at.y)).collect();
    let line = LineSeries::new(points, colour.stroke_width(px(2)));
    plot.draw_series(line).map(|_| ()).map_err(failed)
}

/// Draws the sides of a rectangle as far as they are in the plot. A side beyond it, or at infinity, is not drawn: at
/// the plot's edge it would stand at a wrong number.
fn draw_sides(
    plot: &mut Plot<'_, '_>,
    rect: &Rect,
    inside: &Rect,
    style: ShapeStyle,
) -> Result<(), Fault> {
    let corners = rect.corners();
    for (index, corner) in corners.into_iter().enumerate() {
        let next = corners[(index + 1) % corners.len()];
        draw_side(plot, [corner.min(next), corner.max(next)], inside, style)?;
    }
    Ok(())
}

/// Draws an upright or level side as far as it is in the plot.
fn draw_side(
    plot: &mut Plot<'_, '_>,
    [low, high]: [DVec2; 2],
    inside: &Rect,
    style: ShapeStyle,
) -> Result<(), Fault> {
    let seen = (low.max(inside.min), high.min(inside.max));
    if seen.0.cmpgt(seen.1).any() {
        return Ok(());
    }
    let ends = [seen.0, seen.1].map(|at| (at.x, at.y));
    plot.draw_series(LineSeries::new(ends, style)).map(|_| ()).map_err(failed)
}

/// Returns the range of everything that the views showed, along both axes.
fn ranges(rides: &[Ridden]) -> (Range<f64>, Range<f64>) {
    let corners =
        || rides.iter().filter_map(|ride| ride.curves.seen).flat_map(|rect| [rect.min, rect.max]);
    (range(corners().map(|at| at.x)), range(corners().map(|at| at.y)))
}

/// Ranges that contain these at the same scale on both axes.
fn even(area: &Area<'_>, (x, y): (Range<f64>, Range<f64>)) -> (Range<f64>, Range<f64>) {
    let (width, height) = area.dim_in_pixel();
    let width = f64::from(width.saturating_sub(px(LABELS.0 + MARGIN)).max(1));
    let height = f64::from(height.saturating_sub(px(LABELS.1)).max(1));
    let scale = ((x.end - x.start) / width).max((y.end - y.start) / height);
    let widened = |range: Range<f64>, pixels: f64| {
        let (middle, half) = (f64::midpoint(range.start, range.end), scale * pixels / 2.0);
        middle - half..middle + half
    };
    (widened(x, width), widened(y, height))
}
