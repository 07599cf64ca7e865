//! What a painter calls the things that are chosen from a list.

/// Gives an enum its list, in the order it is offered, and a word or two for each. A list that leaves one out does not compile.
#[macro_export]
macro_rules! worded {
    ($($name:ident { $($variant:ident: $word:literal),+ $(,)? })+) => { $(
        impl $name {
            /// All, in the order they are offered.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// What a painter calls it.
            pub fn label(self) -> &'static str {
                match self { $(Self::$variant => $word),+ }
            }
        }
    )+ };
}
