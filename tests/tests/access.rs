//! Everyone can use it: axe-core finds nothing in any room, and no page puts errors on the console.

use lean_browser_tests::{driver::Driver, page::Page, server::Server};

const STATIONS: &[(&str, &str)] = &[
    ("/", "A new piece"),
    ("/pieces/1/brief", "Ground for"),
    ("/pieces/1/brief?room=rules", "Rules of the game"),
    ("/pieces/4/brief?room=wall", "Ways to hang it"),
    ("/pieces/1/subject?room=chart", "Colours for this piece"),
    ("/pieces/1/subject?room=references", "the main one"),
    ("/pieces/1/subject?room=compositions", "Take in a sheet"),
    ("/pieces/1/light", "The eye goes"),
    ("/pieces/2/light?zone=4", "Distance"),
    ("/field", "A new note"),
    ("/field/1", "A line that brings it back"),
    ("/pieces/1/subject?zone=4", "It matters"),
    ("/pieces/1/subject?look=values&groups=4", "The whole picture"),
    ("/pieces/1/lean-set", "What each further"),
    ("/pieces/1/lean-set?pigment=dove", "Back to the set"),
    ("/pieces/1/mixes?zone=4", "from the set"),
    ("/pieces/1/studies", "values held"),
    ("/pieces/1/studies?study=4", "Its own exact set"),
    ("/pieces/1/light?room=colour&zone=7", "Type a colour"),
    ("/pieces/1/box", "Put in another"),
    ("/journal", "finished pieces"),
    ("/journal/learnt", "Who earns a place"),
    ("/keeping", "Backups"),
    ("/pieces/1/subject?room=masses", "9 masses"),
    ("/pieces/4/piece", "Still wet"),
    ("/pieces/4/piece?room=how", "How it is built"),
    ("/pieces/4/piece?room=photo", "Lighten plane"),
    ("/pieces/4/piece?room=surfaces&zone=6", "Siblings"),
    ("/pieces/4/piece?room=large&squares=5", "Lines every"),
    ("/pieces/4/piece?room=log", "in 2 sessions"),
    ("/pieces/2/box?room=readings", "Learned"),
    ("/drills", "The value of a patch"),
    ("/guide", "The first ten minutes"),
];

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
    for (path, words) in STATIONS {
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
