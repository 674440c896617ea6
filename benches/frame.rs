//! What a frame costs.
fn main() {}
