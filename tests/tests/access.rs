//! Everyone can use it: axe-core finds nothing in any room, and no page puts errors on the console.

use lean_browser_tests::{driver::Driver, page::Page, server::Server, views::VIEWS};

/// Each room by itself, so that they are looked at side by side.
async fn axe_finds_nothing_in(room: &str) {
    let folder = tempfile::tempdir().unwrap();
    let server = Server::start(&folder.path().join("demo.db"), true);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    page.go("/").await;
    page.says("A new piece").await;
    page.value(&format!("(localStorage.setItem('room', JSON.stringify('{room}')), 1)")).await;
    let mut found = Vec::new();
    for (path, words) in VIEWS {
        page.go(path).await;
        page.says(words).await;
        page.until("the room is set", &format!("document.documentElement.dataset.room === '{room}'")).await;
        found.extend(page.axe().await.into_iter().map(|v| format!("{room} {path}: {v}")));
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

#[tokio::test]
async fn axe_finds_nothing_in_the_middle_room() {
    axe_finds_nothing_in("middle").await;
}

#[tokio::test]
async fn axe_finds_nothing_in_the_dark_room() {
    axe_finds_nothing_in("dark").await;
}

#[tokio::test]
async fn axe_finds_nothing_in_the_light_room() {
    axe_finds_nothing_in("light").await;
}
