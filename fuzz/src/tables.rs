//! Maps and paths with any text.

use std::path::Path as FilePath;

use velvet_pan::Rect;
use velvet_pan::glam::DVec2;
use velvet_pan_takes::{Map, MapForm, Path};

use crate::draw::Draw;
use crate::random_play::Dice;

/// Reads the bytes after the first two as a map or as a path.
///
/// # Panics
///
/// A promise is broken.
pub fn check(bytes: &[u8]) {
    let mut draw = Draw::new(bytes);
    let (kind, blank, draw_bits) = (draw.below(4), draw.below(3), draw.below(4) as usize);
    let text = String::from_utf8_lossy(draw.rest()).into_owned();
    match kind {
        0 => check_map(&text, &MapForm::guessed([16.0, 16.0], &text)),
        1 => {
            let blank = if blank == 0 { -1 } else { i64::from(blank) - 1 };
            let number_bits = [None, Some(1), Some(29), Some(32)][draw_bits];
            check_map(&text, &MapForm { blank, number_bits, ..MapForm::new([16.0, 16.0]) });
        }
        _ => check_path(&text),
    }
}

fn check_map(text: &str, form: &MapForm) {
    let Ok(map) = Map::parse(FilePath::new("map.csv"), text, form) else { return };
    let grid = map.grid();
    let (columns, rows) = (grid.columns() as usize, grid.rows() as usize);
    assert_eq!(map.numbers().len(), columns * rows);
    // A file holds a field for every tile but those of a row's end.
    assert!(rows <= text.len() + 1 && columns <= text.len() + 1, "{columns} × {rows}");
    // No number needs more than the bits that name a tile; with blank = -1 it is one higher.
    let most = form.number_bits.map_or(u64::MAX, |bits| 1 << bits);
    assert!(map.numbers().iter().all(|number| u64::from(*number) <= most));
}

fn check_path(text: &str) {
    let Ok(path) = Path::parse(FilePath::new("path.csv"), text) else { return };
    let rows = path.rows();
    assert!(!rows.is_empty() && rows.is_sorted_by(|a, b| a.t < b.t), "{rows:?}");
    let places = || rows.iter().map(|row| row.position);
    assert!(places().all(DVec2::is_finite) && path.end().is_finite());
    // Between two rows a subject is between their places.
    let around = Rect {
        min: places().fold(DVec2::INFINITY, DVec2::min),
        max: places().fold(DVec2::NEG_INFINITY, DVec2::max),
    };
    let slack = around.min.abs().max(around.max.abs()) * 1e-12 + 1e-12;
    for pair in rows.windows(2).take(50) {
        let at = path.position(pair[0].t.midpoint(pair[1].t));
        let inside = at.cmpge(around.min - slack).all() && at.cmple(around.max + slack).all();
        assert!(inside, "{at} in {around:?}");
    }
    for row in rows.iter().take(50) {
        assert_eq!(path.position(row.t), row.position);
    }
    assert!(path.gaps().count() <= rows.len() && path.top_speed().min_element() >= 0.0);
    assert!(path.leaps(DVec2::splat(1e3)).count() <= rows.len());
}
