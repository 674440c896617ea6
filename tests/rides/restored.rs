//! A state is everything: a new camera that takes it back is the same camera, to the bit.

use std::fmt::Write;

use velvet_pan::glam::DVec2;
use velvet_pan::{Camera, Cameras, Ease, StateError, View};

use super::random_play::{Dice, Game, Pcg};

const FRAMES: u64 = 600;

/// The positions of the subjects of a game.
type Places = [DVec2; 4];

/// What each getter of a camera returns, with all digits.
fn getters(camera: &Camera) -> String {
    let mut all = format!("{:?} {:?} {:?}", camera.view(), camera.state(), camera.overlay());
    let of = (camera.goal(), camera.lag(), camera.off_anchor(), camera.ahead(), camera.room());
    let limits = (camera.bounds(), camera.bounds_now(), camera.barrier(), camera.decision());
    let is = (camera.is_in_hand(), camera.is_gliding(), camera.is_shaking());
    let dropped = [0, 1, 2, 3].map(|id| camera.is_dropped(id));
    let shakes = (camera.shake_envelope(), camera.layers());
    write!(all, "{of:?} {limits:?} {is:?} {dropped:?} {shakes:?}").expect("a text takes any");
    all
}

/// A set of new cameras that has taken the state of another one.
fn restored(cameras: &Cameras<u64>) -> Cameras<u64> {
    let anew = |(key, camera): (&u64, &Camera)| {
        let mut other = Camera::new(camera.settings().clone()).expect("valid settings");
        other.resize(camera.view().window_size());
        (*key, other)
    };
    let mut others = cameras.iter().map(anew);
    let (key, first) = others.next().expect("three cameras");
    let mut set = Cameras::new(key, first);
    for (key, camera) in others {
        set.insert(key, camera);
    }
    set.restore(&cameras.state()).expect("a state of such cameras");
    set
}

/// A frame with any calls before it: the same for the same number.
fn play(cameras: &mut Cameras<u64>, at: &mut Places, number: u64) -> View {
    let mut dice = Pcg(number << 8);
    match dice.below(20) {
        0 => assert!(cameras.switch_to(&u64::from(dice.below(3)))),
        1..4 => {
            let ease = dice.pick(&[Ease::Smooth, Ease::Linear, Ease::InOut]);
            let key = u64::from(dice.below(3));
            assert!(cameras.glide_to(&key, dice.fair(0.0, 0.5), ease));
        }
        _ => {}
    }
    for (key, camera) in cameras.iter_mut() {
        Game(Pcg(number << 8 | (key + 1))).any_frame(camera, at);
    }
    cameras.view(dice.fair(0.0, 0.05))
}

/// In each frame a new set takes the state, and one that took it long ago is still the same.
#[test]
fn the_bits_of_restored_cameras() {
    for seed in 0..8 {
        let mut cameras = Cameras::new(0, Game(Pcg(3 * seed)).camera());
        for key in 1..3 {
            cameras.insert(key, Game(Pcg(3 * seed + key)).camera());
        }
        let mut at = [DVec2::new(300.0, 60.0); 4];
        let mut long_ago = None;
        for frame in 0..FRAMES {
            let place = format!("seed {seed}, frame {frame}");
            let (number, before) = (seed << 32 | frame, at);
            let mut anew = restored(&cameras);
            for ((_, one), (_, other)) in cameras.iter().zip(anew.iter()) {
                assert_eq!(getters(one), getters(other), "{place}");
            }
            if frame == 60 {
                long_ago = Some(anew.clone());
            }
            let view = play(&mut cameras, &mut at, number);
            for again in [Some(&mut anew), long_ago.as_mut()].into_iter().flatten() {
                let mut at = before;
                assert_eq!(play(again, &mut at, number), view, "{place}");
                assert_eq!(again.state(), cameras.state(), "{place}");
            }
        }
        let mut fewer = Cameras::new(0, Game(Pcg(seed)).camera());
        let before = fewer.state();
        assert_eq!(fewer.restore(&cameras.state()), Err(StateError::UnknownCamera));
        assert_eq!(fewer.state(), before);
    }
}

/// A getter that nothing compares might return anything.
#[test]
fn every_getter_is_compared() {
    let own = include_str!("restored.rs");
    let list = include_str!("../../docs/api/velvet-pan.txt");
    let getters = list.lines().filter_map(|line| {
        line.strip_prefix("impl Camera { fn ")?.split_once("(&self").map(|(name, _)| name)
    });
    let missing: Vec<&str> = getters.filter(|name| !own.contains(&format!(".{name}("))).collect();
    assert!(missing.is_empty(), "{missing:?}");
}
