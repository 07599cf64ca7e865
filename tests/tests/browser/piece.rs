//! The piece at the easel: tasks in the order of the schools, a watercolour with its waits, departures, photos, sessions, enlarging.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;
use serde_json::Value;

const CTRL: char = '\u{E009}';
const TAB: char = '\u{E004}';
const SPACE: char = ' ';
const ENTER: char = '\u{E007}';

async fn fetched(page: &Page, path: &str) -> Value {
    page.value(&format!("(window.now = null, fetch('{path}').then(r => r.json()).then(v => window.now = v), 1)")).await;
    page.until("it has come", "window.now").await;
    page.value("window.now").await
}

#[tokio::test]
async fn a_session_is_logged_by_keyboard_with_what_was_done_and_taken_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/studies").await;
    page.says("values held").await;
    page.type_text("7").await;
    page.says("The piece now".to_lowercase().as_str()).await;
    page.go("/pieces/4/piece?room=log").await;
    page.says("3 h 5 min in 2 sessions").await;
    let painted = "document.querySelectorAll(\"main svg[role='img'] path[fill^='rgb']\").length";
    let done = "document.querySelectorAll('[aria-label=\"Order strip\"] button[aria-label$=\", done\"]').length";
    page.until("the strip is there", &format!("{done} > 0")).await;
    page.until("what is done is painted", &format!("{painted} > 0")).await;
    // The piece is upright: the reference stands beside it. Two of its zones lie close together, and the numbers of both can be read.
    page.until("the reference stands beside it", "document.querySelectorAll('main figure').length === 2").await;
    let closest = "(() => { const at = [...document.querySelectorAll(\"main svg[aria-label='Zones on the picture'] [role=button] circle\")].map(c => c.getBoundingClientRect()).map(r => [r.x + r.width / 2, r.y + r.height / 2]); return Math.min(...at.flatMap((a, i) => at.slice(i + 1).map(b => Math.hypot(a[0] - b[0], a[1] - b[1])))) })()";
    let closest = page.value(closest).await.as_f64().expect("there are numbers");
    assert!(closest > 18.5, "numbers 19 px wide stand {closest} px apart");
    let (before, already) = (page.value(painted).await, page.value(done).await.as_u64().unwrap());

    page.tab_to("aside textarea", 90).await;
    page.type_text("the mug, light side").await;
    page.tab_to("aside fieldset input", 3).await;
    let labels = "[...document.querySelectorAll('aside fieldset label')].findIndex(l => l.textContent.includes('Mug and shavings'))";
    for _ in 0..page.value(labels).await.as_u64().expect("the mug is listed") {
        page.press(&[], TAB).await;
    }
    page.press(&[], SPACE).await;
    page.tab_to("aside button.main", 30).await;
    page.press(&[], ENTER).await;
    page.says("in 3 sessions").await;
    page.says("the mug, light side").await;
    page.until("the task is done", &format!("{done} === {}", already + 1)).await;
    page.until("its zone was bare and is painted", &format!("{painted} === {} + 1", before)).await;
    assert!(page.axe().await.is_empty());

    page.press(&[CTRL], 'z').await;
    page.says("in 2 sessions").await;
    page.until("the task is open again", &format!("{done} === {already}")).await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_order_of_work_follows_the_school_and_the_painter() {
    let stage = Stage::demo();
    let page = stage.page().await;
    let block = |n: usize| format!("document.querySelectorAll('[aria-label=\"Order strip\"] li button')[{n}].getAttribute('aria-label')");
    page.go("/pieces/1/piece").await;
    page.says("Order of work: dark to light").await;
    page.until("the drawing comes first", &format!("{}.includes('Draw it')", block(0))).await;
    // Of the big shapes the darker is laid first.
    let wanted = fetched(&page, "/api/pieces/1").await;
    let value_of = |label: &str| {
        let zones = wanted["piece"]["zones"].as_array().unwrap();
        let named = zones.iter().filter(|z| !z["name"].as_str().unwrap().is_empty());
        let found = named
            .filter(|z| label.to_lowercase().contains(&z["name"].as_str().unwrap().to_lowercase()))
            .max_by_key(|z| z["name"].as_str().unwrap().len());
        found.unwrap_or_else(|| panic!("no zone is called as in {label}"))["target"]["l"].as_f64().unwrap()
    };
    let (one, other) = (page.value(&block(1)).await, page.value(&block(2)).await);
    assert!(value_of(&one.to_string()) <= value_of(&other.to_string()), "{one} before {other}");
    let second = page.value(&block(2)).await;
    // The painter puts the second shape first, and back again.
    page.value("(() => { document.querySelectorAll('[aria-label=\"Order strip\"] li button')[2].focus(); return 1 })()").await;
    page.press(&[], ENTER).await;
    page.press_button("Earlier").await;
    page.says("The order is your own").await;
    page.until("it has moved", &format!("{} === {second}", block(1))).await;
    page.press_button("Take the usual one").await;
    page.until("it is back", &format!("{} === {second}", block(2))).await;

    page.go("/pieces/1/brief?room=rules").await;
    page.says("order of tones").await;
    page.value("(() => { const s = [...document.querySelectorAll('main select')].find(s => [...s.options].some(o => o.value === 'light-to-dark')); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'light-to-dark'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    page.says("1 answer differs").await;
    page.go("/pieces/1/piece").await;
    page.says("light to dark").await;
    page.until("another shape comes first", &format!("{} !== {one}", block(1))).await;
    let (first, next) = (page.value(&block(1)).await, page.value(&block(2)).await);
    assert!(value_of(&first.to_string()) >= value_of(&next.to_string()), "{first} before {next}");
    page.close().await;
}

#[tokio::test]
async fn a_whole_watercolour_is_carried_out_with_its_waits() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/2/piece").await;
    page.says("Find the lean set").await;
    // A set from its pans, over the API: finding one is another test's.
    let pans = fetched(&page, "/api/boxes/hen-pans").await;
    let set: Vec<&str> =
        pans["pigments"].as_array().unwrap().iter().filter(|p| p["white"] != true).take(6).map(|p| p["id"].as_str().unwrap()).collect();
    let body =
        format!("{{ base_revision: v.revision, request: {{ do: 'choose-set', pigments: {} }} }}", serde_json::to_string(&set).unwrap());
    page.value(&format!("(window.now = null, fetch('/api/pieces/2').then(r => r.json()).then(v => fetch('/api/pieces/2/requests', {{ method: 'POST', headers: {{ 'content-type': 'application/json' }}, body: JSON.stringify({body}) }})).then(r => window.now = r.ok), 1)")).await;
    page.until("the set is chosen", "window.now === true").await;
    page.go("/pieces/2/piece").await;
    page.says("Draw it").await;
    let easel = fetched(&page, "/api/pieces/2/easel?now=2025-03-01T10:00").await;
    let tasks = easel["at"]["tasks"].as_array().unwrap().len();
    let waits: u64 = easel["at"]["sessions"]["sessions"].as_array().unwrap().iter().map(|s| s["waits"].as_u64().unwrap()).sum();
    assert!(tasks > 12, "{tasks}");
    let heading = "document.querySelector('aside h2').textContent";
    let mut waited = false;
    for n in 0..tasks {
        let title = page.value(heading).await;
        assert_ne!(title, Value::String("All is done".into()), "after {n} of {tasks}");
        waited |= page.text().await.contains("touch nothing beside it");
        page.click("It is done").await;
        page.until("the next one is shown", &format!("{heading} !== {title}")).await;
    }
    page.says("All is done").await;
    assert!(waited, "wet washes were spoken of; {waits} minutes of waiting were planned");
    assert_eq!(page.axe().await, Vec::<String>::new());
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn a_departure_is_kept_with_its_reason_and_what_follows_is_asked() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/piece?zone=11").await;
    page.says("Record a change").await;
    page.click("Record a change").await;
    page.until("the zone is meant", "document.querySelector('aside form')?.innerText.includes('mug and shavings is meant')").await;
    page.tab_to("aside form textarea", 12).await;
    page.type_text("it crowded the plane").await;
    page.press_button("Keep it").await;
    page.says("mug and shavings left out").await;
    page.says("what holds it now?").await;
    page.says("it crowded the plane").await;
    let left =
        "[...document.querySelectorAll('[aria-label=\"Order strip\"] button')].some(b => b.getAttribute('aria-label').includes('Mug'))";
    page.until("nobody paints it any more", &format!("!({left})")).await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.value(
        "(() => { document.querySelector('aside button[aria-label=\"Take back: mug and shavings left out\"]').click(); return 1 })()",
    )
    .await;
    page.until("it is painted after all", left).await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_photo_of_the_bench_is_compared_and_stepped_back_from() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.resize(1024, 768).await;
    page.go("/pieces/4/piece?room=photo").await;
    page.says("Lighten plane by").await;
    page.until("the plan lies over it", "document.querySelectorAll('main svg path').length > 10").await;
    // A corner by the arrow keys: it is set by hand then.
    page.tab_to("main button[aria-label='Corner upper left']", 60).await;
    page.press(&[], '\u{E014}').await;
    page.press(&[], TAB).await;
    page.says("Find the corners again").await;
    page.press_button("Find the corners again").await;
    page.until("they are found", "!document.body.innerText.includes('Find the corners again')").await;
    page.says("Lighten plane by").await;
    page.value("(() => { [...document.querySelectorAll('aside label')].find(l => l.innerText.includes('step back')).querySelector('input').click(); return 1 })()").await;
    page.says("in a mirror").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn an_enlargement_is_printed_at_true_size() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/piece?room=large&squares=5").await;
    page.says("Lines every 10 cm on the piece").await;
    page.says("joined cross on cross").await;
    let link =
        page.value("[...document.querySelectorAll('aside a')].find(a => a.innerText.includes('Outlines')).getAttribute('href')").await;
    let hex = format!(
        "(window.now = null, fetch('{}').then(r => r.arrayBuffer()).then(b => window.now = [...new Uint8Array(b)].map(n => n.toString(16).padStart(2, '0')).join('')), 1)",
        link.as_str().unwrap()
    );
    page.value(&hex).await;
    page.until("it has come", "window.now").await;
    let text = page.value("window.now").await.as_str().unwrap().to_owned();
    let bytes: Vec<u8> = (0..text.len()).step_by(2).map(|i| u8::from_str_radix(&text[i..i + 2], 16).unwrap()).collect();
    let pdf = lopdf::Document::load_mem(&bytes).expect("the PDF can be read");
    // Every page is a sheet of A4, one way round or the other, to a tenth of a millimetre.
    for id in pdf.get_pages().values() {
        let page = pdf.get_dictionary(*id).unwrap();
        let media = page.get(b"MediaBox").unwrap().as_array().unwrap();
        let size: Vec<f64> = media[2..].iter().map(|n| f64::from(n.as_float().unwrap()) / 72.0 * 25.4).collect();
        let (a, b) = (size[0].min(size[1]), size[0].max(size[1]));
        assert!((a - 210.0).abs() < 0.1 && (b - 297.0).abs() < 0.1, "{size:?}");
    }
    // The longest straight line of a page of the frame: in the middle pages it runs from rim to rim.
    assert!(pdf.get_pages().len() >= 6, "{} pages", pdf.get_pages().len());
    let page_text = pdf.extract_text(&[1]).unwrap();
    assert!(page_text.contains("row 1, column 1"), "{page_text}");
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.close().await;
}
