//! A test of a game's camera: read a take, ride it, and hold the ride to its figures.
//!
//! Run with `cargo run -p velvet-pan-takes --example camera_test`. In a game this is a `#[test]`, and the
//! take is a file of its own: `Take::open("tests/takes/run_and_leap.toml")`.

use velvet_pan_takes::{BuiltIn, Change, Fault, Figures, Files, Overrides, Take};

const RUN_AND_LEAP: &str = r#"
seconds = 4.0
fps = 60

[tuning.follow]
anchor = [0.5, 0.6]
smoothing = { half_life = 0.08 }
airborne = "hold"
leash = [0.4, 0.4]

[subjects.courier]
keys = [[0.0, 0.0, 300.0], [2.0, 260.0, 300.0], [2.3, 300.0, 250.0], [2.6, 340.0, 300.0]]
"#;

fn main() -> Result<(), Fault> {
    let files = [BuiltIn { name: "run_and_leap.toml", text: RUN_AND_LEAP.into() }];
    let figures = |changes: Vec<Change>| {
        let overrides = Overrides { changes, ..Overrides::default() };
        let take = Take::read(Files::BuiltIn(&files), "run_and_leap.toml".as_ref(), &overrides)?;
        Figures::of_take(&take)
    };
    let ours = figures(Vec::new())?;
    assert_eq!(ours.lost, Some(0.0), "the courier is never off the screen");
    assert!(ours.lag_worst < Some(60.0), "the worst lag is {:?} screen pixels", ours.lag_worst);
    assert!(ours.settle < Some(0.5), "the view settles in {:?} s", ours.settle);

    // The same run with a sluggish camera does not pass.
    let sluggish = "follow.smoothing={ half_life = 0.6 }".parse::<Change>().map_err(Fault::new)?;
    let sluggish = figures(vec![sluggish])?;
    assert!(sluggish.lag_worst > ours.lag_worst);
    println!("lag at worst: {:.1} screen pixels", ours.lag_worst.unwrap_or_default());
    println!("with a half-life of 0.6 s: {:.1}", sluggish.lag_worst.unwrap_or_default());
    Ok(())
}
