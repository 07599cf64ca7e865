//! The brief: a wall measured and a size chosen on it, rules that later stations obey, a drawing that runs off its sheet.

use lean_browser_tests::stage::{Stage, piece};
use serde_json::Value;
use std::path::{Path, PathBuf};

fn stair() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../demo/stair/reference.jpg").canonicalize().unwrap()
}

const WALL: &str = "svg[aria-label='The wall']";

#[tokio::test]
async fn a_wall_is_measured_and_a_size_chosen_on_it() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/brief?room=wall").await;
    page.says("Drop a photo of the wall").await;
    page.give_file("#wall-file", &stair()).await;
    page.says("A known length").await;

    // A line without length is refused and nothing is lost.
    page.click("Drag a line along it").await;
    page.says("Drag along it now").await;
    page.draw_line(WALL, (0.3, 0.5), (0.3, 0.5)).await;
    page.says("has no length").await;
    assert_eq!(piece(&page).await["piece"]["wall"]["measure"], Value::Null);

    page.click("Drag a line along it").await;
    page.says("Drag along it now").await;
    page.draw_line(WALL, (0.2455, 0.622), (0.2490, 0.908)).await;
    page.says("Ways to hang it").await;
    page.click("three").await;
    page.says("3 ×").await;
    let before = piece(&page).await;
    let size = &before["piece"]["wall"]["candidates"][0]["size"];
    let (w, h) = (size["width"].as_f64().unwrap(), size["height"].as_f64().unwrap());
    // True to scale: a panel in the photo against the folding rule of one metre.
    let corners = before["on_wall"][0]["panels"][0].as_array().unwrap().clone();
    let tall = (corners[3]["y"].as_f64().unwrap() - corners[0]["y"].as_f64().unwrap()) * 1200.0;
    let metre = (0.908 - 0.622) * 1200.0;
    assert!((tall / metre * 1000.0 - h).abs() < 12.0, "{tall} pixels for {h} mm");

    // By keyboard: larger, and moved.
    page.find("[aria-label^='Panel 1']").await;
    page.value("document.querySelector(\"[aria-label^='Panel 1']\").focus()").await;
    page.type_text("+").await;
    page.until_served("it grew", "/api/pieces/1", &format!("v.piece.wall.candidates[0].size.width > {w} * 1.04")).await;
    page.click("Make it this size").await;
    page.says("It is this size").await;
    let after = piece(&page).await;
    assert!((after["piece"]["brief"]["size"]["height"].as_f64().unwrap() - h * 1.05).abs() < 0.1);
    let mock = page
        .value("(window.mock = null, fetch('/api/pieces/1/wall/mock-up').then(r => window.mock = r.headers.get('content-type')), 1)")
        .await;
    assert_eq!(mock, 1);
    page.until("the mock-up is a picture", "window.mock === 'image/png'").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn rules_of_the_game_are_obeyed_and_a_mood_can_be_changed() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/brief?room=rules").await;
    page.says("Rules of the game").await;
    page.click("gentle").await;
    page.until("the mood is kept", "document.querySelector('[aria-label=\"What gentle does\"]')").await;
    page.until(
        "the limit is kept",
        "(() => { const i = [...document.querySelectorAll('label')].find(l => l.innerText.startsWith('Nothing below'))?.htmlFor; document.getElementById(i)?.focus(); return document.activeElement.id === i && !!i })()",
    )
    .await;
    page.type_text("5\u{E004}").await;
    page.says("lifted to it").await;
    let now = piece(&page).await;
    assert_eq!(now["piece"]["intent"]["games"]["nothing_below"], 5.0);
    let darkest = now["derived"]["shapes"].as_array().unwrap().iter().map(|s| s["target"]["value"].as_f64().unwrap()).fold(10.0, f64::min);
    assert!(darkest >= 4.99, "{darkest}");
    assert_eq!(now["piece"]["intent"]["moods"][0]["key"], "high");
    page.close().await;
}
