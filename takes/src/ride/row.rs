//! The table of a ride.

use std::io::{self, Write};

use serde::Serialize;
use velvet_pan::Decider;

use crate::ride::drawn::{drawn_origin, drawn_subject, true_origin};
use crate::ride::moment::{Happening, Moment};
use crate::take::take::Take;

/// One row of a ride's table: the state at `t`.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct Row {
    /// Time, in seconds.
    pub t: f64,
    /// The subject's position in world units; `None` if nothing is followed.
    pub subject_x: Option<f64>,
    /// See `subject_x`.
    pub subject_y: Option<f64>,
    /// The goal as a centre of the view, after the bounds, in world units.
    pub goal_x: f64,
    /// See `goal_x`.
    pub goal_y: f64,
    /// The view's centre without shake, in world units.
    pub x: f64,
    /// See `x`.
    pub y: f64,
    /// The zoom.
    pub zoom: f64,
    /// The rotation in radians, without shake.
    pub rotation: f64,
    /// The shake in screen pixels.
    pub shake_x: f64,
    /// See `shake_x`.
    pub shake_y: f64,
    /// The shake's part of the rotation in radians.
    pub roll: f64,
    /// The view's corner in whole screen pixels.
    pub corner_x: i64,
    /// See `corner_x`.
    pub corner_y: i64,
    /// The fraction of a screen pixel that snapping removed.
    pub residual_x: f32,
    /// See `residual_x`.
    pub residual_y: f32,
    /// The subject's position in the unsnapped view, in screen pixels.
    pub subject_screen_x: Option<f64>,
    /// See `subject_screen_x`.
    pub subject_screen_y: Option<f64>,
    /// The first visible column of tiles.
    pub first_col: Option<i64>,
    /// The last visible column of tiles.
    pub last_col: Option<i64>,
    /// The first visible row of tiles.
    pub first_row: Option<i64>,
    /// The last visible row of tiles.
    pub last_row: Option<i64>,
    /// The number of visible tiles that are not blank; `None` without a map.
    pub tiles: Option<usize>,
    /// The position of the world's origin as drawn in the window, in whole window pixels. It shows how the picture moves.
    pub picture_x: f64,
    /// See `picture_x`.
    pub picture_y: f64,
    /// The same position without snapping, in window pixels.
    pub true_picture_x: f64,
    /// See `true_picture_x`.
    pub true_picture_y: f64,
    /// The subject's position as drawn in the window, in whole window pixels.
    pub drawn_x: Option<f64>,
    /// See `drawn_x`.
    pub drawn_y: Option<f64>,
    /// 1 if something other than following moves the view: a glide, a hand, a cutscene. Otherwise 0.
    pub led: u8,
    /// The stage that decides where the view is along x, and along y.
    pub decider_x: Decider,
    /// See `decider_x`.
    pub decider_y: Decider,
    /// What happened in the frame: `teleport`, `landing` or `command`; `None` if nothing did.
    pub happening: Option<Happening>,
}

/// Writes rows as CSV. With `names`, the first line has the names of the columns.
///
/// # Errors
///
/// The rows can't be written.
///
/// ```
/// # use velvet_pan_takes::{BuiltIn, Files, Overrides, Ride, Take, write_rows};
/// # let text = "seconds = 1.0\n[subjects.courier]\nkeys = [[0.0, 0.0, 0.0]]\n";
/// # let files = [BuiltIn { name: "run.toml", text: text.into() }];
/// # let take = Take::read(Files::BuiltIn(&files), "run.toml".as_ref(), &Overrides::default())?;
/// let mut table = Vec::new();
/// write_rows(Ride::new(&take)?.map(|moment| moment.row(&take)), true, &mut table)?;
/// assert!(table.starts_with(b"t,subject_x,subject_y,"));
/// assert_eq!(table.iter().filter(|byte| **byte == b'\n').count(), 62); // a header and 61 rows
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn write_rows(
    rows: impl IntoIterator<Item = Row>,
    names: bool,
    out: &mut dyn Write,
) -> io::Result<()> {
    // Keeps the system's error, by which a closed pipe is recognised.
    let failed = |error: csv::Error| match error.into_kind() {
        csv::ErrorKind::Io(error) => error,
        other => io::Error::other(format!("{other:?}")),
    };
    let mut writer = csv::WriterBuilder::new().has_headers(names).from_writer(out);
    for row in rows {
        writer.serialize(row).map_err(failed)?;
    }
    writer.flush()
}

impl Moment {
    /// Returns the moment as a row of the ride's table.
    pub fn row(&self, take: &Take) -> Row {
        let (steady, shake) = (self.view.steady(), self.view.shake());
        let centre = steady.centre();
        let on_screen = self.subject.map(|subject| steady.world_to_screen_f64(subject));
        let (picture, truly) = (drawn_origin(&self.view), true_origin(&self.view));
        let drawn = self.subject.map(|subject| drawn_subject(&self.view, subject));
        let tiles = take.map.as_ref().map(|map| (map, self.view.tiles(map.grid())));
        let seen = tiles.filter(|(_, tiles)| !tiles.is_empty()).map(|(_, tiles)| tiles);
        Row {
            t: self.t,
            subject_x: self.subject.map(|subject| subject.x),
            subject_y: self.subject.map(|subject| subject.y),
            goal_x: self.goal.x,
            goal_y: self.goal.y,
            x: centre.x,
            y: centre.y,
            zoom: steady.lens().zoom(),
            rotation: steady.lens().rotation(),
            shake_x: shake.pixels.x,
            shake_y: shake.pixels.y,
            roll: shake.roll,
            corner_x: self.view.corner().x,
            corner_y: self.view.corner().y,
            residual_x: self.view.residual().x,
            residual_y: self.view.residual().y,
            subject_screen_x: on_screen.map(|place| place.x),
            subject_screen_y: on_screen.map(|place| place.y),
            first_col: seen.map(|tiles| tiles.columns().start),
            last_col: seen.map(|tiles| tiles.columns().end - 1),
            first_row: seen.map(|tiles| tiles.row_numbers().start),
            last_row: seen.map(|tiles| tiles.row_numbers().end - 1),
            tiles: tiles.map(|(map, tiles)| map.filled(&tiles)),
            picture_x: picture.x,
            picture_y: picture.y,
            true_picture_x: truly.x,
            true_picture_y: truly.y,
            drawn_x: drawn.map(|place| place.x),
            drawn_y: drawn.map(|place| place.y),
            led: u8::from(self.led),
            decider_x: self.decision.x.by,
            decider_y: self.decision.y.by,
            happening: self.happening,
        }
    }
}
