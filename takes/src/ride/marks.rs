//! The look of the camera's overlay, the same in films, in the panel and in the workbench.

use velvet_pan::MarkKind;
use velvet_pan::glam::Vec2;

/// The look of a kind of mark: its name, its colour as red, green and blue, and its line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MarkLook {
    /// What the mark shows.
    pub kind: MarkKind,
    /// Its name beside it.
    pub name: &'static str,
    /// Its colour.
    pub colour: [u8; 3],
    /// The length of dashes and of gaps, in units of [`lines`](Self::lines); 0 for a solid line.
    pub dash: f32,
    /// What stands at its last point.
    end: End,
}

/// What stands at the last point of a mark.
#[derive(Clone, Copy, Debug, PartialEq)]
enum End {
    Nothing,
    Cross,
    Diamond(f32),
}

/// The area in which marks are drawn: its corners.
pub type MarkArea = [Vec2; 2];

/// A line between two points.
pub type MarkLine = [Vec2; 2];

const ROSE: [u8; 3] = [0xa5, 0x55, 0x80];
const CORAL: [u8; 3] = [0xdd, 0x7d, 0x6c];
const APRICOT: [u8; 3] = [0xf4, 0xae, 0x6b];
const HONEY: [u8; 3] = [0xfb, 0xd6, 0x8a];
const CREAM: [u8; 3] = [0xff, 0xf1, 0xc9];
const SPROUT: [u8; 3] = [0xa3, 0xc7, 0x64];
const PEBBLE: [u8; 3] = [0x7b, 0x78, 0x96];
const MIST: [u8; 3] = [0xc8, 0xa9, 0xb9];
const COAT: [u8; 3] = [0x2f, 0xa8, 0xa0];

impl MarkLook {
    /// All looks, in the order of a list of switches.
    pub const ALL: [Self; 12] = {
        use End::{Cross, Diamond, Nothing};
        [
            Self::new(MarkKind::Anchor, "anchor", CREAM, 0.0, Cross),
            Self::new(MarkKind::Goal, "goal", CORAL, 0.0, Diamond(4.0)),
            Self::new(MarkKind::LookAhead, "look-ahead", APRICOT, 0.0, Diamond(2.0)),
            Self::new(MarkKind::Deadzone, "deadzone", HONEY, 0.0, Nothing),
            Self::new(MarkKind::Leash, "leash", MIST, 3.0, Nothing),
            Self::new(MarkKind::Bounds, "bounds", ROSE, 0.0, Nothing),
            Self::new(MarkKind::Barrier, "barrier", COAT, 0.0, Nothing),
            Self::new(MarkKind::Room, "room", PEBBLE, 2.0, Nothing),
            Self::new(MarkKind::Zone, "zone", SPROUT, 4.0, Nothing),
            Self::new(MarkKind::Lure, "lure", SPROUT, 1.5, Diamond(2.0)),
            Self::new(MarkKind::Rail, "rail", MIST, 0.0, Nothing),
            Self::new(MarkKind::Party, "party", CREAM, 2.0, Nothing),
        ]
    };

    const fn new(kind: MarkKind, name: &'static str, colour: [u8; 3], dash: f32, end: End) -> Self {
        Self { kind, name, colour, dash, end }
    }

    /// Returns the look of a kind; of one that has no look yet, a nameless outline.
    #[must_use]
    pub fn of(kind: MarkKind) -> Self {
        let known = Self::ALL.iter().find(|look| look.kind == kind);
        known.copied().unwrap_or(Self::new(kind, "", CREAM, 0.0, End::Nothing))
    }

    /// Returns the lines that draw a mark. Points and area are in pixels or any other measure, y downwards; `unit` is
    /// the size of a small detail in it, such as 4 in a window of 1280 pixels.
    #[must_use]
    pub fn lines(&self, points: &[Vec2], area: MarkArea, unit: f32) -> Vec<MarkLine> {
        // A barrier stands at the very edge of the picture: drawn just inside.
        let inside = |at: &Vec2| match self.kind {
            MarkKind::Barrier => at.clamp(area[0] + 2.0, (area[1] - 3.0).max(area[0] + 2.0)),
            _ => *at,
        };
        let points: Vec<Vec2> = points.iter().map(inside).collect();
        let mut lines = match points.as_slice() {
            [] | [_] => Vec::new(),
            [from, to] => vec![[*from, *to]],
            corners => closed(corners),
        };
        if let Some(last) = points.last() {
            lines.extend(self.end.lines(*last, unit));
        }
        lines
    }
}

impl End {
    fn lines(self, at: Vec2, unit: f32) -> Vec<MarkLine> {
        match self {
            Self::Nothing => Vec::new(),
            Self::Cross => [Vec2::X, Vec2::Y]
                .map(|side| [at - side * 5.0 * unit, at + side * 5.0 * unit])
                .into(),
            Self::Diamond(reach) => {
                let sides = [Vec2::X, Vec2::Y, Vec2::NEG_X, Vec2::NEG_Y];
                closed(&sides.map(|side| at + side * reach * unit))
            }
        }
    }
}

fn closed(corners: &[Vec2]) -> Vec<MarkLine> {
    let next = corners.iter().cycle().skip(1);
    corners.iter().zip(next).map(|(from, to)| [*from, *to]).collect()
}

/// Finds a place for the name of each mark: at the part of it that is lowest and farthest left in the area, and above
/// the names that are there already.
#[derive(Clone, Debug)]
pub struct MarkNames {
    area: MarkArea,
    taken: Vec<MarkArea>,
}

impl MarkNames {
    /// Creates an empty plan of an area.
    #[must_use]
    pub fn new(area: MarkArea) -> Self {
        Self { area, taken: Vec::new() }
    }

    /// Adds a mark to those that are drawn. The edges of an outline count as one.
    pub fn gather(
        drawn: &mut Vec<(MarkLook, Vec<MarkLine>)>,
        look: MarkLook,
        lines: Vec<MarkLine>,
    ) {
        match drawn.last_mut().filter(|(last, _)| last.kind == look.kind) {
            Some((_, all)) if look.kind == MarkKind::Bounds => all.extend(lines),
            _ => drawn.push((look, lines)),
        }
    }

    /// Keeps names away from a mark, if it is a point.
    pub fn avoid(&mut self, look: &MarkLook, lines: &[MarkLine]) {
        if matches!(look.kind, MarkKind::Anchor | MarkKind::Goal) {
            let ends = || lines.iter().flatten().copied();
            let (low, high) = (ends().reduce(Vec2::min), ends().reduce(Vec2::max));
            self.taken.extend(low.zip(high).map(|(low, high)| [low, high]));
        }
    }

    /// Returns the top left corner for a name of this size, or `None` if no line of its mark is in the area.
    pub fn place(&mut self, lines: &[MarkLine], size: Vec2, unit: f32) -> Option<Vec2> {
        let [first, end] = self.area;
        let is_inside = |at: &Vec2| at.cmpge(first).all() && at.cmple(end).all();
        let along = |[from, to]: &MarkLine| {
            let (from, to) = (*from, *to);
            (0..=256).map(move |step| from.lerp(to, step as f32 / 256.0))
        };
        let lowest = |a: &Vec2, b: &Vec2| (a.y - a.x).total_cmp(&(b.y - b.x));
        let at = lines.iter().flat_map(along).filter(is_inside).max_by(lowest)?;
        let room = (end - size - 2.0).max(first + 2.0);
        let mut corner = (at + unit * 1.5).clamp(first + 2.0, room);
        while self.clashes(corner, size) && corner.y > first.y + size.y {
            corner.y -= size.y + 1.0;
        }
        self.taken.push([corner, corner + size]);
        Some(corner)
    }

    fn clashes(&self, corner: Vec2, size: Vec2) -> bool {
        let meets =
            |other: &MarkArea| corner.cmplt(other[1]).all() && other[0].cmplt(corner + size).all();
        self.taken.iter().any(meets)
    }
}
