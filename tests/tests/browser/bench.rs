//! The bench: the field, undo, mending zones, two windows, wrong files, a cancelled search, a killed server.

use lean_browser_tests::stage::{Stage, piece};
use lean_browser_tests::{driver::Driver, page::Page, pictures, server::Server};

const ESC: char = '\u{E00C}';
const CTRL: char = '\u{E009}';
const SHIFT: char = '\u{E008}';
const UP: char = '\u{E013}';
const DOWN: char = '\u{E015}';

fn target_of(view: &serde_json::Value, zone: u64) -> f64 {
    let shapes = view["derived"]["shapes"].as_array().unwrap();
    shapes.iter().find(|s| s["zone"] == zone).unwrap()["target"]["value"].as_f64().unwrap()
}

#[tokio::test]
async fn a_mark_is_dragged_and_everything_follows() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/mixes?zone=4").await;
    page.says("from the set").await;
    let before = piece(&page).await;
    let shown = page.value("document.querySelector('aside dl dd').innerText").await;
    page.drag("svg [data-zone='4']", (0.0, 120.0)).await;
    page.until("the card follows", &format!("document.querySelector('aside dl dd').innerText !== {shown}")).await;
    page.until_served("undo names it", "/api/pieces/1", "v.undo === 'the target of zone 4'").await;
    let after = piece(&page).await;
    assert!(target_of(&after, 4) < target_of(&before, 4) - 1.0, "down is darker");
    assert_eq!(after["undo"], "the target of zone 4");
    assert!(after["revision"].as_i64() > before["revision"].as_i64());
    page.close().await;
}

#[tokio::test]
async fn arrows_move_undo_takes_back_redo_does_again() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject?zone=1").await;
    page.says("Importance").await;
    let start = target_of(&piece(&page).await, 1);
    page.press(&[SHIFT], UP).await;
    page.says("Reset to the measured value").await;
    let moved = target_of(&piece(&page).await, 1);
    assert!((moved - start - 0.5).abs() < 0.02, "{start} to {moved}");
    page.press(&[CTRL], 'z').await;
    page.says("Undone: the target of zone 1").await;
    assert!((target_of(&piece(&page).await, 1) - start).abs() < 1e-9);
    page.press(&[CTRL, SHIFT], 'z').await;
    page.says("Done again: the target of zone 1").await;
    assert!((target_of(&piece(&page).await, 1) - moved).abs() < 1e-9);
    page.close().await;
}

#[tokio::test]
async fn zones_are_parted_and_the_dial_joins_two() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject?zone=1").await;
    page.says("Part by a line").await;
    let count = piece(&page).await["piece"]["zones"].as_array().unwrap().len();
    page.click("Part by a line").await;
    page.says("Draw a line across the zone").await;
    page.draw_line("svg[aria-label='Zones on the picture']", (0.5, 0.01), (0.52, 0.99)).await;
    page.until("there is one zone more", &format!("document.querySelectorAll('main [role=button]').length === {}", count + 1)).await;
    page.press(&[CTRL], 'z').await;
    page.says("Undone: parting sky").await;
    page.click("Fewer colours").await;
    let output = "document.querySelector(\"[aria-label='Colours and brush'] output\").textContent";
    page.until("two colours are joined", &format!("{output} === '{}'", count - 1)).await;
    page.close().await;
}

#[tokio::test]
async fn the_ways_of_looking_have_a_key_each_and_an_address() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject").await;
    page.says("The whole picture").await;
    for (key, look) in [("v", "values"), ("w", "warm-cool"), ("s", "squint")] {
        page.type_text(key).await;
        page.until(look, &format!("location.search.includes('look={look}') && document.querySelector('main img').src.includes('{look}')"))
            .await;
    }
    page.type_text("]").await;
    page.until("groups", "location.search.includes('groups=3')").await;
    page.type_text("s").await;
    page.type_text("i").await;
    page.until("isolated", "location.search.includes('isolate=1')").await;
    page.go("/pieces/1/lean-set?look=values").await;
    page.says("Gain from each added stick").await;
    page.type_text("/").await;
    page.until("find has the focus", "document.activeElement.id === 'find'").await;
    page.close().await;
}

#[tokio::test]
async fn wrong_files_are_refused_in_words_and_lose_nothing() {
    let stage = Stage::demo();
    let words = stage.path().join("holiday.jpg");
    std::fs::write(&words, "these are words, not a picture").unwrap();
    let cut = stage.path().join("cut.png");
    let whole = stage.path().join("whole.png");
    pictures::barn(&whole, 300, 200);
    let bytes = std::fs::read(&whole).unwrap();
    std::fs::write(&cut, &bytes[..bytes.len() / 3]).unwrap();
    let empty = stage.path().join("empty.jpg");
    std::fs::write(&empty, "").unwrap();

    let page = stage.page().await;
    page.go("/pieces/1/subject").await;
    page.says("The whole picture").await;
    let before = piece(&page).await;
    for (file, words) in [(&words, "text file"), (&cut, "damaged or cut short"), (&empty, "empty (0 bytes)")] {
        page.give_file("#reference-file", file).await;
        page.says(words).await;
        page.click("Close this line").await;
    }
    assert_eq!(piece(&page).await["revision"], before["revision"]);

    let flat = stage.path().join("flat.png");
    pictures::flat(&flat);
    page.give_file("#reference-file", &flat).await;
    page.until("one flat colour is one zone", "document.querySelectorAll('main [role=button]').length === 1").await;
    page.press(&[CTRL], 'z').await;
    page.says("Undone: the reference flat.png").await;
    assert_eq!(piece(&page).await["piece"]["zones"], before["piece"]["zones"]);
    page.close().await;
}

#[tokio::test]
async fn a_search_called_off_changes_nothing() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/lean-set").await;
    page.says("Search again").await;
    let before = piece(&page).await;
    page.click("Search again").await;
    page.click("Cancel").await;
    page.says("The search was cancelled. Nothing was changed.").await;
    let after = piece(&page).await;
    assert_eq!((&after["revision"], &after["piece"]["chosen"]), (&before["revision"], &before["piece"]["chosen"]));
    page.says("Search again").await;
    page.close().await;
}

#[tokio::test]
async fn the_later_of_two_windows_is_told() {
    let stage = Stage::demo();
    let (first, second) = (stage.page().await, stage.page().await);
    for page in [&first, &second] {
        page.go("/pieces/1/subject?zone=1").await;
        page.says("Importance").await;
    }
    first.press(&[], UP).await;
    first.says("Reset to the measured value").await;
    second.press(&[], DOWN).await;
    second.says("changed in another window").await;
    let kept = piece(&first).await;
    second.press(&[], DOWN).await;
    second.until("the newest state is shown and can be changed", "document.body.innerText.includes('Importance')").await;
    assert_eq!(kept["undo"], "the target of zone 1");
    first.close().await;
    second.close().await;
}

#[tokio::test]
async fn what_was_acknowledged_outlives_a_killed_server() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("demo.db");
    let server = Server::start(&data, true);
    let driver = Driver::start();
    let mut page = Page::open(&driver, &server.address).await;
    page.go("/pieces/1/subject?zone=1").await;
    let name = "input[aria-label='Name of zone 1']";
    // Typed over, as a painter does: to clear it leaves it, and then it is saved without a name while the new one is typed.
    page.find(name).await.click().await.unwrap();
    page.press(&[CTRL], 'a').await;
    page.find(name).await.send_keys("cold sky\n").await.unwrap();
    page.until("the name is saved", "document.body.textContent.includes('Undo the name cold sky')").await;
    server.kill();
    page.press(&[], DOWN).await;
    page.says("does not answer").await;

    let server = Server::start(&data, true);
    page.move_to_server(&server.address);
    page.go("/pieces/1/subject?zone=1").await;
    page.says("Importance").await;
    let view = piece(&page).await;
    assert_eq!(view["piece"]["zones"][0]["name"], "cold sky");
    assert_eq!(view["undo"], "the name cold sky");
    page.press(&[CTRL], 'z').await;
    page.says("Undone: the name cold sky").await;
    page.close().await;
}

#[tokio::test]
async fn the_bench_fits_smaller_and_larger_windows() {
    let stage = Stage::demo();
    let page = stage.page().await;
    for (width, height) in [(1024, 768), (1920, 1080)] {
        page.resize(width, height).await;
        for station in ["brief", "subject", "lean-set", "mixes", "studies", "box"] {
            page.go(&format!("/pieces/1/{station}")).await;
            page.until("the tray is filled", "document.querySelectorAll('footer li').length > 0").await;
            let what = format!("{station} at {width} × {height}");
            page.until(
                &format!("the field fills its place: {what}"),
                "(() => { const f = document.querySelector('svg[aria-label^=Field]'); \
                 return f && Math.abs(f.clientHeight - f.parentElement.clientHeight) < 2 && f.clientHeight > innerHeight * 0.7; })()",
            )
            .await;
            let wide = page.value("document.documentElement.scrollWidth").await.as_u64().unwrap();
            assert!(wide <= u64::from(width), "{what}: {wide} pixels wide");
        }
    }
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

/// Who works by keyboard goes on where they were.
#[tokio::test]
async fn help_gives_the_focus_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject").await;
    page.until("the tray is filled", "document.querySelectorAll('footer li').length > 0").await;
    for _ in 0..2 {
        page.value("(document.querySelector('[aria-label=Keys]').focus(), 1)").await;
        page.press(&[], '?').await;
        page.until("the help is read", "document.querySelector('[role=dialog]')?.contains(document.activeElement)").await;
        page.press(&[], ESC).await;
        page.until("the focus is back", "!document.querySelector('[role=dialog]') && document.activeElement?.ariaLabel === 'Keys'").await;
    }
    page.close().await;
}
