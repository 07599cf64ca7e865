//! A drawing from an empty studio to a printed sheet with nine colourings.

use lean_browser_tests::stage::Stage;

/// Most presses, choices and drops it may take.
const MOST: u32 = 10;

#[tokio::test]
async fn a_drawing_is_coloured_nine_times_and_printed() {
    let stage = Stage::empty();
    let page = stage.page().await;
    let folder = tempfile::tempdir().unwrap();
    let drawing = folder.path().join("beetle.jpg");
    std::fs::write(&drawing, lean_demo::KITE).unwrap();
    let mut actions = 0;
    page.go("/").await;
    page.says("Drop a picture to begin").await;
    page.value("(() => { const s = document.querySelector('[aria-label=\"A new piece\"] select'); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'marker'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    actions += 1;
    page.give_file("#first-picture", &drawing).await;
    actions += 1;
    page.says("A drawing in lines").await;
    page.says("0 of 26 shapes coloured").await;
    page.click("Next: choose your paints").await;
    actions += 1;
    page.click("60 pens").await;
    actions += 1;
    page.says("60 in it").await;
    page.go("/pieces/1/subject").await;
    actions += 1;
    page.until("three plans are pictured", "[...document.querySelectorAll('aside img')].filter(i => i.naturalWidth > 0).length === 3")
        .await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.click("Dark figure on light ground").await;
    actions += 1;
    page.says("26 of 26 shapes coloured").await;
    page.go("/pieces/1/studies").await;
    actions += 1;
    page.click("Make 9 studies").await;
    actions += 1;
    page.until(
        "nine are made",
        "(window.asked = window.asked || 0, fetch('/api/pieces/1').then(r => r.json()).then(v => { window.made = v.piece.studies.length }), window.made === 9)",
    )
    .await;
    let schemes = page.value("fetch('/api/pieces/1').then(r => r.json()).then(v => { window.kinds = new Set(v.piece.studies.map(s => JSON.stringify(s.scheme))).size }) && 1").await;
    assert_eq!(schemes, 1);
    page.until("all of another scheme", "window.kinds === 9").await;
    page.value(
        "(window.pdf = null, fetch('/api/pieces/1/sheet.pdf').then(r => r.arrayBuffer()).then(b => window.pdf = new Uint8Array(b)), 1)",
    )
    .await;
    actions += 1;
    page.until("the sheet is a PDF", "window.pdf && String.fromCharCode(...window.pdf.slice(0, 5)) === '%PDF-'").await;
    assert!(actions <= MOST, "{actions} actions");
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn two_keys_say_which_of_mine_this_is_and_put_it_into_the_set() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/mixes?zone=3").await;
    page.until("the tray is filled", "document.querySelectorAll('footer li').length === 12").await;
    page.type_text("q").await;
    page.says("Which of mine is this?").await;
    page.says("Nearest in the Box").await;
    page.until("five and its relatives", "document.querySelectorAll('[role=dialog] ol li').length >= 6").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.type_text("a").await;
    page.says("in the set").await;
    // What is nearest to another colour is not in the set yet.
    page.value("(() => { const f = document.querySelector('[role=dialog] input'); f.focus(); f.select(); return 1 })()").await;
    page.type_text("60 40 55").await;
    page.until("another is nearest", "document.querySelector('[role=dialog] ol li button')").await;
    page.click("Add to the set").await;
    page.until("the set has thirteen", "document.querySelectorAll('footer li').length === 13").await;
    page.go("/match").await;
    page.says("Match a colour").await;
    page.close().await;
}

#[tokio::test]
async fn a_cell_of_the_chart_says_which_of_mine_it_is_and_the_chart_is_printed_to_be_filled() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject?room=chart").await;
    page.until("every cell says what makes it", "document.querySelectorAll('main li [class*=made]').length >= 5").await;
    page.value("(document.querySelector('main li button').click(), 1)").await;
    page.says("Nearest in the Box").await;
    page.says("Fill it by hand").await;
    page.until("the sheet can be printed", "document.querySelector('a[href*=\"kind=chart\"]')").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.type_text("q").await;
    page.says("Colour of the chosen cell").await;
    page.until("five", "document.querySelectorAll('[role=dialog] ol li').length >= 5").await;
    page.close().await;
}
