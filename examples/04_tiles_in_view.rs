//! Draw only the visible tiles, row by row, from ranges of the map's slice.
//!
//! The common mistakes are a missing tile at the edge of the screen while scrolling, a wrong row stride, and, where `y`
//! points up, a map upside down. Here the visible tiles are exact, and each row is a range of the slice.
//!
//! Run with `cargo run --example 04_tiles_in_view`.

use velvet_pan::{Grid, Lens, Screen, Snap, View, YAxis, glam::UVec2};

const COLUMNS: u32 = 48;
const ROWS: u32 = 12;

fn main() {
    // A terraced hill: everything below a line that climbs to the right is ground.
    let ground = |column: u32| 10 - column / 8;
    let map: Vec<u8> = (0..ROWS * COLUMNS)
        .map(|index| match (index / COLUMNS).cmp(&ground(index % COLUMNS)) {
            core::cmp::Ordering::Less => 0,
            core::cmp::Ordering::Equal => b'"',
            core::cmp::Ordering::Greater => b'#',
        })
        .collect();
    let grid = Grid::new(COLUMNS, ROWS, [16, 16]);
    let lens = Lens::new(&Screen { size: UVec2::new(160, 96), ..Screen::default() });

    for x in [160.0, 168.0, 700.0] {
        let view = View::new(lens, [x, 120.0], Snap::Whole);
        let tiles = view.tiles(&grid);
        println!(
            "\nview at x = {x}: columns {:?}, rows {:?}, {} tiles of {}",
            tiles.columns(),
            tiles.row_numbers(),
            tiles.count(),
            map.len()
        );
        for row in tiles.rows() {
            let letters: String = map[row.indices()]
                .iter()
                .map(|tile| if *tile == 0 { '·' } else { char::from(*tile) })
                .collect();
            let at = row.canvas_position();
            println!("  row {:2} from x {:3}, y {:3} px  {letters}", row.row(), at.x, at.y);
        }
    }
    println!("\nWhile scrolling, one more column is visible, with no gap at either edge.");

    // A map that the game indexes as `map[y * columns + x]`, with a `y` that points up.
    let tower = ["##", "##", "/\\"].concat().into_bytes();
    let grid = Grid::new(2, 3, [16, 16]).with_rows_from_bottom();
    let screen = Screen { size: UVec2::new(32, 48), y_axis: YAxis::Up, ..Screen::default() };
    let view = View::new(Lens::new(&screen), [16, 24], Snap::Whole);
    println!("\na tower whose rows count upwards:");
    for row in view.tiles(&grid).rows() {
        println!("  row {}  {}", row.row(), String::from_utf8_lossy(&tower[row.indices()]));
    }
}
