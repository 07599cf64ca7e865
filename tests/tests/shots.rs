//! Takes the pictures of the main views for `docs/screenshots/`. Run by `cargo xtask shots`.

use lean_browser_tests::{driver::Driver, page::Page, server::Server};
use std::path::PathBuf;

/// The kit, in pages that were built with it: `cargo xtask shots --kit`.
const KIT: (&str, &str, &str, &str) = ("kit", "/kit", "The kit in three rooms", "");

/// File name, path, what must be on the page, keys pressed before.
const VIEWS: &[(&str, &str, &str, &str)] = &[
    ("studio", "/", "A new piece", ""),
    ("1-brief", "/pieces/1/brief", "Ground for", ""),
    ("1-brief-wall", "/pieces/4/brief?room=wall", "Ways to hang it", ""),
    ("2-subject", "/pieces/1/subject?zone=9", "Importance", ""),
    ("2-subject-values", "/pieces/1/subject?look=values&groups=4", "The whole picture", ""),
    ("2-subject-masses", "/pieces/1/subject?room=masses", "9 masses", ""),
    ("2-subject-chart", "/pieces/1/subject?room=chart", "Colour chart", ""),
    ("3-light", "/pieces/1/light", "Eye path", ""),
    ("7-piece-photo", "/pieces/4/piece?room=photo", "Lighten plane", ""),
    ("4-lean-set", "/pieces/1/lean-set", "Gain from each added", ""),
    ("5-mixes", "/pieces/1/mixes?zone=9", "from the set", ""),
    ("6-studies", "/pieces/1/studies", "values held", ""),
    ("3-light-colour", "/pieces/1/light?room=colour&zone=7", "Type a colour", ""),
    ("7-piece", "/pieces/4/piece", "Still wet", ""),
    ("8-box", "/pieces/1/box", "Put in another", ""),
    ("8-box-readings", "/pieces/2/box?room=readings", "Learned", ""),
    ("9-journal", "/journal", "finished pieces", ""),
    ("room-dark", "/pieces/1/mixes?zone=9", "from the set", "r"),
    ("room-light", "/pieces/1/subject?zone=4", "Importance", "r"),
];

#[tokio::test]
#[ignore = "takes pictures rather than testing; cargo xtask shots runs it"]
async fn take() {
    let only = std::env::var("SHOTS").unwrap_or_default();
    let folder =
        PathBuf::from(std::env::var("SHOTS_TO").unwrap_or_else(|_| concat!(env!("CARGO_MANIFEST_DIR"), "/../docs/screenshots").into()));
    std::fs::create_dir_all(&folder).unwrap();
    let data = tempfile::tempdir().unwrap();
    let server = Server::start(&data.path().join("demo.db"), true);
    let driver = Driver::start();
    let page = Page::open_whole(&driver, &server.address).await;
    let views = if only == KIT.0 { &[KIT] } else { VIEWS };
    for (name, path, words, keys) in views.iter().filter(|v| only.is_empty() || only.split(',').any(|o| v.0.contains(o))) {
        page.go(path).await;
        page.says(words).await;
        if !keys.is_empty() {
            page.type_text(keys).await;
        }
        page.until(
            "pictures are loaded",
            "[...document.images].filter(i => i.getBoundingClientRect().top < innerHeight).every(i => i.complete && i.naturalWidth) && document.fonts.status === 'loaded' && [...document.querySelectorAll('svg image')].every(i => performance.getEntriesByName(new URL(i.href.baseVal, location).href).some(e => e.responseEnd > 0 && performance.now() > e.responseEnd + 400))",
        )
        .await;
        page.until("places are drawn", "/chart/.test(location.search) || !document.querySelector(\"main svg[aria-label='Zones on the picture']\") || document.querySelector(\"main svg[aria-label='Zones on the picture'] path\")").await;
        page.until("the Box has come", "![...document.querySelectorAll('header a')].some(a => a.innerText.includes('…'))").await;
        page.until("the tray is filled", "location.pathname === '/' || /light|pieces.2|field|journal|kit/.test(location.pathname) || document.querySelectorAll('footer li').length > 0").await;
        std::fs::write(folder.join(format!("{name}.png")), page.shot().await).unwrap();
    }
    page.close().await;
}

/// The four pictures of the example run on an empty first page, with where the demo studio serves them.
const EXAMPLE: [(&str, &str); 4] = [
    ("photo", "/api/pieces/1/reference/view"),
    ("values", "/api/pieces/1/reference/view?look=values&groups=5"),
    ("plan", "/api/pieces/1/painted?width=880"),
    ("study", "/api/pieces/1/painted?study=2&width=880"),
];

/// Width of a picture of the example, in pixels: twice that of its place on the page.
const EXAMPLE_WIDTH: u32 = 880;

#[test]
#[ignore = "makes pictures rather than testing; cargo xtask shots runs it"]
fn example() {
    let folder = PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../web/src/stations/studio/example"));
    std::fs::create_dir_all(&folder).unwrap();
    let data = tempfile::tempdir().unwrap();
    let server = Server::start(&data.path().join("demo.db"), true);
    for (name, path) in EXAMPLE {
        let sent = lean_browser_tests::ask::send(&server.address, "GET", path, "image/*", &[]).expect("the demo serves it");
        let picture = image::load_from_memory(&sent).expect("it is a picture").to_rgb8();
        let height = picture.height() * EXAMPLE_WIDTH / picture.width();
        let small = image::imageops::resize(&picture, EXAMPLE_WIDTH, height, image::imageops::FilterType::Lanczos3);
        let mut out = std::fs::File::create(folder.join(format!("{name}.jpg"))).unwrap();
        image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 78).encode_image(&small).unwrap();
    }
}
