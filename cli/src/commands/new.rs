//! `new`: a tuning and a take to start with.

use std::path::PathBuf;

use clap::Args;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Fault, Files, Map, MapForm, Path};

use crate::arguments::view_args::point;
use crate::output::{make_folder, write_text};
use crate::starter::{CAMERA, LIMITS, RIDE, path_csv};

/// Create a folder with a tuning, a take and limits to start with, from your map and path if you have them.
#[derive(Args, Debug)]
#[command(after_help = "\
Files that are there already are left as they are, and the command says so.

Examples:
  velvet-pan new camera
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

    /// A CSV file with the player's path, with the columns t, x and y
    #[arg(long, value_name = "FILE")]
    path: Option<PathBuf>,
}

fn tile_size(text: &str) -> Result<DVec2, String> {
    point(text)
        .ok()
        .filter(|size| (1e-6..=1e9).contains(&size.min_element()) && size.max_element() <= 1e9)
        .ok_or("expected W,H in world units, such as 16,16".to_owned())
}

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
        write_text(Some(&path), contents)?;
        text += &format!("wrote  {}\n", path.display());
    }
    let take = args.folder.join("ride.toml");
    text += &format!("\nnext   velvet-pan compare {}\n", take.display());
    write_text(None, &text)
}

impl NewArgs {
    /// The names and the texts of the files.
    fn files(&self) -> Result<Vec<(String, String)>, Fault> {
        let (mut camera, mut ride) = (CAMERA.to_owned(), RIDE.to_owned());
        let mut files = Vec::new();
        if let (Some(map), Some(tile)) = (&self.map, self.tile) {
            let text = Files::Disk.read(map)?;
            let form = MapForm::guessed(tile.to_array(), &text);
            let grid = *Map::parse(map, &text, &form)?.grid();
            let size = DVec2::new(f64::from(grid.columns()), f64::from(grid.rows())) * tile;
            camera += &format!(
                "\n[bounds]\nrect = [0.0, 0.0, {:?}, {:?}]   # x, y, width and height of the map in world units\n",
                size.x, size.y
            );
            let [width, height] = tile.to_array();
            ride += &format!(
                "map = {{ file = \"map.csv\", tile = [{width:?}, {height:?}], blank = {} }}\n",
                form.blank
            );
            files.push(("map.csv".to_owned(), text));
        }
        let path = match &self.path {
            Some(path) => {
                let text = Files::Disk.read(path)?;
                Path::parse(path, &text)?;
                text
            }
            None => path_csv(),
        };
        ride += "\n[subjects.player]\npath = \"path.csv\"                # t,x,y and, if known, grounded and jump: see the guide to record your own\n";
        files.extend([
            ("camera.toml".to_owned(), camera),
            ("ride.toml".to_owned(), ride),
            ("ride.limits.toml".to_owned(), LIMITS.to_owned()),
            ("path.csv".to_owned(), path),
        ]);
        Ok(files)
    }
}
