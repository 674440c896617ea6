//! Tile maps that go around or never end, art that overhangs, and blanks that cost nothing.
//!
//! The common mistakes are a modulo that goes wrong left of zero, a tree that pops in only once its
//! foot is in view, and a test for blank tiles in every loop.
//!
//! Run with `cargo run --example 19_worlds_without_end`.

use velvet_pan::{Grid, GridEdge, Layer, Lens, Overhang, PerAxis, Screen, Snap, View, glam::UVec2};

fn main() {
    let lens = Lens::new(&Screen { size: UVec2::new(160, 48), ..Screen::default() });

    // A valley that goes around: 12 columns, drawn past its right end and left of its start.
    let map: Vec<u8> = b"..^....^..n.##########nn####--######".to_vec();
    let edges = PerAxis { x: GridEdge::Wrapped, y: GridEdge::Clamped };
    let valley = Grid::new(12, 3, [16, 16]).with_edges(edges);
    for x in [-40, 80, 160] {
        let view = View::new(lens, [x, 24], Snap::Whole);
        println!("\nthe valley around x = {x}, each row in its pieces of the slice:");
        let tiles = view.tiles(&valley);
        for piece in tiles.rows() {
            let letters = String::from_utf8_lossy(&map[piece.indices()]).into_owned();
            let at = piece.screen_position();
            println!("  row {} from x {:4} px: {letters}", piece.row(), at.x);
        }
    }

    // Blank tiles are passed over by the library.
    let view = View::new(lens, [80, 24], Snap::Whole);
    let tiles = view.tiles(&valley);
    let filled = |piece: velvet_pan::TileRow<'_>| piece.filled(&map, |tile| *tile != b'.').count();
    let drawn: usize = tiles.rows().map(filled).sum();
    println!("\n{drawn} of {} tiles in view are not blank", tiles.count());

    // Without end: the tiles come from a function, a thousand kilometres out as well.
    let hills = |column: i64, row: i64| row > (column.rem_euclid(7) - 3).abs() / 2;
    let view = View::new(lens, [1e9, 24.0], Snap::Whole);
    println!("\nhills without end, around x = 1e9:");
    for row in view.tiles(&Grid::unbounded([16, 16])).rows() {
        let letter = |tile: velvet_pan::Tile| if hills(tile.column, tile.row) { '#' } else { '·' };
        println!("  {}", row.tiles().map(letter).collect::<String>());
    }

    // Cedars are three tiles high: in view as soon as their tops are.
    let cedars = Grid::new(240, 60, [16, 16]);
    let tall = cedars.with_overhang(Overhang { up: 2.0, ..Overhang::default() });
    let view = View::new(lens, [500, 200], Snap::Whole);
    println!(
        "\nrows of tiles in view: {:?}; of cedars: {:?}",
        view.tiles(&cedars).row_numbers(),
        view.tiles(&tall).row_numbers()
    );

    // Several tile layers: each asks the view of its own rate.
    let far = view.layer(&Layer::at_rate("far terraces", [0.5, 0.5]));
    println!(
        "columns in view: {:?} of the near terraces, {:?} of the far ones",
        view.tiles(&cedars).columns(),
        far.tiles(&cedars).columns()
    );
}
