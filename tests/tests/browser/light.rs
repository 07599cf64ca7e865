//! Light: two lights with the findings that should and should not appear, keys for the part of a zone, keys for the values.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;
use serde_json::Value;

const CTRL: char = '\u{E009}';
const SHIFT: char = '\u{E008}';
const LEFT: char = '\u{E012}';

async fn hen(page: &Page) -> Value {
    page.value("(window.hen = null, fetch('/api/pieces/2').then(r => r.json()).then(v => window.hen = v), 1)").await;
    page.until("the piece has come", "window.hen").await;
    page.value("window.hen").await
}

fn zone(view: &Value, name: &str) -> u64 {
    view["piece"]["zones"].as_array().unwrap().iter().find(|z| z["name"] == name).unwrap_or_else(|| panic!("{name}"))["id"]
        .as_u64()
        .unwrap()
}

fn said(view: &Value) -> Vec<String> {
    view["derived"]["findings"].as_array().unwrap().iter().map(|f| f["key"].as_str().unwrap().to_owned()).collect()
}

fn temperature(view: &Value, zone: u64) -> f64 {
    let shapes = view["derived"]["shapes"].as_array().unwrap();
    shapes.iter().find(|s| s["zone"] == zone).unwrap()["target"]["temperature"].as_f64().unwrap()
}

#[tokio::test]
async fn each_of_two_lights_has_its_own_pair_and_only_what_is_wrong_is_said() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/2/light").await;
    page.says("Eye path").await;
    let before = hen(&page).await;
    assert!(!said(&before).iter().any(|k| k.starts_with("opposition") || k.starts_with("whites")), "a sound plan: {:?}", said(&before));

    // What the warm stove lights is cooled below its shadows: that is said of the stove alone, and one action mends it.
    for lit in ["breast in the glow", "bowl in the glow", "comb"] {
        let id = zone(&before, lit);
        page.go(&format!("/pieces/2/light?zone={id}")).await;
        page.says("Distance").await;
        let mut presses = 0;
        while temperature(&hen(&page).await, id) > -5.0 {
            page.press(&[SHIFT], LEFT).await;
            presses += 1;
            assert!(presses < 60, "{lit} never turned cool");
        }
    }
    let back = zone(&before, "back in shade");
    page.go(&format!("/pieces/2/light?zone={back}")).await;
    page.says("on the side of the light").await;
    let warmed = hen(&page).await;
    let reversed = |view: &Value| -> Vec<String> { said(view).into_iter().filter(|k| k.starts_with("opposition")).collect() };
    assert!(reversed(&warmed).contains(&format!("opposition-{back}")), "{:?}", said(&warmed));
    let by_daylight = ["floor", "stool in shade", "dark wall"].map(|n| format!("opposition-{}", zone(&before, n)));
    assert!(by_daylight.iter().all(|k| !reversed(&warmed).contains(k)), "only what lies beside the glow: {:?}", reversed(&warmed));
    page.click("Make it cooler than the light").await;
    page.until("it is mended", "!document.body.innerText.includes('on the side of the light')").await;
    assert!(!reversed(&hen(&page).await).contains(&format!("opposition-{back}")));
    page.press(&[CTRL], 'z').await;
    page.says("on the side of the light").await;
    page.close().await;
}

#[tokio::test]
async fn single_keys_say_how_a_zone_stands_in_the_light() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/2/subject").await;
    page.says("The whole picture").await;
    page.type_text("3").await;
    page.says("Eye path").await;
    page.type_text("j").await;
    page.says("Distance").await;
    const HEN: &str = "/api/pieces/2";
    const FACTS: &str = "v.piece.zones[0].facts";
    page.type_text("c").await;
    page.until_served("contact", HEN, &format!("{FACTS}.role === 'contact' && {FACTS}.by_hand")).await;
    page.type_text("p").await;
    page.until_served("the next plane", HEN, &format!("{FACTS}.plane !== 'upright'")).await;
    page.type_text("y").await;
    page.until_served("the next kind", HEN, &format!("{FACTS}.kind === 'water'")).await;
    page.press(&[CTRL], 'z').await;
    page.until_served("taken back", HEN, &format!("{FACTS}.kind === null || {FACTS}.kind === undefined")).await;
    page.close().await;
}

#[tokio::test]
async fn values_are_mapped_into_a_key_and_the_plan_is_seen_in_every_way() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/2/light").await;
    page.says("Fit values…").await;
    page.click("Fit values…").await;
    page.until("both are shown", "document.querySelectorAll('aside figure img').length === 2").await;
    page.value("(() => { const s = document.querySelector(\"aside select[aria-label='Key']\"); const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set; set.call(s, 'high'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    page.until("the pair of that key is shown", "[...document.querySelectorAll('aside figure img')].every(i => i.complete && i.naturalWidth) && [...document.querySelectorAll('aside figure img')].some(i => i.src.includes('high'))").await;
    page.quiet().await;
    page.click("Use these values").await;
    page.until_served("the plan moved", "/api/pieces/2", "v.undo === 'the values fitted to what can be laid'").await;
    let view = hen(&page).await;
    let reach = &view["derived"]["light"]["reach"];
    let (dark, light) = (reach["darkest"].as_f64().unwrap(), reach["lightest"].as_f64().unwrap());
    let values: Vec<f64> = view["derived"]["shapes"].as_array().unwrap().iter().map(|s| s["target"]["value"].as_f64().unwrap()).collect();
    let least = values.iter().copied().fold(10.0, f64::min);
    assert!(least >= light - 0.6 * (light - dark) - 0.05, "{least} of {dark} to {light}");
    for key in ["v", "w", "s", "n"] {
        page.type_text(key).await;
        let look = [("v", "values"), ("w", "warm-cool"), ("s", "squint"), ("n", "neighbours")].into_iter().find(|l| l.0 == key).unwrap().1;
        let shown = "document.querySelector(\"main svg[role='img'] path\") || [...document.querySelectorAll('main img')].some(i => i.src.includes('planned') && i.complete && i.naturalWidth > 0)";
        page.until("the plan is seen so", &format!("location.search.includes('look={look}') && ({shown})")).await;
    }
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn a_zone_that_runs_is_mixed_as_a_string() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/light?zone=1").await;
    page.click("It runs to another value").await;
    page.says("which way").await;
    page.go("/pieces/1/mixes?zone=1").await;
    page.says("At the far end, handed over at").await;
    page.says("50 %").await;
    // Other zones of the picture run by themselves.
    let runs = "document.querySelectorAll('main linearGradient').length";
    page.until("the sky is drawn running too", &format!("{runs} >= 1")).await;
    let with = page.value(runs).await.as_u64().unwrap();
    page.press(&[CTRL], 'z').await;
    page.until("one mix again", &format!("{runs} === {} && !document.body.innerText.includes('At the far end')", with - 1)).await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}
