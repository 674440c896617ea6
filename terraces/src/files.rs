//! The demo's files: takes, tunings, maps and paths.

use velvet_pan_takes::BuiltIn;

use crate::courier::run;
use crate::{cellar, house, land};

/// The take that `demo` runs.
pub const TAKE: &str = "terraces.toml";

/// Returns the demo's files, as they also stand in `terraces/demo/`.
pub fn files() -> Vec<BuiltIn> {
    let written = |name, text: &'static str| BuiltIn { name, text: text.into() };
    let made = |name, text: String| BuiltIn { name, text: text.into() };
    vec![
        written(TAKE, include_str!("../demo/terraces.toml")),
        written("terraces.limits.toml", include_str!("../demo/terraces.limits.toml")),
        written("courier.toml", include_str!("../demo/courier.toml")),
        written("gully.toml", include_str!("../demo/gully.toml")),
        written("pan.toml", include_str!("../demo/pan.toml")),
        written("valley.toml", include_str!("../demo/valley.toml")),
        written("kite.toml", include_str!("../demo/kite.toml")),
        written("house.toml", include_str!("../demo/house.toml")),
        written("cellar.toml", include_str!("../demo/cellar.toml")),
        written("shrine.toml", include_str!("../demo/shrine.toml")),
        written("cable.toml", include_str!("../demo/cable.toml")),
        written("landslide.toml", include_str!("../demo/landslide.toml")),
        written("cutscene.toml", include_str!("../demo/cutscene.toml")),
        made("cellar.csv", cellar::map_csv()),
        made("house.csv", house::map_csv()),
        made("terraces.csv", land::map_csv()),
        made("courier.csv", run::path_csv()),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The files in `terraces/demo/` are what the code makes; `UPDATE_DEMO=1 cargo test` writes them again.
    #[test]
    fn files_stand_in_the_demo_folder_as_made() {
        let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
        for file in files() {
            let path = folder.join(file.name);
            if std::env::var_os("UPDATE_DEMO").is_some() {
                std::fs::write(&path, file.text.as_bytes()).unwrap();
            }
            let stands = std::fs::read_to_string(&path).unwrap();
            assert!(
                stands == file.text,
                "terraces/demo/{} differs from what the code makes",
                file.name
            );
        }
    }
}
