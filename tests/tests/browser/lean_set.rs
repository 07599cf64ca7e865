//! The lean set: what is asked of it, its equals, and what one more would bring.

use lean_browser_tests::page::Page;
use lean_browser_tests::pictures;
use lean_browser_tests::stage::{Stage, piece};
use serde_json::Value;

/// Waits until the search kept with the demo piece is about the piece as it is, and gives the piece.
async fn searched(page: &Page) -> Value {
    page.until_served("the search is up to date", "/api/pieces/1", "v.piece.search.basis === v.derived.basis").await;
    page.says("Search again").await;
    piece(page).await
}

/// Asks for a change of the demo piece as the pages do, where there is no quick way by hand.
async fn asked(page: &Page, request: &str) {
    page.go("/pieces/1/lean-set").await;
    page.says("Gain from each added").await;
    page.value(&format!("(window.done = false, fetch('/api/pieces/1').then(r => r.json()).then(v => fetch('/api/pieces/1/requests', {{ method: 'POST', headers: {{ 'content-type': 'application/json' }}, body: JSON.stringify({{ base_revision: v.revision, request: {request} }}) }})).then(r => {{ window.done = r.ok }}), 1)")).await;
    page.until("it is done", "window.done").await;
}

fn holds(set: &Value, pigment: &str) -> bool {
    set["pigments"].as_array().unwrap().iter().any(|p| p == pigment)
}

#[tokio::test]
async fn a_demand_starts_the_search_and_is_taken_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/lean-set").await;
    page.says("Gain from each added").await;
    searched(&page).await;
    page.click("no black").await;
    page.until("it is switched on", "[...document.querySelectorAll('button[aria-pressed=true]')].some(b => b.innerText === 'no black')")
        .await;
    let asked = searched(&page).await;
    assert_eq!(asked["piece"]["demands"]["no_black"], true);
    let sizes = asked["piece"]["search"]["sizes"].as_array().unwrap();
    let large = |s: &Value| s["pigments"].as_array().unwrap().len() > 8;
    assert!(sizes.iter().all(|s| (s["proved_optimal"] == true || large(s) && s["within"].as_f64().is_some_and(|w| w <= 0.01)) && !holds(s, "lamp-soot")));

    page.click("pigments in one up to 3; change it").await;
    page.named("pigments in one 1 alone; change it").await;
    let alone = searched(&page).await;
    let recipes = alone["piece"]["search"]["sizes"][0]["recipes"].as_array().unwrap();
    let coloured = |r: &Value| r["parts"].as_array().unwrap().iter().filter(|p| p["pigment"] != "chalk-white").count();
    assert!(recipes.iter().all(|r| coloured(r) <= 1));
    assert!(page.console_errors().await.is_empty());
    page.close().await;
}

#[tokio::test]
async fn an_equal_is_taken_and_what_was_left_out_is_brought_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    // A small set, in which each is worth something.
    asked(&page, "{ do: 'set-aim', aim: { ...v.piece.aim, largest: 5 } }").await;
    page.go("/pieces/1/lean-set?pigment=lamp-soot").await;
    page.says("The search").await;
    page.find("aside select option[value='left out']").await.click().await.unwrap();
    page.says("lamp soot: left out").await;
    let without = searched(&page).await;
    assert!(!holds(&without["piece"]["chosen"], "lamp-soot"));

    page.click("Back to the set").await;
    page.says("brought back").await;
    page.until("it can be brought back", "document.querySelector(\"button[aria-label='Bring back lamp soot']\")").await;
    page.click("Bring back lamp soot").await;
    page.until("it lies in the tray", "[...document.querySelectorAll('footer li b')].some(b => b.innerText === 'lamp soot')").await;
    let back = piece(&page).await;
    assert_eq!(back["piece"]["excluded"], serde_json::json!([]));

    page.click("Search again").await;
    page.until_served("the new search is kept", "/api/pieces/1", &format!("v.revision > {}", back["revision"])).await;
    page.until("sets can be taken", "[...document.querySelectorAll('main button')].some(b => b.innerText === 'the 5' && !b.disabled)")
        .await;
    page.click("the 5").await;
    page.until("there are equals or a next best", "document.querySelector(\"section[aria-label='Nearly as good'] button\")").await;
    let five = piece(&page).await["piece"]["chosen"].clone();
    page.find("section[aria-label='Nearly as good'] button").await.click().await.unwrap();
    let other = format!("JSON.stringify(v.piece.chosen) !== {}", serde_json::json!(five.to_string()));
    page.until_served("another set is in use", "/api/pieces/1", &other).await;
    page.close().await;
}

#[tokio::test]
async fn a_piece_in_watercolour_goes_from_picture_to_layers() {
    let stage = Stage::demo();
    let photo = stage.path().join("barn.jpg");
    pictures::barn(&photo, 1200, 900);
    let page = stage.page().await;
    page.go("/").await;
    page.find("#new-title").await.send_keys("Barn in washes").await.unwrap();
    page.find("section[aria-label='A new piece'] select option[value='watercolour']").await.click().await.unwrap();
    page.click("Start").await;
    page.says("Drop a picture here").await;
    page.give_file("#reference-file", &photo).await;
    page.until("zones lie on the picture", "document.querySelectorAll('main [role=button]').length >= 4").await;
    page.says("The whole picture").await;
    page.type_text("4").await;
    page.click("Find the smallest sets").await;
    page.says("Proved best set of").await;
    page.says("Hen pans").await;
    page.type_text("5").await;
    page.says("Share pigments between mixes").await;
    page.value(
        "[...document.querySelectorAll('aside label')].find(l => l.innerText.startsWith('Share pigments')).querySelector('input').click()",
    )
    .await;
    page.says("raises the average error by").await;
    page.type_text("j").await;
    page.says("wash").await;
    assert!(page.axe().await.is_empty());
    page.close().await;
}
