//! A map that is too large for memory: which chunks to load and which to drop.
//!
//! The common mistakes are loading a chunk only when it is in view, and a limit at which a view that moves back and
//! forth loads and drops the same chunk again and again.
//!
//! Run with `cargo run --example 20_chunks`.

use std::collections::BTreeMap;

use velvet_pan::{Camera, Chunk, Chunks, Grid, Settings, SettingsError, Smoothing};

fn main() -> Result<(), SettingsError> {
    // Chunks of 32 x 32 tiles, loaded half a second ahead, kept until 16 tiles beyond what is needed.
    let mut chunks =
        Chunks::new(&Grid::unbounded([16, 16]), [32, 32]).with_ahead(0.5).with_keep(16.0);
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    let mut camera = Camera::new(settings)?;
    let mut loaded: BTreeMap<Chunk, Vec<u8>> = BTreeMap::new();
    let (mut loads, mut drops) = (0, 0);

    for frame in 0..=600 {
        // Wren runs to the right for five seconds, then back and forth.
        let t = f64::from(frame) / 60.0;
        let x = if t < 5.0 { 300.0 * t } else { 1500.0 + 60.0 * (6.0 * t).sin() };
        let view = camera.follow(1.0 / 60.0, [x, 300.0]);
        let change = chunks.update(&view);
        for chunk in change.to_load() {
            let (columns, rows) = chunks.tiles(chunk);
            let tiles = (columns.end - columns.start) * (rows.end - rows.start);
            loaded.insert(chunk, vec![0; tiles as usize]); // read or generate it
            loads += 1;
            println!(
                "{t:5.2} s: the view ends at x {:4.0}, load chunk {}, {}",
                view.visible_world().max.x,
                chunk.column,
                chunk.row
            );
        }
        for chunk in change.to_drop() {
            loaded.remove(&chunk);
            drops += 1;
            println!("{t:5.2} s: drop chunk {}, {}", chunk.column, chunk.row);
        }
    }
    println!(
        "\n{loads} loads and {drops} drops in ten seconds; {} chunks are loaded",
        loaded.len()
    );
    Ok(())
}
