//! Rows of costs held in registers while sets are added up.

use lean_recipes::cost::quick::less;

/// Numbers in one register; rows are padded to a multiple of this.
pub(crate) const EIGHT: usize = 8;

/// A row of so many costs.
pub(crate) trait Row: Copy {
    /// The `nth` row of many.
    fn read(rows: &[f32], nth: usize) -> Self;
    /// The lesser of each two.
    fn least(self, other: Self) -> Self;
    /// Each two added.
    fn plus(self, other: Self) -> Self;
    /// Whether any is below its counterpart.
    fn any_below(self, other: Self) -> bool;
    /// All added up.
    fn sum(self) -> f32;
    /// Written out.
    fn write(self, out: &mut [f32]);
}

/// Calls a generic function with the row type that fits a width: `by_width!(Wide, width, self.walk(a, b))`.
macro_rules! by_width {
    ($row:ident, $width:expr, $me:ident . $call:ident ( $($arg:expr),* )) => {
        match $width / $crate::table::eights::EIGHT {
            1 => $me.$call::<$row<1>>($($arg),*),
            2 => $me.$call::<$row<2>>($($arg),*),
            3 => $me.$call::<$row<3>>($($arg),*),
            4 => $me.$call::<$row<4>>($($arg),*),
            5 => $me.$call::<$row<5>>($($arg),*),
            6 => $me.$call::<$row<6>>($($arg),*),
            7 => $me.$call::<$row<7>>($($arg),*),
            8 => $me.$call::<$row<8>>($($arg),*),
            9 => $me.$call::<$row<9>>($($arg),*),
            10 => $me.$call::<$row<10>>($($arg),*),
            11 => $me.$call::<$row<11>>($($arg),*),
            12 => $me.$call::<$row<12>>($($arg),*),
            other => unreachable!("rows of {other} eights are more than a table has"),
        }
    };
}
pub(crate) use by_width;

/// For any processor.
#[derive(Clone, Copy)]
pub(crate) struct Plain<const B: usize>([[f32; EIGHT]; B]);

impl<const B: usize> Row for Plain<B> {
    #[inline(always)]
    fn read(rows: &[f32], nth: usize) -> Self {
        let row = &rows[nth * B * EIGHT..][..B * EIGHT];
        Self(std::array::from_fn(|b| std::array::from_fn(|i| row[b * EIGHT + i])))
    }

    #[inline(always)]
    fn least(self, other: Self) -> Self {
        Self(std::array::from_fn(|b| std::array::from_fn(|i| less(self.0[b][i], other.0[b][i]))))
    }

    #[inline(always)]
    fn plus(self, other: Self) -> Self {
        Self(std::array::from_fn(|b| std::array::from_fn(|i| self.0[b][i] + other.0[b][i])))
    }

    #[inline(always)]
    fn any_below(self, other: Self) -> bool {
        self.0.iter().flatten().zip(other.0.iter().flatten()).any(|(a, b)| a < b)
    }

    #[inline(always)]
    fn sum(self) -> f32 {
        self.0.iter().flatten().sum()
    }

    #[inline(always)]
    fn write(self, out: &mut [f32]) {
        out[..B * EIGHT].copy_from_slice(self.0.as_flattened());
    }
}

#[cfg(target_arch = "x86_64")]
pub(crate) use wide::Wide;

#[cfg(target_arch = "x86_64")]
mod wide {
    use super::{EIGHT, Row};
    use std::arch::x86_64::*;

    /// For processors with registers of eight. To be used only inside functions compiled for AVX, after finding that it is there.
    #[derive(Clone, Copy)]
    pub(crate) struct Wide<const B: usize>([__m256; B]);

    impl<const B: usize> Row for Wide<B> {
        #[inline(always)]
        fn read(rows: &[f32], nth: usize) -> Self {
            let row = &rows[nth * B * EIGHT..][..B * EIGHT];
            // SAFETY: the slice has B times eight numbers; the feature is there, see the type.
            Self(std::array::from_fn(|b| unsafe { _mm256_loadu_ps(row.as_ptr().add(b * EIGHT)) }))
        }

        #[inline(always)]
        fn least(self, other: Self) -> Self {
            // SAFETY: the feature is there, see the type.
            Self(std::array::from_fn(|b| unsafe { _mm256_min_ps(self.0[b], other.0[b]) }))
        }

        #[inline(always)]
        fn plus(self, other: Self) -> Self {
            // SAFETY: the feature is there, see the type.
            Self(std::array::from_fn(|b| unsafe { _mm256_add_ps(self.0[b], other.0[b]) }))
        }

        #[inline(always)]
        fn any_below(self, other: Self) -> bool {
            // SAFETY: the feature is there, see the type.
            unsafe {
                let mut any = _mm256_cmp_ps::<_CMP_LT_OQ>(self.0[0], other.0[0]);
                for b in 1..B {
                    any = _mm256_or_ps(any, _mm256_cmp_ps::<_CMP_LT_OQ>(self.0[b], other.0[b]));
                }
                _mm256_movemask_ps(any) != 0
            }
        }

        #[inline(always)]
        fn write(self, out: &mut [f32]) {
            let out = &mut out[..B * EIGHT];
            for b in 0..B {
                // SAFETY: the slice has B times eight numbers; the feature is there, see the type.
                unsafe { _mm256_storeu_ps(out.as_mut_ptr().add(b * EIGHT), self.0[b]) };
            }
        }

        #[inline(always)]
        fn sum(self) -> f32 {
            // SAFETY: the feature is there, see the type.
            unsafe {
                let mut all = self.0[0];
                for b in 1..B {
                    all = _mm256_add_ps(all, self.0[b]);
                }
                let four = _mm_add_ps(_mm256_castps256_ps128(all), _mm256_extractf128_ps(all, 1));
                let two = _mm_add_ps(four, _mm_movehl_ps(four, four));
                _mm_cvtss_f32(_mm_add_ss(two, _mm_shuffle_ps(two, two, 1)))
            }
        }
    }
}
