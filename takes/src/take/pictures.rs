//! The pictures with which tools draw a take.

use std::collections::BTreeMap;
use std::path::PathBuf;

use toml_edit::{Array, Item, Table, Value, value};

use crate::text::fault::Fault;
use crate::text::files::beside;
use crate::text::keys::Keys;
use crate::text::node::Node;

/// The pictures of a take. What has none is drawn plainly: outlined blocks, a grid, a box with its direction.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Pictures {
    /// The art of the demo, with this name, for everything. Only the demo's takes use it.
    pub art: Option<String>,
    /// The tiles of the map.
    pub tiles: Option<TilePictures>,
    /// The whole level as one picture, behind the tiles.
    pub level: Option<LevelPicture>,
    /// The subjects, by name.
    pub subjects: BTreeMap<String, SubjectPicture>,
    /// The layers, by name.
    pub layers: BTreeMap<String, PictureFile>,
}

/// A PNG file that a take names.
#[derive(Clone, Debug)]
pub struct PictureFile {
    /// The file, beside the take.
    pub path: PathBuf,
    /// Where the take names it.
    place: Fault,
}

/// Tiles of one size in one picture, row by row from the top left. Tile number 1 is the first; with `blank = -1` in the
/// map, tile 0 is.
#[derive(Clone, Debug, PartialEq)]
pub struct TilePictures {
    /// The picture.
    pub file: PictureFile,
    /// The size of a tile in its pixels.
    pub size: [u32; 2],
}

/// A level that is one picture.
#[derive(Clone, Debug, PartialEq)]
pub struct LevelPicture {
    /// The picture.
    pub file: PictureFile,
    /// The world point at its top left corner. Default the world's origin.
    pub at: [f64; 2],
    /// The size of its pixels in world units. Default 1.
    pub pixel: f64,
}

/// The frames of a subject side by side in one picture, looking to the right.
#[derive(Clone, Debug, PartialEq)]
pub struct SubjectPicture {
    /// The picture.
    pub file: PictureFile,
    /// The number of frames. The first one is shown while the subject stands. Default 1.
    pub frames: u32,
    /// The frames shown a second while it moves. Default 8.
    pub fps: f64,
    /// The pixel of a frame that is at the subject's position. Default its middle.
    pub origin: Option<[f64; 2]>,
}

/// The name of the demo's own art.
pub const DEMO_ART: &str = "terraces";

/// Where it is named does not matter.
impl PartialEq for PictureFile {
    fn eq(&self, other: &Self) -> bool {
        self.path == other.path
    }
}

impl PictureFile {
    /// Returns a fault of the file, at the line of the take that names it.
    pub fn fault(&self, what: &str) -> Fault {
        let what = format!("{}: {what}", self.path.display());
        Fault { what, ..self.place.clone() }
    }

    /// Reads a table with the key `file` alone.
    fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let file = Self::of(&mut keys);
        keys.finish();
        file
    }

    /// Reads the key `file`, the name of a file.
    fn of(keys: &mut Keys<'_, '_, '_>) -> Self {
        let key = "file";
        let path = keys.path(key);
        let span = keys.entry(key).and_then(|entry| entry.span.clone());
        let name = keys.required(key, "the name of a PNG file", |node| Ok(node.text()?.to_owned()));
        let document = keys.faults.document;
        let place = document.fault_at(&path, &span, "");
        Self { path: beside(document.path(), &name), place }
    }

    fn value(&self) -> Value {
        let absolute = std::path::absolute(&self.path).unwrap_or_else(|_| self.path.clone());
        absolute.to_string_lossy().as_ref().into()
    }
}

impl Pictures {
    /// Returns whether the demo's own art draws everything.
    #[must_use]
    pub fn are_of_demo(&self) -> bool {
        self.art.as_deref() == Some(DEMO_ART)
    }

    /// Returns the art of the demo.
    #[must_use]
    pub fn of_demo() -> Self {
        Self { art: Some(DEMO_ART.to_owned()), ..Self::default() }
    }

    /// Reads the table `pictures`.
    pub(crate) fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let art = |node: &Node| match node.text()? {
            DEMO_ART => Ok(DEMO_ART.to_owned()),
            _ => Err(node.wrong("\"terraces\", the art of the demo")),
        };
        let pictures = Self {
            art: keys.read("art", art),
            tiles: keys.table("tiles", TilePictures::read),
            level: keys.table("level", LevelPicture::read),
            subjects: keys.named("subjects", SubjectPicture::read).into_iter().collect(),
            layers: keys.named("layers", PictureFile::read).into_iter().collect(),
        };
        keys.finish();
        pictures
    }

    /// Returns the table that [`read`](Self::read) reads, or `None` if there are no pictures.
    pub(crate) fn table(&self) -> Option<Table> {
        let mut table = Table::new();
        if let Some(art) = &self.art {
            table.insert("art", value(art));
        }
        if let Some(TilePictures { file, size }) = &self.tiles {
            let size = Array::from_iter(size.map(i64::from));
            table.insert("tiles", inline([("file", file.value()), ("size", size.into())]));
        }
        if let Some(LevelPicture { file, at, pixel }) = &self.level {
            let at = Array::from_iter(*at);
            let keys = [("file", file.value()), ("at", at.into()), ("pixel", (*pixel).into())];
            table.insert("level", inline(keys));
        }
        let subjects = self.subjects.iter().map(|(name, one)| (name, one.item()));
        table.insert("subjects", Item::Table(subjects.collect()));
        let layers =
            self.layers.iter().map(|(name, file)| (name, inline([("file", file.value())])));
        table.insert("layers", Item::Table(layers.collect()));
        (*self != Self::default()).then_some(table)
    }
}

fn inline<const N: usize>(keys: [(&str, Value); N]) -> Item {
    Item::Value(Value::InlineTable(keys.into_iter().collect()))
}

impl TilePictures {
    fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let side = |node: &Node| node.whole_in(1..=4096, "a whole number of pixels, 1 to 4096");
        let file = PictureFile::of(&mut keys);
        let size = |node: &Node| node.array("the width and the height of a tile", side);
        let size = keys.required("size", "the size of a tile in pixels, [width, height]", size);
        keys.finish();
        // After a fault.
        Self { file, size: size.map(|side| side.max(1)) }
    }
}

impl LevelPicture {
    fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let pixel = |node: &Node| node.number_in(1e-6..=1e6, "world units, 0.000001 to 1000000");
        let coordinate = |node: &Node| node.number_in(-1e12..=1e12, "a world coordinate");
        let at = |node: &Node| node.array("a world point, [x, y]", coordinate);
        let level = Self {
            file: PictureFile::of(&mut keys),
            at: keys.read("at", at).unwrap_or_default(),
            pixel: keys.read("pixel", pixel).unwrap_or(1.0),
        };
        keys.finish();
        level
    }
}

impl SubjectPicture {
    fn read(mut keys: Keys<'_, '_, '_>) -> Self {
        let frames = |node: &Node| node.whole_in(1..=1000, "a number of frames, 1 to 1000");
        let fps = |node: &Node| node.number_in(0.0..=1000.0, "frames a second, 0 to 1000");
        let side = |node: &Node| node.number_in(-1e4..=1e4, "a pixel of a frame");
        let subject = Self {
            file: PictureFile::of(&mut keys),
            frames: keys.read("frames", frames).unwrap_or(1),
            fps: keys.read("fps", fps).unwrap_or(8.0),
            origin: keys.read("origin", |node| node.array("a pixel, [x, y]", side)),
        };
        keys.finish();
        subject
    }

    fn item(&self) -> Item {
        let Self { file, frames, fps, origin } = self;
        let mut table = toml_edit::InlineTable::new();
        table.insert("file", file.value());
        table.insert("frames", i64::from(*frames).into());
        table.insert("fps", (*fps).into());
        if let Some(origin) = origin {
            table.insert("origin", Array::from_iter(*origin).into());
        }
        Item::Value(Value::InlineTable(table))
    }
}
