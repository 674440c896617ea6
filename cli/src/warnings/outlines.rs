//! What is unlikely to be meant in an outline.

use velvet_pan::glam::DVec2;
use velvet_pan::{Bounds, Lens, Rect, Settings};

/// Returns the key and the text of warnings about outlines: places that are narrower than the view, and pieces that are
/// not joined.
pub fn warnings_of_outlines(settings: &Settings) -> Vec<(String, String)> {
    let view = Lens::new(&settings.screen).with_zoom(settings.zoom.level).view_size();
    let mut found = Vec::new();
    for (name, outline) in &settings.outlines {
        let Ok(halls) = outline.halls() else { continue };
        let key = format!("outlines.{name}.parts");
        if let Some((narrow, count)) = narrow_places(&halls, view) {
            let DVec2 { x, y } = narrow.size();
            let at = narrow.min;
            let more = match count {
                1 => String::new(),
                more => format!(" (and {} others)", more - 1),
            };
            let what = format!(
                "at {}, {} it is only {x} x {y}, less than the view, {} x {}: what is beside it is shown there{more}; zoom.fill_bounds zooms in instead",
                at.x, at.y, view.x, view.y
            );
            found.push((key.clone(), what));
        }
        let pieces = pieces(&halls);
        if pieces > 1 {
            let what = format!(
                "{pieces} pieces that are not joined: the view passes from one to another one through what is between them"
            );
            found.push((key, what));
        }
    }
    found
}

/// Returns whether a point is outside of bounds.
pub fn is_outside(settings: &Settings, bounds: &Bounds, at: DVec2) -> bool {
    let beyond = |rect: &Rect| at.cmplt(rect.min).any() || at.cmpgt(rect.max).any();
    match bounds.outline {
        None => beyond(&bounds.limits(settings.screen.y_axis)),
        Some(name) => {
            let outline = settings.outlines.get(name.as_str());
            outline.is_some_and(|outline| outline.parts.iter().all(beyond))
        }
    }
}

/// Returns the largest hall that is too small for the view and is not covered by those that are not, and how many there
/// are.
fn narrow_places(halls: &[Rect], view: DVec2) -> Option<(Rect, usize)> {
    let (large, small): (Vec<Rect>, Vec<Rect>) =
        halls.iter().partition(|hall| hall.size().cmpge(view - 1e-9).all());
    let bare: Vec<Rect> = small.into_iter().filter(|hall| !is_covered(hall, &large)).collect();
    let area = |hall: &Rect| hall.size().element_product();
    let largest = bare.iter().copied().max_by(|one, other| area(one).total_cmp(&area(other)))?;
    Some((largest, bare.len()))
}

/// Returns whether some rectangles cover another one completely.
fn is_covered(rect: &Rect, by: &[Rect]) -> bool {
    let by: Vec<&Rect> = by.iter().filter(|other| other.overlaps(rect)).collect();
    let lines = |axis: usize| {
        let (low, high) = (rect.min[axis], rect.max[axis]);
        let ends = by.iter().flat_map(|other| [other.min[axis], other.max[axis]]);
        let mut lines: Vec<f64> = ends.map(|end| end.clamp(low, high)).chain([low, high]).collect();
        lines.sort_by(f64::total_cmp);
        lines.dedup();
        lines
    };
    let (x, y) = (lines(0), lines(1));
    x.windows(2).all(|x| {
        y.windows(2).all(|y| {
            let middle = DVec2::new(f64::midpoint(x[0], x[1]), f64::midpoint(y[0], y[1]));
            by.iter().any(|other| other.contains(middle))
        })
    })
}

/// Returns the number of pieces. Halls of one piece overlap, because the wall between two that touch would not be one.
fn pieces(halls: &[Rect]) -> usize {
    let mut left: Vec<&Rect> = halls.iter().collect();
    let mut pieces = 0;
    while let Some(first) = left.pop() {
        pieces += 1;
        let mut reached = vec![first];
        while let Some(hall) = reached.pop() {
            let (joined, others) = left.into_iter().partition(|other| other.overlaps(hall));
            left = others;
            reached.extend::<Vec<&Rect>>(joined);
        }
    }
    pieces
}
