//! A camera whose tuning file can be changed while the game runs.
//!
//! `cargo run -p velvet-pan-takes --example hot_reload`

use std::error::Error;
use std::{env, fs, process, thread, time};

use velvet_pan::Camera;
use velvet_pan_takes::TuningFile;

fn main() -> Result<(), Box<dyn Error>> {
    let path = env::temp_dir().join(format!("velvet-pan-{}.toml", process::id()));
    fs::write(&path, "[zoom]\nlevel = 1.0 # as wide as it goes\n")?;

    let mut tuning = TuningFile::open(&path)?;
    tuning.watch()?;
    let mut camera = Camera::new(tuning.settings().clone())?;
    for frame in 0..120 {
        match tuning.poll() {
            Some(Ok(())) => camera.set_settings(tuning.settings().clone(), 0.2)?,
            Some(Err(fault)) => println!("{fault}"),
            None => {}
        }
        let view = camera.follow(1.0 / 60.0, [f64::from(frame) * 2.0, 100.0]);
        if frame % 20 == 0 {
            println!("frame {frame:>3}: zoom {:.2}", view.lens().zoom());
        }
        if frame == 30 {
            fs::write(&path, "[zoom]\nlevel = 2.0 # somebody came closer\n")?;
        }
        thread::sleep(time::Duration::from_millis(16));
    }

    tuning.settings_mut().zoom.level = 1.5;
    tuning.save()?;
    print!("saved:\n{}", fs::read_to_string(&path)?);
    fs::remove_file(&path)?;
    Ok(())
}
