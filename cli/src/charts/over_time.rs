//! Curves over time.

use std::ops::Range;

use plotters::prelude::*;
use velvet_pan::glam::UVec2;
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{APRICOT, CREAM, MAUVE, NIGHT};
use velvet_pan_terraces::picture::Picture;

use crate::charts::plot::{Plot, Points, plot, rgb, text, titled};
use crate::charts::surface::{self, Area, failed, px};

/// The lengths of dashes and gaps in pixels, for the first ride, the second and so on; 0 is a solid line.
const DASHES: [(u32, u32); 6] = [(0, 0), (0, 0), (6, 3), (2, 3), (10, 3), (4, 6)];

/// A curve with its name in the legend.
pub struct Line {
    pub name: String,
    pub colour: RGBColor,
    pub points: Points,
}

/// A panel of curves over time.
pub struct Panel {
    pub title: String,
    pub unit: &'static str,
    pub lines: Vec<Line>,
    /// The limit of the curves in both directions over time, drawn as an area.
    pub envelope: Points,
    /// Whether larger values are lower, as on the screen.
    pub downwards: bool,
    /// Whether the lines belong to several rides.
    pub is_compared: bool,
}

/// Draws panels one above the other, over the same time.
pub fn stacked(size: UVec2, title: &str, panels: &[Panel]) -> Result<Picture, Fault> {
    surface::picture(size, |area| {
        area.fill(&rgb(NIGHT)).map_err(failed)?;
        let area = area.margin(px(16), px(16), px(20), px(28));
        let area = area.titled(title, text(24.0, CREAM)).map_err(failed)?;
        let places = area.split_evenly((panels.len().max(1), 1));
        places.iter().zip(panels).try_for_each(|(place, panel)| panel.draw(place))
    })
}

impl Panel {
    /// Draws the panel.
    pub fn draw(&self, area: &Area<'_>) -> Result<(), Fault> {
        let area = titled(area, &self.title, &self.legend())?;
        let last = self.points().map(|(t, _)| *t).fold(1e-3, f64::max);
        let (both, values) = (|value: f64| [value, -value], self.points().map(|(_, value)| *value));
        let values = range(values.chain(self.envelope.iter().flat_map(|(_, value)| both(*value))));
        let values = if self.downwards { values.end..values.start } else { values };
        let (width, height) = area.dim_in_pixel();
        let labels = ((width / px(60)) as usize, ((height / px(18)) as usize).min(9));
        let mut plot = plot(&area, (0.0..last, values), (" s", self.unit), labels)?;
        self.draw_envelope(&mut plot)?;
        self.lines.iter().enumerate().try_for_each(|(number, _)| self.draw_line(&mut plot, number))
    }

    fn points(&self) -> impl Iterator<Item = &(f64, f64)> {
        self.lines.iter().flat_map(|line| &line.points)
    }

    /// Returns the names and colours of lines, where there are several.
    fn legend(&self) -> Vec<(String, RGBColor)> {
        let envelope = ("envelope".to_owned(), rgb(APRICOT));
        let names = self.lines.iter().map(|line| (line.name.clone(), line.colour));
        let all = (!self.envelope.is_empty()).then_some(envelope).into_iter().chain(names);
        let all: Vec<_> = all.filter(|(name, _)| !name.is_empty()).collect();
        if all.len() > 1 { all } else { Vec::new() }
    }

    fn draw_envelope(&self, plot: &mut Plot<'_, '_>) -> Result<(), Fault> {
        for sign in [1.0, -1.0] {
            let points = self.envelope.iter().map(|(t, value)| (*t, value * sign));
            let area = AreaSeries::new(points.clone(), 0.0, rgb(MAUVE).mix(0.35));
            plot.draw_series(area).map_err(failed)?;
            let line = LineSeries::new(points, rgb(APRICOT).stroke_width(px(1)));
            plot.draw_series(line).map_err(failed)?;
        }
        Ok(())
    }

    fn draw_line(&self, plot: &mut Plot<'_, '_>, number: usize) -> Result<(), Fault> {
        let line = &self.lines[number];
        let points = line.points.iter().copied();
        let style = line.colour.stroke_width(if number == 0 { px(2) } else { px(3) / 2 });
        // Apart without their colours, too.
        let drawn = match DASHES[number % DASHES.len()] {
            (dash @ 1.., gap) if self.is_compared => {
                plot.draw_series(DashedLineSeries::new(points, px(dash), px(gap), style))
            }
            _ => plot.draw_series(LineSeries::new(points, style)),
        };
        drawn.map(|_| ()).map_err(failed)
    }
}

/// Returns the smallest and the largest of some values, with a small margin.
pub fn range(values: impl Iterator<Item = f64>) -> Range<f64> {
    let (low, high) = values.fold((f64::MAX, f64::MIN), |(low, high), v| (low.min(v), high.max(v)));
    if low > high {
        return 0.0..1.0;
    }
    let room = ((high - low) * 0.08).max(high.abs() * 1e-6).max(0.6);
    low - room..high + room
}
