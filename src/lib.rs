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
//! # Which call for what
//!
//! | a frame | call |
//! |---|---|
//! | make a camera, check its settings | [`Settings`], [`Camera::new`], [`Settings::faults`] |
//! | tell it the window's size | [`Camera::resize`] |
//! | follow one subject, several, none | [`Camera::follow`], [`Camera::follow_all`], [`Camera::advance`] |
//! | say more of a subject: velocity, ground, jump, carrier | [`Subject`] |
//! | draw between two fixed steps | [`View::between`], [`Subject::between`] |
//!
//! | where the camera looks | settings | without a camera |
//! |---|---|---|
//! | at a subject | [`Follow`], [`Deadzone`], [`LookAhead`], [`Airborne`] | |
//! | at several | [`Party`] | |
//! | by place | [`Rooms`], [`Zone`], [`Lure`], [`Rail`], [`Scroll`] | [`Rooms::at`] |
//! | how it gets there | [`Smoothing`] | [`Smoothing::lag_at`], [`Ease::at`] |
//! | where it may be | [`Bounds`], [`Outline`], [`Leash`], [`Ratchet`] | [`Bounds::centre_range`], [`Leash::clamp`], [`Barrier::stop`] |
//! | how large things appear | [`Screen`], [`Zoom`], [`Rotation`], [`Fit`], [`Snap`] | [`Lens`] |
//! | what an impact does | [`Cue`], [`Shake`], [`ShakeSettings`] | [`Shake::envelope`] |
//!
//! | while the game runs | call |
//! |---|---|
//! | start anew, or reach the goal in a given time | [`Camera::cut`], [`Camera::glide`], [`Camera::switch_subject`] |
//! | zoom, rotate | [`Camera::zoom_to`], [`Camera::zoom_by`], [`Camera::rotate_to`] |
//! | move by hand | [`Camera::grab`], [`Camera::drag_to`], [`Camera::pan`], [`edge_push`], [`Camera::release`] |
//! | show a place, travel along a curve | [`Camera::show`], [`Camera::aim_at`], [`Camera::travel`] |
//! | an impact | [`Camera::cue`], [`Camera::shake`] |
//! | other bounds, other settings | [`Camera::set_bounds`], [`Camera::set_settings`] |
//! | a world that loops | [`Camera::translate`] |
//! | a cutscene | [`Itinerary`], [`Command`] |
//! | several cameras, with glides between them | [`Cameras`] |
//! | save, roll back, replay | [`Camera::state`], [`Camera::restore`] |
//! | see what it does | [`Camera::overlay`], [`Camera::decision`], [`Camera::lag`] |
//!
//! | drawing a [`View`] | call |
//! |---|---|
//! | a sprite of the world on the canvas | [`View::canvas_position`] |
//! | the canvas in the window, and the player over it | [`View::placement`], [`View::followed_placement`] |
//! | presenting on the CPU | [`present()`], [`present_over()`] |
//! | matrices for a graphics card | [`View::relative_to_clip_matrix`], [`View::world_to_relative`] |
//! | positions in other spaces, the pointer | [`View::world_to_screen`], [`View::screen_to_world`], [`View::window_to_world`] |
//! | the visible tiles | [`View::tiles`] of a [`Grid`] |
//! | the visible sprites | [`View::sees`] for one, [`View::sight`] with [`Boxes`] or a [`SpriteGrid`] for many |
//! | what will soon be visible | [`Chunks`] |
//! | layers at their own rates | [`View::layer`], [`View::copies`], [`View::visible_part`] |
//!
//! # Features
//!
//! The crate is `no_std` with `alloc`, and has no input or output.
//!
//! * `serde`: settings, states, commands and itineraries can be read and written.
//! * `mint`: points and vectors of the crate `mint`, as arguments and as results.
//! * `bytemuck`: matrices and vectors are plain data, for upload to a graphics card.
//!
//! Vectors of another version of `glam` go in as arrays, without any feature, and come out with `.to_array()`.

#![no_std]
#![warn(missing_docs)]
// Says which feature an item needs, where the documentation is built with a nightly compiler.
#![cfg_attr(docsrs, feature(doc_cfg))]

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
pub use camera::calls::{CameraCall, CameraCalls, Standing};
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
pub use limits::bounds::{Bounds, IntoBounds};
pub use limits::decision::{Decider, Decision};
pub use limits::leash::Leash;
pub use limits::outline::{Outline, OutlineName};
pub use limits::ratchet::{Barrier, Ratchet};
pub use limits::sides::{Side, Sides};
pub use limits::small_world::SmallWorld;
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
