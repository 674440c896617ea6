//! The camera of a 2D game.
//!
//! A [`Camera`] takes time and a subject each frame and answers with a [`View`]: a plain value that
//! says where everything is. Which tiles are in view, where a sprite is drawn, what matrix the
//! graphics card wants, where the finished picture lands in the window: all of it is asked of the
//! `View`.
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
//!         let _where = row.screen_position();
//!     }
//!     let _sprite = view.place_followed(courier);
//!     let _window = view.placement();
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
//! | window | [`WindowPoint`], [`WindowSize`] | physical pixels | top left, `y` down |
//!
//! World points may be given as any type that is [`IntoWorld`], times as any that is
//! [`IntoSeconds`].
//!
//! # The stages
//!
//! Each stage is an ordinary struct, usable alone by a game that wants just that one:
//!
//! | question | answered by |
//! |---|---|
//! | how large things appear | [`Lens`], [`Zoom`] |
//! | where to look | [`Follow`], [`Deadzone`], [`LookAhead`]; in this place [`Rooms`], [`Zone`], [`Lure`], [`Rail`], [`Scroll`]; with several [`Party`] |
//! | how to get there | [`Smoothing`], [`Ease`] |
//! | where the view may be | [`Bounds`], [`Leash`], [`Ratchet`] |
//! | what an impact does | [`Shake`], [`Cue`] |
//! | which pixels | [`Snap`], [`Fit`] |
//!
//! [`Camera`] runs them in order. [`Cameras`] holds several, and takes the picture from one to the
//! next.
//!
//! # What a view is asked
//!
//! * Points, lengths and rectangles between the spaces: [`View::screen`], [`View::world`],
//!   [`View::world_at`], and matrices: [`View::clip_matrix`].
//! * Where to draw: [`View::place`], [`View::place_followed`], [`View::placement`]; and doing it on the
//!   CPU: [`present()`].
//! * What is in view: [`View::tiles`] of a [`Grid`], [`View::sees`] for a sprite, [`View::sight`] with
//!   [`Boxes`] or a [`SpriteGrid`] for many, [`View::copies`] of a picture that repeats,
//!   [`View::part_of`] a large one; and what soon will be: [`Chunks`].
//! * Layers at their own rates: [`View::layer`] is another view.
//!
//! # Features
//!
//! The crate is `no_std` with `alloc`, and does no input or output.
//!
//! * `serde`: settings that read and write themselves in the form of a tuning file.
//! * `mint`: world points given as `mint` types.

#![no_std]
#![warn(missing_docs)]

extern crate alloc;
#[cfg(test)]
extern crate std;

mod bounds;
mod boxes;
mod camera;
mod cameras;
mod chunks;
mod convert;
mod copies;
mod course;
mod cue;
mod deadzone;
mod ease;
mod error;
mod fit;
mod follow;
mod glide;
mod grid;
mod hands;
mod in_window;
mod lattice;
mod layer;
mod leash;
mod lens;
mod look_ahead;
mod lure;
mod maths;
mod matrix;
mod motion;
mod origin;
mod overlay;
mod party;
mod per_axis;
mod picture_part;
mod present;
mod rail;
mod ratchet;
mod rect;
mod rooms;
mod screen;
mod scroll;
mod settings;
mod shake;
mod shaker;
mod sight;
mod smoothing;
mod snap;
mod sprite_grid;
mod subject;
mod tiles;
mod view;
mod window;
mod zone;
mod zoom;

pub use glam;

pub use bounds::{Bounds, SmallWorld};
pub use boxes::Boxes;
pub use camera::{Camera, CameraState};
pub use cameras::Cameras;
pub use chunks::{Chunk, ChunkChange, Chunks};
pub use convert::{IntoSeconds, IntoWorld};
pub use copies::{Copies, PictureCopy};
pub use cue::{Cue, CueCall, UnknownCue, ZoomNudge};
pub use deadzone::Deadzone;
pub use ease::Ease;
pub use error::{SettingsError, Value};
pub use fit::{Fit, MOST_REVEALED, Placement};
pub use follow::{Airborne, Axes, Follow};
pub use grid::{Grid, GridEdge, Overhang};
pub use hands::edge_push;
pub use layer::{Layer, LayerShake};
pub use leash::Leash;
pub use lens::Lens;
pub use look_ahead::LookAhead;
pub use lure::Lure;
pub use origin::Origin;
pub use overlay::{Mark, MarkKind, Overlay};
pub use party::Party;
pub use per_axis::PerAxis;
pub use picture_part::PicturePart;
pub use present::{Blending, PRESENT_WGSL, Pixels, PixelsMut, present, present_over};
pub use rail::Rail;
pub use ratchet::{Barrier, Ratchet};
pub use rect::{Rect, ScreenRect};
pub use rooms::Rooms;
pub use screen::{Screen, YAxis};
pub use scroll::Scroll;
pub use settings::Settings;
pub use shake::{Shake, ShakeMotion, ShakeOffset};
pub use shaker::{ShakeLimit, ShakeMix, Shaking};
pub use sight::Sight;
pub use smoothing::Smoothing;
pub use snap::Snap;
pub use sprite_grid::SpriteGrid;
pub use subject::Subject;
pub use tiles::{Tile, TileRow, Tiles};
pub use view::View;
pub use window::{WindowPoint, WindowSize};
pub use zone::Zone;
pub use zoom::Zoom;
