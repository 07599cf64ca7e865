//! Started without a word.

use crate::started::{Opener, Started};
use lean_browser_tests::ask::{ask, send};
use lean_browser_tests::server::program;
use serde_json::{Value, json};

/// Makes a data file remember an address that nobody has now, and no other test asks for.
fn last_time_at_a_free_port(data: &std::path::Path) -> String {
    let free = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = format!("http://{}", free.local_addr().unwrap());
    std::fs::create_dir_all(data.parent().unwrap()).unwrap();
    std::fs::write(data.with_file_name("studio.db.address"), &address).unwrap();
    address
}

#[test]
fn it_opens_the_browser_is_found_by_a_second_start_and_ends_from_its_page() {
    let folder = tempfile::tempdir().unwrap();
    let (data, opener) = (folder.path().join("my work/studio.db"), Opener::new());
    let port_of_its_own = last_time_at_a_free_port(&data);
    let mut first = Started::program(&program(), &data, |c| opener.beside(c));
    let address = first.address();
    assert_eq!(opener.opened(), address, "its first page is opened");
    assert_eq!(address, port_of_its_own, "bookmarks of the last time lead there");
    let studio = ask(&address, "GET", "/api/studio", &Value::Null).unwrap();
    assert_eq!((&studio["pieces"], &studio["can_quit"], &studio["demo"]), (&json!([]), &json!(true), &json!(true)));

    let mut second = Started::program(&program(), &data, |c| opener.beside(c));
    assert_eq!(second.address(), address, "the second start finds the first");
    assert_eq!(opener.opened(), address);
    assert_eq!(second.ended().0, 0);

    let mut scripted = Started::program(&program(), &data, |c| {
        opener.beside(c);
        c.arg("--no-open");
    });
    assert_eq!(scripted.address(), address);
    assert_eq!(scripted.ended().0, 0);
    assert!(!opener.opened_more(), "a script opens nothing");

    let (answer, code, said) = first.quit(&address);
    assert_eq!((answer["data"].as_str(), code), (data.to_str(), 0));
    assert!(said.last().unwrap().contains(data.to_str().unwrap()), "it says where the data lies: {said:?}");
    assert!(ask(&address, "GET", "/api/health", &Value::Null).is_none(), "nobody answers any more");

    let mut again = Started::program(&program(), &data, |_| ());
    assert_eq!(again.address(), address, "bookmarks still lead there");
    again.quit(&address);
}

#[test]
fn two_data_files_are_two_programs_and_the_address_is_printed_where_there_is_no_screen() {
    let folder = tempfile::tempdir().unwrap();
    let start = |name: &str| Started::program(&program(), &folder.path().join(name), |_| ());
    let (mut one, mut other) = (start("one.db"), start("other.db"));
    let (at_one, at_other) = (one.address(), other.address());
    assert_ne!(at_one, at_other);
    let (_, code, said) = one.quit(&at_one);
    assert_eq!(code, 0);
    assert!(said.iter().any(|line| line.contains("Open this address in a browser")), "{said:?}");
    assert!(ask(&at_other, "GET", "/api/health", &Value::Null).is_some(), "the other goes on");
}

#[test]
fn a_server_started_by_hand_is_found_by_its_data_file() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("studio.db");
    let mut served = Started::program(&program(), &data, |c| {
        // The data file stands before the command: it is given again behind it.
        *c = std::process::Command::new(program());
        c.args(["serve", "--listen", "127.0.0.1:0", "--data"]).arg(&data).env("LEAN_SWATCH_LOG", "warn");
    });
    let address = served.address();
    assert_eq!(Started::program(&program(), &data, |_| ()).address(), address);
    assert_eq!(served.quit(&address).1, 0);
}

#[test]
fn what_hinders_a_start_by_icon_is_shown_in_the_browser() {
    let folder = tempfile::tempdir().unwrap();
    let (data, opener) = (folder.path().join("studio.db"), Opener::new());
    std::fs::write(&data, "this is no data file ".repeat(400)).unwrap();
    let mut started = Started::program(&program(), &data, |c| opener.beside(c));
    let page = send(&opener.opened(), "GET", "/", "text/html", &[]).expect("the page is served");
    let page = String::from_utf8(page).unwrap();
    assert!(page.contains("Lean Swatch did not start") && page.contains("not a Lean Swatch file"), "{page}");
    assert_eq!(started.ended().0, 2);
    assert!(std::fs::read_to_string(&data).unwrap().starts_with("this is no data file"), "it was left as it is");
}

#[test]
fn every_command_has_an_example_in_its_help() {
    let help = |args: &[&str]| {
        let out = std::process::Command::new(program()).args(args).arg("--help").output().unwrap();
        String::from_utf8(out.stdout).unwrap()
    };
    let all = help(&[]);
    let commands: Vec<&str> = all
        .lines()
        .skip_while(|l| *l != "Commands:")
        .skip(1)
        .take_while(|l| !l.is_empty())
        .filter_map(|l| l.split_whitespace().next())
        .filter(|name| *name != "help")
        .collect();
    assert!(commands.len() >= 15, "{commands:?}");
    for command in commands {
        assert!(help(&[command]).contains(&format!("Example:\n  lean-swatch {command}")), "{command} has no example");
    }
}
