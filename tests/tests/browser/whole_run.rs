//! From a picture and a Box to a printed sheet, by mouse and by keyboard alone.

use lean_browser_tests::{driver::Driver, page::Page, pictures, server::Server};
use serde_json::Value;

const ENTER: char = '\u{E007}';

/// The bytes of an address of the server, fetched by the page itself.
async fn fetched(page: &Page, path: &str) -> Vec<u8> {
    page.value(&format!(
        "(window.got = null, fetch('{path}').then(r => r.arrayBuffer()).then(b => window.got = [...new Uint8Array(b)]), 1)"
    ))
    .await;
    page.until("the file has come", "window.got").await;
    let Value::Array(bytes) = page.value("window.got").await else { panic!("the file is a list of bytes") };
    bytes.iter().map(|b| b.as_u64().unwrap() as u8).collect()
}

/// Page count, page size in points and all text of a PDF.
fn read_pdf(bytes: &[u8]) -> (usize, (f32, f32), String) {
    let pdf = lopdf::Document::load_mem(bytes).expect("the PDF can be read");
    let pages = pdf.get_pages();
    let first = pdf.get_dictionary(pages[&1]).unwrap();
    let size: Vec<f32> = first.get(b"MediaBox").unwrap().as_array().unwrap().iter().map(|n| n.as_float().unwrap()).collect();
    (pages.len(), (size[2], size[3]), pdf.extract_text(&[1]).unwrap())
}

#[tokio::test]
async fn from_a_dropped_picture_to_a_printed_sheet() {
    let folder = tempfile::tempdir().unwrap();
    let photo = folder.path().join("barn.jpg");
    pictures::barn(&photo, 1600, 1200);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;

    page.go("/").await;
    page.says("Nothing here yet").await;
    // Where this painter lives printers hold A4.
    page.value("Object.defineProperty(navigator, 'language', { value: 'en-GB' }) && 1").await;
    page.find("#new-title").await.send_keys("Barn at evening").await.unwrap();
    page.click("Start").await;
    page.says("Drop a picture here").await;
    page.give_file("#reference-file", &photo).await;
    page.until("zones lie on the picture", "document.querySelectorAll('main [role=button]').length >= 4").await;
    page.says("The whole picture").await;

    page.type_text("8").await;
    page.find("input[maxlength='80']").await.send_keys("My sticks").await.unwrap();
    page.click("24 sticks").await;
    page.says("Put in another").await;

    page.type_text("4").await;
    page.click("Find the smallest sets").await;
    page.says("Proved best set of").await;
    page.click("the 4").await;
    page.until("four wells are in the tray", "document.querySelectorAll('footer li').length === 4").await;

    page.type_text("5").await;
    page.type_text("j").await;
    page.says("from the set").await;

    page.type_text("6").await;
    page.click("Make 6 studies").await;
    page.says("3 analogous").await;
    page.find("main button[data-study='2']").await.click().await.unwrap();
    page.find("aside ul[aria-label^='Strokes and recipes'] button > span").await;
    let recipe =
        page.value("document.querySelector(\"aside ul[aria-label^='Strokes and recipes'] button > span\").lastChild.textContent").await;
    let recipe = recipe.as_str().unwrap().to_owned();
    page.click("Print the sheet").await;
    page.says("PDF, painted").await;

    let (pages, size, text) = read_pdf(&fetched(&page, "/api/pieces/1/sheet.pdf").await);
    assert_eq!(pages, 2, "six studies, three to a page");
    assert!((size.0 - 595.276).abs() < 0.1 && (size.1 - 841.89).abs() < 0.1, "A4 in points: {size:?}");
    assert!(text.contains("Barn at evening") && text.contains("50 mm when printed at 100 %"), "{text}");
    assert!(text.contains(&recipe), "the sheet carries the recipe \"{recipe}\": {text}");
    let (outline_pages, _, outline) = read_pdf(&fetched(&page, "/api/pieces/1/sheet.pdf?copy=outline").await);
    assert!(outline_pages == 2 && outline.contains("outlines to paint over"));
    let png = image::load_from_memory(&fetched(&page, "/api/pieces/1/sheet.png").await).unwrap();
    assert_eq!((png.width(), png.height()), (1654, 2339), "A4 at 200 pixels per inch");

    // True scale: 29 cm does not fit even once, and the sheet says what does.
    page.find("input[inputmode]").await.clear().await.unwrap();
    page.find("input[inputmode]").await.send_keys("29\t").await.unwrap();
    page.says("does not fit on A4").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_same_by_keyboard_only() {
    let folder = tempfile::tempdir().unwrap();
    let photo = folder.path().join("barn.png");
    pictures::barn(&photo, 900, 700);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;

    page.go("/").await;
    page.says("A new piece").await;
    page.tab_to("#new-title", 14).await;
    page.type_text("Barn").await;
    page.press(&[], ENTER).await;
    // The file dialog belongs to the browser; its answer is given to the input that the keyboard opens.
    page.says("Drop a picture here").await;
    page.give_file("#reference-file", &photo).await;
    page.says("The whole picture").await;

    page.type_text("8").await;
    page.tab_to("main input[maxlength='80']", 30).await;
    page.type_text("Keys").await;
    page.tab_to("main button.main", 12).await;
    page.press(&[], ENTER).await;
    page.says("Put in another").await;

    page.type_text("2").await;
    page.says("isolate").await;
    page.type_text("j").await;
    page.says("Importance").await;
    let before = page.value("document.querySelector('aside dl dd').innerText").await;
    page.press(&[], '\u{E015}').await;
    page.until("the value moved", &format!("document.querySelector('aside dl dd').innerText !== {before}")).await;
    page.press(&['\u{E008}'], '\u{E014}').await;
    page.until("the mark moved sideways too", "document.querySelector('button[disabled]')?.innerText !== 'Undo'").await;

    page.type_text("4").await;
    page.says("the exact best set").await;
    page.tab_to("main button.main", 40).await;
    page.press(&[], ENTER).await;
    page.says("Proved best set of").await;

    page.type_text("6").await;
    page.says("Quick small versions").await;
    page.tab_to("aside button.main", 60).await;
    page.press(&[], ENTER).await;
    page.says("3 analogous").await;
    page.tab_to("#print-the-sheet", 60).await;
    page.press(&[], ENTER).await;
    page.says("PDF, painted").await;
    page.tab_to("#print-pdf", 60).await;
    page.close().await;
}
