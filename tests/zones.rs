//! Zones and lures: how they fade, and how far they reach.

use proptest::prelude::*;
use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Deadzone, Lure, Rect, Settings, Zone};

use crate::rooms::walks;
use crate::support::properties::properties;

properties! {
    #![cases(1000)]

    /// In and out of zones, no step of the picture is larger than its speed explains: the subject's movement, and the
    /// greatest effect of anchor and zoom (an eased fade is 1.5 times as fast in its middle as a linear one).
    #[test]
    fn a_zone_fades_at_a_limited_rate(
        zones in prop::collection::vec(zones(), 1..5), walk in walks(6.0),
    ) {
        let mut camera = Camera::new(Settings { zones: zones.clone(), ..Settings::default() }).unwrap();
        let mut place = DVec2::ZERO;
        let mut last = camera.follow(0.0, place);
        for (seconds, way) in walk {
            place += way;
            let view = camera.follow(seconds, place);
            // With every zone blending at once.
            let rate: f64 = zones.iter().map(|zone| 1.5 * seconds / zone.fade).sum();
            let zoom = (view.lens().zoom() / last.lens().zoom()).ln().abs();
            prop_assert!(zoom <= rate * 6.0_f64.ln() + 1e-9, "zoom by {zoom}");
            let size = view.lens().view_size().max(last.lens().view_size());
            let shown = size * (rate + zoom.exp() - 1.0);
            let step = (view.centre() - last.centre()).abs();
            prop_assert!(step.cmple(way.abs() + shown + 1e-6).all(), "{step} for {way}, at most {shown}");
            last = view;
        }
    }
}

properties! {
    #![cases(300)]

    /// Many lures and zones are found by their positions. Distant ones do not change a single bit, wherever they are
    /// in the list.
    #[test]
    fn what_is_far_away_changes_nothing(
        walk in walks(60.0), zooms in prop::collection::vec(1.0..2.0_f64, 4), spread in 30.0..400.0_f64,
        far in prop::collection::vec((2.0..9.0_f64, 0.0..6.3_f64, 10.0..900.0_f64), 40..120),
    ) {
        // The walk is held to a field, and everything far is outside of it.
        let field = 600.0;
        let near = |index: usize| DVec2::from_angle(index as f64 * 1.3) * spread;
        let zones: Vec<Zone> = (0..4)
            .map(|index| {
                let rect = Rect::around(near(index), [90, 60]);
                Zone { zoom: Some(zooms[index]), fade: 0.2 * index as f64, ..Zone::new(rect) }
            })
            .collect();
        let lures: Vec<Lure> =
            (0..4).map(|index| Lure { at: near(index + 7), radius: 120.0, strength: 0.5 }).collect();
        let settings = Settings { zones: zones.clone(), lures: lures.clone(), ..Settings::default() };
        let mut crowded = settings.clone();
        for (index, (away, angle, size)) in far.iter().enumerate() {
            let at = DVec2::from_angle(*angle) * (field * away + 2.0 * size);
            let (zone_at, lure_at) = (index * 7 % (crowded.zones.len() + 1), index * 5 % (crowded.lures.len() + 1));
            crowded.zones.insert(zone_at, Zone { zoom: Some(3.0), ..Zone::new(Rect::around(at, [*size, *size])) });
            crowded.lures.insert(lure_at, Lure { at, radius: *size, strength: 0.9 });
        }
        let (mut few, mut many) = (Camera::new(settings).unwrap(), Camera::new(crowded).unwrap());
        let mut at = DVec2::ZERO;
        for (seconds, way) in walk {
            at = (at + way).clamp(DVec2::splat(-field), DVec2::splat(field));
            prop_assert_eq!(few.follow(seconds, at), many.follow(seconds, at));
        }
    }
}

prop_compose! {
    fn zones()(
        corner in (-200.0..200.0_f64, -200.0..200.0_f64), size in (10.0..200.0_f64, 10.0..200.0_f64),
        fade in 0.1..1.0_f64,
        anchor in prop::option::of((0.0..1.0_f64, 0.0..1.0_f64)),
        zoom in prop::option::of(0.5..3.0_f64),
    ) -> Zone {
        let rect = Rect::from_corner_size(corner, size);
        Zone { fade, anchor: anchor.map(DVec2::from), zoom, ..Zone::new(rect) }
    }
}

#[test]
fn zones_change_and_change_back() {
    let mut zone = Zone::new(Rect::new([100, -100], [300, 100]));
    (zone.anchor, zone.zoom, zone.fade) = (Some(DVec2::new(0.25, 0.5)), Some(2.0), 0.4);
    zone.deadzone = Some(Deadzone { left: 0.1, right: 0.1, top: 0.0, bottom: 0.0 });
    let mut camera = Camera::new(Settings { zones: vec![zone], ..Settings::default() }).unwrap();
    camera.follow(0.0, [0, 0]);
    camera.follow(0.1, [120, 0]);
    let view = camera.follow(1.0, [200, 0]);
    assert_eq!(view.lens().zoom(), 2.0);
    assert!(
        (view.world_to_screen([200, 0]).x - (0.25 + 0.1) * 320.0).abs() < 1e-3,
        "held at the zone's edge of the deadzone"
    );
    camera.follow(0.1, [320, 0]);
    let view = camera.follow(1.0, [320, 0]);
    assert_eq!((view.lens().zoom(), view.world_to_screen([320, 0]).x), (1.0, 160.0));
    // A cut into it is there at once.
    camera.cut();
    assert_eq!(camera.follow(0.1, [200, 0]).lens().zoom(), 2.0);
}
