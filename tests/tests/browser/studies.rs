//! Studies: many at once, one that goes on, colours from elsewhere, and hues by hand before them.

use lean_browser_tests::page::Page;
use lean_browser_tests::stage::Stage;
use serde_json::Value;

const CTRL: char = '\u{E009}';
const ENTER: char = '\u{E007}';

async fn piece(page: &Page, id: u32) -> Value {
    page.value(&format!("(window.now = null, fetch('/api/pieces/{id}').then(r => r.json()).then(v => window.now = v), 1)")).await;
    page.until("the piece has come", "window.now").await;
    page.value("window.now").await
}

/// Lightness, a and b of every target, by zone.
fn targets(view: &Value) -> Vec<(u64, [f64; 3])> {
    let zones = view["piece"]["zones"].as_array().unwrap();
    let lab = |l: &Value| ["l", "a", "b"].map(|c| l[c].as_f64().unwrap());
    zones.iter().map(|z| (z["id"].as_u64().unwrap(), lab(&z["target"]))).collect()
}

fn hue([_, a, b]: [f64; 3]) -> f64 {
    b.atan2(a).to_degrees().rem_euclid(360.0)
}

/// Asks for so many studies.
async fn ask_for(page: &Page, count: u32) {
    page.find("aside select").await.select_by_value(&count.to_string()).await.unwrap();
}

/// Opens a study.
async fn open(page: &Page, number: u32) {
    page.find(&format!("main button[data-study='{number}']")).await.click().await.unwrap();
}

#[tokio::test]
async fn nine_studies_one_becomes_the_plan_and_undo_brings_the_plan_back() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/4/studies").await;
    page.says("3 analogous").await;
    ask_for(&page, 9).await;
    page.click("Make 9 studies").await;
    page.says("9 late sun").await;
    page.type_text("v").await;
    page.until("values are seen", "document.querySelector('main [aria-pressed=true]')?.innerText.includes('values')").await;
    page.type_text("v").await;

    open(&page, 5).await;
    page.says("Use this study").await;
    page.find("aside textarea").await.send_keys("the wall sings\t").await.unwrap();
    let before = piece(&page, 4).await;
    page.click("Use this study").await;
    page.says("is the plan now").await;
    let after = piece(&page, 4).await;
    let study = before["piece"]["studies"].as_array().unwrap().iter().find(|s| s["number"] == 5).unwrap();
    assert_eq!(study["reason"], "the wall sings");
    for ((zone, target), mix) in targets(&after).iter().zip(study["mixes"].as_array().unwrap()) {
        let wanted = ["l", "a", "b"].map(|c| mix["wanted"][c].as_f64().unwrap());
        assert!(target.iter().zip(wanted).all(|(t, w)| (t - w).abs() < 1e-9), "zone {zone}");
    }
    assert_eq!(after["piece"]["chosen"]["pigments"], study["pigments"], "its set is in the tray");
    let wanted = |s: &Value| -> Vec<f64> {
        s["mixes"]
            .as_array()
            .unwrap()
            .iter()
            .map(|m| m["wanted"]["l"].as_f64().unwrap() + 1e3 * m["wanted"]["b"].as_f64().unwrap())
            .collect()
    };
    let former: Vec<f64> = targets(&before).iter().map(|(_, t)| t[0] + 1e3 * t[2]).collect();
    let kept =
        after["piece"]["studies"].as_array().unwrap().iter().any(|s| wanted(s).iter().zip(&former).all(|(a, b)| (a - b).abs() < 1e-6));
    assert!(kept, "the plan as it was is among the studies");
    assert!(after["study_notes"].as_array().unwrap().iter().all(|n| n["out_of_date"] == false));

    page.press(&[CTRL], 'z').await;
    page.says("Undone: going on with study 5").await;
    assert_eq!(targets(&piece(&page, 4).await), targets(&before));
    assert!(page.axe().await.is_empty());
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_colours_of_one_piece_are_laid_on_another() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/studies").await;
    page.says("Colours from somewhere else").await;
    page.until("the other pieces are listed", "document.querySelectorAll('aside section select option').length > 1").await;
    page.find("aside section select").await.select_by_label("Hen on the stove stool").await.unwrap();
    page.click("Lay its colours here").await;
    page.says("7 colours of Hen on the stove stool").await;
    let view = piece(&page, 1).await;
    let lent = view["piece"]["studies"].as_array().unwrap().last().unwrap().clone();
    for ((_, target), mix) in targets(&view).iter().zip(lent["mixes"].as_array().unwrap()) {
        assert!((mix["wanted"]["l"].as_f64().unwrap() - target[0]).abs() < 1e-6, "values are held");
    }
    page.close().await;
}

#[tokio::test]
async fn a_drawing_is_coloured_by_key_given_a_triad_and_printed() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/3/light?room=colour").await;
    page.says("A hue for a zone").await;
    page.type_text("j").await;
    page.says("Type a colour").await;
    let at = page.value("Number(new URLSearchParams(location.search).get('zone'))").await.as_u64().unwrap();
    let of = |view: &Value| targets(view).into_iter().find(|(z, _)| *z == at).unwrap().1;
    let before = of(&piece(&page, 3).await);

    // Typed, turned, as read.
    page.type_text("y").await;
    page.until("the field has the keyboard", "document.activeElement.id === 'typed-colour'").await;
    page.type_text("lch 50 30 250").await;
    page.press(&[], ENTER).await;
    page.until("its hue is shown", "/Hue 25\\d°/.test(document.querySelector('aside').innerText)").await;
    let typed = of(&piece(&page, 3).await);
    assert!((typed[0] - 50.0).abs() < 0.5, "a shape of a drawing takes all of a colour: {typed:?} after {before:?}");
    page.type_text("hh").await;
    page.until("it was turned", "/Hue 27\\d°/.test(document.querySelector('aside').innerText)").await;
    assert!((hue(of(&piece(&page, 3).await)) - hue(typed) - 20.0).abs() < 1.5);

    // Two zones together.
    page.type_text("xj").await;
    page.says("and 1 more").await;
    page.type_text("p").await;
    page.until("both took the pigment's hue", "document.querySelectorAll('aside svg text').length === 2").await;
    page.type_text("o").await;
    let as_read = format!("v.piece.zones.filter(z => z.id === {at}).every(z => z.target.a === z.reading.lab.a)");
    page.until_served("both are as they read", "/api/pieces/3", &as_read).await;

    page.type_text("6").await;
    page.says("Make 9 studies").await;
    ask_for(&page, 1).await;
    page.click("complementary").await;
    page.click("triadic").await;
    page.click("Make one study").await;
    page.says("1 triadic").await;
    open(&page, 1).await;
    page.says("Shares of the picture").await;
    page.click("Use this study").await;
    page.says("is the plan now").await;
    page.click("Print the sheet").await;
    page.says("PDF, painted").await;
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn the_clock_of_a_study_goes_on_over_a_reload() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/studies?study=3").await;
    page.click("Start the clock").await;
    page.says("Pause the clock").await;
    let since = piece(&page, 1).await["piece"]["studies"][2]["running_since"].as_i64().expect("it runs");
    page.go("/pieces/1/studies?study=3").await;
    page.says("Pause the clock").await;
    page.until("it moves", "/0:0[1-9]|0:[1-9]\\d/.test(document.querySelector('[role=timer]').innerText)").await;
    page.says("darks, large").await;
    page.click("Pause the clock").await;
    page.says("Start the clock").await;
    let kept = piece(&page, 1).await["piece"]["studies"][2].clone();
    assert!(since > 1_600_000_000 && kept["running_since"].is_null() && kept["minutes"] == 0);
    page.close().await;
}
