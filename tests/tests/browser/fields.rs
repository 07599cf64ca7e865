//! Fields show what the piece holds, also after undo and redo: of every kind there is.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;
use serde_json::json;

const CTRL: char = '\u{E009}';
const SHIFT: char = '\u{E008}';
const DELETE: char = '\u{E017}';
const TAB: char = '\u{E004}';

/// A script expression for the field with a label that begins so.
fn field(label: &str) -> String {
    let label = json!(label);
    format!(
        "(document.querySelector(`[aria-label^=${{JSON.stringify({label})}}]`) ?? document.getElementById([...document.querySelectorAll('label')].find(l => l.innerText.startsWith({label}))?.htmlFor))"
    )
}

async fn shows(page: &Page, label: &str, text: &str) {
    page.until(&format!("{label} shows {text:?}"), &format!("{}?.value === {}", field(label), json!(text))).await;
}

/// Types into a field in the place of what it holds, and leaves it with Tab.
async fn type_into(page: &Page, label: &str, text: &str) {
    page.until(&format!("there is a field {label}"), &format!("!!{}", field(label))).await;
    page.quiet().await;
    page.value(&format!("({}.focus(), 1)", field(label))).await;
    page.press(&[CTRL], 'a').await;
    page.press(&[], DELETE).await;
    page.type_text(text).await;
    page.press(&[], TAB).await;
}

async fn undo_reaches(page: &Page, label: &str, first: &str, second: &str) {
    undo_reaches_as(page, label, [first, second], [first, second]).await;
}

/// Types one text and another, takes both back and does both again: the field follows, and leaving it writes nothing. `kept` is what stands in the
/// piece for each.
async fn undo_reaches_as(page: &Page, label: &str, [first, second]: [&str; 2], kept: [&str; 2]) {
    let before = page.value(&format!("{}.value", field(label))).await.as_str().expect("a field has a text").to_owned();
    for (text, kept) in [first, second].into_iter().zip(kept) {
        type_into(page, label, text).await;
        page.until_served(&format!("{text} is kept"), "/api/pieces/1", &format!("JSON.stringify(v.piece).includes({})", json!(kept))).await;
    }
    page.value("(document.activeElement.blur(), 1)").await;
    for shown in [first, &before] {
        page.press(&[CTRL], 'z').await;
        shows(page, label, shown).await;
    }
    page.value(&format!("({}.focus(), 1)", field(label))).await;
    page.press(&[], TAB).await;
    page.value("(document.activeElement.blur(), 1)").await;
    for shown in [first, second] {
        page.press(&[CTRL, SHIFT], 'z').await;
        shows(page, label, shown).await;
    }
}

#[tokio::test]
async fn undo_and_redo_reach_lines_of_words_numbers_and_days() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/brief").await;
    shows(&page, "Title", "Tram shed, first frost").await;
    undo_reaches(&page, "Title", "Frost", "Second frost").await;
    undo_reaches(&page, "What it is for", "a gift", "a wall by the window").await;
    undo_reaches_as(&page, "Wide", ["43.7", "51.3"], ["\"width\":437", "\"width\":513"]).await;
    page.go("/pieces/1/brief?room=rules").await;
    page.until("the rules are there", &format!("!!{}", field("Minutes it may take"))).await;
    undo_reaches(&page, "Minutes it may take", "7351", "9443").await;
    // A number outside its range is not kept, and does not stay in the field.
    type_into(&page, "Minutes it may take", "99999999").await;
    shows(&page, "Minutes it may take", "9443").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn undo_and_redo_reach_names_and_reasons() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject?zone=1").await;
    page.until("the zone is there", &format!("!!{}", field("Name of zone 1"))).await;
    undo_reaches(&page, "Name of zone 1", "cold sky", "colder sky").await;
    page.go("/pieces/1/studies?study=2").await;
    page.until("the study is there", &format!("!!{}", field("Why this one"))).await;
    undo_reaches(&page, "Why this one", "it sits", "it sits better").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}
