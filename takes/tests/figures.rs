//! Figures are the same at any frame rate, and right where the result is known.

use crate::tools::{DEMOS, demo};
use velvet_pan_takes::{BuiltIn, Figure, Figures, Files, Overrides, Take};

fn take(text: &str) -> Take {
    let files = [BuiltIn { name: "take.toml", text: text.to_owned().into() }];
    let overrides = Overrides::default();
    Take::read(Files::BuiltIn(&files), "take.toml".as_ref(), &overrides).expect("a take")
}

fn figures(text: &str) -> Figures {
    Figures::of_take(&take(text)).expect("figures")
}

/// Every figure of every demo take, at four frame rates.
#[test]
fn every_figure_is_the_same_at_any_frame_rate() {
    for name in DEMOS {
        let own = demo(name);
        let at = |fps: f64| Figures::of_take(&Take { fps, ..own.clone() }).expect("figures");
        let reference = at(240.0);
        for fps in [30.0, 60.0, 120.0] {
            let other = at(fps);
            for figure in &Figure::ALL {
                let (a, b) = (figure.of(&reference), figure.of(&other));
                let near = match (a, b) {
                    (Some(a), Some(b)) => (a - b).abs() <= 0.02 * a.abs().max(b.abs()),
                    (a, b) => a == b,
                };
                assert!(near, "{name}: {} {a:?} at 240, {b:?} at {fps}", figure.name);
            }
        }
    }
}

/// A camera with look-ahead has passed its position of rest when the subject stops.
#[test]
fn overshoot_counts_from_the_rest() {
    let figures = figures(
        "seconds = 9.0\n[tuning.follow]\nsmoothing = { half_life = 0.05 }\n\
         look_ahead = { seconds = [0.6, 0.0], reach = [0.4, 0.0], half_life = 0.2, turn_after = 0.0 }\n\
         [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [5.0, 600.0, 0.0], [9.0, 600.0, 0.0]]\n",
    );
    // 120 units a second, 0.6 s ahead, less what smoothing leaves behind.
    let overshoot = figures.overshoot.expect("a stop");
    assert!((60.0..=72.0).contains(&overshoot), "{overshoot}");
    assert_eq!((figures.stops, figures.unsettled), (1, 0));
}

#[test]
fn a_stop_that_does_not_settle_is_the_worst() {
    let take = |half_life: f64, stands: f64| {
        format!(
            "seconds = {}\n[tuning.follow]\nsmoothing = {{ half_life = {half_life} }}\n\
             [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [2.0, 240.0, 0.0], [{}, 240.0, 0.0], [{}, 480.0, 0.0]]\n",
            4.0 + stands,
            2.0 + stands,
            4.0 + stands
        )
    };
    let slow = figures(&take(2.0, 8.0));
    assert_eq!((slow.settle, slow.stops, slow.unsettled), (Some(5.0), 1, 1));
    assert_eq!(slow.overshoot, None);
    let quick = figures(&take(0.1, 8.0));
    assert_eq!((quick.stops, quick.unsettled), (1, 0));
    // At 120 units a second, by half every 0.1 s, until slower than 4.
    let expected = 0.1 * (120.0_f64 / 4.0).log2();
    assert!((quick.settle.expect("settles") - expected).abs() < 0.01, "{:?}", quick.settle);
    let short = figures(&take(0.5, 0.5));
    assert_eq!((short.settle, short.stops, short.short_stops), (None, 0, 1));
}

#[test]
fn the_view_ahead_is_right_while_the_zoom_changes() {
    let text = "seconds = 6.0\n[tuning.follow]\nanchor = [0.3, 0.5]\n[tuning.zoom]\nhalf_life = 0.8\n\
        [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [6.0, 600.0, 0.0]]\n\
        [[timeline]]\nat = 1.0\nzoom = 3.0\n[[timeline]]\nat = 3.5\nzoom = 0.5\n";
    let ahead = figures(text).view_ahead.expect("it moves");
    assert!((ahead - 0.7).abs() < 1e-6, "{ahead}");
}

/// A cut of less than a screen, a change of room, a cutscene and a teleport do not count as motion.
#[test]
fn what_is_not_following_is_not_measured_as_motion() {
    let walk = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [6.0, 300.0, 0.0]]\n";
    let still = figures(&format!("seconds = 6.0\n{walk}"));
    assert!((still.peak_speed.expect("it moves") - 50.0).abs() < 1e-6);
    let events = [
        ("cut", "[[timeline]]\nat = 3.0\naim = [250.0, 0.0]\ncut = true\n"),
        (
            "glide",
            "[[timeline]]\nat = 2.0\naim = [900.0, 200.0]\nglide = 0.5\n[[timeline]]\nat = 4.0\nwatch = [\"wren\"]\nglide = 0.5\n",
        ),
        (
            "rooms",
            "[tuning.rooms]\nlist = [[-100.0, -90.0, 300.0, 180.0], [200.0, -90.0, 320.0, 180.0]]\n",
        ),
    ];
    for (what, event) in events {
        let figures = figures(&format!("seconds = 6.0\n{walk}{event}"));
        let (speed, led) = (figures.peak_speed.unwrap_or(0.0), figures.led);
        assert!(speed <= 50.0 + 1e-6, "{what}: {speed}");
        assert!(led > 0.0 && figures.cuts + u32::from(led > 0.05) > 0, "{what}: {figures:?}");
    }
    let teleport = figures(
        "seconds = 6.0\n[tuning.follow]\nsmoothing = { half_life = 0.1 }\n[subjects.wren]\n\
         keys = [[0.0, 0.0, 0.0], [3.0, 150.0, 0.0], [3.01, 350.0, 0.0], [6.0, 500.0, 0.0]]\n",
    );
    assert!(teleport.peak_speed.expect("it moves") < 60.0, "{teleport:?}");
    assert!(teleport.teleports > 0 && teleport.led > 0.1);
}

/// The boss fight without the cutscene.
#[test]
fn a_part_of_a_ride_is_measured_alone() {
    let text = "seconds = 9.0\n[tuning.follow]\nsmoothing = { half_life = 0.2 }\n[subjects.wren]\n\
        keys = [[0.0, 0.0, 0.0], [3.0, 90.0, 0.0], [6.0, 390.0, 0.0], [9.0, 480.0, 0.0]]\n";
    let part = |from: f64, to: f64| Figures::of_part(&take(text), from..=to).expect("figures");
    let lag = |speed: f64| speed * 0.2 / std::f64::consts::LN_2;
    assert!((part(2.0, 3.0).lag_mean.expect("lag") - lag(30.0)).abs() < 0.1);
    assert!((part(5.0, 6.0).lag_mean.expect("lag") - lag(100.0)).abs() < 0.1);
    assert!((part(0.0, 9.0).lag_worst.expect("lag") - lag(100.0)).abs() < 0.1);
    assert!((part(5.0, 6.0).peak_speed.expect("speed") - 100.0).abs() < 0.1);
}

#[test]
fn a_figure_is_missing_for_a_reason() {
    let nothing = figures("seconds = 1.0\n");
    for figure in &Figure::ALL {
        assert!(!figure.reason().is_empty());
        if figure.of(&nothing).is_some() {
            assert!(
                ["lost"].contains(&figure.key) || figure.of(&nothing) == Some(0.0),
                "{}",
                figure.key
            );
        }
        assert!(Figure::named(figure.key).is_some_and(|one| one.key == figure.key));
    }
    assert_eq!(nothing.lag_mean, None);
    assert_eq!(Figure::named("lag.worst").map(|figure| figure.key), Some("lag_worst"));
    assert_eq!(Figure::named("view-ahead").map(|figure| figure.key), Some("view_ahead"));
    assert!(Figure::named("lagg").is_none());
}
