//! A user's own pictures, and plain drawing of what has none. It uses the demo's palette, and none of its art.

mod loading;
pub mod plain;

use velvet_pan::glam::{DVec2, UVec2, Vec2};
use velvet_pan::{Rect, YAxis};
use velvet_pan_takes::{Fault, LevelPicture, Map, Pictures, SubjectPicture, Take, TilePictures};

use crate::picture::Picture;
use loading::{Budget, cut};
pub use loading::{read_png, size_of_png};

/// The pictures with which a take is drawn.
#[derive(Clone, Debug, PartialEq)]
pub enum Artwork {
    /// The demo's own art.
    Terraces,
    /// The pictures that the take names. What has none is drawn plainly.
    Own(Own),
}

/// The pictures that a take names, as far as they could be read.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Own {
    /// The tiles in their order.
    pub tiles: Vec<Picture>,
    /// The parts of the level.
    pub level: Vec<LevelPart>,
    /// The frames of each subject, in the order of their names.
    pub subjects: Vec<Option<Sprite>>,
    /// The layers by name.
    pub layers: Vec<(String, Picture)>,
}

/// A part of a large picture, and the world that it covers.
#[derive(Clone, Debug, PartialEq)]
pub struct LevelPart {
    /// The part.
    pub picture: Picture,
    /// Its rectangle in world units.
    pub rect: Rect,
}

/// The frames of a subject.
#[derive(Clone, Debug, PartialEq)]
pub struct Sprite {
    /// The frames, of one size.
    pub frames: Vec<Picture>,
    /// The frames shown a second while it moves.
    pub fps: f64,
    /// The pixel at the subject's position.
    pub origin: Vec2,
}

/// The side of the parts into which a level is cut, in pixels.
const PART: UVec2 = UVec2::splat(512);

impl Artwork {
    /// Reads the pictures of a take. What can't be read is drawn plainly, and is a fault at the line that names it.
    pub fn of_take(take: &Take) -> (Self, Vec<Fault>) {
        if take.pictures.are_of_demo() {
            return (Self::Terraces, Vec::new());
        }
        let (own, faults) = Own::read(take);
        (Self::Own(own), faults)
    }
}

impl Own {
    fn read(take: &Take) -> (Self, Vec<Fault>) {
        let Pictures { tiles, level, subjects, layers, .. } = &take.pictures;
        let (mut budget, mut faults) = (Budget::default(), Vec::new());
        let mut own = Self::default();
        if let Some(level) = level {
            let parts = read_level(level, take, &mut budget);
            own.level = kept(parts, &mut faults).unwrap_or_default();
        }
        if let Some(tiles) = tiles {
            let tiles = read_tiles(tiles, take, &mut budget);
            let (tiles, few) = kept(tiles, &mut faults).unwrap_or_default();
            own.tiles = tiles;
            faults.extend(few);
        }
        for name in take.subjects.keys() {
            let sprite = subjects.get(name).map(|subject| read_subject(subject, &mut budget));
            own.subjects.push(sprite.and_then(|sprite| kept(sprite, &mut faults)));
        }
        for (name, file) in subjects.iter().filter(|(name, _)| !take.subjects.contains_key(*name)) {
            faults.push(file.file.fault(&format!("the take has no subject \"{name}\"")));
        }
        let known = take.layers();
        for (name, file) in layers {
            if !known.iter().any(|layer| layer.name == *name) {
                faults.push(file.fault(&format!("the tuning has no layer \"{name}\"")));
                continue;
            }
            let picture = kept(budget.read(file), &mut faults);
            own.layers.extend(picture.map(|picture| (name.clone(), picture)));
        }
        (own, faults)
    }

    /// Returns the picture of a layer.
    pub fn layer(&self, name: &str) -> Option<&Picture> {
        self.layers.iter().find(|(own, _)| own == name).map(|(_, picture)| picture)
    }
}

/// What was read; a fault is added to the others.
fn kept<T>(read: Result<T, Fault>, faults: &mut Vec<Fault>) -> Option<T> {
    read.map_err(|fault| faults.push(fault)).ok()
}

/// Returns the parts of a level, from its top left corner.
fn read_level(
    level: &LevelPicture,
    take: &Take,
    budget: &mut Budget,
) -> Result<Vec<LevelPart>, Fault> {
    let picture = budget.read(&level.file)?;
    let down = take.settings.screen.y_axis == YAxis::Down;
    let world = |pixel: UVec2| {
        let away = pixel.as_dvec2() * level.pixel;
        DVec2::from(level.at) + if down { away } else { DVec2::new(away.x, -away.y) }
    };
    let part = |(corner, picture): (UVec2, Picture)| {
        let (one, other) = (world(corner), world(corner + picture.size()));
        LevelPart { picture, rect: Rect { min: one.min(other), max: one.max(other) } }
    };
    Ok(cut(&picture, PART).map(part).collect())
}

/// Returns the tiles of a picture, and a fault if the map names more than it has.
fn read_tiles(
    tiles: &TilePictures,
    take: &Take,
    budget: &mut Budget,
) -> Result<(Vec<Picture>, Option<Fault>), Fault> {
    let (picture, size) = (budget.read(&tiles.file)?, UVec2::from(tiles.size));
    let cells = picture.size() / size;
    if cells.min_element() == 0 {
        let UVec2 { x, y } = picture.size();
        let what = format!("{x} x {y} pixels: smaller than one tile of {} x {}", size.x, size.y);
        return Err(tiles.file.fault(&what));
    }
    let whole = picture.part(UVec2::ZERO, cells * size);
    let tiles_cut: Vec<Picture> = cut(&whole, size).map(|(_, tile)| tile).collect();
    let most = take.map.iter().flat_map(Map::numbers).max().copied().unwrap_or(0);
    let fault = (usize::from(most) > tiles_cut.len()).then(|| {
        let have = tiles_cut.len();
        tiles.file.fault(&format!("{have} tiles, but the map names tile {most}: drawn plainly"))
    });
    Ok((tiles_cut, fault))
}

fn read_subject(subject: &SubjectPicture, budget: &mut Budget) -> Result<Sprite, Fault> {
    let picture = budget.read(&subject.file)?;
    let width = picture.size().x / subject.frames;
    if width == 0 {
        let what =
            format!("{} pixels wide: too narrow for {} frames", picture.size().x, subject.frames);
        return Err(subject.file.fault(&what));
    }
    let size = UVec2::new(width, picture.size().y);
    let frame = |number| picture.part(UVec2::new(number * width, 0), size);
    let origin = subject.origin.map_or(size.as_vec2() / 2.0, |at| DVec2::from(at).as_vec2());
    Ok(Sprite { frames: (0..subject.frames).map(frame).collect(), fps: subject.fps, origin })
}
