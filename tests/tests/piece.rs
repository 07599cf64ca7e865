//! The piece: its order of work follows the schools, sessions are logged, all of it by keyboard.

use lean_browser_tests::stage::Stage;

const CTRL: char = '\u{E009}';
const TAB: char = '\u{E004}';
const SPACE: char = ' ';
const ENTER: char = '\u{E007}';

#[tokio::test]
async fn a_session_is_logged_by_keyboard_and_taken_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/studies").await;
    page.says("values held").await;
    page.type_text("7").await;
    page.says("3 h 5 min in 2 sessions").await;
    let painted = "document.querySelectorAll(\"main svg[role='img'] path[fill^='rgb']\").length";
    let before = page.value(painted).await.as_u64().unwrap();

    page.tab_to("aside textarea", 60).await;
    page.type_text("the mug, light side").await;
    page.tab_to("aside fieldset input", 3).await;
    // Zones stand in the order of work; the mug in the light is not laid yet.
    let labels = "[...document.querySelectorAll('aside fieldset label')].findIndex(l => l.textContent === 'mug and shavings')";
    for _ in 0..page.value(labels).await.as_u64().expect("the mug is listed") {
        page.press(&[], TAB).await;
    }
    page.press(&[], SPACE).await;
    page.tab_to("aside button.main", 12).await;
    page.press(&[], ENTER).await;
    page.says("in 3 sessions").await;
    page.says("the mug, light side").await;
    page.until("the zone is painted", &format!("{painted} === {}", before + 1)).await;
    assert!(page.axe().await.is_empty());

    page.press(&[CTRL], 'z').await;
    page.says("in 2 sessions").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_order_of_work_follows_the_school() {
    let stage = Stage::demo();
    let page = stage.page().await;
    let first = "document.querySelector('main ol li button').textContent";
    page.go("/pieces/1/piece").await;
    page.says("dark to light").await;
    assert!(page.value(first).await.as_str().unwrap().contains("pole and gates"));
    page.go("/pieces/1/brief?room=rules").await;
    page.says("order of tones").await;
    page.value("(() => { const s = [...document.querySelectorAll('main select')].find(s => [...s.options].some(o => o.value === 'light-to-dark')); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'light-to-dark'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    page.says("1 answer differs").await;
    page.go("/pieces/1/piece").await;
    page.says("light to dark").await;
    assert!(
        page.value(first).await.as_str().unwrap().contains("frosted ground")
            || page.value(first).await.as_str().unwrap().contains("tram, cream")
    );
    page.close().await;
}
