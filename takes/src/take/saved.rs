//! Writes a take into a folder from which it can be opened again.

use std::fmt::Write;
use std::path::Path as FilePath;

use toml_edit::{Array, Item, Table, value};
use velvet_pan::Rect;
use velvet_pan::glam::DVec2;

use crate::take::event::Event;
use crate::take::map::Map;
use crate::take::path::{Path, PathRow};
use crate::take::subjects::{TakeCamera, TakeSubject};
use crate::take::take::Take;
use crate::text::atomic_write::Unfinished;
use crate::text::fault::Fault;
use crate::text::files::reason;
use crate::tuning::tuning_text::{text_of, tree};

/// The name of the take's own file in its folder.
const TAKE: &str = "take.toml";
const TUNING: &str = "tuning.toml";
const MAP: &str = "map.csv";

impl Take {
    /// Writes the take into a new folder: `take.toml`, its tuning, its map, and a path for each subject. Reading
    /// `take.toml` gives the same take. Its pictures stay where they are. The folder appears whole or not at all.
    ///
    /// ```no_run
    /// # use velvet_pan_takes::Take;
    /// let take = Take::open("terraces/demo/terraces.toml")?;
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
        if folder.file_name().is_none() {
            return Err(fault("expected a name".to_owned()));
        }
        let unfinished = Unfinished::beside(folder);
        let new = unfinished.path();
        let write = || {
            std::fs::create_dir(new)?;
            for (name, text) in &files {
                std::fs::write(new.join(name), text)?;
            }
            std::fs::rename(new, folder)
        };
        write().map_err(|error| fault(reason(&error)))
    }

    /// Returns the names and texts of its files.
    fn files(&self) -> Result<Vec<(String, String)>, String> {
        let tuning = |settings| tree(settings).ok_or("a setting can't be written".to_owned());
        let mut files = vec![(TUNING.to_owned(), text_of(tuning(&self.settings)?))];
        let mut take = Table::new();
        take.insert("tuning", value(TUNING));
        take.insert("seconds", value(self.seconds));
        take.insert("fps", value(self.fps));
        let window = [self.window.width, self.window.height].map(i64::from);
        take.insert("window", value(Array::from_iter(window)));
        take.insert("watch", names(&self.watch));
        if let Some(map) = &self.map {
            files.push((MAP.to_owned(), map_csv(map)));
            let (tile, origin) = (map.grid().tile_size(), map.grid().origin());
            let map = [("file", value(MAP)), ("tile", numbers(tile)), ("origin", numbers(origin))];
            take.insert("map", Item::Table(map.into_iter().collect()));
        }
        let mut subjects = Table::new();
        for (number, (name, subject)) in self.subjects.iter().enumerate() {
            let path = format!("path-{number}.csv");
            let TakeSubject { weight, rank, margin, .. } = *subject;
            files.push((path.clone(), path_csv(&subject.path)));
            let keys = [
                ("path", value(&path)),
                ("weight", value(weight)),
                ("rank", value(i64::from(rank))),
                ("margin", value(margin)),
            ];
            subjects.insert(name, Item::Table(keys.into_iter().collect()));
        }
        take.insert("subjects", Item::Table(subjects));
        let mut cameras = Table::new();
        for (name, TakeCamera { settings, watch, aim }) in &self.cameras {
            let mut camera = Table::new();
            camera.insert("watch", names(watch));
            if let Some(aim) = aim {
                camera.insert("aim", numbers(*aim));
            }
            camera.insert("tuning", Item::Table(tuning(settings)?));
            cameras.insert(name, Item::Table(camera));
        }
        take.insert("cameras", Item::Table(cameras));
        let events = self.events.iter().map(Event::table).collect();
        take.insert("events", Item::ArrayOfTables(events));
        let gates = self.gates.iter().map(|(name, at)| (name, value(*at)));
        take.insert("gates", Item::Table(gates.collect()));
        take.insert("hazards", Item::ArrayOfTables(self.hazards.iter().map(hazard).collect()));
        if let Some(pictures) = self.pictures.table() {
            take.insert("pictures", Item::Table(pictures));
        }
        if let Some(player) = &self.player {
            take.insert("player", Item::Table(player.table()));
        }
        files.push((TAKE.to_owned(), text_of(take)));
        Ok(files)
    }
}

fn names(names: &[String]) -> Item {
    value(names.iter().collect::<Array>())
}

/// Returns a hazard: a point, or a rectangle.
fn hazard(rect: &Rect) -> Table {
    let Rect { min, max } = *rect;
    let size = max - min;
    let (key, numbers) = match size == DVec2::ZERO {
        true => ("at", min.to_array().to_vec()),
        false => ("rect", vec![min.x, min.y, size.x, size.y]),
    };
    Table::from_iter([(key, value(Array::from_iter(numbers)))])
}

fn numbers(numbers: impl Into<[f64; 2]>) -> Item {
    value(Array::from_iter(numbers.into()))
}

fn map_csv(map: &Map) -> String {
    let columns = (map.grid().columns() as usize).max(1);
    let row = |row: &[u16]| row.iter().map(u16::to_string).collect::<Vec<_>>().join(",") + "\n";
    map.numbers().chunks(columns).map(row).collect()
}

fn path_csv(path: &Path) -> String {
    let any = |has: fn(&PathRow) -> bool| path.rows().iter().any(has);
    let (knows_ground, cuts) = (path.knows_ground(), any(|row| row.cut));
    let (jumps, carried) = (any(|row| row.jump.is_some()), any(|row| row.carrier != DVec2::ZERO));
    let mut text = String::from("t,x,y");
    text += if knows_ground { ",grounded" } else { "" };
    text += if jumps { ",jump" } else { "" };
    text += if carried { ",carrier_x,carrier_y" } else { "" };
    text += if cuts { ",cut\n" } else { "\n" };
    for row in path.rows() {
        // Writing to a string can't fail.
        let _ = write!(text, "{},{},{}", row.t, row.position.x, row.position.y);
        if let Some(grounded) = row.grounded.filter(|_| knows_ground) {
            let _ = write!(text, ",{}", u8::from(grounded));
        }
        if jumps {
            let _ = write!(text, ",{}", u8::from(row.jump == Some(true)));
        }
        if carried {
            let _ = write!(text, ",{},{}", row.carrier.x, row.carrier.y);
        }
        if cuts {
            let _ = write!(text, ",{}", u8::from(row.cut));
        }
        text.push('\n');
    }
    text
}
