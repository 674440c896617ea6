//! Writes a take into a folder from which it can be opened again.

use std::fmt::Write;
use std::path::Path as FilePath;

use serde::Serialize;
use velvet_pan::Settings;

use crate::cast::{Actor, TakeCamera};
use crate::event::Event;
use crate::fault::Fault;
use crate::files::reason;
use crate::map::Map;
use crate::path::Path;
use crate::take::Take;

/// The name of the take's own file in its folder.
const TAKE: &str = "take.toml";
const TUNING: &str = "tuning.toml";
const MAP: &str = "map.csv";

/// The file of a take. Single values come before tables, as TOML requires.
#[derive(Serialize)]
struct Written<'a> {
    tuning: &'a str,
    seconds: f64,
    fps: f64,
    window: [u32; 2],
    watch: &'a [String],
    #[serde(skip_serializing_if = "Option::is_none")]
    map: Option<WrittenMap>,
    subjects: toml::map::Map<String, toml::Value>,
    cameras: toml::map::Map<String, toml::Value>,
    timeline: &'a [Event],
}

#[derive(Serialize)]
struct WrittenMap {
    file: &'static str,
    tile: [f64; 2],
    origin: [f64; 2],
}

#[derive(Serialize)]
struct WrittenSubject {
    path: String,
    weight: f64,
    rank: i32,
    margin: f64,
}

#[derive(Serialize)]
struct WrittenCamera<'a> {
    watch: &'a [String],
    #[serde(skip_serializing_if = "Option::is_none")]
    aim: Option<[f64; 2]>,
    tuning: &'a Settings,
}

impl Take {
    /// Writes the take into a new folder: `take.toml`, its tuning, its map, and a path for each subject. Reading
    /// `take.toml` gives the same take. The folder appears whole or not at all.
    ///
    /// ```no_run
    /// # use velvet_pan_takes::Take;
    /// let take = Take::open("demo/terraces.toml")?;
    /// take.save("tests/crossing")?;
    /// assert_eq!(Take::open("tests/crossing/take.toml")?.seconds, take.seconds);
    /// # Ok::<(), velvet_pan_takes::Fault>(())
    /// ```
    ///
    /// # Errors
    ///
    /// Something with this name exists already, or the folder can't be written.
    pub fn save(&self, folder: impl AsRef<FilePath>) -> Result<(), Fault> {
        let folder = folder.as_ref();
        let fault = |what: String| Fault::of_file(folder, format!("not written: {what}"));
        if folder.exists() {
            return Err(fault("it exists already: expected a new folder".to_owned()));
        }
        let files = self.files().map_err(fault)?;
        let parent = folder.parent().filter(|parent| !parent.as_os_str().is_empty());
        let parent = parent.unwrap_or(FilePath::new("."));
        let name = folder.file_name().ok_or_else(|| fault("expected a name".to_owned()))?;
        let new = parent.join(format!(".{}.new", name.to_string_lossy()));
        let write = || {
            std::fs::create_dir(&new)?;
            for (name, text) in &files {
                std::fs::write(new.join(name), text)?;
            }
            std::fs::rename(&new, folder)
        };
        write().map_err(|error| {
            // An incomplete folder is useless.
            let _ = std::fs::remove_dir_all(&new);
            fault(reason(&error))
        })
    }

    /// The names and texts of its files.
    fn files(&self) -> Result<Vec<(String, String)>, String> {
        let written = |error: toml::ser::Error| error.to_string();
        let value = |value: Result<toml::Value, toml::ser::Error>| value.map_err(written);
        let mut files =
            vec![(TUNING.to_owned(), toml::to_string(&self.settings).map_err(written)?)];
        let map = self.map.as_ref().map(|map| {
            files.push((MAP.to_owned(), map_csv(map)));
            let (tile, origin) = (map.grid().tile_size(), map.grid().origin());
            WrittenMap { file: MAP, tile: tile.into(), origin: origin.into() }
        });
        let mut subjects = toml::map::Map::new();
        for (number, (name, actor)) in self.subjects.iter().enumerate() {
            let path = format!("path-{number}.csv");
            files.push((path.clone(), path_csv(&actor.path)));
            let Actor { weight, rank, margin, .. } = *actor;
            let subject = WrittenSubject { path, weight, rank, margin };
            subjects.insert(name.clone(), value(toml::Value::try_from(subject))?);
        }
        let mut cameras = toml::map::Map::new();
        for (name, TakeCamera { settings, watch, aim }) in &self.cameras {
            let camera = WrittenCamera { watch, aim: *aim, tuning: settings };
            cameras.insert(name.clone(), value(toml::Value::try_from(camera))?);
        }
        let take = Written {
            tuning: TUNING,
            seconds: self.seconds,
            fps: self.fps,
            window: [self.window.width, self.window.height],
            watch: &self.watch,
            map,
            subjects,
            cameras,
            timeline: &self.timeline,
        };
        files.push((TAKE.to_owned(), toml::to_string(&take).map_err(written)?));
        Ok(files)
    }
}

fn map_csv(map: &Map) -> String {
    let columns = (map.grid().columns() as usize).max(1);
    let row = |row: &[u16]| row.iter().map(u16::to_string).collect::<Vec<_>>().join(",") + "\n";
    map.numbers().chunks(columns).map(row).collect()
}

fn path_csv(path: &Path) -> String {
    let (knows_ground, cuts) = (path.knows_ground(), path.rows().iter().any(|row| row.cut));
    let mut text = String::from("t,x,y");
    text += if knows_ground { ",grounded" } else { "" };
    text += if cuts { ",cut\n" } else { "\n" };
    for row in path.rows() {
        // Writing to a string can't fail.
        let _ = write!(text, "{},{},{}", row.t, row.position.x, row.position.y);
        if let Some(grounded) = row.grounded.filter(|_| knows_ground) {
            let _ = write!(text, ",{}", u8::from(grounded));
        }
        if cuts {
            let _ = write!(text, ",{}", u8::from(row.cut));
        }
        text.push('\n');
    }
    text
}
