//! Several rides in one chart: their curves over time, and their paths from above.

use std::io::Write;
use std::path::Path;

use plotters::prelude::*;
use velvet_pan::YAxis;
use velvet_pan::glam::UVec2;
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{CORAL, CREAM, HONEY, NIGHT, PEBBLE, ROSE, SPROUT};
use velvet_pan_terraces::picture::Picture;

use crate::arguments::rides::Entry;
use crate::charts::from_above;
use crate::charts::over_time::{Line, Panel};
use crate::charts::plot::{rgb, text};
use crate::charts::ridden::Ridden;
use crate::charts::surface::{self, Area, failed, px};
use crate::charts::thinned::Curve;
use crate::support::output::put;

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
const MAX_RIDES: usize = 6;

/// The smallest height of a row of curves in pixels.
const ROW: u32 = 132;

/// Colours that also differ in lightness.
const COLOURS: [RGBColor; MAX_RIDES] =
    [rgb(CREAM), rgb(CORAL), rgb(SPROUT), rgb(ROSE), rgb(HONEY), rgb(PEBBLE)];

impl Chart {
    /// Draws the chart of several rides, in the format of the file's ending.
    pub fn of(entries: Vec<Entry>, path: &Path) -> Result<Self, Fault> {
        if entries.len() > MAX_RIDES {
            let what =
                format!("{} rides: expected at most {MAX_RIDES} in one picture", entries.len());
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
    let area = area.margin(px(10), px(10), px(14), px(20));
    let area = area.titled(&names, text(height, CREAM)).map_err(failed)?;
    let panels = panels(rides);
    let (rows, from) = (panels.len().div_ceil(2), area.dim_in_pixel().1);
    let most = from.saturating_sub(px(ROW) * rows as u32);
    let above = from_above::height(&area, rides, most);
    let (curves, above) = area.split_vertically(from.saturating_sub(above));
    for (place, panel) in curves.split_evenly((rows, 2)).iter().zip(&panels) {
        panel.draw(place)?;
    }
    from_above::draw(&above, rides, &COLOURS)
}

/// Returns the name of a ride in the legend, if there are several.
fn label(number: usize) -> String {
    format!("({})", number + 1)
}

/// Returns the curves over time, an even number of them.
fn panels(rides: &[Ridden]) -> Vec<Panel> {
    let any = |has: fn(&Ridden) -> bool| rides.iter().any(has);
    let mut panels = vec![
        difference_panel(rides, 0, "from the subject, across"),
        difference_panel(rides, 1, "from the subject, up and down"),
        panel(rides, "lag: view to goal", "screen px", |ride| &ride.curves.lag),
        panel(rides, "speed of the view", "screen px/s", |ride| &ride.curves.speed),
        panel(rides, "zoom", "times", |ride| &ride.curves.zoom),
    ];
    if any(|ride| ride.curves.turns) {
        panels.push(panel(rides, "rotation", "degrees", |ride| &ride.curves.rotation));
    }
    if any(|ride| ride.curves.shakes) {
        panels.push(shake_panel(rides));
    }
    panels.push(panel(rides, "steps of the picture, across", "window px", |r| &r.curves.steps[0]));
    if !panels.len().is_multiple_of(2) {
        let title = "steps of the picture, down";
        panels.push(panel(rides, title, "window px", |ride| &ride.curves.steps[1]));
    }
    panels
}

/// One curve of each ride.
fn panel(rides: &[Ridden], title: &str, unit: &'static str, curve: fn(&Ridden) -> &Curve) -> Panel {
    let name = |number: usize| if rides.len() > 1 { label(number) } else { String::new() };
    let lines = rides.iter().zip(COLOURS).enumerate();
    Panel {
        title: title.to_owned(),
        unit,
        lines: lines
            .map(|(number, (ride, colour))| Line {
                name: name(number),
                colour,
                points: curve(ride).points(),
            })
            .collect(),
        envelope: Vec::new(),
        downwards: false,
        is_compared: rides.len() > 1,
    }
}

/// Returns the distance of the view's middle, and of a single ride's goal, from the subject.
fn difference_panel(rides: &[Ridden], axis: usize, title: &str) -> Panel {
    let curve: fn(&Ridden) -> &Curve =
        if axis == 0 { |ride| &ride.curves.view[0] } else { |ride| &ride.curves.view[1] };
    let mut panel = panel(rides, title, "screen px", curve);
    panel.downwards = axis == 1 && rides[0].take.settings.screen.y_axis == YAxis::Down;
    if let [ride] = rides {
        let points = ride.curves.goal[axis].points();
        "view".clone_into(&mut panel.lines[0].name);
        panel.lines.insert(0, Line { name: "goal".to_owned(), colour: rgb(CORAL), points });
    }
    panel
}

/// Returns the shake of each ride; of a single one, with its envelope.
fn shake_panel(rides: &[Ridden]) -> Panel {
    let mut panel = panel(rides, "shake, downwards", "screen px", |ride| &ride.curves.shake);
    if let [ride] = rides {
        "shake".clone_into(&mut panel.lines[0].name);
        panel.envelope = ride.curves.envelope.points();
    }
    panel
}
