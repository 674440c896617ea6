//! Several rides in one chart: their curves over time, and their paths from above.

use std::io::Write;
use std::ops::Range;
use std::path::Path;

use plotters::coord::types::RangedCoordf64;
use plotters::prelude::*;
use velvet_pan::glam::{DVec2, UVec2};
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{
    CORAL, CREAM, HONEY, MAUVE, MIST, NIGHT, PEBBLE, PLUM, ROSE, SPROUT,
};
use velvet_pan_terraces::picture::Picture;

use crate::arguments::rides::Entry;
use crate::charts::plot::{failed, rgb};
use crate::charts::ridden::Ridden;
use crate::charts::surface::{self, Area, FINE, Surface, px};
use crate::charts::thinned::{self, Curve, Thinned};
use crate::output::put;

/// A finished chart.
pub enum Chart {
    /// As pixels.
    Png(Picture),
    /// As drawing instructions.
    Svg(String),
}

/// The size of a chart in pixels.
const SIZE: UVec2 = UVec2::new(1280, 800);

/// The maximum number of rides in a chart; more could not be told apart.
const MOST: usize = 6;

/// Colours that also differ in lightness.
const COLOURS: [RGBColor; MOST] =
    [rgb(CREAM), rgb(CORAL), rgb(SPROUT), rgb(ROSE), rgb(HONEY), rgb(PEBBLE)];

/// The lengths of dashes and gaps in pixels, for the first ride, the second and so on; 0 is a solid line.
const DASHES: [(u32, u32); MOST] = [(0, 0), (0, 0), (6, 3), (2, 3), (10, 3), (4, 6)];

type Plane = Cartesian2d<RangedCoordf64, RangedCoordf64>;

type Points = Vec<(f64, f64)>;

/// A curve with its name in the legend.
struct Line {
    name: String,
    colour: RGBColor,
    points: Points,
}

/// A panel of curves over time.
struct Panel {
    title: String,
    unit: &'static str,
    lines: Vec<Line>,
    /// Whether larger values are lower, as on the screen.
    downwards: bool,
    /// Whether the lines belong to several rides.
    is_compared: bool,
}

impl Chart {
    /// Draws the chart of several rides, in the format of the file's ending.
    pub fn of(entries: Vec<Entry>, path: &Path) -> Result<Self, Fault> {
        if entries.len() > MOST {
            let what = format!("{} rides: expected at most {MOST} in one picture", entries.len());
            return Err(Fault::new(what));
        }
        let is_svg = match path.extension().and_then(|ending| ending.to_str()) {
            Some("svg") => true,
            Some("png") => false,
            _ => return Err(Fault::of_file(path, "expected a name that ends in .png or .svg")),
        };
        let rides = entries.into_iter().map(Ridden::new).collect::<Result<Vec<_>, Fault>>()?;
        Ok(if is_svg {
            Self::Svg(surface::svg(SIZE, |area| draw(area, &rides))?)
        } else {
            Self::Png(surface::picture(SIZE, |area| draw(area, &rides))?)
        })
    }

    /// Writes the file.
    pub fn write(&self, out: &mut dyn Write) -> Result<(), Fault> {
        match self {
            Self::Png(picture) => picture.write_png(out),
            Self::Svg(text) => put(out, text),
        }
    }
}

fn draw(area: &Area<'_>, rides: &[Ridden]) -> Result<(), Fault> {
    area.fill(&rgb(NIGHT)).map_err(failed)?;
    let names = match rides {
        [ride] => ride.name.clone(),
        _ => {
            let named =
                |(number, ride): (usize, &Ridden)| format!("{} {}", label(number), ride.name);
            rides.iter().enumerate().map(named).collect::<Vec<_>>().join("   ")
        }
    };
    // As large as fits the width; a letter is 0.6 times as wide as high.
    let height = (1200.0 / (0.6 * names.chars().count() as f64)).clamp(9.0, 22.0);
    let title = ("sans-serif", height * f64::from(FINE)).into_font().color(&rgb(CREAM));
    let area = area.margin(px(10), px(10), px(14), px(20)).titled(&names, title).map_err(failed)?;
    let panels = panels(rides);
    let (above, from) = (height_from_above(&area, rides), area.dim_in_pixel().1);
    let (curves, above) = area.split_vertically(from.saturating_sub(above));
    let places = curves.split_evenly((panels.len().div_ceil(2), 2));
    for (place, panel) in places.iter().zip(&panels) {
        draw_panel(place, panel)?;
    }
    draw_from_above(&above, rides)
}

/// The space around the map for labels, in pixels.
const LABELS: (u32, u32) = (px(78), px(60));

/// The height that fits the world at the width of the chart, within limits.
fn height_from_above(area: &Area<'_>, rides: &[Ridden]) -> u32 {
    let (width, height) = area.dim_in_pixel();
    let (x, y) = ranges_from_above(rides);
    let shape = (y.end - y.start) / (x.end - x.start);
    let wanted = f64::from(width.saturating_sub(LABELS.0)) * shape;
    (wanted as u32).saturating_add(LABELS.1).clamp(px(170), (height * 2 / 5).max(px(170)))
}

/// The range of everything that the views showed, along both axes.
fn ranges_from_above(rides: &[Ridden]) -> (Range<f64>, Range<f64>) {
    let corners =
        || rides.iter().filter_map(|ride| ride.curves.seen).flat_map(|rect| [rect.min, rect.max]);
    (range(corners().map(|at| at.x)), range(corners().map(|at| at.y)))
}

/// The name of a ride in the legend, if there are several.
fn label(number: usize) -> String {
    format!("({})", number + 1)
}

/// The curves over time.
fn panels(rides: &[Ridden]) -> Vec<Panel> {
    let along = |axis: usize, title: &str| Panel {
        title: title.to_owned(),
        unit: "screen px",
        lines: difference_lines(rides, axis),
        downwards: axis == 1 && rides[0].take.settings.screen.y_axis == velvet_pan::YAxis::Down,
        is_compared: rides.len() > 1,
    };
    let each = |title: &str, unit, curve: fn(&Ridden) -> &Curve| Panel {
        title: title.to_owned(),
        unit,
        lines: rides
            .iter()
            .zip(COLOURS)
            .map(|(ride, colour)| Line::of("", colour, curve(ride)))
            .collect(),
        downwards: false,
        is_compared: rides.len() > 1,
    };
    let mut panels = vec![
        along(0, "from the subject, across"),
        along(1, "from the subject, up and down"),
        each("lag: view to goal", "screen px", |ride| &ride.curves.lag),
        each("speed of the view", "screen px/s", |ride| &ride.curves.speed),
    ];
    let zooms = rides.iter().any(|ride| ride.curves.zooms);
    let shakes = rides.iter().any(|ride| ride.curves.shakes);
    if zooms || !shakes {
        panels.push(each("zoom", "times", |ride| &ride.curves.zoom));
    }
    if shakes {
        panels.push(shake_panel(rides));
    }
    // An even number of them.
    if panels.len() % 2 == 1 {
        panels.push(each("steps of the picture, across", "window px", |ride| &ride.curves.steps));
    }
    panels
}

impl Line {
    fn of(name: &str, colour: RGBColor, curve: &Curve) -> Self {
        Self { name: name.to_owned(), colour, points: curve.points() }
    }
}

/// The distance of the view's middle, and of a single ride's goal, from the subject.
fn difference_lines(rides: &[Ridden], axis: usize) -> Vec<Line> {
    if let [ride] = rides {
        let goal = Line::of("goal", rgb(CORAL), &ride.curves.goal[axis]);
        return vec![goal, Line::of("view", rgb(CREAM), &ride.curves.view[axis])];
    }
    let numbered = rides.iter().zip(COLOURS).enumerate();
    numbered
        .map(|(number, (ride, colour))| Line::of(&label(number), colour, &ride.curves.view[axis]))
        .collect()
}

/// The shake with its envelope; for several rides, the shake of each.
fn shake_panel(rides: &[Ridden]) -> Panel {
    let mut lines = Vec::new();
    if let [ride] = rides {
        let mut below = Line::of("", rgb(MAUVE), &ride.curves.envelope);
        below.points.iter_mut().for_each(|(_, value)| *value = -*value);
        lines.push(Line::of("envelope", rgb(MAUVE), &ride.curves.envelope));
        lines.push(below);
    }
    let name = if rides.len() == 1 { "shake" } else { "" };
    lines.extend(
        rides.iter().zip(COLOURS).map(|(ride, colour)| Line::of(name, colour, &ride.curves.shake)),
    );
    Panel {
        title: "shake, downwards".to_owned(),
        unit: "screen px",
        lines,
        downwards: false,
        is_compared: rides.len() > 1,
    }
}

/// The smallest and the largest of some values, with a small margin.
fn range(values: impl Iterator<Item = f64>) -> Range<f64> {
    let (low, high) = values.fold((f64::MAX, f64::MIN), |(low, high), v| (low.min(v), high.max(v)));
    if low > high {
        return 0.0..1.0;
    }
    let room = ((high - low) * 0.08).max(high.abs() * 1e-6).max(0.5);
    low - room..high + room
}

/// A titled area with space for its labels.
fn framed<'a, 'b>(
    area: &'a Area<'b>,
    title: &str,
    x: Range<f64>,
    y: Range<f64>,
) -> Result<ChartContext<'a, Surface<'b>, Plane>, Fault> {
    let caption = ("sans-serif", px(16)).into_font().color(&rgb(HONEY));
    ChartBuilder::on(area)
        .caption(title, caption)
        .margin_right(px(12))
        .x_label_area_size(px(34))
        .y_label_area_size(px(66))
        .build_cartesian_2d(x, y)
        .map_err(failed)
}

fn draw_panel(area: &Area<'_>, panel: &Panel) -> Result<(), Fault> {
    let all = || panel.lines.iter().flat_map(|line| line.points.iter());
    let last = all().map(|(t, _)| *t).fold(1e-3, f64::max);
    let mut values = range(all().map(|(_, value)| *value));
    let has_legend = panel.lines.len() > 1 && panel.lines.iter().any(|line| !line.name.is_empty());
    if has_legend {
        // Room for it above the curves.
        let room = (values.end - values.start) * 0.16 * panel.lines.len() as f64;
        match panel.downwards {
            true => values.start -= room,
            false => values.end += room,
        }
    }
    let values = if panel.downwards { values.end..values.start } else { values };
    let mut chart = framed(area, &panel.title, 0.0..last, values)?;
    let label = ("sans-serif", px(13)).into_font().color(&rgb(MIST));
    chart
        .configure_mesh()
        .axis_style(rgb(MAUVE).stroke_width(px(1)))
        .bold_line_style(rgb(PLUM).stroke_width(px(1)))
        .light_line_style(rgb(NIGHT).stroke_width(px(1)))
        .label_style(label.clone())
        .x_desc("seconds")
        .y_desc(panel.unit)
        .x_labels(10)
        .y_labels(5)
        .x_label_formatter(&|t| format!("{t:.0}"))
        .y_label_formatter(&|value| short(*value))
        .draw()
        .map_err(failed)?;
    for (number, line) in panel.lines.iter().enumerate() {
        let colour = line.colour;
        let points = line.points.iter().copied();
        let style = colour.stroke_width(if number == 0 { px(2) } else { px(3) / 2 });
        // Apart without their colours, too.
        let pattern = if panel.is_compared { DASHES[number % DASHES.len()] } else { (0, 0) };
        let drawn = match pattern {
            (0, _) => chart.draw_series(LineSeries::new(points, style)),
            (dash, gap) => {
                chart.draw_series(DashedLineSeries::new(points, px(dash), px(gap), style))
            }
        };
        let drawn = drawn.map_err(failed)?;
        if panel.lines.len() > 1 && !line.name.is_empty() {
            drawn.label(&line.name).legend(move |(x, y)| {
                PathElement::new(vec![(x, y), (x + px(16) as i32, y)], colour.stroke_width(px(2)))
            });
        }
    }
    if has_legend {
        chart
            .configure_series_labels()
            .margin(px(4))
            .legend_area_size(px(24))
            .position(SeriesLabelPosition::UpperLeft)
            .background_style(rgb(NIGHT).mix(0.8))
            .label_font(label)
            .draw()
            .map_err(failed)?;
    }
    Ok(())
}

fn short(value: f64) -> String {
    if value.abs() >= 20.0 || value == value.round() {
        format!("{value:.0}")
    } else {
        format!("{value:.1}")
    }
}

/// A rectangle as an outline.
fn outline(rect: &velvet_pan::Rect) -> Points {
    let (a, b) = (rect.min, rect.max);
    vec![(a.x, a.y), (b.x, a.y), (b.x, b.y), (a.x, b.y), (a.x, a.y)]
}

/// The paths of subject and view, bounds, rooms, and some rectangles of the view.
fn draw_from_above(area: &Area<'_>, rides: &[Ridden]) -> Result<(), Fault> {
    let (x, y) = ranges_from_above(rides);
    let down = rides[0].take.settings.screen.y_axis == velvet_pan::YAxis::Down;
    let (x, y) = even(area, x, y);
    let (low, high) = ([x.start, y.start], [x.end, y.end]);
    let y = if down { y.end..y.start } else { y };
    let every = match rides[0].curves.shown.every() {
        1 => "two seconds".to_owned(),
        2 => "four seconds".to_owned(),
        more => format!("{} seconds", 2 * more),
    };
    let title = format!("from above: what the view showed every {every}, and the ways");
    let mut chart = framed(area, &title, x, y)?;
    let label = ("sans-serif", px(13)).into_font().color(&rgb(MIST));
    chart
        .configure_mesh()
        .disable_mesh()
        .axis_style(rgb(MAUVE).stroke_width(px(1)))
        .label_style(label)
        .x_desc("world units")
        .y_desc("world units")
        .x_labels(10)
        .y_labels(4)
        .x_label_formatter(&|value| short(*value))
        .y_label_formatter(&|value| short(*value))
        .draw()
        .map_err(failed)?;
    let velvet_pan::Settings { bounds, screen, .. } = &rides[0].take.settings;
    if let Some(bounds) = bounds {
        let limits = bounds.limits(screen.y_axis);
        // Open sides are at infinity; here, at the edge of the chart.
        let side = |at: DVec2, edge: [f64; 2]| DVec2::select(at.is_finite_mask(), at, edge.into());
        let shown = velvet_pan::Rect { min: side(limits.min, low), max: side(limits.max, high) };
        let line = LineSeries::new(outline(&shown), rgb(HONEY).stroke_width(px(1)));
        chart.draw_series(line).map_err(failed)?;
    }
    let way = |places: &Thinned<DVec2, { thinned::MOST }>, colour: RGBColor| {
        let points: Points = places.kept().iter().map(|at| (at.x, at.y)).collect();
        LineSeries::new(points, colour.stroke_width(px(2)))
    };
    for (ride, colour) in rides.iter().zip(COLOURS) {
        for rect in ride.curves.shown.kept() {
            let shown = LineSeries::new(outline(rect), colour.mix(0.3).stroke_width(px(1)));
            chart.draw_series(shown).map_err(failed)?;
        }
        let rooms = ride.take.settings.rooms.iter().flat_map(|rooms| &rooms.list);
        for room in rooms {
            chart
                .draw_series(LineSeries::new(outline(room), rgb(PEBBLE).stroke_width(px(1))))
                .map_err(failed)?;
        }
        chart.draw_series(way(&ride.curves.way, colour)).map_err(failed)?;
    }
    chart.draw_series(way(&rides[0].curves.subject, rgb(PEBBLE))).map_err(failed)?;
    Ok(())
}

/// Ranges that contain these at the same scale on both axes.
fn even(area: &Area<'_>, x: Range<f64>, y: Range<f64>) -> (Range<f64>, Range<f64>) {
    let (width, height) = area.dim_in_pixel();
    let (width, height) =
        (f64::from(width.saturating_sub(LABELS.0)), f64::from(height.saturating_sub(LABELS.1)));
    let scale = ((x.end - x.start) / width.max(1.0)).max((y.end - y.start) / height.max(1.0));
    let widened = |range: Range<f64>, pixels: f64| {
        let (middle, half) = (f64::midpoint(range.start, range.end), scale * pixels / 2.0);
        middle - half..middle + half
    };
    (widened(x, width.max(1.0)), widened(y, height.max(1.0)))
}
