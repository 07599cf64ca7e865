//! Knowing one's own paints, by keyboard alone: a starter Box on the spot, readings by the meter, a trial of a mix, a test card.

use lean_browser_tests::driver::Driver;
use lean_browser_tests::page::Page;
use lean_browser_tests::pictures;
use lean_browser_tests::server::Server;
use lean_browser_tests::stage::Stage;
use serde_json::Value;

const DOWN: char = '\u{E015}';
const LEFT: char = '\u{E012}';
const ENTER: char = '\u{E007}';

async fn fetched(page: &Page, path: &str) -> Value {
    page.value(&format!("(window.now = null, fetch('{path}').then(r => r.json()).then(v => window.now = v), 1)")).await;
    page.until("it has come", "window.now").await;
    page.value("window.now").await
}

async fn calibrate(page: &Page) {
    // A meter just switched on drifts until it is warm.
    for left in ["45", "30", "15"] {
        page.press_button("Calibrate on the white tile").await;
        page.says(&format!("Warm in {left} seconds")).await;
    }
    page.press_button("Calibrate on the white tile").await;
    page.until("it is warm", "!document.body.innerText.includes('Warm in') && document.body.innerText.includes('Calibrated for')").await;
}

#[tokio::test]
async fn two_readings_teach_a_pigment_by_keyboard() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/box?room=readings&pigment=burnt-sienna").await;
    page.says("Nothing was read yet").await;
    page.says("Set it on its white tile").await;
    calibrate(&page).await;
    page.press_button("Read the swatch").await;
    page.says("Learned").await;
    page.until("one was read", "document.querySelectorAll('main section[aria-label=Readings] li').length === 1").await;
    // The third swatch of the list: a tint.
    page.tab_to("aside select", 140).await;
    page.tab_to("aside select", 2).await;
    page.value("(() => { const s = [...document.querySelectorAll('aside select')][1]; s.focus(); return 1 })()").await;
    page.press(&[], DOWN).await;
    page.press(&[], DOWN).await;
    page.press_button("Read the swatch").await;
    page.until("two were read", "document.querySelectorAll('main section[aria-label=Readings] li').length === 2").await;
    let owned = fetched(&page, "/api/boxes/bench-oils").await;
    let sienna = owned["pigments"].as_array().unwrap().iter().find(|p| p["id"] == "burnt-sienna").unwrap().clone();
    assert_eq!(sienna["provenance"], "measured");
    let readings = fetched(&page, "/api/boxes/bench-oils/readings").await;
    assert_ne!(readings["readings"][0]["mixed"], readings["readings"][1]["mixed"], "two different swatches");

    page.press_button("Leave it out").await;
    page.says("Take it in again").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.close().await;
}

/// Unfolds the part of a trial that holds the simulated meter.
async fn open_the_meter(page: &Page) {
    page.tab_to("summary#measured", 160).await;
    page.press(&[], ENTER).await;
}

#[tokio::test]
async fn a_trial_is_judged_by_eye_in_five_steps_and_teaches() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/mixes?zone=7").await;
    page.press_button("Test this mix").await;
    page.tab_to("[aria-label='darker or lighter']", 160).await;
    page.press(&[], LEFT).await;
    page.press(&[], LEFT).await;
    page.tab_to("[aria-label='cooler or warmer']", 4).await;
    page.press(&[], LEFT).await;
    page.until(
        "both answers are said",
        "['half a step too dark', 'cool'].every(w => document.querySelector('aside [role=status]')?.innerText.toLowerCase().includes(w))",
    )
    .await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.press_button("Keep this trial").await;
    page.says("Another trial").await;
    // Passing the marks of the field with Tab chooses their zones: the trial belongs to the last.
    let zone = page.value("new URLSearchParams(location.search).get('zone')").await;
    let trials = fetched(&page, &format!("/api/pieces/1/trials?zone={}", zone.as_str().unwrap())).await;
    let sentence = trials["trials"][0]["sentence"].as_str().unwrap().to_lowercase();
    assert!(sentence.contains("dark"), "{trials}");
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn a_trial_says_what_to_add_and_a_card_is_read_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/mixes?zone=9").await;
    page.press_button("Test this mix").await;
    open_the_meter(&page).await;
    calibrate(&page).await;
    page.press_button("Read the swatch").await;
    page.says("Another trial").await;
    // Passing the marks of the field with Tab chooses their zones: the trial belongs to the last.
    let zone = page.value("new URLSearchParams(location.search).get('zone')").await;
    let path = format!("/api/pieces/4/trials?zone={}", zone.as_str().unwrap());
    let trials = fetched(&page, &path).await;
    assert_eq!(trials["trials"].as_array().unwrap().len(), 1);
    let words = trials["correction"]["words"].as_str().unwrap().to_owned();
    page.says(&words).await;
    let before = trials["trials"][0]["difference"].as_f64().unwrap();
    if before > 2.0 {
        page.press_button("Another trial").await;
        open_the_meter(&page).await;
        page.press_button("Read the swatch").await;
        page.until("two trials stand there", "document.querySelectorAll('aside section[aria-label=Trials] li').length === 2").await;
        let after = fetched(&page, &path).await["trials"][1]["difference"].as_f64().unwrap();
        assert!(after < before, "the advice brought it nearer: {before} to {after}");
    }

    page.go("/pieces/3/box?room=readings").await;
    page.press_button("Photograph it, simulated").await;
    page.until("cells were read", "document.querySelectorAll('main section[aria-label=Readings] li').length >= 4").await;
    page.go("/pieces/3/box").await;
    page.says("inferred").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn an_empty_lean_set_offers_a_box_on_the_spot() {
    let folder = tempfile::tempdir().unwrap();
    let photo = folder.path().join("barn.png");
    pictures::barn(&photo, 600, 450);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    page.go("/").await;
    page.find("#new-title").await.send_keys("Barn").await.unwrap();
    page.click("Start").await;
    page.says("Drop a picture here").await;
    page.give_file("#reference-file", &photo).await;
    page.says("The whole picture").await;

    page.type_text("4").await;
    page.says("Start a Box of soft pastel").await;
    page.find("main textarea").await.send_keys("PB29, burnt sienna, velvet").await.unwrap();
    page.says("ultramarine, burnt sienna").await;
    page.says("“velvet”").await;
    page.press_button("12 sticks").await;
    page.says("Find the smallest sets").await;
    let view = fetched(&page, "/api/pieces/1").await;
    assert_eq!(view["piece"]["paint_box"], "12-sticks-to-start-with");
    page.close().await;
}

#[tokio::test]
async fn a_box_is_made_from_a_photo_of_swatches() {
    let stage = Stage::demo();
    let photo = stage.path().join("swatches.png");
    pictures::swatches(&photo);
    let page = stage.page().await;
    page.go("/pieces/4/box?room=photo").await;
    page.says("becomes a").await;
    page.give_file("#swatch-photo", &photo).await;
    page.says("12 patches found").await;
    // One is left out by keyboard; a name of one's own is typed for the first.
    page.tab_to("g[aria-label^='Cell 12']", 80).await;
    page.press(&[], ENTER).await;
    page.says("11 are taken").await;
    page.value(
        "(() => { const t = document.querySelector('textarea[aria-label=\"Names, one a line\"]'); \
         t.focus(); t.setSelectionRange(0, t.value.indexOf('\\n')); return 1 })()",
    )
    .await;
    page.type_text("ferry rail").await;
    page.press_button("Put 11 into the Box").await;
    page.until_served(
        "eleven more are in the Box",
        "/api/boxes/bench-oils",
        "v.pigments.some(p => p.name === 'ferry rail') && v.pigments.filter(p => p.provenance === 'inferred').length === 11",
    )
    .await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.close().await;
}
