//! What all plots share: colours, the line of title and legend, axes.

use std::ops::Range;

use plotters::coord::types::RangedCoordf64;
use plotters::prelude::*;
use velvet_pan_takes::Fault;
use velvet_pan_terraces::art::palette::{HONEY, MAUVE, MIST, NIGHT, PLUM};
use velvet_pan_terraces::picture::Colour;

use crate::charts::surface::{Area, FINE, Surface, failed, px};

/// A plot with its axes.
pub type Plot<'a, 'b> = ChartContext<'a, Surface<'b>, Cartesian2d<RangedCoordf64, RangedCoordf64>>;

/// Values along both axes.
pub type Points = Vec<(f64, f64)>;

/// The space for the labels of the axes, to the left and below, in pixels.
pub const LABELS: (u32, u32) = (66, 20);

/// The height of the line above a plot, and the space at its right, in pixels.
pub const TITLE: u32 = 26;
pub const MARGIN: u32 = 12;

/// Converts a colour of the palette for plotting.
pub const fn rgb([red, green, blue, _]: Colour) -> RGBColor {
    RGBColor(red, green, blue)
}

/// Returns a style for text of this height in pixels.
pub fn text(height: f64, colour: Colour) -> TextStyle<'static> {
    ("sans-serif", height * f64::from(FINE)).into_font().color(&rgb(colour))
}

/// Draws the title at the left and the legend at the right of one line, where neither covers a curve, and returns the
/// area below.
pub fn titled<'a>(
    area: &Area<'a>,
    title: &str,
    legend: &[(String, RGBColor)],
) -> Result<Area<'a>, Fault> {
    let (line, rest) = area.split_vertically(px(TITLE));
    let middle = px(TITLE) as i32 / 2 - px(4) as i32;
    let (name, small) = (text(16.0, HONEY), text(13.0, MIST));
    line.draw_text(title, &name, (px(LABELS.0) as i32, middle)).map_err(failed)?;
    let mut right = (line.dim_in_pixel().0 - px(MARGIN)) as i32;
    for (label, colour) in legend.iter().rev() {
        let (width, height) = line.estimate_text_size(label, &small).map_err(failed)?;
        right -= width as i32;
        line.draw_text(label, &small, (right, middle + px(2) as i32)).map_err(failed)?;
        let key = middle + px(2) as i32 + height as i32 / 2;
        let ends = vec![(right - px(24) as i32, key), (right - px(8) as i32, key)];
        line.draw(&PathElement::new(ends, colour.stroke_width(px(2)))).map_err(failed)?;
        right -= px(40) as i32;
    }
    Ok(rest)
}

/// Returns a plot with labelled axes. Seconds and pixels stand in its title or at its numbers.
pub fn plot<'a, 'b>(
    area: &'a Area<'b>,
    (x, y): (Range<f64>, Range<f64>),
    (x_unit, y_unit): (&str, &str),
    (columns, rows): (usize, usize),
) -> Result<Plot<'a, 'b>, Fault> {
    let mut plot = ChartBuilder::on(area)
        .margin_right(px(MARGIN))
        .x_label_area_size(px(LABELS.1))
        .y_label_area_size(px(LABELS.0))
        .build_cartesian_2d(x, y)
        .map_err(failed)?;
    plot.configure_mesh()
        .axis_style(rgb(MAUVE).stroke_width(px(1)))
        .bold_line_style(rgb(PLUM).stroke_width(px(1)))
        .light_line_style(rgb(NIGHT).stroke_width(px(1)))
        .label_style(text(13.0, MIST))
        .y_desc(y_unit)
        .x_labels(columns)
        .y_labels(rows)
        .x_label_formatter(&|value| format!("{}{x_unit}", short(*value)))
        .y_label_formatter(&|value| short(*value))
        .draw()
        .map_err(failed)?;
    Ok(plot)
}

/// Returns a number as short as an axis needs it; small numbers with a decimal, and never -0.
fn short(value: f64) -> String {
    let decimals = usize::from(value.abs() < 20.0 && value != value.round());
    let text = format!("{value:.decimals$}");
    match text.as_str() {
        "-0" | "-0.0" | "0.0" => "0".to_owned(),
        _ => text,
    }
}

#[cfg(test)]
mod tests {
    use super::short;

    #[test]
    fn nothing_has_no_sign() {
        let texts = [-0.04, -0.0, 0.0, -1e-9, 0.04, -0.5, 19.94, 20.4].map(short);
        assert_eq!(texts, ["0", "0", "0", "0", "0", "-0.5", "19.9", "20"]);
    }
}
