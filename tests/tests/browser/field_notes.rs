//! A note made in the field on a small screen becomes a piece.

use lean_browser_tests::{driver::Driver, page::Page, pictures, server::Server};

const PLACE: &str = "svg[aria-label='The place']";
const TAB: char = '\u{E004}';

#[tokio::test]
async fn a_note_on_a_small_screen_becomes_a_piece() {
    let folder = tempfile::tempdir().unwrap();
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    page.resize(390, 844).await;
    page.go("/field").await;
    page.click("A new note").await;
    page.says("Touch a place").await;
    page.until("nothing is wider than the screen", "document.documentElement.scrollWidth <= 390").await;

    for (at, word, side) in [((0.5, 0.2), "pale sky", "cool"), ((0.5, 0.8), "wet bank", "warm")] {
        page.draw_line(PLACE, at, at).await;
        page.find("section[aria-label^='Mark'] input").await.send_keys(word).await.unwrap();
        page.press(&[], TAB).await;
        page.click(side).await;
        page.until(
            "the side is kept",
            &format!("[...document.querySelectorAll('button[aria-pressed=true]')].some(b => b.innerText === '{side}')"),
        )
        .await;
    }
    page.find("section[aria-label='The moment'] input").await.send_keys("weir at first light").await.unwrap();
    page.press(&[], TAB).await;
    page.until_served(
        "the note is kept",
        "/api/field-notes",
        "v[0].note.words === 'weir at first light' && v[0].note.marks.length === 2 && v[0].note.marks[1].side === 'warm'",
    )
    .await;
    // Back in the studio, on the large screen, with everything where it was left.
    page.resize(1280, 800).await;
    page.go("/field/1").await;
    page.click("Make a piece of it").await;
    page.says("From a field note").await;
    page.until("both zones are there", "document.querySelectorAll('main svg [role=button]').length === 2").await;
    let named = page.value("[...document.querySelectorAll('main svg [role=button]')].map(g => g.getAttribute('aria-label')).join()").await;
    assert!(named.as_str().unwrap().contains("pale sky") && named.as_str().unwrap().contains("wet bank"), "{named}");
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn a_photo_on_a_note_is_kept_and_a_wrong_file_is_refused() {
    let folder = tempfile::tempdir().unwrap();
    let (photo, wrong) = (folder.path().join("barn.jpg"), folder.path().join("notes.txt"));
    pictures::barn(&photo, 800, 600);
    std::fs::write(&wrong, "no picture").unwrap();
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    page.resize(390, 844).await;
    page.go("/field").await;
    page.click("A new note").await;
    page.says("Touch a place").await;
    page.give_file("#note-photo", &wrong).await;
    page.says("JPEG").await;
    page.give_file("#note-photo", &photo).await;
    page.until("the photo is shown", "document.querySelector('main svg image')").await;
    page.close().await;
}
