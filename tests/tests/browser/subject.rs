//! The subject: a line drawing, borders mended by drawn lines, patches compared, a chart and where a colour occurs, compositions, planes.

use lean_browser_tests::stage::{Stage, piece};
use lean_browser_tests::{driver::Driver, page::Page, pictures, server::Server};

const ZONES: &str = "svg[aria-label='Zones on the picture']";
const CTRL: char = '\u{E009}';

async fn fresh(page: &Page, title: &str) {
    page.go("/").await;
    page.find("#new-title").await.send_keys(title).await.unwrap();
    page.click("Start").await;
    page.says("Drop a picture here").await;
}

#[tokio::test]
async fn closed_outlines_of_a_drawing_become_zones_and_a_gap_is_bridged() {
    let folder = tempfile::tempdir().unwrap();
    let drawing = folder.path().join("shapes.png");
    pictures::line_drawing(&drawing);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    fresh(&page, "Shapes").await;
    page.give_file("#reference-file", &drawing).await;
    page.says("A drawing in lines").await;
    page.says("0 of 4 shapes coloured").await;
    page.until("paper and three shapes", "document.querySelectorAll('main svg [role=button]').length === 4").await;
    page.click("Make the lines a zone").await;
    page.until("the lines too", "document.querySelectorAll('main svg [role=button]').length === 5").await;
    page.press(&[CTRL], 'z').await;
    page.until("undone", "document.querySelectorAll('main svg [role=button]').length === 4").await;
    page.click("Read it as a picture").await;
    page.says("It is a line drawing").await;
    page.click("It is a line drawing").await;
    page.says("0 of 4 shapes coloured").await;
    page.close().await;
}

#[tokio::test]
async fn zones_are_joined_redrawn_and_locked_by_drawing() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject").await;
    page.says("Merge by drawing").await;
    page.click("Merge by drawing").await;
    page.says("Draw from one zone across").await;
    // From the lit wall into the shaded front.
    page.draw_line(ZONES, (0.36, 0.52), (0.64, 0.38)).await;
    page.until("one zone fewer", "document.querySelectorAll('main svg [role=button]').length === 13").await;
    page.press(&[CTRL], 'z').await;
    page.until("all fourteen again", "document.querySelectorAll('main svg [role=button]').length === 14").await;

    page.go("/pieces/1/subject?zone=1").await;
    page.says("Redraw its border").await;
    let before = piece(&page).await;
    page.click("Redraw its border").await;
    page.says("Start in the zone and bulge out").await;
    page.draw_line(ZONES, (0.2, 0.1), (0.2, 0.1)).await;
    page.says("no length").await;
    assert_eq!(piece(&page).await["revision"], before["revision"], "nothing changed");
    page.click("locked").await;
    page.until("it is locked", "document.querySelector('aside input[type=checkbox]').checked").await;
    let sky = |v: &serde_json::Value| v["piece"]["zones"].as_array().unwrap().iter().find(|z| z["id"] == 1).cloned().unwrap();
    let area = sky(&piece(&page).await)["reading"]["area"].clone();
    page.click("More colours").await;
    page.until("a zone is parted", "document.querySelector(\"[aria-label='Colours and brush'] output\").textContent === '15'").await;
    let now = sky(&piece(&page).await);
    assert_eq!((now["name"].clone(), now["reading"]["area"].clone()), ("sky".into(), area), "the locked zone stayed");
    page.close().await;
}

#[tokio::test]
async fn two_patches_are_compared_and_a_line_is_read() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject").await;
    page.says("Compare two patches").await;
    page.click("Compare two patches").await;
    page.says("Drag from one patch to the other").await;
    page.draw_line(ZONES, (0.60, 0.10), (0.64, 0.36)).await;
    page.says("lighter").await;
    page.click("Done").await;
    page.says("The whole picture").await;
    page.click("Measure along a line").await;
    page.says("Drag a line to read the values").await;
    page.draw_line(ZONES, (0.36, 0.52), (0.66, 0.40)).await;
    page.says("the strongest edge lies").await;
    page.press(&[], '\u{E00C}').await;
    page.says("The whole picture").await;
    page.close().await;
}

#[tokio::test]
async fn a_chart_shows_its_colours_where_they_occur_and_lends_them() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.go("/pieces/1/subject?room=chart").await;
    page.says("distinct colours").await;
    let cells = piece(&page).await["piece"]["chart"]["cells"].as_array().unwrap().len();
    page.click("fewer").await;
    page.until("a cell fewer", &format!("document.querySelectorAll('main ul button').length === {}", cells - 1)).await;
    let shares = piece(&page).await["piece"]["chart"]["cells"].as_array().unwrap().iter().map(|c| c["area"].as_f64().unwrap()).sum::<f64>();
    assert!((shares - 1.0).abs() < 1e-6, "all of the picture is in the chart: {shares}");
    page.find("main ul button").await.click().await.unwrap();
    page.until(
        "it shows where",
        "document.querySelector('main img').src.includes('chart/where') && document.querySelector('main img').naturalWidth > 0",
    )
    .await;
    page.go("/pieces/4/subject?room=chart").await;
    page.says("Take the colours of").await;
    page.value("(() => { const s = [...document.querySelectorAll('aside select')].pop(); const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set; set.call(s, '1'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    page.says("also serves").await;
    page.close().await;
}

#[tokio::test]
async fn a_sheet_is_cut_apart_and_one_composition_goes_on() {
    let folder = tempfile::tempdir().unwrap();
    let sheet = folder.path().join("sheet.png");
    pictures::compositions(&sheet);
    let server = Server::start(&folder.path().join("studio.db"), false);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    fresh(&page, "Weir").await;
    page.click("compositions").await;
    page.give_file("#sheet-file", &sheet).await;
    page.until("four are found", "document.querySelectorAll('main ol li').length === 4").await;
    page.find("main ol li:nth-child(3) button").await.click().await.unwrap();
    page.says("Chosen").await;
    page.find("main ol li:nth-child(1) input").await.send_keys("too even").await.unwrap();
    page.press(&[], '\u{E004}').await;
    page.until_served("the reason is kept", "/api/pieces/1", "v.piece.compositions.cut[0].reason === 'too even'").await;
    page.click("Carry it on as the reference").await;
    page.click("the picture").await;
    page.until("it has zones", "document.querySelectorAll('main svg [role=button]').length >= 1").await;
    let now = piece(&page).await;
    let r = &now["piece"]["reference"];
    let aspect = r["width"].as_f64().unwrap() / r["height"].as_f64().unwrap();
    assert!((aspect - 4.0 / 3.0).abs() < 0.02, "cut to the proportion of the piece: {aspect}");
    assert_eq!(now["piece"]["compositions"]["cut"].as_array().unwrap().len(), 4, "the others are kept");
    page.close().await;
}

#[tokio::test]
async fn from_nothing_planes_become_zones_with_values_from_the_rules() {
    let stage = Stage::demo();
    let page = stage.page().await;
    fresh(&page, "From nothing").await;
    page.click("Start from a few planes").await;
    page.says("Drag planes into place").await;
    page.click("add a figure").await;
    page.until("three planes", "document.querySelectorAll('main svg [role=button]').length === 3").await;
    page.type_text("3").await;
    page.says("Lights").await;
    page.click("open sky").await;
    page.click("From the rules of light alone").await;
    let path = page.value("location.pathname.replace('/pieces', '/api/pieces').replace('/light', '')").await;
    page.until_served(
        "the sky is lightest, the figure darkest",
        path.as_str().unwrap(),
        "v.derived.shapes.every((s, i, all) => i === 0 || all[i - 1].target.value > s.target.value)",
    )
    .await;
    page.close().await;
}
