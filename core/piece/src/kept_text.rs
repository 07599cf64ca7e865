//! What is kept as text (a piece, a Box, a command), written and read where its type stands.
//!
//! Each use of a generic reader is compiled anew in the crate that uses it, and reading whole pieces was most of what the store took to build. So
//! each type reads itself by functions that are generic in nothing.

/// Something that is kept as JSON.
pub trait KeptText: Sized {
    /// What a text holds.
    ///
    /// # Errors
    /// When the text is no JSON, or JSON of something else.
    fn from_text(text: &[u8]) -> Result<Self, serde_json::Error>;

    /// The text of it. A number that is none is written as `null`, which is not read again.
    ///
    /// # Errors
    /// When a part of it cannot be written as JSON.
    fn to_text(&self) -> Result<String, serde_json::Error>;
}

/// Says that types are kept as text, by what serde derives for them.
#[macro_export]
macro_rules! kept_as_text {
    ($($of:ty),+) => {$(
        impl $crate::KeptText for $of {
            #[inline(never)]
            fn from_text(text: &[u8]) -> Result<Self, serde_json::Error> {
                serde_json::from_slice(text)
            }

            #[inline(never)]
            fn to_text(&self) -> Result<String, serde_json::Error> {
                serde_json::to_string(self)
            }
        }
    )+};
}
