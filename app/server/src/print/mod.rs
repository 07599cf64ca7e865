//! Sheets on paper and on screen: the same marks as PDF, SVG and PNG. True scale everywhere.

pub(crate) mod pdf;
pub(crate) mod png;
mod reader;
pub(crate) mod svg;

pub(crate) use reader::Reader;

/// Regular and bold faces, shipped so that print needs nothing installed.
pub(crate) const FACES: [&[u8]; 2] =
    [include_bytes!("../../fonts/InstrumentSans-Regular.ttf"), include_bytes!("../../fonts/InstrumentSans-Bold.ttf")];
