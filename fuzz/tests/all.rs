//! The check of every target, with its corpus and with random bytes.

use std::path::Path;

use rand::rngs::SmallRng;
use rand::{Rng, RngExt, SeedableRng};
use velvet_pan_fuzz::{camera, culling, files, presenting, tables};

/// The inputs of a target's corpus, with their names.
fn corpus(target: &str) -> Vec<(String, Vec<u8>)> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("corpus").join(target);
    let entries = std::fs::read_dir(&folder).unwrap_or_else(|error| panic!("{folder:?}: {error}"));
    let read = entries.map(|entry| {
        let path = entry.expect("an entry").path();
        (path.display().to_string(), std::fs::read(&path).expect("a file"))
    });
    let mut inputs: Vec<_> = read.collect();
    inputs.sort();
    assert!(!inputs.is_empty(), "nothing in {folder:?}");
    inputs
}

/// The number of random inputs, which can be set with an environment variable.
fn times(usual: u64) -> u64 {
    std::env::var("RANDOM_INPUTS").ok().and_then(|text| text.parse().ok()).unwrap_or(usual)
}

/// Checks the corpus, then random bytes, some of them enough for a whole game, then inputs of the corpus with changes.
fn run(target: &str, usual: u64, check: fn(&[u8])) {
    let corpus = corpus(target);
    for (name, input) in &corpus {
        println!("{name}");
        check(input);
    }
    for seed in 0..times(usual) {
        println!("seed {seed}");
        let mut random = SmallRng::seed_from_u64(seed);
        let mut bytes = vec![0; random.random_range(0..16_000)];
        random.fill_bytes(&mut bytes);
        check(&bytes);
        check(&changed(&mut random, &corpus[seed as usize % corpus.len()].1));
    }
}

/// The input with a few bytes overwritten, removed or inserted.
fn changed(random: &mut SmallRng, input: &[u8]) -> Vec<u8> {
    let mut bytes = input.to_vec();
    for _change in 0..random.random_range(1..6) {
        let at = random.random_range(0..=bytes.len());
        let (end, byte) = ((at + random.random_range(1..9)).min(bytes.len()), random.random());
        match random.random_range(0..4) {
            0 => drop(bytes.drain(at..end)),
            1 => bytes.insert(at, byte),
            2 => bytes.extend_from_within(at..end),
            _ => bytes[at..end].fill(byte),
        }
    }
    bytes
}

#[test]
fn any_calls_with_any_numbers() {
    run("camera", 400, camera::check);
}

#[test]
fn any_text_as_a_tuning_or_a_take() {
    run("files", 1_000, files::check);
}

#[test]
fn any_text_as_a_map_or_a_path() {
    run("tables", 2_000, tables::check);
}

#[test]
fn any_sprites_and_chunks_in_view() {
    run("culling", 1_000, culling::check);
}

#[test]
fn any_stride_and_any_placement() {
    run("presenting", 2_000, presenting::check);
}
