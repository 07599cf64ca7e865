//! A phone on a network of its own: two hosts on one machine, a wire between them, the studio on one and the browser on the other.
//!
//! Needs root and `ip` (Debian's iproute2): `cargo test --workspace --test network -- --ignored`.

use lean_browser_tests::server::{copy_demo, program};
use lean_browser_tests::{driver::Driver, page::Page};
use serde_json::Value;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

const DESK: &str = "lean-desk";
const PHONE: &str = "lean-phone";
const SHARED: &str = "10.77.0.1:7437";
const OWN: &str = "127.0.0.1:7436";
/// Says to the test that it runs on the phone already.
const ON_THE_PHONE: &str = "LEAN_SWATCH_ON_THE_PHONE";

fn ip(words: &str) -> bool {
    Command::new("ip").args(words.split(' ')).stderr(Stdio::null()).status().is_ok_and(|s| s.success())
}

/// Both hosts, taken down when dropped.
struct Wired;

impl Wired {
    fn up() -> Self {
        take_down();
        for step in [
            format!("netns add {DESK}"),
            format!("netns add {PHONE}"),
            format!("link add lean-d netns {DESK} type veth peer name lean-p netns {PHONE}"),
            format!("-n {DESK} addr add 10.77.0.1/24 dev lean-d"),
            format!("-n {PHONE} addr add 10.77.0.2/24 dev lean-p"),
            format!("-n {DESK} link set lean-d up"),
            format!("-n {PHONE} link set lean-p up"),
            format!("-n {DESK} link set lo up"),
            format!("-n {PHONE} link set lo up"),
        ] {
            assert!(ip(&step), "ip {step} (root, and Debian's iproute2, are needed)");
        }
        Self
    }
}

fn take_down() {
    ip(&format!("netns del {DESK}"));
    ip(&format!("netns del {PHONE}"));
}

impl Drop for Wired {
    fn drop(&mut self) {
        take_down();
    }
}

/// A program on one of the hosts.
fn on(host: &str) -> Command {
    let mut command = Command::new("ip");
    command.args(["netns", "exec", host]);
    command
}

/// The studio on the desk, ended when dropped.
struct Studio(Child);

impl Drop for Studio {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// What the desk is told when it asks its own server.
fn asked_at_the_desk(method: &str, path: &str) -> Option<Value> {
    let out = on(DESK).args(["curl", "-s", "-X", method, &format!("http://{OWN}{path}")]).output().ok()?;
    serde_json::from_slice(&out.stdout).ok()
}

#[test]
#[ignore = "needs root to make network namespaces"]
fn a_phone_on_the_network_meets_the_address_for_devices_and_nothing_else() {
    if std::env::var_os(ON_THE_PHONE).is_some() {
        return on_the_phone();
    }
    let _wired = Wired::up();
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("demo.db");
    copy_demo(&data);
    let mut serve = on(DESK);
    serve.arg(program()).args(["serve", "--demo", "--listen", OWN, "--share", SHARED, "--data"]).arg(&data);
    let _studio = Studio(serve.stdout(Stdio::null()).spawn().unwrap());
    let until = Instant::now() + Duration::from_secs(60);
    while asked_at_the_desk("GET", "/api/health").is_none() {
        assert!(Instant::now() < until, "the studio never answered at the desk");
        std::thread::yield_now();
    }
    let code = asked_at_the_desk("POST", "/api/devices/code").unwrap()["url"].as_str().unwrap().to_owned();
    // The rest of the test, and its browser, run on the other host.
    let own = std::env::current_exe().unwrap();
    let here = on(PHONE).arg(own).args(["--ignored", "--nocapture", "a_phone_on_the_network"]).env(ON_THE_PHONE, &code).status().unwrap();
    assert!(here.success(), "what the phone met");
    let devices = asked_at_the_desk("GET", "/api/devices").unwrap();
    assert_eq!(devices["devices"].as_array().unwrap().len(), 1);
    let piece = asked_at_the_desk("GET", "/api/pieces/1").unwrap();
    assert_eq!(piece["piece"]["easel"]["done"].as_array().unwrap().len(), 1, "what was done on the phone is in the studio");
}

fn on_the_phone() {
    // The studio's own address is on the desk's own machine alone, and so is every other port of the desk.
    let reached = |at: &str| std::net::TcpStream::connect_timeout(&at.parse().unwrap(), Duration::from_secs(2)).is_ok();
    assert!(reached(SHARED) && !reached("10.77.0.1:7436") && !reached(OWN));
    let code = std::env::var(ON_THE_PHONE).unwrap();
    tokio::runtime::Runtime::new().unwrap().block_on(async {
        let driver = Driver::start();
        let page = Page::open(&driver, &format!("http://{SHARED}")).await;
        page.resize(390, 844).await;
        page.go("/device").await;
        page.says("ask for a code").await;
        page.go("/field").await;
        page.go(&format!("/pair#{}", code.split('#').next_back().unwrap())).await;
        page.click("Pair it").await;
        page.says("At the easel").await;
        page.find("a[href='/device/pieces/1']").await.click().await.unwrap();
        page.says("It is done").await;
        let task = page.value("document.querySelector('section h2').innerText").await;
        page.click("It is done").await;
        page.until("another task is next", &format!("document.querySelector('section h2')?.innerText !== {task}")).await;
        page.until("nothing is wider than the screen", "document.documentElement.scrollWidth <= 390").await;
        page.close().await;
    });
}
