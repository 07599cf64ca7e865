//! Everyone can use it: axe-core finds nothing in any room, the bench fits its window, and no page puts errors on the console.

use lean_browser_tests::{driver::Driver, page::Page, server::Server, views::VIEWS};

const ROOMS: [&str; 3] = ["middle", "dark", "light"];

/// Turns the page to a room as another window of the same browser would.
async fn turn_to(page: &Page, room: &str) {
    page.value(&format!(
        "(localStorage.setItem('room', JSON.stringify('{room}')), \
         window.dispatchEvent(new StorageEvent('storage', {{ key: 'room', newValue: JSON.stringify('{room}'), storageArea: localStorage }})), 1)"
    ))
    .await;
    page.until("the room is set", &format!("document.documentElement.dataset.room === '{room}'")).await;
}

/// Every so many views from the `first` on, each in all rooms.
async fn axe_finds_nothing(first: usize, every: usize) {
    let folder = tempfile::tempdir().unwrap();
    let server = Server::start(&folder.path().join("demo.db"), true);
    let driver = Driver::start();
    let page = Page::open(&driver, &server.address).await;
    let mut found = Vec::new();
    for (path, words) in VIEWS.iter().skip(first).step_by(every) {
        page.go(path).await;
        page.says(words).await;
        // The parts of the bench scroll, the bench does not.
        if path.starts_with("/pieces/") && page.value("document.documentElement.scrollHeight > innerHeight").await == true {
            found.push(format!("{path} is longer than its window"));
        }
        for room in ROOMS {
            turn_to(&page, room).await;
            // Rooms differ in their colours alone (`rooms.css`), so what has no colour is looked for in the first.
            let wrong = if room == ROOMS[0] { page.axe().await } else { page.axe_of_colours().await };
            found.extend(wrong.into_iter().map(|v| format!("{room} {path}: {v}")));
        }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    page.close().await;
}

// Two halves, so that they are looked at side by side.
#[tokio::test]
async fn axe_finds_nothing_in_three_rooms() {
    axe_finds_nothing(0, 2).await;
}

#[tokio::test]
async fn axe_finds_nothing_in_three_rooms_of_the_other_views() {
    axe_finds_nothing(1, 2).await;
}
