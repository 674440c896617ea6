//! A user's own map and pictures: drawn as they are, or plainly, and never with the demo's art.

use std::path::Path;

use velvet_pan_takes::{Figures, Take};

use crate::tools::{Folder, png};

const TAKE: &str = "seconds = 1.0\nfps = 10\nwindow = [320, 180]\n\
    map = { file = \"map.csv\", tile = [16.0, 16.0] }\n\
    [tuning.screen]\nsize = [320, 180]\n\
    [subjects.gardener]\nkeys = [[0.0, 160.0, 96.0], [1.0, 160.0, 96.0]]\n";

/// Twenty columns, of which the tenth is filled with tile 2.
fn map() -> String {
    let row: Vec<&str> = (0..20).map(|column| if column == 12 { "2" } else { "0" }).collect();
    (row.join(",") + "\n").repeat(12)
}

/// Writes a PNG file.
fn write_png(path: &Path, (width, height): (u32, u32), colour: impl Fn(u32, u32) -> [u8; 4]) {
    let file = std::fs::File::create(path).expect("a file");
    let mut encoder = png::Encoder::new(file, width, height);
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y)));
    let bytes: Vec<u8> = pixels.flat_map(|(x, y)| colour(x, y)).collect();
    encoder.write_header().expect("written").write_image_data(&bytes).expect("written");
}

/// The first frame of a take.
fn frame(folder: &Folder, take: &str) -> (Vec<[u8; 3]>, String) {
    let output = folder.run(&["film", take, "--format", "frames", "--frames", "1", "--out", "out"]);
    assert!(output.status.success(), "{output:?}");
    let mut reader = png(&folder.path().join("out/00000.png"));
    let mut data = vec![0; reader.output_buffer_size().expect("a size")];
    reader.next_frame(&mut data).expect("a picture");
    let errors = String::from_utf8_lossy(&output.stderr).into_owned();
    (data.as_chunks::<3>().0.to_vec(), errors)
}

/// The colour at a pixel of the window.
fn at(pixels: &[[u8; 3]], x: usize, y: usize) -> [u8; 3] {
    pixels[y * 320 + x]
}

#[test]
fn own_pictures_are_drawn_where_they_belong() {
    let own = format!(
        "{TAKE}[pictures]\ntiles = {{ file = \"tiles.png\", size = [16, 16] }}\n\
         level = {{ file = \"level.png\", at = [0.0, 96.0], pixel = 2.0 }}\n\
         [pictures.subjects.gardener]\nfile = \"gardener.png\"\norigin = [0, 0]\n"
    );
    let folder = Folder::new(&[("own.toml", &own), ("map.csv", &map())]);
    let there = |name: &str| folder.path().join(name);
    let shade = |x: u32, y: u32| [(x * 5) as u8, (y * 9) as u8, 200, 255];
    write_png(&there("tiles.png"), (40, 16), shade);
    write_png(&there("level.png"), (600, 60), |x, y| [x as u8, y as u8, 77, 255]);
    write_png(&there("gardener.png"), (8, 4), |_, _| [255, 0, 128, 128]);
    let (pixels, errors) = frame(&folder, "own.toml");
    assert!(errors.is_empty(), "{errors}");
    // The view's middle is 160, 96: its corner is at 0, 6. Tile 2 is the second of the picture.
    for (x, y) in [(192, 0), (200, 41), (207, 80)] {
        let (column, row) = (x as u32 - 192 + 16, (y as u32 + 6) % 16);
        assert_eq!(at(&pixels, x, y), [(column * 5) as u8, (row * 9) as u8, 200], "{x}, {y}");
    }
    // The level begins at y = 96, two units a pixel, behind the tiles.
    for (x, y) in [(0, 90), (33, 133), (300, 179)] {
        assert_eq!(at(&pixels, x, y), [(x / 2) as u8, ((y - 90) / 2) as u8, 77], "{x}, {y}");
    }
    // The subject, half transparent, from its position on.
    let behind = [80_u8, 0, 77].map(u16::from);
    let mixed =
        [(255 * 128 / 255 + behind[0] / 2), behind[1] / 2, (128 * 128 / 255 + behind[2] / 2)];
    let shown = at(&pixels, 161, 91).map(u16::from);
    assert!((0..3).all(|channel| shown[channel].abs_diff(mixed[channel]) <= 2), "{shown:?}");
}

#[test]
fn what_is_missing_is_told_and_drawn_plainly() {
    let broken = format!(
        "{TAKE}[pictures]\ntiles = {{ file = \"none.png\", size = [16, 16] }}\n\
         level = {{ file = \"map.csv\" }}\n[pictures.subjects.gardener]\nfile = \"wide.png\"\n\
         [pictures.layers.sky]\nfile = \"wide.png\"\n"
    );
    let few = format!("{TAKE}[pictures]\ntiles = {{ file = \"one.png\", size = [16, 16] }}\n");
    let takes = [("broken.toml", &*broken), ("plain.toml", TAKE), ("few.toml", &*few)];
    let folder = Folder::new(&[&takes[..], &[("map.csv", &map())]].concat());
    write_png(&folder.path().join("one.png"), (16, 16), |_, _| [1, 2, 3, 255]);
    write_png(&folder.path().join("wide.png"), (65_536, 1), |_, _| [9, 9, 9, 255]);
    let (plain, errors) = frame(&folder, "plain.toml");
    assert!(errors.is_empty(), "{errors}");
    let (pixels, errors) = frame(&folder, "broken.toml");
    assert!(pixels == plain);
    for words in [
        "broken.toml:10:11: pictures.tiles.file: none.png: no such file",
        "broken.toml:11:11: pictures.level.file: map.csv: not a PNG picture",
        "65536 x 1 pixels: expected at most 8192 a side",
        "the tuning has no layer \"sky\"",
    ] {
        assert!(errors.contains(words), "no \"{words}\" in {errors}");
    }
    let (pixels, errors) = frame(&folder, "few.toml");
    assert!(pixels == plain, "tile 2 is beyond the picture");
    assert!(errors.contains("1 tiles, but the map names tile 2: drawn plainly"), "{errors}");
    std::fs::write(folder.path().join("torn.png"), "not a picture").expect("written");
    let check = folder.run(&["check", "one.png", "torn.png"]);
    let text = String::from_utf8_lossy(&check.stdout).into_owned();
    assert_eq!(check.status.code(), Some(1));
    assert!(text.contains("torn.png: not a PNG picture") && text.contains("1 fault"), "{text}");
    let check = folder.run(&["check", "broken.toml"]);
    let text = String::from_utf8_lossy(&check.stdout).into_owned();
    assert!(check.status.success() && text.contains("0 faults, 4 warnings"), "{text}");
    // Few colours, the block and the box among them, and none of a sky.
    let colours: std::collections::HashSet<[u8; 3]> = plain.iter().copied().collect();
    assert!((4..10).contains(&colours.len()), "{colours:?}");
    assert!(at(&plain, 200, 40) != at(&plain, 100, 40), "a block");
    assert!(at(&plain, 160, 90) != at(&plain, 100, 40), "the subject");
}

#[test]
fn a_new_folder_suits_its_kind_and_its_map() {
    let small: String = (0..12)
        .map(|row| {
            let cell =
                |column: usize| if row >= 9 || column.is_multiple_of(19) { "1" } else { "0" };
            (0..20).map(cell).collect::<Vec<_>>().join(",") + "\n"
        })
        .collect();
    let folder = Folder::new(&[("small.csv", &small)]);
    write_png(&folder.path().join("level.png"), (900, 400), |_, _| [40, 90, 60, 255]);
    write_png(&folder.path().join("tiles.png"), (16, 16), |_, _| [40, 90, 60, 255]);
    let map = ["--map", "small.csv", "--tile", "16,16", "--tiles", "tiles.png"];
    let level = ["--level", "level.png"];
    for kind in ["runner", "top-down", "flyer"] {
        for (number, rest) in [&[][..], &map, &level].into_iter().enumerate() {
            let name = format!("{kind}-{number}");
            folder.ok(&[&["new", &name, "--kind", kind][..], rest].concat());
            let (ride, camera) = (format!("{name}/ride.toml"), format!("{name}/camera.toml"));
            let text = folder.ok(&["check", &ride, &camera]);
            assert!(text.contains("0 faults, 0 warnings"), "{name}: {text}");
            folder.ok(&["compare", &ride]);
            folder
                .ok(&["film", &ride, "--frames", "2", "--window", "320x180", "--out", "film.png"]);
            let take = Take::open(folder.path().join(&ride)).expect("a take");
            let figures = Figures::of_take(&take).expect("figures");
            assert_eq!(figures.lost, Some(0.0), "{name}");
            if number == 1 {
                stays_clear(&take, kind);
            }
        }
    }
}

/// The path stays inside of the map, and what walks and runs in its free cells.
fn stays_clear(take: &Take, kind: &str) {
    let map = take.map.as_ref().expect("a map");
    for row in take.subjects["player"].path.rows() {
        assert!(map.grid().rect().contains(row.position), "{kind}: {row:?}");
        let cell = (row.position / 16.0).floor().as_i64vec2();
        let index = map.grid().index(cell.x, cell.y).expect("inside");
        assert!(kind == "flyer" || map.numbers()[index] == 0, "{kind}: {row:?}");
    }
}
