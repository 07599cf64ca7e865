//! Colours, places and the brush: one whole task, from a dropped photo to the plan in its mixes and all the way back; and by keyboard.

use lean_browser_tests::stage::piece;
use lean_browser_tests::{driver::Driver, page::Page, pictures, server::Server};
use serde_json::Value;

const CTRL: char = '\u{E009}';
const ENTER: char = '\u{E007}';
const RIGHT: char = '\u{E014}';
const DOWN: char = '\u{E015}';
const ESC: char = '\u{E00C}';
const ZONES: &str = "svg[aria-label='Zones on the picture']";
const DIAL: &str = "document.querySelector(\"[aria-label='Colours and brush'] output\").textContent";

async fn with_street(page: &Page, photo: &std::path::Path) {
    page.go("/").await;
    page.find("#new-title").await.send_keys("Street").await.unwrap();
    page.click("Start").await;
    page.says("Drop a picture here").await;
    page.give_file("#reference-file", photo).await;
    page.says("The whole picture").await;
}

fn zones(view: &Value) -> &Vec<Value> {
    view["piece"]["zones"].as_array().unwrap()
}

/// The zone whose reading is nearest to a colour.
fn like(view: &Value, lab: [f64; 3]) -> u64 {
    let off = |z: &Value| {
        let r = &z["reading"]["lab"];
        ["l", "a", "b"].iter().zip(lab).map(|(k, v)| (r[k].as_f64().unwrap() - v).powi(2)).sum::<f64>()
    };
    let nearest = zones(view).iter().min_by(|p, q| off(p).total_cmp(&off(q))).unwrap();
    nearest["id"].as_u64().unwrap()
}

#[tokio::test]
async fn from_a_photo_to_the_plan_in_its_mixes_and_all_the_way_back() {
    let folder = tempfile::tempdir().unwrap();
    let photo = folder.path().join("street.png");
    pictures::street(&photo);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    with_street(&page, &photo).await;

    // The first thing shown: colours at a middle brush; the small red lamp has one of its own.
    let first = piece(&page).await;
    let lamp = like(&first, [45.0, 60.0, 40.0]);
    let of = |v: &Value, id: u64| zones(v).iter().find(|z| z["id"] == id).cloned().unwrap();
    assert!(of(&first, lamp)["reading"]["lab"]["a"].as_f64().unwrap() > 35.0, "the accent has a colour of its own");
    let dials = first["derived"]["dials"].clone();
    let (brush, places) = (dials["brush"].as_f64().unwrap(), dials["places"].as_u64().unwrap());
    assert!((brush - 10.0).abs() < 0.1, "a fortieth of 40 cm: {brush}");

    // A large brush leaves fewer places and changes no zone; back again it is the same map.
    let map = first["derived"]["map"]["digest"].clone();
    page.find("input[type=range]").await.click().await.unwrap();
    page.press(&[], '\u{E010}').await;
    page.says("40 mm").await;
    let coarse = loop {
        let now = piece(&page).await;
        if now["derived"]["dials"]["brush"].as_f64().unwrap() > 39.0 {
            break now;
        }
    };
    assert!(coarse["derived"]["dials"]["places"].as_u64().unwrap() < places);
    assert_eq!(zones(&coarse), zones(&first));
    page.press(&[CTRL], 'z').await;
    page.says("Undone: a brush of 40 mm").await;
    assert_eq!(piece(&page).await["derived"]["map"]["digest"], map);

    // The windows are one zone in several places; one of them is given to the wall by pointing.
    let windows = like(&first, [24.0, 0.0, -8.0]);
    let wall = like(&first, [70.0, 8.0, 26.0]);
    let n = |v: &Value, id: u64| {
        v["derived"]["shapes"].as_array().unwrap().iter().find(|s| s["zone"] == id).unwrap()["places"].as_u64().unwrap()
    };
    let before = n(&first, windows);
    assert!(before >= 4, "{before} windows");
    page.go(&format!("/pieces/1/subject?zone={windows}")).await;
    page.says(&format!("Place 1 of {before}")).await;
    page.click("pick it up").await;
    page.says("Point at the zone that takes it").await;
    page.draw_line(ZONES, (0.50, 0.62), (0.50, 0.62)).await;
    page.says(&format!("Place 1 of {}", before - 1)).await;
    let given = piece(&page).await;
    assert_eq!(n(&given, windows), before - 1);
    assert_eq!(of(&given, wall)["target"], of(&first, wall)["target"], "what takes it keeps its target");

    // Facts said of a mass hold for the zone in it.
    page.go("/pieces/1/subject?room=masses").await;
    page.says("masses").await;
    page.draw_line("svg[aria-label='Masses on the picture']", (0.1, 0.1), (0.1, 0.1)).await;
    page.says("It faces").await;
    page.value("(() => { const s = document.querySelector('aside select'); const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set; set.call(s, 'sky'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    let sky = like(&first, [80.0, -2.0, -12.0]);
    page.until_served("the sky faces up", "/api/pieces/1", &format!("v.piece.zones.find(z => z.id === {sky}).facts.plane === 'sky'")).await;

    // A set, and the plan in its mixes with every place of the chosen zone.
    page.type_text("8").await;
    page.find("main input[maxlength='80']").await.send_keys("My tubes").await.unwrap();
    page.click("24 sticks").await;
    page.says("Put in another").await;
    page.type_text("4").await;
    page.click("Find the smallest sets").await;
    page.says("Proved best set of").await;
    page.click("the 4").await;
    page.until("four wells are in the tray", "document.querySelectorAll('footer li').length === 4").await;
    page.type_text("5").await;
    page.until("the plan is drawn", "document.querySelectorAll(\"main svg[role='img'] path[fill^='rgb']\").length >= 3").await;
    page.go(&format!("/pieces/1/mixes?zone={windows}")).await;
    page.says("from the set").await;
    page.until("all its places light up", &format!("document.querySelectorAll('main svg [aria-hidden] circle').length === {}", before - 2))
        .await;
    assert!(page.axe().await.is_empty());

    // All the way back.
    let mut now = piece(&page).await;
    while let Some(what) = now["undo"].as_str().map(str::to_owned) {
        let revision = now["revision"].as_i64().unwrap();
        page.press(&[CTRL], 'z').await;
        page.until_served(&format!("undone: {what}"), "/api/pieces/1", &format!("v.revision === {}", revision + 1)).await;
        now = piece(&page).await;
    }
    assert!(now["piece"]["reference"].is_null() && zones(&now).is_empty());
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn dials_places_and_lines_by_keyboard_alone() {
    let folder = tempfile::tempdir().unwrap();
    let photo = folder.path().join("street.png");
    pictures::street(&photo);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    with_street(&page, &photo).await;
    let colours: usize = page.value(DIAL).await.as_str().unwrap().parse().unwrap();

    page.type_text("-").await;
    page.until("a colour fewer", &format!("{DIAL} === '{}'", colours - 1)).await;
    page.type_text("+").await;
    page.until("and it is back", &format!("{DIAL} === '{colours}'")).await;
    let start = piece(&page).await;
    page.type_text(">").await;
    page.until("a larger brush", "document.body.innerText.includes('12 mm') || document.body.innerText.includes('13 mm')").await;
    page.type_text("<").await;
    page.until("and smaller again", "document.body.innerText.includes('10 mm') || document.body.innerText.includes('9.9 mm')").await;
    assert_eq!(zones(&piece(&page).await), zones(&start));

    // The second window becomes a zone of its own.
    let windows = like(&start, [24.0, 0.0, -8.0]);
    page.go(&format!("/pieces/1/subject?zone={windows}")).await;
    page.says("Place 1 of").await;
    page.type_text(".").await;
    page.says("Place 2 of").await;
    const PLACE: &str = "document.body.innerText.match(/Place \\d+ of \\d+|One place/)?.[0]";
    let second = page.value(PLACE).await;
    page.type_text("m").await;
    page.until("one zone more", &format!("{DIAL} === '{}'", colours + 1)).await;
    // Until the new map is there the card still shows the place that has just left.
    page.until("its places are shown anew", &format!("{PLACE} && {PLACE} !== {second}")).await;

    // Another is picked up, carried to the next zone and put down there.
    let before = piece(&page).await["derived"]["map"]["digest"].clone();
    page.type_text("g").await;
    page.says("Point at the zone that takes it").await;
    let chosen = page.value("location.search").await;
    page.type_text("j").await;
    page.until("the next zone is chosen", &format!("location.search !== {chosen} && document.querySelector('aside input[maxlength]')"))
        .await;
    page.type_text("g").await;
    page.until_served("it lies in another zone", "/api/pieces/1", &format!("v.derived.map.digest !== {before}")).await;

    // A colour is taken where the cross stands.
    page.press(&[], ESC).await;
    page.says("Add this colour").await;
    page.click("Add this colour").await;
    page.says("Point at a colour").await;
    page.until("the keyboard draws on the picture", "document.activeElement.matches(\"main svg[data-drawing='true']\")").await;
    for key in [RIGHT, DOWN, DOWN] {
        page.press(&[], key).await;
    }
    page.press(&[], ENTER).await;
    page.until(
        "it was taken, or is there already",
        &format!(
            "{DIAL} === '{}' || document.body.innerText.includes('already') || document.body.innerText.includes('lies nowhere')",
            colours + 2
        ),
    )
    .await;
    page.close().await;
}
