//! The camera of a 2D game.
//!
//! In each frame a [`Camera`] takes the elapsed time and a subject and returns a [`View`], a plain value. The `View`
//! returns everything else: the visible tiles, the position of a sprite on the canvas, the matrix for the graphics card,
//! and the position of the finished picture in the window.
//!
//! ```
//! use velvet_pan::{Bounds, Camera, Grid, Rect, Settings, Smoothing};
//!
//! let mut settings = Settings::default(); // a screen of 320 x 180 pixels
//! settings.follow.smoothing = Smoothing::HalfLife(0.12).into();
//! settings.bounds = Some(Bounds::new(Rect::from_corner_size([0, 0], [3840, 960])));
//!
//! let mut camera = Camera::new(settings)?; // checked here, once
//! camera.resize((1280, 720));
//!
//! let terraces = Grid::new(240, 60, [16, 16]);
//! let mut courier = [200.0, 300.0];
//! for _frame in 0..60 {
//!     courier[0] += 1.5;
//!     let view = camera.follow(1.0 / 60.0, courier);
//!     for row in view.tiles(&terraces).rows() {
//!         let _tiles_of_this_row = row.indices(); // &map[row.indices()]
//!         let _where = row.canvas_position();
//!     }
//!     let _canvas = view.placement(); // where the finished canvas goes in the window
//!     let _player = view.followed_placement(courier); // and the player's own picture, over it
//! }
//! # Ok::<(), velvet_pan::SettingsError>(())
//! ```
//!
//! # The spaces
//!
//! | space | type | unit | origin |
//! |---|---|---|---|
//! | world | [`DVec2`](glam::DVec2), [`Rect`] | the game's own | the game's own; `y` down, or up by [`YAxis`] |
//! | screen | [`Vec2`](glam::Vec2), [`ScreenRect`] | game pixels | top left, `y` down |
//! | canvas | [`Vec2`](glam::Vec2), [`CanvasRect`] | whole game pixels, which are drawn | top left, `y` down |
//! | window | [`WindowPoint`], [`WindowSize`] | physical pixels | top left, `y` down |
//!
//! World points may have any type that implements [`IntoWorld`], times any type that implements [`IntoSeconds`].
//!
//! # The stages
//!
//! The settings of each stage are a struct. Some stages also work without a camera: [`Lens`], [`Leash::clamp`],
//! [`Bounds::centre_range`], [`Barrier::stop`], [`Rooms::at`], [`Ease::at`], [`Shake::envelope`].
//!
//! | question | types |
//! |---|---|
//! | how large things appear | [`Lens`], [`Zoom`] |
//! | where to look | [`Follow`], [`Deadzone`], [`LookAhead`]; in this position [`Rooms`], [`Zone`], [`Lure`], [`Rail`], [`Scroll`]; with several [`Party`] |
//! | how to get there | [`Smoothing`], [`Ease`] |
//! | where the view may be | [`Bounds`], [`Outline`], [`Leash`], [`Ratchet`] |
//! | what an impact does | [`Shake`], [`Cue`] |
//! | which pixels | [`Snap`], [`Fit`] |
//!
//! [`Camera`] runs them in order. [`Cameras`] holds several cameras and glides between them.
//!
//! # What a view returns
//!
//! * Points, lengths and rectangles between the spaces: [`View::world_to_screen`], [`View::screen_to_world`],
//!   [`View::window_to_world`], and matrices: [`View::relative_to_clip_matrix`].
//! * Where to draw: [`View::canvas_position`], [`View::placement`], and [`View::followed_placement`] for the player. To
//!   draw canvases into a window on the CPU: [`present()`] and [`present_over()`].
//! * What is visible: [`View::tiles`] of a [`Grid`], [`View::sees`] for a sprite, [`View::sight`] with [`Boxes`] or a
//!   [`SpriteGrid`] for many sprites, [`View::copies`] of a picture that repeats, [`View::visible_part`] of a large one.
//!   What will soon be visible: [`Chunks`].
//! * Layers at their own rates: [`View::layer`] returns another view.
//!
//! # Features
//!
//! The crate is `no_std` with `alloc`, and has no input or output.
//!
//! * `serde`: settings can be read from and written to a tuning file.
//! * `mint`: points and vectors of the crate `mint`, as arguments and as results.
//! * `bytemuck`: matrices and vectors are plain data, for upload to a graphics card.
//!
//! Vectors of another version of `glam` go in as arrays, without any feature, and come out with `.to_array()`.

#![no_std]
#![warn(missing_docs)]

/// The README, whose example is run as a test.
#[cfg(doctest)]
#[doc = include_str!("../README.md")]
struct ReadMe;

extern crate alloc;

// In the order of a frame: a file uses its own folder and those above it in this list.
mod base;
mod keys;
mod curves;
mod lens;
mod goal;
mod motion;
mod limits;
mod shake;
mod view;
mod settings;
mod cull;
mod present;
mod camera;

pub use glam;

pub use base::convert::{IntoSeconds, IntoWorld};
pub use base::pixel_rect::{CanvasRect, ScreenRect};
pub use base::rect::Rect;
pub use base::window::{WindowPoint, WindowSize};
pub use camera::cameras::{Cameras, CamerasState};
pub use camera::command::Command;
pub use camera::hands::edge_push;
pub use camera::itinerary::{
    Entry, Itinerary, ItineraryError, ItineraryRun, ItineraryTarget, Notice, Passage,
};
pub use camera::travel::{Travel, TravelError, Waypoint};
pub use camera::{Camera, CameraState, StateError};
pub use cull::boxes::Boxes;
pub use cull::chunks::{Chunk, ChunkChange, Chunks};
pub use cull::copies::{Copies, PictureCopy};
pub use cull::grid::{Grid, GridEdge, Overhang};
pub use cull::origin::Origin;
pub use cull::picture_part::PicturePart;
pub use cull::sight::Sight;
pub use cull::sprite_grid::SpriteGrid;
pub use cull::tiles::{Tile, TileRow, Tiles};
pub use curves::ease::Ease;
pub use curves::smoothing::Smoothing;
pub use goal::deadzone::Deadzone;
pub use goal::look_ahead::LookAhead;
pub use goal::lure::Lure;
pub use goal::party::Party;
pub use goal::rail::{Rail, RailCurve};
pub use goal::rooms::{Outside, Rooms};
pub use goal::scroll::Scroll;
pub use goal::subject::Subject;
pub use keys::error::SettingsError;
pub use keys::per_axis::PerAxis;
pub use keys::setting::{Choice, ChoiceForm, Setting, SettingKind};
pub use keys::value::{Chosen, Value};
pub use lens::fit::{Fit, MAX_REVEALED, Placement};
pub use lens::lens::Lens;
pub use lens::rotation::Rotation;
pub use lens::screen::{Screen, Snap, YAxis};
pub use lens::zoom::{Zoom, ZoomRange};
pub use limits::bounds::{Bounds, IntoBounds, SmallWorld};
pub use limits::decision::{Decider, Decision};
pub use limits::leash::Leash;
pub use limits::outline::{Outline, OutlineName};
pub use limits::ratchet::{Barrier, Ratchet};
pub use limits::sides::{Side, Sides};
pub use present::canvas::{Canvas, CanvasMut, Pixel};
pub use present::mixing::Blending;
pub use present::present::{PRESENT_WGSL, present, present_over};
pub use settings::follow::{Airborne, Axes, Follow};
pub use settings::hands::{HandReturn, Hands};
pub use settings::settings::Settings;
pub use settings::table::{SettingsTable, TableForm};
pub use settings::zone::Zone;
pub use shake::active_shakes::{ShakeLimit, ShakeMix, ShakeSettings};
pub use shake::cue::{Cue, CueCall, UnknownCue, ZoomNudge};
pub use shake::shake::{Shake, ShakeMotion, ShakeOffset};
pub use view::layer::{Layer, LayerShake};
pub use view::overlay::{Mark, MarkKind, Overlay};
pub use view::view::View;

#[cfg(test)]
extern crate std;
