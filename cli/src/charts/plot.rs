//! Plots of a ride.

use plotters::prelude::*;
use velvet_pan::glam::UVec2;
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{APRICOT, CORAL, CREAM, HONEY, MAUVE, MIST, NIGHT, PLUM};
use velvet_pan_terraces::picture::{Colour, Picture};

use crate::charts::surface::{self, Area, px};

/// The size of a plot in pixels.
const SIZE: UVec2 = UVec2::new(1280, 800);

/// A curve over time: its name, its colour and its values.
pub struct Curve {
    /// Its name in the legend.
    pub name: &'static str,
    /// Seconds and values, in order of time.
    pub points: Vec<(f64, f64)>,
}

/// A panel of a plot: a curve within an envelope.
pub struct Panel {
    /// Its title, with the unit.
    pub title: &'static str,
    /// The curve.
    pub curve: Curve,
    /// The limit of the curve in both directions, over time.
    pub envelope: Curve,
}

/// Converts a colour of the palette for plotting.
pub const fn rgb([red, green, blue, _]: Colour) -> RGBColor {
    RGBColor(red, green, blue)
}

/// The fault for a plot that could not be drawn.
pub fn failed(error: impl std::fmt::Display) -> Fault {
    Fault::new(format!("plot not drawn: {error}"))
}

/// Draws panels one above the other, over the same time.
pub fn draw(title: &str, panels: &[Panel]) -> Result<Picture, Fault> {
    surface::picture(SIZE, |area| {
        area.fill(&rgb(NIGHT)).map_err(failed)?;
        let style = ("sans-serif", px(24)).into_font().color(&rgb(CREAM));
        let area =
            area.margin(px(16), px(16), px(20), px(28)).titled(title, style).map_err(failed)?;
        for (area, panel) in area.split_evenly((panels.len().max(1), 1)).iter().zip(panels) {
            draw_panel(area, panel)?;
        }
        Ok(())
    })
}

fn draw_panel(area: &Area<'_>, panel: &Panel) -> Result<(), Fault> {
    let last = panel.curve.points.last().map_or(1.0, |(t, _)| t.max(1e-3));
    let most = panel.envelope.points.iter().map(|(_, value)| *value).fold(1.0, f64::max) * 1.15;
    let caption = ("sans-serif", px(18)).into_font().color(&rgb(HONEY));
    let mut chart = ChartBuilder::on(area)
        .margin_top(px(12))
        .caption(panel.title, caption)
        .x_label_area_size(px(46))
        .y_label_area_size(px(72))
        .build_cartesian_2d(0.0..last, -most..most)
        .map_err(failed)?;
    let label = ("sans-serif", px(15)).into_font().color(&rgb(MIST));
    chart
        .configure_mesh()
        .axis_style(rgb(MAUVE).stroke_width(px(1)))
        .bold_line_style(rgb(PLUM).stroke_width(px(1)))
        .light_line_style(rgb(NIGHT).stroke_width(px(1)))
        .label_style(label.clone())
        .x_desc("seconds")
        .y_desc("screen pixels")
        .x_labels(12)
        .y_labels(7)
        .x_label_formatter(&|t| format!("{t:.0}"))
        .y_label_formatter(&|value| format!("{value:.0}"))
        .draw()
        .map_err(failed)?;
    let envelope = &panel.envelope;
    for sign in [1.0, -1.0] {
        let points = envelope.points.iter().map(|(t, value)| (*t, value * sign));
        let area = AreaSeries::new(points.clone(), 0.0, rgb(MAUVE).mix(0.35));
        chart.draw_series(area).map_err(failed)?;
        let line = chart
            .draw_series(LineSeries::new(points, rgb(APRICOT).stroke_width(px(1))))
            .map_err(failed)?;
        if sign > 0.0 {
            line.label(envelope.name).legend(|(x, y)| key(x, y, APRICOT));
        }
    }
    chart
        .draw_series(LineSeries::new(
            panel.curve.points.iter().copied(),
            rgb(CREAM).stroke_width(px(3) / 2),
        ))
        .map_err(failed)?
        .label(panel.curve.name)
        .legend(|(x, y)| key(x, y, CREAM));
    chart
        .configure_series_labels()
        .margin(px(10))
        .legend_area_size(px(28))
        .position(SeriesLabelPosition::UpperRight)
        .background_style(rgb(NIGHT))
        .border_style(rgb(CORAL).stroke_width(px(1)))
        .label_font(label)
        .draw()
        .map_err(failed)
}

/// A short line for the legend.
fn key(x: i32, y: i32, colour: Colour) -> PathElement<(i32, i32)> {
    PathElement::new(vec![(x, y), (x + px(18) as i32, y)], rgb(colour).stroke_width(px(1)))
}
