//! Drills by keyboard and on a phone.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;
use serde_json::Value;

const ENTER: char = '\u{E007}';

async fn answers(page: &Page) -> u64 {
    page.value("(window.now = null, fetch('/api/drills?on=2025-03-01').then(r => r.json()).then(v => window.now = v), 1)").await;
    page.until("it has come", "window.now").await;
    page.value("window.now.standings.reduce((n, s) => n + s.answers, 0)").await.as_u64().unwrap()
}

#[tokio::test]
async fn two_minutes_by_keyboard_alone() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/mixes").await;
    page.says("Choose a zone").await;
    page.type_text("0").await;
    page.says("Drills").await;
    page.says("Two minutes, beginning with").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    // Which is warmer: answered by a number key, gone on from by Enter.
    page.value("(() => { [...document.querySelectorAll('button')].find(b => b.getAttribute('aria-label') === 'Do this one: Which is warmer').click(); return 1 })()").await;
    for n in 1..=3u64 {
        page.says("Which of the two is warmer?").await;
        page.until("both are shown", "document.querySelectorAll('[aria-label=\"A drill\"] button[aria-pressed]').length === 2").await;
        page.type_text("1").await;
        page.says("They lay").await;
        page.until("it is counted", &format!("/of {n} right/.test(document.querySelector('[role=timer]').innerText)")).await;
        page.press(&[], ENTER).await;
    }
    page.says("Which of the two is warmer?").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.click("Stop").await;
    page.says("3 answers: too few to say").await;
    assert_eq!(answers(&page).await, 3);
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

/// Most presses that answer any drill.
const MOST_PRESSES: usize = 60;

#[tokio::test]
async fn on_a_phone_every_drill_fits_and_can_be_answered() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.resize(390, 844).await;
    page.go("/drills").await;
    page.says("Two minutes, beginning with").await;
    let names = page.value("[...document.querySelectorAll('main li h2')].map(h => h.innerText)").await;
    let names: Vec<String> = names.as_array().unwrap().iter().map(|n| n.as_str().unwrap().to_owned()).collect();
    assert_eq!(names.len(), 8);
    for name in &names {
        page.value(&format!("(() => {{ [...document.querySelectorAll('button')].find(b => b.getAttribute('aria-label') === 'Do this one: {name}').click(); return 1 }})()")).await;
        page.until("it is asked", "document.querySelector('[aria-label=\"A drill\"] h2')").await;
        let wide = page.value("document.documentElement.scrollWidth").await.as_u64().unwrap();
        assert!(wide <= 390, "{name} is {wide} wide");
        // Whatever way it is answered in: everything that can be pressed is, one after the other, until a verdict is there.
        let mut answered = false;
        for _ in 0..MOST_PRESSES {
            page.quiet().await;
            answered = page.value("(() => { const s = document.querySelector('[aria-label=\"A drill\"]'); if (/[✓✕]/.test(s.querySelector('[aria-live]').innerText)) return true; const b = [...s.querySelectorAll('button:not([aria-pressed=\"true\"]):not([disabled])')].find(b => !/Stop|[−+]/.test(b.innerText)); if (b) b.click(); return false })()").await == true;
            if answered {
                break;
            }
        }
        assert!(answered, "{name} is answered");
        assert_eq!(page.axe().await, Vec::<String>::new(), "{name}");
        // The verdict still pushes the buttons down where the machine is busy: a press by place may miss it.
        page.value("(() => { [...document.querySelectorAll('button')].find(b => b.innerText.trim() === 'Stop').click(); return 1 })()")
            .await;
        page.says("Two minutes, beginning with").await;
    }
    assert_eq!(answers(&page).await, 8);
    assert_eq!(page.value("document.querySelectorAll('main li').length").await, Value::from(8));
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}
