//! What a frame showed, as a log keeps it.

use velvet_pan::glam::{DVec2, Vec2};
use velvet_pan::{Snap, View};

use crate::text::hash::Hash;

/// What a frame showed: enough to see what differs, and a digest of everything else.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct ShownView {
    /// The centre of the view without shake, in world units.
    pub centre: DVec2,
    /// The zoom without shake.
    pub zoom: f64,
    /// The rotation without shake, in radians.
    pub rotation: f64,
    /// The shake, in screen pixels.
    pub shake: DVec2,
    /// The shake's part of the rotation, in radians.
    pub roll: f64,
    /// The number of cuts so far.
    pub cuts: u32,
    /// A digest of the bits of everything that the view shows: the numbers above, the window, and the snapped picture.
    pub digest: u64,
}

impl ShownView {
    /// Returns what a view shows.
    ///
    /// ```
    /// # use velvet_pan::{Lens, Screen, Snap, View};
    /// # use velvet_pan_takes::ShownView;
    /// let digest = |x: f64| {
    ///     ShownView::of(&View::new(Lens::new(&Screen::default()), [x, 0.0], Snap::Off)).digest
    /// };
    /// assert_eq!(digest(3.0), digest(3.0));
    /// assert_ne!(digest(3.0), digest(3.0_f64.next_up()));
    /// ```
    #[must_use]
    pub fn of(view: &View) -> Self {
        let (steady, shake) = (view.steady(), view.shake());
        let shown = Self {
            centre: steady.centre(),
            zoom: steady.lens().zoom(),
            rotation: steady.lens().rotation(),
            shake: shake.pixels,
            roll: shake.roll,
            cuts: view.cuts(),
            digest: 0,
        };
        Self { digest: shown.digest_with(view), ..shown }
    }

    /// Returns the names of the numbers, and the numbers, for messages.
    #[must_use]
    pub fn numbers(&self) -> [(&'static str, f64); 8] {
        [
            ("centre x", self.centre.x),
            ("centre y", self.centre.y),
            ("zoom", self.zoom),
            ("rotation", self.rotation),
            ("shake x", self.shake.x),
            ("shake y", self.shake.y),
            ("roll", self.roll),
            ("cuts", f64::from(self.cuts)),
        ]
    }

    fn digest_with(&self, view: &View) -> u64 {
        let (corner, residual) = (view.corner(), view.residual());
        let (window, placement) = (view.window_size(), view.placement());
        let pair = |Vec2 { x, y }: Vec2| u64::from(x.to_bits()) << 32 | u64::from(y.to_bits());
        let snap = match view.snap() {
            Snap::Off => 0,
            Snap::Whole => 1,
            Snap::Subpixel => 2,
            _ => 3,
        };
        let size = view.size();
        let rest = [
            u64::from(window.width) << 32 | u64::from(window.height),
            u64::from(size.x) << 32 | u64::from(size.y),
            corner.x as u64,
            corner.y as u64,
            pair(residual),
            placement.scale.to_bits(),
            view.time().to_bits(),
            snap,
        ];
        let numbers = self.numbers().map(|(_, number)| number.to_bits());
        let mut hash = Hash::default();
        for word in numbers.into_iter().chain(rest) {
            hash.add(word);
            // Bits of both halves reach the low ones, which a multiplication alone never does.
            hash.0 ^= hash.0 >> 32;
        }
        hash.0
    }
}
