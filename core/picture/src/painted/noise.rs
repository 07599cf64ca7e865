//! Noise that is the same everywhere: hashed lattices, smoothly joined (Perlin 1985; value noise).

/// A number of 0..1 for a place on a lattice.
pub(crate) fn hashed(x: i32, y: i32, seed: u32) -> f32 {
    let mut h = (x as u32).wrapping_mul(0x9E37_79B1) ^ (y as u32).wrapping_mul(0x85EB_CA77) ^ seed.wrapping_mul(0xC2B2_AE3D);
    h = (h ^ (h >> 15)).wrapping_mul(0x2C1B_3C6D);
    h = (h ^ (h >> 12)).wrapping_mul(0x297A_2D39);
    h ^= h >> 15;
    (h >> 8) as f32 / (1u32 << 24) as f32
}

/// Smooth noise of 0..1, a lattice cell a unit wide.
pub(super) fn smooth(x: f32, y: f32, seed: u32) -> f32 {
    let (ix, iy) = (x.floor(), y.floor());
    let ease = |t: f32| t * t * (3.0 - 2.0 * t);
    let (fx, fy) = (ease(x - ix), ease(y - iy));
    let (ix, iy) = (ix as i32, iy as i32);
    let at = |dx, dy| hashed(ix + dx, iy + dy, seed);
    let mix = |a: f32, b: f32, t: f32| a + (b - a) * t;
    mix(mix(at(0, 0), at(1, 0), fx), mix(at(0, 1), at(1, 1), fx), fy)
}

/// Smooth noise in two sizes, the smaller half as strong; about 0..1.
pub(super) fn rough(x: f32, y: f32, seed: u32) -> f32 {
    (2.0 * smooth(x, y, seed) + smooth(x * 2.3, y * 2.3, seed ^ 0x5bd1)) / 3.0
}

/// How a hand swings off a line: two numbers of -1..1, changing over half a brush and over two.
pub(crate) fn swung(x: f32, y: f32, brush: f32, seed: u32) -> (f32, f32) {
    let (u, v) = (x / (0.6 * brush), y / (0.6 * brush));
    let of = |s: u32| 1.3 * (smooth(u, v, seed ^ s) - 0.5) + 0.7 * (smooth(u * 0.3, v * 0.3, seed ^ s ^ 0x77) - 0.5);
    (of(0x1357), of(0x2468))
}
