//! A frame allocates nothing.

use std::hint::black_box;

use velvet_pan::{Bounds, Camera, Grid, Rect, Settings, Shake, ShakeMix, Smoothing};

#[global_allocator]
static ALLOCATOR: dhat::Alloc = dhat::Alloc;

#[test]
fn frames_after_the_first_allocate_nothing() {
    let mut settings = Settings::default();
    settings.follow.smoothing = Smoothing::HalfLife(0.1).into();
    settings.shake.mix = ShakeMix::Strongest;
    settings.bounds = Some(Bounds::new(Rect::new([0, 0], [3840, 960])));
    let mut camera = Camera::new(settings).expect("valid settings");
    let grid = Grid::new(240, 60, [16, 16]);
    camera.follow(0.0, [0, 0]);

    let _profiler = dhat::Profiler::builder().testing().build();
    let before = dhat::HeapStats::get().total_blocks;
    for frame in 0..1000 {
        if frame % 7 == 0 {
            camera.shake(&Shake::default(), 1.0);
        }
        let at = [f64::from(frame) * 3.0, 400.0];
        camera.set_rotation(f64::from(frame % 3) * 0.1);
        let view = camera.follow(1.0 / 60.0, at);
        let drawn: usize = view.tiles(&grid).rows().map(|row| row.indices().len()).sum();
        black_box((view.place(at), view.place_followed(at), view.placement(), view.clip_matrix()));
        black_box(drawn);
    }
    assert_eq!(dhat::HeapStats::get().total_blocks - before, 0);
}
