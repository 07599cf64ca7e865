//! One browser window, and the words tests are written in.

use crate::driver::Driver;
use fantoccini::actions::{InputSource, KeyAction, KeyActions, MOUSE_BUTTON_LEFT, MouseActions, PointerAction};
use fantoccini::elements::Element;
use fantoccini::wd::{Capabilities, WebDriverCompatibleCommand};
use fantoccini::{Client, ClientBuilder, Locator};
use http::Method;
use hyper_util::client::legacy::connect::HttpConnector;
use serde_json::{Value, json};
use std::path::Path;
use std::time::{Duration, Instant};

/// Longest any condition is waited for.
const PATIENCE: Duration = Duration::from_secs(150);
/// A pause between looks, not a wait for time to pass.
const LOOK: Duration = Duration::from_millis(25);

/// Keys as WebDriver names them.
const TAB: char = '\u{E004}';
const ENTER: char = '\u{E007}';

/// Where Debian's packages put the browser, and the same without its own interface.
const WHOLE: &str = "/usr/bin/chromium";
const SHELL: &str = "/usr/lib/chromium/chromium-headless-shell";

/// A window at 1280 × 800. Call [`Page::close`] at the end, also when the test failed.
pub struct Page {
    client: Client,
    base: String,
}

/// A ChromeDriver command of its own, as JSON to a path below the session.
#[derive(Debug)]
struct Raw(&'static str, Value);

impl WebDriverCompatibleCommand for Raw {
    fn endpoint(&self, base: &url::Url, session: Option<&str>) -> Result<url::Url, url::ParseError> {
        base.join(&format!("session/{}/{}", session.unwrap_or_default(), self.0))
    }

    fn method_and_body(&self, _: &url::Url) -> (Method, Option<String>) {
        (Method::POST, Some(self.1.to_string()))
    }
}

impl Page {
    /// Opens a window of 1280 × 800 on pages of the server at `base`, in the browser without its own interface: it starts and draws faster.
    pub async fn open(driver: &Driver, base: &str) -> Self {
        Self::open_in(SHELL, driver, base).await
    }

    /// The same in the whole browser, as a painter sees it: letters of the other stand a little closer.
    pub async fn open_whole(driver: &Driver, base: &str) -> Self {
        Self::open_in(WHOLE, driver, base).await
    }

    async fn open_in(browser: &str, driver: &Driver, base: &str) -> Self {
        let mut wanted = Capabilities::new();
        let flags = [
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--force-color-profile=srgb",
        ];
        wanted.insert("goog:chromeOptions".into(), json!({ "args": flags, "binary": browser }));
        wanted.insert("goog:loggingPrefs".into(), json!({ "browser": "ALL" }));
        let client =
            ClientBuilder::new(HttpConnector::new()).capabilities(wanted).connect(&driver.address).await.expect("the browser opens");
        let page = Self { client, base: base.to_owned() };
        page.resize(1280, 800).await;
        page.count_requests().await;
        page
    }

    /// Lets every page count the requests it waits for, for [`Page::quiet`].
    async fn count_requests(&self) {
        let script = "window.requestsUnderWay = 0; const plain = window.fetch; window.fetch = (...a) => { window.requestsUnderWay++; return plain(...a).finally(() => { window.requestsUnderWay-- }) }";
        let add = json!({ "cmd": "Page.addScriptToEvaluateOnNewDocument", "params": { "source": script } });
        self.client.issue_cmd(Raw("goog/cdp/execute", add)).await.expect("a script can be added");
    }

    /// Waits until the page has come to rest: it waits for no answer, and nothing of it has changed for a few frames.
    pub async fn quiet(&self) {
        let look = "const done = arguments[arguments.length - 1]; let frames = 0; \
            const seen = new MutationObserver(() => { frames = 0 }); \
            seen.observe(document, { subtree: true, childList: true, attributes: true, characterData: true }); \
            const step = () => { frames = window.requestsUnderWay > 0 ? 0 : frames + 1; \
            if (frames < 6) requestAnimationFrame(step); else { seen.disconnect(); done(1) } }; step()";
        self.client.execute_async(look, vec![]).await.expect("the page comes to rest");
    }

    /// Sets the exact size of the viewport.
    pub async fn resize(&self, width: u32, height: u32) {
        let metrics = json!({ "cmd": "Emulation.setDeviceMetricsOverride", "params": { "width": width, "height": height, "deviceScaleFactor": 1, "mobile": false } });
        self.client.issue_cmd(Raw("goog/cdp/execute", metrics)).await.expect("the viewport can be set");
    }

    /// Lets the browser be one whose reader speaks this language first, as in `de-DE`.
    pub async fn speaks(&self, language: &str) {
        let agent = self.value("navigator.userAgent").await;
        let said = json!({ "cmd": "Emulation.setUserAgentOverride", "params": { "userAgent": agent, "acceptLanguage": language } });
        self.client.issue_cmd(Raw("goog/cdp/execute", said)).await.expect("the language can be set");
    }

    /// Goes to a path of the server.
    pub async fn go(&self, path: &str) {
        self.client.goto(&format!("{}{path}", self.base)).await.expect("the page opens");
    }

    /// Points the window at a server started anew elsewhere.
    pub fn move_to_server(&mut self, base: &str) {
        self.base = base.to_owned();
    }

    /// Waits for an element.
    pub async fn find(&self, css: &str) -> Element {
        match self.client.wait().at_most(PATIENCE).every(LOOK).for_element(Locator::Css(css)).await {
            Ok(e) => e,
            Err(e) => panic!("{css} did not appear ({e}); the page says: {}", self.text().await),
        }
    }

    /// Waits for a button, link or label by the words on it.
    pub async fn named(&self, words: &str) -> Element {
        let path = format!(
            "//*[self::button or self::a or self::label or @role='button'][normalize-space(.)=\"{words}\" or @aria-label=\"{words}\"]"
        );
        match self.client.wait().at_most(PATIENCE).every(LOOK).for_element(Locator::XPath(&path)).await {
            Ok(e) => e,
            Err(e) => panic!("nothing called \"{words}\" appeared ({e}); the page says: {}", self.text().await),
        }
    }

    /// Clicks what has these words on it.
    pub async fn click(&self, words: &str) {
        self.named(words).await.click().await.expect("it can be clicked");
    }

    /// All text of the page.
    pub async fn text(&self) -> String {
        let body = self.client.find(Locator::Css("body")).await.expect("a page has a body");
        body.text().await.unwrap_or_default()
    }

    /// Waits until the page says something.
    pub async fn says(&self, words: &str) {
        self.until(&format!("the page says \"{words}\""), &format!("document.body.innerText.includes({})", json!(words))).await;
    }

    /// Waits until a script expression is true.
    pub async fn until(&self, what: &str, expression: &str) {
        let end = Instant::now() + PATIENCE;
        loop {
            let now = self.client.execute(&format!("return !!({expression})"), vec![]).await;
            if matches!(now, Ok(Value::Bool(true))) {
                return;
            }
            assert!(Instant::now() < end, "{what}: it never came to that; the page says: {}", self.text().await);
            tokio::time::sleep(LOOK).await;
        }
    }

    /// Waits until what the server answers at a path is so; `is` is a script expression of the answer `v`. The server has at least as long to itself
    /// as it takes to answer.
    pub async fn until_served(&self, what: &str, path: &str, is: &str) {
        let (end, path) = (Instant::now() + PATIENCE, json!(path));
        let look = format!(
            "const done = arguments[arguments.length - 1]; fetch({path}).then(r => r.json()).then(v => done(!!({is}))).catch(() => done(false))"
        );
        loop {
            let asked = Instant::now();
            if matches!(self.client.execute_async(&look, vec![]).await, Ok(Value::Bool(true))) {
                return;
            }
            assert!(Instant::now() < end, "{what}: {path} never came to that; the page says: {}", self.text().await);
            tokio::time::sleep(LOOK.max(asked.elapsed())).await;
        }
    }

    /// The value of a script expression.
    pub async fn value(&self, expression: &str) -> Value {
        self.client.execute(&format!("return {expression}"), vec![]).await.expect("the expression has a value")
    }

    /// Gives a file to a file input.
    pub async fn give_file(&self, css: &str, path: &Path) {
        self.find(css).await.send_keys(&path.display().to_string()).await.expect("the input takes a file");
    }

    /// Types text into whatever has the focus.
    pub async fn type_text(&self, text: &str) {
        let keys =
            text.chars().fold(KeyActions::new("keys".into()), |k, c| k.then(KeyAction::Down { value: c }).then(KeyAction::Up { value: c }));
        self.client.perform_actions(keys).await.expect("keys can be pressed");
    }

    /// Presses one key, perhaps with others held down.
    pub async fn press(&self, held: &[char], key: char) {
        let mut keys = KeyActions::new("keys".into());
        for h in held {
            keys = keys.then(KeyAction::Down { value: *h });
        }
        keys = keys.then(KeyAction::Down { value: key }).then(KeyAction::Up { value: key });
        for h in held.iter().rev() {
            keys = keys.then(KeyAction::Up { value: *h });
        }
        self.client.perform_actions(keys).await.expect("keys can be pressed");
    }

    /// Moves the focus with Tab until what has it matches; at most `most` presses. It waits first until there is such an element and the page has come
    /// to rest: what comes in later may take the focus back to where it was passed.
    pub async fn tab_to(&self, css: &str, most: usize) {
        self.find(css).await;
        self.tab_until(css, &format!("document.activeElement.matches({})", json!(css)), most).await;
    }

    /// Moves the focus with Tab to the button with these words on it, and presses it.
    pub async fn press_button(&self, words: &str) {
        const MOST: usize = 160;
        let says = |element: &str| format!("({element}.tagName === 'BUTTON' && {element}.innerText.trim() === {})", json!(words));
        self.until(
            &format!("there is a button \"{words}\""),
            &format!("[...document.querySelectorAll('button')].some(b => {})", says("b")),
        )
        .await;
        self.tab_until(words, &says("document.activeElement"), MOST).await;
        self.press(&[], ENTER).await;
    }

    async fn tab_until(&self, what: &str, reached: &str, most: usize) {
        self.quiet().await;
        for _ in 0..most {
            if self.value(reached).await == Value::Bool(true) {
                return;
            }
            self.press(&[], TAB).await;
        }
        let at = self.value("document.activeElement.outerHTML.slice(0, 200)").await;
        panic!("Tab never reached {what} in {most} presses; it is at {at}");
    }

    /// Drags from the middle of an element by so many pixels, in a few steps.
    pub async fn drag(&self, css: &str, by: (f64, f64)) {
        let e = self.find(css).await;
        let step = |n: f64| PointerAction::MoveBy { duration: Some(Duration::from_millis(15)), x: by.0 * n, y: by.1 * n };
        let mouse = MouseActions::new("mouse".into())
            .then(PointerAction::MoveToElement { element: e, duration: None, x: 0.0, y: 0.0 })
            .then(PointerAction::Down { button: MOUSE_BUTTON_LEFT })
            .then(step(0.25))
            .then(step(0.25))
            .then(step(0.5))
            .then(PointerAction::Up { button: MOUSE_BUTTON_LEFT });
        self.client.perform_actions(mouse).await.expect("the mouse can be moved");
    }

    /// Drags between two places of an element, given as shares of its width and height.
    pub async fn draw_line(&self, css: &str, from: (f64, f64), to: (f64, f64)) {
        let (_, _, w, h) = self.find(css).await.rectangle().await.expect("it has a size");
        let e = self.find(css).await;
        let (x, y) = ((from.0 - 0.5) * w, (from.1 - 0.5) * h);
        let mouse = MouseActions::new("mouse".into())
            .then(PointerAction::MoveToElement { element: e, duration: None, x, y })
            .then(PointerAction::Down { button: MOUSE_BUTTON_LEFT })
            .then(PointerAction::MoveBy {
                duration: Some(Duration::from_millis(20)),
                x: (to.0 - from.0) * w / 2.0,
                y: (to.1 - from.1) * h / 2.0,
            })
            .then(PointerAction::MoveBy {
                duration: Some(Duration::from_millis(20)),
                x: (to.0 - from.0) * w / 2.0,
                y: (to.1 - from.1) * h / 2.0,
            })
            .then(PointerAction::Up { button: MOUSE_BUTTON_LEFT });
        self.client.perform_actions(mouse).await.expect("the mouse can be moved");
    }

    /// What axe-core finds wrong with the page as it is: `rule: element` lines.
    pub async fn axe(&self) -> Vec<String> {
        self.axe_with("{}").await
    }

    /// The same of its colours alone: the rules about colour that are looked at where nothing else is said.
    pub async fn axe_of_colours(&self) -> Vec<String> {
        self.axe_with("{ runOnly: ['color-contrast', 'link-in-text-block'] }").await
    }

    async fn axe_with(&self, options: &str) -> Vec<String> {
        let script = include_str!(concat!(env!("CARGO_MANIFEST_DIR"), "/../web/node_modules/axe-core/axe.min.js"));
        self.client.execute(script, vec![]).await.expect("axe loads");
        let run = format!(
            "const done = arguments[arguments.length - 1]; axe.run({options}).then(r => done(r.violations.flatMap(v => v.nodes.map(n => v.id + ': ' + n.target.join(' ') + ' ' + n.failureSummary))))"
        );
        let found = self.client.execute_async(&run, vec![]).await.expect("axe runs");
        serde_json::from_value(found).expect("axe answers with lines")
    }

    /// Errors on the console since last asked. A refused request is told to the painter and is no error of the page.
    pub async fn console_errors(&self) -> Vec<String> {
        let log = self.client.issue_cmd(Raw("se/log", json!({ "type": "browser" }))).await.expect("the console can be read");
        let entries = log.as_array().cloned().unwrap_or_default();
        let severe = entries.iter().filter(|e| e["level"] == "SEVERE").filter_map(|e| e["message"].as_str());
        severe.filter(|m| !m.contains("the server responded with a status of 4")).map(str::to_owned).collect()
    }

    /// A picture of the window as PNG.
    pub async fn shot(&self) -> Vec<u8> {
        self.client.screenshot().await.expect("a picture can be taken")
    }

    /// Closes the window.
    pub async fn close(self) {
        self.client.close().await.expect("the browser closes");
    }
}
