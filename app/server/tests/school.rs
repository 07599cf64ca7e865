//! A school behind a proxy: everyone their own studio, nobody without a name, and turns at long work.

use axum::Router;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use http_body_util::BodyExt;
use lean_swatch::school::{School, router};
use serde_json::{Value, json};
use std::path::Path;
use tower::ServiceExt;

fn school(folder: &Path) -> Router {
    router(School::at(folder.to_owned(), "x-signed-in".parse().unwrap(), 2))
}

async fn ask(school: &Router, who: &[&str], method: &str, path: &str, body: Option<Value>) -> (StatusCode, Value) {
    let mut request =
        Request::builder().method(method).uri(path).header(header::HOST, "paints.school").header(header::CONTENT_TYPE, "application/json");
    for name in who {
        request = request.header("x-signed-in", *name);
    }
    let body = body.map_or_else(Body::empty, |b| Body::from(b.to_string()));
    let response = school.clone().oneshot(request.body(body).unwrap()).await.unwrap();
    let status = response.status();
    let bytes = response.into_body().collect().await.unwrap().to_bytes();
    (status, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
}

fn piece(title: &str) -> Option<Value> {
    let size = json!({ "width": 200.0, "height": 150.0 });
    Some(json!({ "brief": { "title": title, "medium": "oil", "ground": "panel-white", "size": size } }))
}

#[tokio::test]
async fn each_painter_sees_only_their_own() {
    let folder = tempfile::tempdir().unwrap();
    let school = school(folder.path());
    for (who, title) in [("ann", "Weir"), ("bea", "Lane")] {
        let (status, made) = ask(&school, &[who], "POST", "/api/pieces", piece(title)).await;
        assert_eq!(status, StatusCode::CREATED, "{made}");
    }
    for (who, title) in [("ann", "Weir"), ("bea", "Lane")] {
        let pieces = ask(&school, &[who], "GET", "/api/studio", None).await.1["pieces"].clone();
        assert_eq!(pieces.as_array().unwrap().len(), 1);
        assert_eq!(pieces[0]["title"], title);
    }
    assert!(folder.path().join("ann.db").exists() && folder.path().join("bea.db").exists());
}

#[tokio::test]
async fn nobody_is_let_in_without_one_plain_name() {
    let folder = tempfile::tempdir().unwrap();
    let school = school(folder.path());
    for who in [vec![], vec![""], vec!["../ann"], vec![".ann"], vec!["a/b"], vec!["Ann"], vec!["ann", "bea"]] {
        assert_eq!(ask(&school, &who, "GET", "/api/studio", None).await.0, StatusCode::UNAUTHORIZED, "{who:?}");
    }
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 0, "no file was made for nobody");
}

#[tokio::test]
async fn a_page_of_another_site_changes_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let school = school(folder.path());
    for (origin, wanted) in [("https://paints.example", StatusCode::FORBIDDEN), ("https://paints.school", StatusCode::CREATED)] {
        let request = Request::post("/api/pieces")
            .header(header::HOST, "paints.school")
            .header(header::ORIGIN, origin)
            .header(header::CONTENT_TYPE, "application/json")
            .header("x-signed-in", "ann")
            .body(Body::from(piece("Weir").unwrap().to_string()))
            .unwrap();
        assert_eq!(school.clone().oneshot(request).await.unwrap().status(), wanted, "{origin}");
    }
}

/// More painters come than are kept open, and none loses anything.
#[tokio::test]
async fn who_was_away_finds_everything_again() {
    let folder = tempfile::tempdir().unwrap();
    let school = router(School::at(folder.path().to_owned(), "x-signed-in".parse().unwrap(), 2).keeping(2));
    assert_eq!(ask(&school, &["ann"], "POST", "/api/pieces", piece("Weir")).await.0, StatusCode::CREATED);
    for n in 0..4 {
        assert_eq!(ask(&school, &[&format!("p{n}")], "GET", "/api/health", None).await.0, StatusCode::OK);
    }
    assert_eq!(ask(&school, &["ann"], "GET", "/api/studio", None).await.1["pieces"][0]["title"], "Weir");
}

#[tokio::test]
async fn a_backup_is_made_of_everyone_who_comes() {
    let folder = tempfile::tempdir().unwrap();
    let school = school(folder.path());
    ask(&school, &["ann"], "POST", "/api/pieces", piece("Weir")).await;
    let day = jiff::Zoned::now().date();
    let made = folder.path().join("backups").join(format!("ann-{day}.db"));
    let until = std::time::Instant::now() + std::time::Duration::from_secs(20);
    while lean_store::Store::open(&made).and_then(|s| s.pieces()).map_or(true, |p| p.len() > 1) {
        assert!(std::time::Instant::now() < until, "{} was not made", made.display());
        tokio::task::yield_now().await;
    }
}

/// A studio is not put aside while it works: who started that can follow it to its end.
#[tokio::test]
async fn long_work_is_followed_though_many_others_come() {
    let folder = tempfile::tempdir().unwrap();
    let school = School::at(folder.path().to_owned(), "x-signed-in".parse().unwrap(), 1).keeping(2);
    // Somebody has the only turn, so that the work cannot be over before the others come.
    let turns = school.turns();
    let turn = turns.wait("cara", &|| false);
    let school = router(school);
    let started = ask(&school, &["ann"], "POST", "/api/keeping/check", None).await.1;
    let job = format!("/api/jobs/{}", started["id"]);
    for n in 0..4 {
        assert_eq!(ask(&school, &[&format!("p{n}")], "GET", "/api/health", None).await.0, StatusCode::OK);
    }
    drop(turn);
    let until = std::time::Instant::now() + std::time::Duration::from_secs(20);
    loop {
        let (status, view) = ask(&school, &["ann"], "GET", &job, None).await;
        assert_eq!(status, StatusCode::OK, "{view}");
        if view["finished"] == true {
            break;
        }
        assert!(std::time::Instant::now() < until, "{view}");
        tokio::task::yield_now().await;
    }
}

/// With nginx from Debian in front, signing in by password. Run it where nginx is: `cargo test --test school -- --ignored`.
#[test]
#[ignore = "needs nginx; see docs/SCALE.md"]
fn nginx_signs_in_and_says_who_it_is() {
    use std::io::{Read, Write};
    use std::net::TcpStream;
    use std::process::{Command, Stdio};
    use std::time::{Duration, Instant};

    let folder = tempfile::tempdir().unwrap();
    let free = || std::net::TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap();
    let (inside, outside) = (free(), free());
    let mut server = Command::new(env!("CARGO_BIN_EXE_lean-swatch"))
        .args(["school", "--trust-user-header", "X-Signed-In", "--listen", &inside.to_string(), "--folder"])
        .arg(folder.path().join("painters"))
        .stdout(Stdio::null())
        .spawn()
        .unwrap();
    // Passwords in the plain scheme of nginx, for a test alone.
    std::fs::write(folder.path().join("passwords"), "ann:{PLAIN}red\nbea:{PLAIN}blue\n").unwrap();
    let config = include_str!("../../../docs/nginx-school.conf")
        .replace("127.0.0.1:7436", &inside.to_string())
        .replace("listen 8080", &format!("listen {outside}"))
        .replace("/etc/nginx/lean-swatch.passwords", &folder.path().join("passwords").display().to_string());
    let whole = format!(
        "daemon off; pid {0}/pid; error_log {0}/error.log; user root; events {{}} http {{ access_log off; client_body_temp_path {0}/body; proxy_temp_path {0}/proxy; fastcgi_temp_path {0}/f; uwsgi_temp_path {0}/u; scgi_temp_path {0}/s; {config} }}",
        folder.path().display()
    );
    std::fs::write(folder.path().join("nginx.conf"), whole).unwrap();
    let mut nginx =
        Command::new("nginx").arg("-c").arg(folder.path().join("nginx.conf")).stderr(Stdio::null()).spawn().expect("nginx is installed");
    let until = Instant::now() + Duration::from_secs(20);
    while TcpStream::connect(inside).is_err() || TcpStream::connect(outside).is_err() {
        assert!(Instant::now() < until, "one of them never listened");
        std::thread::yield_now();
    }
    let ask = |head: &str, body: &str| {
        let mut stream = TcpStream::connect(outside).unwrap();
        let length = body.len();
        write!(
            stream,
            "{head}\r\nHost: {outside}\r\nContent-Type: application/json\r\nContent-Length: {length}\r\nConnection: close\r\n\r\n{body}"
        )
        .unwrap();
        let mut answer = String::new();
        stream.read_to_string(&mut answer).unwrap();
        answer
    };
    // ann:red, bea:blue
    let (ann, bea) = ("Authorization: Basic YW5uOnJlZA==", "Authorization: Basic YmVhOmJsdWU=");
    let made = ask(&format!("POST /api/pieces HTTP/1.1\r\n{ann}\r\nOrigin: http://{outside}"), &piece("Weir").unwrap().to_string());
    let own = ask(&format!("GET /api/studio HTTP/1.1\r\n{ann}"), "");
    let others = ask(&format!("GET /api/studio HTTP/1.1\r\n{bea}"), "");
    let forged = ask(&format!("GET /api/studio HTTP/1.1\r\n{bea}\r\nX-Signed-In: ann"), "");
    let nobody = ask("GET /api/studio HTTP/1.1\r\nX-Signed-In: ann", "");
    for child in [&mut nginx, &mut server] {
        let _ = child.kill();
        let _ = child.wait();
    }
    assert!(made.starts_with("HTTP/1.1 201"), "{made}");
    assert!(own.contains("Weir"), "{own}");
    assert!(!others.contains("Weir") && others.starts_with("HTTP/1.1 200"), "{others}");
    assert!(!forged.contains("Weir"), "what a browser says of itself is taken away: {forged}");
    assert!(nobody.starts_with("HTTP/1.1 401"), "{nobody}");
}
