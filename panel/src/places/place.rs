//! The places of a tuning: rectangles and points of the world.

use velvet_pan::glam::DVec2;
use velvet_pan::{
    Bounds, Deadzone, Lure, MarkKind, Outline, OutlineName, Rail, Rect, Rooms, Settings, Sides,
    View, Zone,
};

use super::on_screen;
use super::shape::Shape;

/// A place of a tuning: the world's bounds, a part of their outline, a room, a zone, a lure, a point of the rail, or what
/// follows the screen. The number counts from 0.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Place {
    /// The world's bounds, if they are a rectangle.
    Bounds,
    /// A part of the outline that is the bounds.
    Part(usize),
    /// A room of `rooms.list`.
    Room(usize),
    /// A zone.
    Zone(usize),
    /// A lure.
    Lure(usize),
    /// A point of the rail.
    RailPoint(usize),
    /// The anchor, in the camera's own view.
    Anchor,
    /// The deadzone, in the camera's own view.
    Deadzone,
    /// The leash, in the camera's own view.
    Leash,
}

/// The kind of a place to add.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum PlaceKind {
    /// The world's bounds, of which there is one.
    Bounds,
    /// A part of the outline that is the bounds. Bounds of one rectangle become an outline with it.
    Part,
    /// A room.
    Room,
    /// A zone.
    Zone,
    /// A lure.
    Lure,
    /// A point at the end of the rail.
    RailPoint,
}

impl PlaceKind {
    /// All kinds.
    pub const ALL: [Self; 6] =
        [Self::Bounds, Self::Part, Self::Room, Self::Zone, Self::Lure, Self::RailPoint];

    /// Returns the name of the kind.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Bounds => "bounds",
            Self::Part => "part of bounds",
            Self::Room => "room",
            Self::Zone => "zone",
            Self::Lure => "lure",
            Self::RailPoint => "rail point",
        }
    }
}

impl Place {
    /// Returns all places of a tuning.
    ///
    /// ```
    /// use velvet_pan_egui::{Place, velvet_pan::{Lure, Settings}};
    ///
    /// let mut settings = Settings::default();
    /// settings.lures.push(Lure { at: [40.0, 8.0].into(), radius: 64.0, strength: 0.5 });
    /// assert_eq!(Place::all(&settings), [Place::Lure(0)]);
    /// ```
    #[must_use]
    pub fn all(settings: &Settings) -> Vec<Self> {
        let rooms = settings.rooms.iter().flat_map(|rooms| 0..rooms.list.len());
        let points = settings.rail.iter().flat_map(|rail| 0..rail.points.len());
        let bounds = settings.bounds.iter().filter(|bounds| bounds.rect.is_some());
        let parts = outline(settings).into_iter().flat_map(|outline| 0..outline.parts.len());
        bounds
            .map(|_| Self::Bounds)
            .chain(parts.map(Self::Part))
            .chain(rooms.map(Self::Room))
            .chain((0..settings.zones.len()).map(Self::Zone))
            .chain((0..settings.lures.len()).map(Self::Lure))
            .chain(points.map(Self::RailPoint))
            .collect()
    }

    /// Returns the places that follow the screen: leash, deadzone and anchor.
    #[must_use]
    pub fn on_screen(settings: &Settings) -> Vec<Self> {
        let leash = settings.follow.leash.map(|_| Self::Leash);
        leash.into_iter().chain([Self::Deadzone, Self::Anchor]).collect()
    }

    /// Returns whether it follows the screen and not the world.
    #[must_use]
    pub fn is_on_screen(self) -> bool {
        matches!(self, Self::Anchor | Self::Deadzone | Self::Leash)
    }

    /// Returns its name, such as `zone 0`, with the number that its key in the file has.
    #[must_use]
    pub fn name(self) -> String {
        match self {
            Self::Bounds => "bounds".to_owned(),
            Self::Part(index) => format!("part {index}"),
            Self::Room(index) => format!("room {index}"),
            Self::Zone(index) => format!("zone {index}"),
            Self::Lure(index) => format!("lure {index}"),
            Self::RailPoint(index) => format!("rail point {index}"),
            Self::Anchor => "anchor".to_owned(),
            Self::Deadzone => "deadzone".to_owned(),
            Self::Leash => "leash".to_owned(),
        }
    }

    /// Returns the kind of mark as which it is drawn.
    pub(super) fn mark(self) -> MarkKind {
        match self {
            Self::Bounds | Self::Part(_) => MarkKind::Bounds,
            Self::Room(_) => MarkKind::Room,
            Self::Zone(_) => MarkKind::Zone,
            Self::Lure(_) => MarkKind::Lure,
            Self::RailPoint(_) => MarkKind::Rail,
            Self::Anchor => MarkKind::Anchor,
            Self::Deadzone => MarkKind::Deadzone,
            Self::Leash => MarkKind::Leash,
        }
    }

    /// Returns its shape in the world, or `None` if the tuning does not have it any more. `camera` is the camera's own
    /// view, in which anchor, deadzone and leash are seen.
    #[must_use]
    pub fn shape(self, settings: &Settings, camera: Option<&View>) -> Option<Shape> {
        match self {
            Self::Anchor | Self::Deadzone | Self::Leash => {
                on_screen::shape(self, settings, camera?)
            }
            Self::Bounds => settings.bounds.as_ref()?.rect.map(Shape::Rect),
            Self::Part(index) => outline(settings)?.parts.get(index).map(|part| Shape::Rect(*part)),
            Self::Room(index) => {
                settings.rooms.as_ref()?.list.get(index).map(|room| Shape::Rect(*room))
            }
            Self::Zone(index) => settings.zones.get(index).map(|zone| Shape::Rect(zone.rect)),
            Self::Lure(index) => {
                let Lure { at, radius, .. } = *settings.lures.get(index)?;
                Some(Shape::Circle { at, radius })
            }
            Self::RailPoint(index) => {
                settings.rail.as_ref()?.points.get(index).map(|point| Shape::Point(*point))
            }
        }
    }

    /// Returns whether the tuning has it.
    #[must_use]
    pub fn is_there(self, settings: &Settings) -> bool {
        match self {
            Self::Anchor | Self::Deadzone => true,
            Self::Leash => settings.follow.leash.is_some(),
            _ => self.shape(settings, None).is_some(),
        }
    }

    /// Gives it another shape of the same kind. All else of it stays.
    pub fn set_shape(self, settings: &mut Settings, shape: Shape, camera: Option<&View>) {
        match (self, shape) {
            (Self::Anchor | Self::Deadzone | Self::Leash, shape) => {
                if let Some(view) = camera {
                    on_screen::set_shape(self, settings, shape, view);
                }
            }
            (Self::Bounds, Shape::Rect(rect)) => {
                if let Some(bounds) = settings.bounds.as_mut().filter(|own| own.rect.is_some()) {
                    bounds.rect = Some(rect);
                }
            }
            (Self::Part(index), Shape::Rect(rect)) => {
                let outline = outline_mut(settings);
                if let Some(part) = outline.and_then(|outline| outline.parts.get_mut(index)) {
                    *part = rect;
                }
            }
            (Self::Room(index), Shape::Rect(rect)) => {
                let rooms = settings.rooms.as_mut();
                if let Some(room) = rooms.and_then(|rooms| rooms.list.get_mut(index)) {
                    *room = rect;
                }
            }
            (Self::Zone(index), Shape::Rect(rect)) => {
                if let Some(zone) = settings.zones.get_mut(index) {
                    zone.rect = rect;
                }
            }
            (Self::Lure(index), Shape::Circle { at, radius }) => {
                if let Some(lure) = settings.lures.get_mut(index) {
                    (lure.at, lure.radius) = (at, radius);
                }
            }
            (Self::RailPoint(index), Shape::Point(at)) => {
                let rail = settings.rail.as_mut();
                if let Some(point) = rail.and_then(|rail| rail.points.get_mut(index)) {
                    *point = at;
                }
            }
            _ => {}
        }
    }

    /// Adds a place of a kind around a world point, `size` large. The bounds are replaced if there are any.
    pub fn add(settings: &mut Settings, kind: PlaceKind, at: DVec2, size: DVec2) -> Self {
        let rect = Rect::around(at, size / 2.0);
        match kind {
            PlaceKind::Bounds => {
                settings.bounds = Some(Bounds::new(rect));
                Self::Bounds
            }
            PlaceKind::Part => {
                begin_outline(settings);
                let Some(outline) = outline_mut(settings) else { return Self::Bounds };
                outline.parts.push(rect);
                Self::Part(outline.parts.len() - 1)
            }
            PlaceKind::Room => {
                let rooms = settings.rooms.get_or_insert_with(Rooms::default);
                rooms.list.push(rect);
                Self::Room(rooms.list.len() - 1)
            }
            PlaceKind::Zone => {
                settings.zones.push(Zone::new(rect));
                Self::Zone(settings.zones.len() - 1)
            }
            PlaceKind::Lure => {
                let radius = size.max_element() / 2.0;
                settings.lures.push(Lure { at, radius, strength: 0.5 });
                Self::Lure(settings.lures.len() - 1)
            }
            PlaceKind::RailPoint => {
                let is_new = settings.rail.is_none();
                let rail = settings.rail.get_or_insert_with(Rail::default);
                // A rail has two points at least.
                if is_new {
                    rail.points = vec![at - DVec2::new(size.x, 0.0)];
                }
                rail.points.push(at);
                Self::RailPoint(rail.points.len() - 1)
            }
        }
    }

    /// Removes it; the anchor goes back to its default. The last two points of a rail go together, and so do the last
    /// room and the rooms.
    pub fn delete(self, settings: &mut Settings) {
        match self {
            Self::Bounds => settings.bounds = None,
            Self::Part(index) => {
                let Some(outline) = outline_mut(settings) else { return };
                remove(&mut outline.parts, index);
                if outline.parts.is_empty() {
                    let name = settings.bounds.take().and_then(|bounds| bounds.outline);
                    settings.outlines.retain(|known, _| {
                        Some(known.as_str()) != name.as_ref().map(OutlineName::as_str)
                    });
                }
            }
            Self::Room(index) => {
                if let Some(rooms) = &mut settings.rooms {
                    remove(&mut rooms.list, index);
                    if rooms.list.is_empty() && rooms.size.is_none() {
                        settings.rooms = None;
                    }
                }
            }
            Self::Zone(index) => remove(&mut settings.zones, index),
            Self::Lure(index) => remove(&mut settings.lures, index),
            Self::RailPoint(index) => {
                if let Some(rail) = &mut settings.rail {
                    remove(&mut rail.points, index);
                    if rail.points.len() < 2 {
                        settings.rail = None;
                    }
                }
            }
            Self::Leash => settings.follow.leash = None,
            Self::Deadzone => settings.follow.deadzone = Deadzone::default(),
            Self::Anchor => settings.follow.anchor = Settings::default().follow.anchor,
        }
    }

    /// Adds another one like it, moved by a distance. There is one bounds: it stays as it is.
    pub fn duplicate(self, settings: &mut Settings, by: DVec2) -> Option<Self> {
        let shape = self.shape(settings, None)?.moved(by);
        let copy = match self {
            Self::Bounds | Self::Anchor | Self::Deadzone | Self::Leash => return None,
            Self::Part(index) => {
                let parts = &mut outline_mut(settings)?.parts;
                parts.push(*parts.get(index)?);
                Self::Part(parts.len() - 1)
            }
            Self::Room(index) => {
                let list = &mut settings.rooms.as_mut()?.list;
                list.push(*list.get(index)?);
                Self::Room(list.len() - 1)
            }
            Self::Zone(index) => {
                settings.zones.push(*settings.zones.get(index)?);
                Self::Zone(settings.zones.len() - 1)
            }
            Self::Lure(index) => {
                settings.lures.push(*settings.lures.get(index)?);
                Self::Lure(settings.lures.len() - 1)
            }
            Self::RailPoint(index) => {
                let points = &mut settings.rail.as_mut()?.points;
                points.insert(index + 1, *points.get(index)?);
                Self::RailPoint(index + 1)
            }
        };
        copy.set_shape(settings, shape, None);
        Some(copy)
    }
}

/// Returns the outline that is the bounds.
fn outline(settings: &Settings) -> Option<&Outline> {
    settings.outlines.get(settings.bounds.as_ref()?.outline?.as_str())
}

fn outline_mut(settings: &mut Settings) -> Option<&mut Outline> {
    settings.outlines.get_mut(settings.bounds.as_ref()?.outline?.as_str())
}

/// Lets the bounds be an outline. A rectangle becomes its first part.
fn begin_outline(settings: &mut Settings) {
    if outline(settings).is_some() {
        return;
    }
    // The first name that is free.
    let names = (1..).map(|number| match number {
        1 => "level".to_owned(),
        more => format!("level-{more}"),
    });
    let Some(name) = names.into_iter().find(|name| !settings.outlines.contains_key(name)) else {
        return;
    };
    let Ok(outlined) = Bounds::of_outline(&name) else { return };
    let old = settings.bounds.unwrap_or(outlined);
    settings.outlines.insert(name, Outline::new(Vec::from_iter(old.rect)));
    settings.bounds =
        Some(Bounds { rect: None, outline: outlined.outline, open: Sides::default(), ..old });
}

fn remove<T>(list: &mut Vec<T>, index: usize) {
    if index < list.len() {
        list.remove(index);
    }
}
