//! Tile maps that wrap or never end, art that overhangs its tile, and blank tiles.
//!
//! The common mistakes are a remainder that is negative left of zero, a tree that appears only when its foot is in
//! view, and a test for blank tiles in every loop.
//!
//! Run with `cargo run --example 19_worlds_without_end`.

use velvet_pan::{Grid, GridEdge, Layer, Lens, Overhang, PerAxis, Screen, Snap, View, glam::UVec2};

fn main() {
    let lens = Lens::new(&Screen { size: UVec2::new(160, 48), ..Screen::default() });

    // A valley that wraps: 12 columns, drawn past its right end and left of its start.
    let map: Vec<u8> = b"..^....^..n.##########nn####--######".to_vec();
    let edges = PerAxis { x: GridEdge::Wrapped, y: GridEdge::Clamped };
    let valley = Grid::new(12, 3, [16, 16]).with_edges(edges);
    for x in [-40, 80, 160] {
        let view = View::new(lens, [x, 24], Snap::Whole);
        println!("\nthe valley around x = {x}, the pieces of each row:");
        let tiles = view.tiles(&valley);
        for piece in tiles.rows() {
            let letters = String::from_utf8_lossy(&map[piece.indices()]).into_owned();
            let at = piece.canvas_position();
            println!("  row {} from x {:4} px: {letters}", piece.row(), at.x);
        }
    }

    // The library leaves out blank tiles.
    let view = View::new(lens, [80, 24], Snap::Whole);
    let tiles = view.tiles(&valley);
    let filled = |piece: velvet_pan::TileRow<'_>| piece.filled(&map, |tile| *tile != b'.').count();
    let drawn: usize = tiles.rows().map(filled).sum();
    println!("\n{drawn} of {} visible tiles are not blank", tiles.count());

    // Without end: a function computes the tiles, also far away.
    let hills = |column: i64, row: i64| row > (column.rem_euclid(7) - 3).abs() / 2;
    let view = View::new(lens, [1e9, 24.0], Snap::Whole);
    println!("\nendless hills, around x = 1e9:");
    for row in view.tiles(&Grid::unbounded([16, 16])).rows() {
        let letter = |tile: velvet_pan::Tile| if hills(tile.column, tile.row) { '#' } else { '·' };
        println!("  {}", row.tiles().map(letter).collect::<String>());
    }

    // Cedars are three tiles high: they are in view as soon as their tops are.
    let cedars = Grid::new(240, 60, [16, 16]);
    let tall = cedars.with_overhang(Overhang { up: 2.0, ..Overhang::default() });
    let view = View::new(lens, [500, 200], Snap::Whole);
    println!(
        "\nvisible rows of tiles: {:?}; of cedars: {:?}",
        view.tiles(&cedars).row_numbers(),
        view.tiles(&tall).row_numbers()
    );

    // Several tile layers: each is asked with the view at its own rate.
    let far = view.layer(&Layer::at_rate("far terraces", [0.5, 0.5]));
    println!(
        "visible columns: {:?} of the near terraces, {:?} of the far ones",
        view.tiles(&cedars).columns(),
        far.tiles(&cedars).columns()
    );
}
