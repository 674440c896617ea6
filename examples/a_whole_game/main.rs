//! A whole game: fixed steps, a platform, pause and slow motion, a HUD, a respawn, and a pointer.
//!
//! Wren carries a parcel over the terraces. A gully is in her way, and over it a basket swings on a cable.
//!
//! Without a window the game plays itself and checks what it shows: `cargo run --example a_whole_game`. In a window you
//! play it: `cargo run --release -p velvet-pan-window`. Everything about the camera is in `game.rs`.

mod game;

use game::{GULLY, Game, Input};
use velvet_pan::SettingsError;
use velvet_pan::glam::{DVec2, UVec2, Vec2};

/// Plays: runs to the right, and after her first fall waits for the basket.
fn play(game: &Game) -> Input {
    let (wren, deck) = (game.now.wren.position, game.now.basket);
    let waits = game.falls > 0 && (684.0..702.0).contains(&wren.x) && deck.x > GULLY - 86.0;
    let rides = game.riding && deck.x < GULLY + 86.0;
    let run = if waits || rides { 0.0 } else { 1.0 };
    Input { run, jump: game.is_solid(wren + DVec2::new(20.0, -4.0)), ..Input::default() }
}

fn main() -> Result<(), SettingsError> {
    let (mut game, window) = (Game::new()?, UVec2::new(1280, 720));
    let mut shown = Vec::new();
    for frame in 0..20 * 75_i16 {
        let (slow, pause) = ((75..150).contains(&frame), (225..300).contains(&frame));
        let (drag, wheel) = ((250..275).contains(&frame), f64::from(u8::from(frame == 280)));
        let pointer = Vec2::new(640.0 - 4.0 * f32::from(frame - 250), 360.0);
        let input = Input { slow, pause, drag, wheel, pointer, ..play(&game) };
        game.frame(1.0 / 75.0, window, &input);
        let (view, wren) = (game.shown().view, game.shown().wren);
        let (seen, drawn) = (view.visible_world(), view.followed_placement(wren.position));
        assert!(seen.min.cmpge(DVec2::ZERO).all() && seen.max.cmple(game.grid.rect().max).all());
        shown.push((wren.position.x, view.centre().x, drawn.origin.x));
    }
    let (slow, fast) = (shown[150].0 - shown[75].0, shown[224].0 - shown[150].0);
    println!("in a second of slow motion she runs {slow:.0} units, in the next {fast:.0}");
    let (still, dragged) = (shown[249].1, shown[274].1);
    println!("paused, the view stays at {still:.1}; a drag moves it to {dragged:.1}");
    assert!(shown[226].1 == still && dragged > still + 20.0 && fast > 3.0 * slow);
    let trembles = shown[330..400].windows(2).filter(|pair| pair[1].2 < pair[0].2).count();
    println!("in a second of running, her picture goes back {trembles} times in the window");
    println!("falls: {}; at the end she is at {:.0}", game.falls, shown[1499].0);
    assert!(trembles == 0 && game.falls == 1 && shown[1499].0 > GULLY + 120.0);
    let mut pixels = vec![0; (window.x * window.y) as usize];
    game.draw(&mut pixels, window, Vec2::ZERO);
    assert!(pixels.contains(&0xff_2f_a8_a0) && pixels.contains(&0xff_fb_d6_8a)); // Wren, the HUD
    Ok(())
}
