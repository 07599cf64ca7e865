//! What the arithmetic of this machine allows, measured on one core.

use lean_media::lanes::LANES;
use std::hint::black_box;
use std::time::Instant;

/// Best rate of several rounds.
pub(crate) fn rate(mixes: usize, mut work: impl FnMut()) -> f64 {
    (0..15)
        .map(|_| {
            let start = Instant::now();
            work();
            mixes as f64 / start.elapsed().as_secs_f64()
        })
        .fold(0.0, f64::max)
}

/// Pairs of a square root and a division of eight numbers, a second.
pub(crate) fn pairs_a_second() -> f64 {
    const ROUNDS: usize = 40_000;
    rate(ROUNDS * 8, || {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            unsafe { divide_wide(ROUNDS) };
            return;
        }
        divide(ROUNDS);
    })
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn divide_wide(rounds: usize) {
    divide(rounds);
}

#[inline(always)]
fn divide(rounds: usize) {
    let mut x = [[1.5f32; LANES]; 8];
    for _ in 0..rounds {
        for row in &mut x {
            for v in row.iter_mut() {
                *v = 2.0 / (1.0 + v.sqrt());
            }
        }
    }
    black_box(x);
}

/// Multiply-adds of eight numbers, a second.
pub(crate) fn operations_a_second() -> f64 {
    const ROUNDS: usize = 100_000;
    rate(ROUNDS * 12, || {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the features were just found on this processor.
            unsafe { multiply_wide(ROUNDS) };
            return;
        }
        multiply(ROUNDS);
    })
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn multiply_wide(rounds: usize) {
    multiply(rounds);
}

#[inline(always)]
fn multiply(rounds: usize) {
    let mut x = [[1.0f32; LANES]; 12];
    let (a, b) = (black_box(0.999_9f32), black_box(1e-4f32));
    for _ in 0..rounds {
        for row in &mut x {
            for v in row.iter_mut() {
                *v = v.mul_add(a, b);
            }
        }
    }
    black_box(x);
}
