//! Sees to it that the folder of the pages is there before it is embedded.

use std::path::Path;

fn main() {
    let pages = Path::new("../../web/dist");
    // Embedding takes the folder's real path, which a missing folder has not: pages built later would never be found.
    std::fs::create_dir_all(pages).expect("web/dist can be made");
    println!("cargo:rerun-if-changed=build.rs");
    // A program with debug assertions reads the pages from the disk when asked; any other has them within.
    if std::env::var_os("CARGO_CFG_DEBUG_ASSERTIONS").is_none() {
        println!("cargo:rerun-if-changed={}", pages.display());
    }
}
