//! From nothing to a printed sheet: the number of actions it takes a newcomer.

use lean_browser_tests::stage::Stage;

/// Most presses, choices and drops it may take.
const MOST: u32 = 12;

#[tokio::test]
async fn from_nothing_to_a_printed_sheet() {
    let stage = Stage::empty();
    let page = stage.page().await;
    let folder = tempfile::tempdir().unwrap();
    // A dusk: more than a third of it is darker than twelve pans go, so that the values are to be fitted first.
    let picture = folder.path().join("harbour-wall_late.jpg");
    std::fs::write(&picture, lean_demo::YEARS.iter().find(|(n, _)| *n == "weir-summer-dusk").unwrap().1).unwrap();
    let mut actions = 0;
    page.go("/").await;
    page.says("Drop a picture to begin").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.value("(() => { const s = document.querySelector('[aria-label=\"A new piece\"] select'); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'watercolour'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    actions += 1;
    page.give_file("#first-picture", &picture).await;
    actions += 1;
    page.says("harbour wall late").await;
    page.says("Next: choose your paints").await;
    page.says("A starter Box is enough to begin").await;
    page.click("Next: choose your paints").await;
    actions += 1;
    page.click("12 pans").await;
    actions += 1;
    page.says("darker than this Box goes").await;
    page.click("Next: fit the values to your paints").await;
    page.click("Use these values").await;
    actions += 1;
    page.click("Next: find the lean set").await;
    actions += 1;
    page.click("Next: make three studies").await;
    actions += 1;
    page.says("Next: print the sheet").await;
    page.until("three are there", "document.querySelectorAll('main svg[role=img], main img').length >= 3").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    // The last press opens the sheet in a window of its own; what it opens is a page that can be printed.
    page.value("(window.opened = null, window.open = (a) => { window.opened = a }, 1)").await;
    page.click("Next: print the sheet").await;
    actions += 1;
    page.until("it is opened", "window.opened").await;
    page.value("(window.pdf = null, fetch(window.opened).then(r => r.arrayBuffer()).then(b => window.pdf = new Uint8Array(b)), 1)").await;
    page.until("it is a PDF", "window.pdf && String.fromCharCode(...window.pdf.slice(0, 5)) === '%PDF-'").await;
    assert!(actions <= MOST, "{actions} actions");
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    // What is no picture leaves no piece behind.
    page.go("/").await;
    let text = folder.path().join("letter.png");
    std::fs::write(&text, "Dear Sir or Madam").unwrap();
    page.give_file("#first-picture", &text).await;
    page.says("a text file").await;
    page.until("only the one piece is there", "document.querySelectorAll('[aria-label=Pieces] li').length === 1").await;
    page.close().await;
}

#[tokio::test]
async fn a_station_that_lacks_something_does_it_there() {
    let stage = Stage::empty();
    let page = stage.page().await;
    let picture = stage.path().join("weir.jpg");
    std::fs::write(&picture, lean_demo::YEARS.iter().find(|(n, _)| *n == "weir-summer-late").unwrap().1).unwrap();
    page.go("/").await;
    page.find("#new-title").await.click().await.unwrap();
    page.type_text("Nothing yet").await;
    page.click("Start").await;
    page.says("Drop a picture here").await;
    for station in ["light", "lean-set", "mixes", "studies", "piece"] {
        page.go(&format!("/pieces/1/{station}")).await;
        page.says("Drop a picture here").await;
        page.says("Start from a few planes").await;
    }
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.give_file("#reference-file", &picture).await;
    // There are zones: what is missing now is a Box, then a set, and each is begun where it is missed.
    page.says("Start a Box of soft pastel").await;
    page.go("/pieces/1/mixes").await;
    page.says("Start a Box of soft pastel").await;
    page.click("12 sticks").await;
    page.click("Find the lean set").await;
    page.says("Each stroke is split").await;
    page.until("every zone has a mix", "document.querySelectorAll('aside ul li').length >= 3").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_demo_is_visited_and_left() {
    let stage = Stage::with_demo_beside();
    let page = stage.page().await;
    page.go("/").await;
    page.says("Nothing here yet").await;
    page.click("Open the demo studio").await;
    page.says("This is the demo studio").await;
    page.says("Tram shed, first frost").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    let away = page.value("location.origin").await;
    assert_ne!(away.as_str(), Some(stage.server.address.as_str()));
    // Something is done there.
    page.find("#new-title").await.click().await.unwrap();
    page.type_text("Only tried").await;
    page.click("Start").await;
    page.says("Drop a picture here").await;
    page.click("leave the demo").await;
    page.until("it is one's own studio", &format!("location.origin === '{}'", stage.server.address)).await;
    page.says("Nothing here yet").await;
    page.until("no piece came along", "document.querySelectorAll('[aria-label=Pieces] ul li').length === 0").await;
    page.until("the example is shown", "document.querySelectorAll('[aria-label=\"An example\"] img').length === 4 && [...document.images].every(i => i.complete && i.naturalWidth)").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.click("Quit").await;
    page.says("Lean Swatch has ended").await;
    page.says("studio.db").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}
