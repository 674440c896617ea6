//! The workbench in a window:
//!
//! ```sh
//! cargo run --release -p velvet-pan-workbench
//! ```

use std::path::PathBuf;
use std::process::ExitCode;
use std::time::Instant;

use clap::Parser;
use eframe::egui::{Ui, ViewportBuilder};
use velvet_pan_takes::Fault;
use velvet_pan_workbench::model::{Bench, Source};
use velvet_pan_workbench::window::Workbench;

/// Play in the tea terraces or ride a take, change the camera's settings while it runs, and compare.
#[derive(Debug, Parser)]
#[command(
    version,
    after_help = "\
Without a file you play Wren with the demo's tuning; saving it writes courier.toml into the current folder.

Examples:
  velvet-pan-workbench
  velvet-pan-workbench terraces/demo/terraces.toml
  velvet-pan-workbench ride.toml --play
  velvet-pan-workbench camera.toml
  velvet-pan-workbench --follow logs/"
)]
struct Arguments {
    /// A take to ride, or a tuning to play with; the tuning is watched, and read again when it changes
    #[arg(value_name = "TAKE|TUNING")]
    file: Option<PathBuf>,

    /// Play the take's subject instead of riding its path: see [player] in docs/settings.md
    #[arg(long, requires = "file")]
    play: bool,

    /// The folder of a ride log: shows the game that writes it, while it runs
    #[arg(long, value_name = "FOLDER", conflicts_with = "file")]
    follow: Option<PathBuf>,
}

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    match run(&arguments) {
        Ok(()) => ExitCode::SUCCESS,
        Err(fault) => {
            eprintln!("{fault}");
            ExitCode::FAILURE
        }
    }
}

fn run(arguments: &Arguments) -> Result<(), Fault> {
    let source = match (&arguments.file, &arguments.follow) {
        (_, Some(folder)) => Source::Log(folder.clone()),
        (Some(file), None) => match Source::of_file(file)? {
            Source::Take(path) if arguments.play => Source::PlayTake(path),
            source => source,
        },
        (None, None) => Source::Play(None),
    };
    // What is wrong with a file is said before there is a window.
    let bench = Bench::open(source)?;
    let options = eframe::NativeOptions {
        viewport: ViewportBuilder::default()
            .with_inner_size([1280.0, 800.0])
            .with_min_inner_size([480.0, 320.0])
            .with_title("Velvet Pan"),
        ..Default::default()
    };
    let make = |context: &eframe::CreationContext<'_>| -> Result<Box<dyn eframe::App>, _> {
        context.egui_ctx.set_visuals(velvet_pan_egui::dusk());
        let card = context.wgpu_render_state.as_ref().ok_or("no graphics card")?;
        let workbench = Workbench::new(bench, card.target_format);
        Ok(Box::new(App { workbench, last: Instant::now() }))
    };
    eframe::run_native("Velvet Pan", options, Box::new(make))
        .map_err(|error| Fault::new(format!("no window: {error}")))
}

/// The workbench, and the time at which it was last shown.
struct App {
    workbench: Workbench,
    last: Instant,
}

impl eframe::App for App {
    fn ui(&mut self, ui: &mut Ui, _: &mut eframe::Frame) {
        let now = Instant::now();
        let seconds = (now - self.last).as_secs_f64();
        self.last = now;
        self.workbench.frame(ui, seconds);
    }
}
