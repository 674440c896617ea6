//! `new`: a tuning and a take to start with.

use std::path::PathBuf;

use clap::{Args, ValueEnum};
use velvet_pan::Rect;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Fault, Files, Map, MapForm, Path, PlayerKind, reason};

use velvet_pan_terraces::own::size_of_png;

use crate::arguments::view_args::point;
use crate::starter::{LIMITS, RIDE, camera, path};
use crate::support::output::{make_folder, write_text, write_whole};

/// Create a folder with a tuning, a take and limits to start with, from your map, pictures and path if you have them.
#[derive(Args, Debug)]
#[command(after_help = "\
Files that are there already are left as they are, and the command says so.

Examples:
  velvet-pan new camera
  velvet-pan new camera --kind top-down --map garden.csv --tile 16,16 --tiles garden.png
  velvet-pan new camera --level level1.png
  velvet-pan new camera --map level1.csv --tile 16,16 --path recorded.csv")]
pub struct NewArgs {
    /// The folder to create
    #[arg(value_name = "DIR")]
    folder: PathBuf,

    /// A CSV file of tile numbers; the world's bounds are computed from it
    #[arg(long, value_name = "FILE", requires = "tile")]
    map: Option<PathBuf>,

    /// The size of a tile in world units
    #[arg(long, value_name = "W,H", requires = "map", value_parser = tile_size)]
    tile: Option<DVec2>,

    /// A PNG file with the pictures of the map's tiles, row by row; each as large as a tile
    #[arg(long, value_name = "FILE", requires = "map")]
    tiles: Option<PathBuf>,

    /// A PNG file that shows the whole level, one world unit a pixel
    #[arg(long, value_name = "FILE")]
    level: Option<PathBuf>,

    /// How the player moves
    #[arg(long, value_enum, default_value_t = Kind::Runner)]
    kind: Kind,

    /// A CSV file with the player's path, with the columns t, x and y
    #[arg(long, value_name = "FILE")]
    path: Option<PathBuf>,
}

/// How the player moves.
#[derive(Clone, Copy, Debug, ValueEnum)]
pub enum Kind {
    /// Runs and jumps, seen from the side
    Runner,
    /// Walks in eight directions, seen from above
    TopDown,
    /// Flies in every direction
    Flyer,
}

impl From<Kind> for PlayerKind {
    fn from(kind: Kind) -> Self {
        match kind {
            Kind::Runner => Self::Runner,
            Kind::TopDown => Self::Walker,
            Kind::Flyer => Self::Flyer,
        }
    }
}

fn tile_size(text: &str) -> Result<DVec2, String> {
    point(text)
        .ok()
        .filter(|size| (1e-6..=1e9).contains(&size.min_element()) && size.max_element() <= 1e9)
        .ok_or("expected W,H in world units, such as 16,16".to_owned())
}

/// A file to write: its name and its bytes.
type NewFile = (&'static str, Vec<u8>);

/// Runs the command.
pub fn run(args: &NewArgs) -> Result<(), Fault> {
    let files = args.files()?;
    make_folder(&args.folder)?;
    let mut text = String::new();
    for (name, contents) in &files {
        let path = args.folder.join(name);
        if path.exists() {
            text += &format!("kept   {}: it was there\n", path.display());
            continue;
        }
        write_whole(&path, |out| {
            out.write_all(contents).map_err(|error| Fault::of_file(&path, reason(&error)))
        })?;
        text += &format!("wrote  {}\n", path.display());
    }
    let take = args.folder.join("ride.toml");
    text += &format!("\nnext   velvet-pan compare {}\n", take.display());
    text += &format!("       velvet-pan-workbench {} --play\n", take.display());
    write_text(None, &text)
}

impl NewArgs {
    /// All files.
    fn files(&self) -> Result<Vec<NewFile>, Fault> {
        let kind = PlayerKind::from(self.kind);
        let (mut camera, mut ride, mut files) = (camera(kind), RIDE.to_owned(), Vec::new());
        let map = self.map_files(&mut camera, &mut ride, &mut files)?;
        ride += &format!("\n[player]\nkind = \"{}\"\n", kind.name());
        self.picture_files(&mut ride, &mut files)?;
        let level = self.level_rect()?;
        if let (None, Some(level)) = (&map, &level) {
            camera += &bounds_text(level, "level");
        }
        ride += "\n[subjects.player]\npath = \"path.csv\"                # t,x,y and, if known, grounded and jump: see the guide to record your own\n";
        let path = match &self.path {
            Some(path) => {
                let text = Files::Disk.read(path)?;
                Path::parse(path, &text)?;
                text
            }
            None => path::csv(kind, map.as_ref(), level.as_ref()),
        };
        files.extend([
            ("camera.toml", camera.into_bytes()),
            ("ride.toml", ride.into_bytes()),
            ("ride.limits.toml", LIMITS.into()),
            ("path.csv", path.into_bytes()),
        ]);
        Ok(files)
    }

    /// Adds the map and the bounds that follow from it.
    fn map_files(
        &self,
        camera: &mut String,
        ride: &mut String,
        files: &mut Vec<NewFile>,
    ) -> Result<Option<Map>, Fault> {
        let (Some(map), Some(tile)) = (&self.map, self.tile) else { return Ok(None) };
        let text = Files::Disk.read(map)?;
        let form = MapForm::guessed(tile.to_array(), &text);
        let map = Map::parse(map, &text, &form)?;
        *camera += &bounds_text(&map.grid().rect(), "map");
        let [width, height] = tile.to_array();
        *ride += &format!(
            "map = {{ file = \"map.csv\", tile = [{width:?}, {height:?}], blank = {} }}\n",
            form.blank
        );
        files.push(("map.csv", text.into_bytes()));
        Ok(Some(map))
    }

    /// Returns the world that the level's picture covers.
    fn level_rect(&self) -> Result<Option<Rect>, Fault> {
        let Some(level) = &self.level else { return Ok(None) };
        let size = size_of_png(level).map_err(|what| Fault::of_file(level, what))?;
        Ok(Some(Rect { min: DVec2::ZERO, max: size.as_dvec2() }))
    }

    /// Copies the pictures.
    fn picture_files(&self, ride: &mut String, files: &mut Vec<NewFile>) -> Result<(), Fault> {
        let mut copy = |from: &PathBuf, name: &'static str| {
            let bytes = std::fs::read(from);
            let bytes = bytes.map_err(|error| Fault::of_file(from, reason(&error)))?;
            files.push((name, bytes));
            Ok::<(), Fault>(())
        };
        if self.tiles.is_some() || self.level.is_some() {
            *ride += "\n[pictures]\n";
        }
        if let (Some(tiles), Some(tile)) = (&self.tiles, self.tile) {
            copy(tiles, "tiles.png")?;
            let size = tile.round().max(DVec2::ONE).as_uvec2();
            *ride += &format!(
                "tiles = {{ file = \"tiles.png\", size = [{}, {}] }}   # the size of a tile in pixels\n",
                size.x, size.y
            );
        }
        if let Some(level) = &self.level {
            copy(level, "level.png")?;
            *ride += "level = { file = \"level.png\", at = [0.0, 0.0], pixel = 1.0 }   # world units a pixel\n";
        }
        Ok(())
    }
}

/// Returns the bounds of a tuning, as the last table.
fn bounds_text(rect: &Rect, of: &str) -> String {
    let size = rect.size();
    format!(
        "\n[bounds]\nrect = [0.0, 0.0, {:?}, {:?}]   # x, y, width and height of the {of} in world units\n",
        size.x, size.y
    )
}
