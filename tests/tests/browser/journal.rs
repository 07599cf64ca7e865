//! The journal in the browser: found by colour, a piece begun from it, set aside for a booklet, and what it shows.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;

const ENTER: char = '\u{E007}';

async fn tiles(page: &Page) -> u64 {
    page.value("document.querySelectorAll('[aria-label=Entries] li button').length").await.as_u64().unwrap()
}

#[tokio::test]
async fn a_study_is_found_by_its_colour_and_a_piece_begun_from_it() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/mixes").await;
    page.says("Choose a zone").await;
    page.type_text("9").await;
    page.says("Journal").await;
    page.until("the wall is there", "document.querySelectorAll('[aria-label=Entries] li button').length > 30").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    // The first study's second colour, clicked: what is shown lies near it, itself first.
    page.value("(() => { [...document.querySelectorAll('[aria-label=Entries] li button')].find(b => b.innerText.includes('Study 6')).click(); return 1 })()").await;
    page.says("Its set").await;
    let before = tiles(&page).await;
    page.value("(() => { document.querySelectorAll('[aria-label^=\"Find colours like\"]')[1].click(); return 1 })()").await;
    page.until("fewer are shown", &format!("document.querySelectorAll('[aria-label=Entries] li button').length < {before}")).await;
    page.until("it is in the address", "location.search.includes('colour=')").await;
    page.until("the study itself is among them", "document.querySelector('[aria-label=Entries] li').innerText.includes('Study 6')").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.click("Begin a piece from it").await;
    page.says("After study 6 of Tram shed").await;
    page.until("it stands at Subject", "/\\/pieces\\/\\d+\\/subject/.test(location.pathname)").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn words_by_keyboard_and_a_booklet_of_what_was_set_aside() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/journal").await;
    page.until("the wall is there", "document.querySelectorAll('[aria-label=Entries] li button').length > 30").await;
    page.type_text("/").await;
    page.until("the words are typed into", "document.activeElement.type === 'search'").await;
    page.type_text("weir mist").await;
    page.until("only those are left", "document.querySelectorAll('[aria-label=Entries] li button').length === 6").await;
    page.tab_to("[aria-label=Entries] li button", 30).await;
    page.press(&[], ENTER).await;
    page.until("it is chosen", "document.querySelector('[aria-label=\"The one chosen\"] h2')").await;
    for n in [2, 3] {
        page.value(&format!("(() => {{ [...document.querySelectorAll('[aria-label=Entries] li button')].filter(b => b.innerText.includes('Study'))[{n} - 2].click(); return 1 }})()")).await;
        page.click("Set aside").await;
        page.until("it is set aside", &format!("document.querySelectorAll('[aria-label=\"Set aside\"] li').length === {n} - 1")).await;
    }
    let booklet = page.value("[...document.querySelectorAll('a')].find(a => a.innerText.startsWith('Booklet of 2')).href").await;
    page.value(&format!("(window.pdf = null, fetch({booklet}).then(r => r.arrayBuffer()).then(b => window.pdf = new Uint8Array(b)), 1)"))
        .await;
    page.until("it is a PDF", "window.pdf && String.fromCharCode(...window.pdf.slice(0, 5)) === '%PDF-'").await;
    // They stay over a reload.
    page.go("/journal").await;
    page.says("Booklet of 2 studies").await;
    page.click("Put all back").await;
    page.until("nothing is set aside", "!document.querySelector('[aria-label=\"Set aside\"]')").await;
    page.go("/journal?words=nothinglikethis").await;
    page.says("Nothing like that is in the journal").await;
    page.click("Show everything").await;
    page.until("all are back", "document.querySelectorAll('[aria-label=Entries] li button').length > 30").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn what_the_journal_shows_and_how_it_is_kept() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/journal/learnt").await;
    page.click("Measure 16 finished pieces").await;
    page.says("too light").await;
    page.until("it is measured", "!document.body.innerText.includes('Measure 16')").await;
    page.says("In watercolour you nearly always take").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.resize(390, 844).await;
    let wide = page.value("document.documentElement.scrollWidth").await.as_u64().unwrap();
    assert!(wide <= 390, "{wide} wide on a phone");
    page.go("/keeping").await;
    page.click("Run a full check").await;
    page.says("all of it is sound").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.close().await;
}
