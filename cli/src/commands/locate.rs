//! `locate`: points between world, screen and window.

use std::io::Read;
use std::path::Path;

use clap::{Args, ValueEnum};
use serde::Serialize;
use velvet_pan::View;
use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan_takes::{Fault, Files, Ride, Table, reason};

use crate::arguments::args::{OutFile, TakeArgs};
use crate::arguments::view_args::{ViewArgs, point};
use crate::commands::trace::Format;
use crate::support::output::{write_csv, write_json, write_to};

/// Convert points between world, screen and window, for one view of a take.
#[derive(Args, Debug)]
#[command(after_help = "\
Points are given as arguments, or as lines of x,y on standard input. The window's columns are empty
where the window does not show the point. Without --at or --centre the view is the ride's first.

Examples:
  velvet-pan locate terraces/demo/terraces.toml 900,720 --at 9.5
  velvet-pan locate terraces/demo/terraces.toml 640,360 --from window --at 9.5
  printf '0,0\\n320,180\\n' | velvet-pan locate terraces/demo/terraces.toml --from screen --centre 500,700")]
pub struct LocateArgs {
    #[command(flatten)]
    take: TakeArgs,

    /// The points; write -- before them if one begins with a minus. Without points, they are read from standard input
    #[arg(value_name = "X,Y", value_parser = point)]
    points: Vec<DVec2>,

    /// The space that the points are given in
    #[arg(long, value_enum, default_value_t = Space::World)]
    from: Space,

    #[command(flatten)]
    view: ViewArgs,

    #[command(flatten)]
    out: OutFile,

    /// The format of the output
    #[arg(long, value_enum, default_value_t = Format::Csv)]
    format: Format,
}

/// A space that points are in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Space {
    /// The game's own units
    World,
    /// Screen pixels from the top left
    Screen,
    /// Physical pixels from the window's top left
    Window,
}

/// A point in all three spaces.
#[derive(Clone, Copy, Debug, Default, Serialize)]
struct Located {
    world_x: Option<f64>,
    world_y: Option<f64>,
    screen_x: Option<f64>,
    screen_y: Option<f64>,
    window_x: Option<f64>,
    window_y: Option<f64>,
}

/// Runs the command.
pub fn run(args: &LocateArgs) -> Result<(), Fault> {
    let take = args.take.read(Files::Disk)?;
    let view = match args.view.view(&take)? {
        Some(view) => view,
        None => match Ride::new(&take)?.next() {
            Some(first) => first.view,
            None => return Ok(()),
        },
    };
    let points = if args.points.is_empty() { read_points()? } else { args.points.clone() };
    let located: Vec<Located> =
        points.into_iter().map(|point| locate(&view, args.from, point)).collect();
    write_to(args.out.out.as_deref(), |out| match args.format {
        Format::Csv => write_csv(&located, out),
        Format::Json => write_json(&located, out),
    })
}

/// Returns the lines of standard input. A first line without numbers is a header.
fn read_points() -> Result<Vec<DVec2>, Fault> {
    let mut text = String::new();
    std::io::stdin()
        .read_to_string(&mut text)
        .map_err(|error| Fault::new(format!("standard input: {}", reason(&error))))?;
    let name = Path::new("standard input");
    let table = Table::new(name, &text);
    let mut points = Vec::new();
    for (index, (line, record)) in table.records()?.into_iter().enumerate() {
        let numbers: Vec<Option<f64>> = record.iter().map(|field| field.parse().ok()).collect();
        match numbers.as_slice() {
            [Some(x), Some(y), ..] if x.is_finite() && y.is_finite() => {
                points.push(DVec2::new(*x, *y));
            }
            _ if index == 0 && numbers.iter().all(Option::is_none) => {}
            _ => return Err(table.fault(line, 1, "expected two finite numbers, x,y")),
        }
    }
    Ok(points)
}

fn locate(view: &View, from: Space, point: DVec2) -> Located {
    let screen = match from {
        Space::World => Some(view.world_to_screen_f64(point)),
        Space::Screen => Some(point),
        Space::Window => view.window_to_screen((point.x as f32, point.y as f32)).map(DVec2::from),
    };
    let world = match from {
        Space::World => Some(point),
        _ => screen.map(|screen| view.screen_to_world(screen.as_vec2())),
    };
    let window = match from {
        Space::Window => Some(point),
        _ => screen.and_then(|screen| window(view, screen.as_vec2())),
    };
    Located {
        world_x: world.map(|at| at.x),
        world_y: world.map(|at| at.y),
        screen_x: screen.map(|at| at.x),
        screen_y: screen.map(|at| at.y),
        window_x: window.map(|at| at.x),
        window_y: window.map(|at| at.y),
    }
}

/// Returns the position in the window of a point of the screen, or `None` if it is outside the picture.
fn window(view: &View, screen: Vec2) -> Option<DVec2> {
    let at = view.screen_to_window(screen);
    view.window_to_screen(at).map(|_| DVec2::new(f64::from(at.x), f64::from(at.y)))
}
