//! Arguments that select a view: a moment of a ride, or a view of its own.

use clap::Args;
use velvet_pan::glam::DVec2;
use velvet_pan::{Lens, Screen, View};
use velvet_pan_takes::{Fault, Ride, Take};

/// The view of a take that is meant.
#[derive(Args, Debug)]
pub struct ViewArgs {
    /// The moment of the ride at this time, in seconds
    #[arg(long, value_name = "SECONDS", conflicts_with = "centre", allow_negative_numbers = true)]
    at: Option<f64>,

    /// A view with this world point in its middle, instead of the ride's
    #[arg(long, value_name = "X,Y", value_parser = point, allow_hyphen_values = true)]
    centre: Option<DVec2>,

    /// The zoom of that view
    #[arg(
        long,
        value_name = "ZOOM",
        requires = "centre",
        default_value_t = 1.0,
        allow_negative_numbers = true
    )]
    zoom: f64,

    /// The rotation of that view, in radians, clockwise
    #[arg(
        long,
        value_name = "RADIANS",
        requires = "centre",
        default_value_t = 0.0,
        allow_negative_numbers = true
    )]
    rotate: f64,
}

/// Parses a point such as 2300,560.
pub fn point(text: &str) -> Result<DVec2, String> {
    let sides = text
        .split_once(',')
        .and_then(|(x, y)| Some(DVec2::new(x.trim().parse().ok()?, y.trim().parse().ok()?)));
    sides.filter(|point| point.is_finite()).ok_or("expected X,Y, such as 2300,560".to_owned())
}

impl ViewArgs {
    /// Returns the selected view, or `None` if no argument selects one.
    pub fn view(&self, take: &Take) -> Result<Option<View>, Fault> {
        if let Some(centre) = self.centre {
            return self.view_at(centre, take).map(Some);
        }
        let Some(at) = self.at else { return Ok(None) };
        if !(0.0..=take.seconds).contains(&at) {
            let seconds = (take.seconds * 1000.0).floor() / 1000.0;
            let what = format!("--at {at}: expected a time of the ride, 0 to {seconds} s");
            return Err(Fault::new(what));
        }
        let row = take.row_at(at) as usize;
        Ok(Ride::new(take)?.nth(row).map(|moment| moment.view))
    }

    fn view_at(&self, centre: DVec2, take: &Take) -> Result<View, Fault> {
        if !(1e-6..=1e6).contains(&self.zoom) {
            return Err(Fault::new(format!("--zoom {}: expected 0.000001 to 1000000", self.zoom)));
        }
        if !self.rotate.is_finite() {
            return Err(Fault::new(format!("--rotate {}: expected radians", self.rotate)));
        }
        let screen = &take.settings.screen;
        let size = screen.fit.screen_size(screen.size, take.window);
        let lens = Lens::new(&Screen { size, ..*screen });
        let lens = lens.with_zoom(self.zoom).with_rotation(self.rotate);
        let view = View::new(lens, centre, screen.snap);
        Ok(view.with_fit(screen.fit, screen.size).with_window(take.window))
    }
}
