//! A phone at the easel: paired by the code on the screen, at a second address, in one hand; and a note written while nobody answers.

use lean_browser_tests::{driver::Driver, page::Page, server::Server};
use std::net::TcpListener;

#[tokio::test]
async fn a_phone_is_paired_works_at_the_easel_and_sends_later_what_was_written_alone() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("demo.db");
    // A second address of this machine stands for the one it has on the network.
    let at = TcpListener::bind("127.0.0.2:0").and_then(|l| l.local_addr()).unwrap();
    let server = Server::sharing(&data, at);
    let driver = Driver::start();
    let devices = format!("http://{at}");

    let phone = Page::open(&driver, &devices).await;
    phone.resize(390, 844).await;
    phone.go("/pieces/1/brief").await;
    phone.says("ask for a code").await;

    let desk = Page::open(&driver, &server.address).await;
    desk.go("/keeping").await;
    desk.click("Pair a device").await;
    desk.says("It is good once").await;
    assert_eq!(desk.axe().await, Vec::<String>::new());
    let code = desk.value("[...document.querySelectorAll('.figures')].map(e => e.innerText).find(t => t.includes('/pair#'))").await;
    let code = code.as_str().unwrap().split('#').next_back().unwrap().to_owned();
    phone.go("/field").await;
    phone.go(&format!("/pair#{code}")).await;
    phone.click("Pair it").await;
    phone.says("At the easel").await;
    assert_eq!(phone.axe().await, Vec::<String>::new());
    desk.says("my phone").await;

    phone.find("a[href='/device/pieces/1']").await.click().await.unwrap();
    phone.says("It is done").await;
    phone.until("nothing is wider than the screen", "document.documentElement.scrollWidth <= 390").await;
    assert_eq!(phone.axe().await, Vec::<String>::new());
    let task = phone.value("document.querySelector('section h2').innerText").await;
    phone.click("It is done").await;
    phone.until("another task is next", &format!("document.querySelector('section h2')?.innerText !== {task}")).await;

    // The machine sleeps: a photo that is taken waits on the phone, and arrives once when it wakes.
    let photo = folder.path().join("standing.jpg");
    std::fs::write(&photo, lean_demo::YEARS[0].1).unwrap();
    server.kill();
    phone.give_file("input[type=file]", &photo).await;
    phone.says("A photo waits to be sent").await;
    assert_eq!(phone.axe().await, Vec::<String>::new());
    let server = Server::sharing(&data, at);
    phone.click("Try to send now").await;
    phone.until("it was sent", "!document.body.innerText.includes('waits to be sent')").await;
    phone.says("One photo is with it").await;

    // A note is begun all the same, too.
    phone.go("/field").await;
    phone.says("A new note").await;
    server.kill();
    phone.click("A new note").await;
    phone.says("Waiting to be sent").await;
    phone.find("textarea").await.send_keys("mist over the sluice").await.unwrap();
    let server = Server::sharing(&data, at);
    phone.click("Try to send now").await;
    phone.until("it was sent", "!document.body.innerText.includes('Waiting to be sent')").await;
    phone.until("it is there once", "document.body.innerText.split('mist over the sluice').length === 2").await;

    // Sent away, it sees nothing more.
    let mut desk = desk;
    desk.move_to_server(&server.address);
    desk.go("/keeping").await;
    desk.click("Send away").await;
    desk.says("No device is paired").await;
    phone.go("/device").await;
    phone.says("ask for a code").await;
    desk.close().await;
    phone.close().await;
}
