//! Figures are the same at any frame rate, and right where the result is known.

use crate::tools::{demo, demos};
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
    for name in demos() {
        let own = demo(&name);
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
    // At 120 units a second, by half every 0.1 s, until half a pixel is left.
    let behind = 120.0 * 0.1 / std::f64::consts::LN_2;
    let expected = 0.1 * (behind / 0.5).log2();
    assert!((quick.settle.expect("settles") - expected).abs() < 0.01, "{:?}", quick.settle);
    for stands in [0.5, 1.2] {
        let short = figures(&take(0.5, stands));
        assert_eq!((short.settle, short.stops, short.short_stops), (None, 0, 1), "{stands} s");
    }
    // Creeping is no rest.
    let creeps = figures(&take(12.0, 8.0));
    assert_eq!((creeps.settle, creeps.unsettled), (Some(5.0), 1));
    assert_eq!(creeps.when.get("settle"), Some(&2.0));
}

/// A view that comes back is beyond its rest, though the subject goes on before it is there.
#[test]
fn a_view_that_comes_back_has_overshot() {
    let figures = figures(
        "seconds = 6.0\n[tuning.follow]\nsmoothing = { half_life = 0.05 }\n\
         look_ahead = { seconds = [1.0, 0.0], reach = [0.4, 0.4], half_life = 0.5, turn_after = 0.0 }\n\
         [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [3.0, 360.0, 0.0], [4.0, 360.0, 0.0], [6.0, 600.0, 0.0]]\n",
    );
    assert_eq!((figures.stops, figures.short_stops), (0, 1));
    let overshoot = figures.overshoot.expect("it came back");
    // 118 ahead at the stop, less 9 of lag; after two half-lives a quarter of that is left.
    assert!((75.0..90.0).contains(&overshoot), "{overshoot}");
}

/// Look-ahead moves the goal: it is no lag. The distance from the anchor has a figure of its own.
#[test]
fn look_ahead_is_no_lag() {
    let at = |ahead: f64| {
        figures(&format!(
            "seconds = 8.0\n[tuning.follow]\nsmoothing = {{ half_life = 0.1 }}\n\
             look_ahead = {{ seconds = [{ahead}, 0.0], reach = [0.4, 0.4], half_life = 0.2 }}\n\
             [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [8.0, 960.0, 0.0]]\n"
        ))
    };
    let behind = 120.0 * 0.1 / std::f64::consts::LN_2;
    for ahead in [0.0, 0.5] {
        let figures = Figures::of_part(
            &take(&format!(
                "seconds = 8.0\n[tuning.follow]\nsmoothing = {{ half_life = 0.1 }}\n\
                 look_ahead = {{ seconds = [{ahead}, 0.0], reach = [0.4, 0.4], half_life = 0.2 }}\n\
                 [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [8.0, 960.0, 0.0]]\n"
            )),
            4.0..=8.0,
        )
        .expect("figures");
        let lag = figures.lag_mean.expect("it follows");
        assert!((lag - behind).abs() < 0.1, "{ahead}: {lag}");
        let off = figures.off_anchor.expect("it follows");
        assert!((off - (120.0 * ahead - behind).abs()).abs() < 0.2, "{ahead}: {off}");
    }
    assert!(at(0.5).view_ahead > at(0.0).view_ahead);
}

/// At 200 units a second, a place comes into view at the edge, and the subject is there half a screen later. Hazards are
/// taken when the subject is a quarter of the screen away.
#[test]
fn warnings_are_the_time_since_a_place_came_into_view() {
    let figures = figures(
        "seconds = 8.0\n[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [8.0, 1600.0, 0.0]]\n\
         [[hazards]]\nat = [1200.0, 0.0]\n[[hazards]]\nrect = [1400.0, -20.0, 60.0, 40.0]\n\
         [[hazards]]\nat = [1200.0, 900.0]\n",
    );
    let near = |value: Option<f64>, expected: f64| {
        assert!((value.expect("a warning") - expected).abs() < 0.01, "{value:?} for {expected}");
    };
    near(figures.warning, 160.0 / 200.0);
    near(figures.hazard_warning, (160.0 - 80.0) / 200.0);
    assert_eq!((figures.hazards_missed, figures.warnings.len()), (1, 5));
    assert!(figures.warnings.is_sorted_by_key(|warned| warned.seconds));
}

/// Rooms, scrolls and rails decide, not following: what following would be judged by does not count.
#[test]
fn who_decides_is_told() {
    let share = |tuning: &str, by: &str| {
        let figures = figures(&format!(
            "seconds = 4.0\n{tuning}[subjects.wren]\nkeys = [[0.0, 40.0, 90.0], [4.0, 200.0, 90.0]]\n"
        ));
        (figures.deciders.get(by).copied().unwrap_or(0.0), figures)
    };
    let (rooms, figures) = share("[tuning.rooms]\nsize = [320.0, 180.0]\n", "room");
    assert_eq!((rooms, figures.lag_worst, figures.off_anchor), (1.0, None, None));
    let (scroll, figures) = share("[tuning.scroll]\nspeed = [40.0, 0.0]\n", "scroll");
    assert_eq!((scroll, figures.settle), (0.5, None));
    let (rail, figures) = share("[tuning.rail]\npoints = [[0.0, 90.0], [400.0, 90.0]]\n", "rail");
    assert_eq!((rail, figures.lag_worst), (1.0, Some(0.0)));
    let (bounds, _) = share("[tuning.bounds]\nrect = [0.0, 0.0, 320.0, 180.0]\n", "bounds");
    assert_eq!(bounds, 1.0);
}

/// Of a rolled view only what is on the screen counts, and bounds that change are those in force.
#[test]
fn the_outside_is_what_the_screen_shows() {
    // Rolled by 45 degrees in the middle of a square of 320: each of two corners sticks out by 250 / √2 - 160.
    let rolled = figures(
        "seconds = 1.0\n[tuning.screen]\nsize = [320, 180]\n[tuning.rotation]\nhalf_life = 0.0\n\
         [tuning.bounds]\nrect = [0.0, 0.0, 320.0, 320.0]\n[subjects.wren]\nkeys = [[0.0, 160.0, 160.0]]\n\
         [[events]]\nat = 0.5\nrotate = 0.7853981633974483\n",
    );
    let beyond = 250.0 / std::f64::consts::SQRT_2 - 160.0;
    let outside = rolled.out_of_bounds.expect("bounds");
    assert!((outside - 4.0 * beyond * beyond).abs() < 1.0, "{outside}");
    let closing = figures(
        "seconds = 4.0\n[tuning.follow]\nsmoothing = { half_life = 0.2 }\n[tuning.bounds]\n\
         rect = [0.0, 0.0, 2000.0, 400.0]\n[subjects.wren]\nkeys = [[0.0, 1000.0, 200.0]]\n\
         [[events]]\nat = 1.0\nbounds = [1000.0, 100.0, 600.0, 200.0]\nglide = 1.0\n",
    );
    assert_eq!(closing.out_of_bounds, Some(0.0));
}

/// Zoom and rotation that never rest, shakes without an end, and art between the pixels have figures of their own.
#[test]
fn zooms_rotations_shakes_and_the_grid() {
    let walk = "[subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [6.0, 333.0, 0.0]]\n";
    let pumping: String = (0..40)
        .map(|at| (0.5 + f64::from(at) * 0.12, if at % 2 == 0 { (2.0, 0.3) } else { (0.8, 0.0) }))
        .map(|(at, (zoom, rotate))| {
            format!("[[events]]\nat = {at}\nzoom = {zoom}\nrotate = {rotate}\n")
        })
        .collect();
    let still = figures(&format!("seconds = 6.0\n{walk}"));
    assert_eq!((still.zooming, still.rotating, still.shaken), (Some(0.0), Some(0.0), Some(0.0)));
    assert_eq!((still.shake, still.off_grid), (None, Some(0.0)));
    let pumps = figures(&format!(
        "seconds = 6.0\n[tuning.zoom]\nhalf_life = 0.0\n[tuning.rotation]\nhalf_life = 0.0\n{walk}{pumping}"
    ));
    // 1.32 octaves and 17.2 degrees every 0.12 s.
    let (zooming, rotating) = (pumps.zooming.expect("zooms"), pumps.rotating.expect("rotates"));
    assert!((zooming - 2.5_f64.log2() / 0.12).abs() < 0.6, "{zooming}");
    assert!((rotating - 0.3_f64.to_degrees() / 0.12).abs() < 8.0, "{rotating}");
    let off = figures(&format!("seconds = 6.0\n[tuning.screen]\nsnap = 'off'\n{walk}"));
    assert!(off.off_grid > Some(0.9), "{:?}", off.off_grid);
    let quaking = figures(&format!(
        "seconds = 6.0\n[tuning.cues.hum]\nshake = {{ reach = [4.0, 4.0], hold = 60.0, fade = 1.0, hz = 9.0, motion = 'rattle' }}\n\
         {walk}[[events]]\nat = 0.0\ncue = 'hum'\n"
    ));
    assert!(quaking.shaken > Some(0.95) && quaking.shake > Some(1.0), "{quaking:?}");
}

#[test]
fn the_view_ahead_is_right_while_the_zoom_changes() {
    let text = "seconds = 6.0\n[tuning.follow]\nanchor = [0.3, 0.5]\n[tuning.zoom]\nhalf_life = 0.8\n\
        [subjects.wren]\nkeys = [[0.0, 0.0, 0.0], [6.0, 600.0, 0.0]]\n\
        [[events]]\nat = 1.0\nzoom = 3.0\n[[events]]\nat = 3.5\nzoom = 0.5\n";
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
        ("cut", "[[events]]\nat = 3.0\naim = [250.0, 0.0]\ncut = true\n"),
        (
            "glide",
            "[[events]]\nat = 2.0\naim = [900.0, 200.0]\nglide = 0.5\n[[events]]\nat = 4.0\nwatch = [\"wren\"]\nglide = 0.5\n",
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
