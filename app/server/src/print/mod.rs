//! Sheets on paper and on screen: the same marks as PDF, SVG and PNG. True scale everywhere.

pub mod pdf;
pub mod png;
mod reader;
pub mod svg;

pub use reader::Reader;

/// Regular and bold faces, shipped so that print needs nothing installed.
pub(crate) const FACES: [&[u8]; 2] =
    [include_bytes!("../../fonts/InstrumentSans-Regular.ttf"), include_bytes!("../../fonts/InstrumentSans-Bold.ttf")];
