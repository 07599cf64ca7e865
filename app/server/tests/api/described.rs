//! The description of the API against what is accepted and sent.

use crate::support::Api;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use jsonschema::Validator;
use lean_swatch::description::{addresses, description};
use lean_swatch::limits::{MOST_CHARACTERS, MOST_ENTRIES};
use proptest::prelude::Rng;
use proptest::test_runner::{RngAlgorithm, TestRng};
use serde_json::{Map, Value, json};
use std::cell::RefCell;
use std::collections::HashMap;

/// Bodies made up for every operation.
const BODIES: usize = 4;

fn described() -> Value {
    serde_json::to_value(description()).unwrap()
}

#[test]
fn the_addresses_that_are_served_are_those_of_the_description() {
    assert_eq!(include_str!("../../src/routes.txt"), addresses(), "run `cargo xtask api-types`");
}

/// A schema of the description with everything it refers to.
fn whole(schema: &Value, api: &Value) -> Value {
    let mut schema = schema.clone();
    schema["components"] = json!({ "schemas": api["components"]["schemas"] });
    schema
}

/// Every operation: method, path, and what is said of it.
fn operations(api: &Value) -> Vec<(String, String, Value)> {
    let paths = api["paths"].as_object().unwrap();
    let of_path = |(path, ops): (&String, &Value)| {
        let ops = ops.as_object().unwrap().clone();
        ops.into_iter().map(|(method, op)| (method.to_uppercase(), path.clone(), op)).collect::<Vec<_>>()
    };
    paths.iter().flat_map(of_path).collect()
}

/// What stands in the demo for a part of a path or a query.
fn there(name: &str, path: &str) -> Option<&'static str> {
    Some(match (name, path) {
        ("id", p) if p.starts_with("/api/boxes") => "hen-pans",
        ("id", p) if p.contains("/easel/photos/{at}") => "4",
        ("id", _) => "1",
        ("number" | "zone" | "cell", _) => "1",
        ("pigment", _) => "PB29",
        ("key", _) => "habits",
        ("x" | "y", _) => "0.4",
        ("to_x" | "to_y", _) => "0.6",
        ("now" | "at", _) => "2025-01-18T10:00",
        ("on", _) => "2025-01-18",
        ("seed", _) => "7",
        ("base_revision", _) => "1",
        ("seen", _) => "0000000000000000",
        ("stage", _) => "0",
        ("what", _) => "piece",
        _ => return None,
    })
}

/// The address of an operation in the demo studio: its path and what its query must have.
fn address(path: &str, op: &Value) -> String {
    let mut address = path.to_owned();
    let mut query = Vec::new();
    for p in op["parameters"].as_array().into_iter().flatten() {
        let name = p["name"].as_str().unwrap();
        match (p["in"].as_str(), there(name, path)) {
            (Some("path"), value) => address = address.replace(&format!("{{{name}}}"), value.unwrap_or("0")),
            (Some("query"), Some(value)) if p["required"] == true => query.push(format!("{name}={value}")),
            _ => {}
        }
    }
    if query.is_empty() { address } else { format!("{address}?{}", query.join("&")) }
}

#[tokio::test]
async fn what_is_sent_is_as_described() {
    let (api, said) = (Api::demo(), described());
    let (mut seen, mut wrong) = (0, Vec::new());
    for (method, path, op) in operations(&said) {
        // A stream goes on until its job ends; tests of their own listen to it.
        if method != "GET" || path.ends_with("/events") {
            continue;
        }
        let address = address(&path, &op);
        let request = Request::get(&address).header(header::HOST, "127.0.0.1:7436").body(Body::empty()).unwrap();
        let (status, kind, bytes) = api.send(request).await;
        let named = kind.split(';').next().unwrap_or_default();
        let Some(content) = op["responses"][status.as_str()]["content"].get(named) else {
            wrong.push(format!("{address} answered {status} with {named}, which is not described: {}", String::from_utf8_lossy(&bytes)));
            continue;
        };
        // What the archive holds is described by a schema of its own, see `docs/ARCHIVE.md`.
        if let Some(schema) = content.get("schema").filter(|_| named.ends_with("json") && path != "/api/archive") {
            let sent: Value = serde_json::from_slice(&bytes).unwrap();
            let validator = Validator::new(&whole(schema, &said)).unwrap();
            wrong.extend(validator.iter_errors(&sent).take(5).map(|e| format!("{address}: {e} at {}", e.instance_path())));
        }
        seen += usize::from(status.is_success());
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
    assert!(seen >= 49, "only {seen} were there to be looked at");
}

/// Makes up what a schema allows.
struct MadeUp<'a> {
    schemas: &'a Value,
    rng: TestRng,
}

impl MadeUp<'_> {
    fn below(&mut self, n: u64) -> u64 {
        self.rng.next_u64() % n.max(1)
    }

    fn of(&mut self, schema: &Value, depth: usize) -> Value {
        if let Some(name) = schema["$ref"].as_str() {
            let named = &self.schemas[name.rsplit('/').next().unwrap()];
            return self.of(named, depth + 1);
        }
        if let Some(all) = schema["allOf"].as_array() {
            let mut together = Map::new();
            all.iter().for_each(|s| together.extend(self.of(s, depth + 1).as_object().cloned().unwrap_or_default()));
            return Value::Object(together);
        }
        if let Some(one) = schema["oneOf"].as_array() {
            let null = one.iter().position(|s| s["type"] == "null").filter(|_| depth > 8);
            let nth = null.unwrap_or_else(|| self.below(one.len() as u64) as usize);
            return self.of(&one[nth], depth + 1);
        }
        if let Some(of) = schema["enum"].as_array() {
            return of[self.below(of.len() as u64) as usize].clone();
        }
        let types: Vec<&str> = match &schema["type"] {
            Value::String(one) => vec![one],
            Value::Array(all) => all.iter().filter_map(Value::as_str).collect(),
            _ => return Value::Null,
        };
        match types[self.below(types.len() as u64) as usize] {
            "boolean" => json!(self.below(2) == 0),
            "integer" => {
                let (least, most) = bounds(schema);
                json!(least as i64 + self.below((most - least) as u64 + 1) as i64)
            }
            "number" => {
                let (least, most) = bounds(schema);
                json!(least + (most - least) * self.below(1001) as f64 / 1000.0)
            }
            "string" => json!(["", "a", "2025-01-18", "#8899aa", "PB29", "ochre, thinned\nwith care"][self.below(6) as usize]),
            "array" => {
                if let Some(each) = schema["prefixItems"].as_array() {
                    return each.iter().map(|s| self.of(s, depth + 1)).collect();
                }
                let least = schema["minItems"].as_u64().unwrap_or(0);
                let most = schema["maxItems"].as_u64().unwrap_or(least + 3).min(least + 3);
                let n = if depth > 8 { least } else { least + self.below(most - least + 1) };
                (0..n).map(|_| self.of(&schema["items"], depth + 1)).collect()
            }
            "object" => {
                let required: Vec<&str> = schema["required"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
                let mut made = Map::new();
                for (name, of) in schema["properties"].as_object().into_iter().flatten() {
                    if required.contains(&name.as_str()) || self.below(3) == 0 {
                        made.insert(name.clone(), self.of(of, depth + 1));
                    }
                }
                Value::Object(made)
            }
            _ => Value::Null,
        }
    }
}

/// Least and most a number may be; where nothing is said, what a hand would type.
fn bounds(schema: &Value) -> (f64, f64) {
    let least = schema["minimum"].as_f64().unwrap_or(-5.0);
    (least, schema["maximum"].as_f64().unwrap_or(least + 10.0))
}

async fn asked(api: &Api, method: &str, address: &str, body: &Value) -> (StatusCode, Value) {
    let request = Request::builder().method(method).uri(address).header(header::HOST, "127.0.0.1:7436");
    let request = request.header(header::CONTENT_TYPE, "application/json").body(Body::from(body.to_string())).unwrap();
    let (status, _, bytes) = api.send(request).await;
    (status, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
}

/// The operations that take words, and the schema of those.
fn with_words(said: &Value) -> Vec<(String, String, Value, Value)> {
    let words = |(method, path, op): (String, String, Value)| {
        let schema = op["requestBody"]["content"]["application/json"].get("schema")?.clone();
        Some((method, path, op, schema))
    };
    operations(said).into_iter().filter_map(words).collect()
}

#[tokio::test]
async fn what_the_description_allows_is_understood() {
    let (api, said) = (Api::demo(), described());
    let rng = TestRng::from_seed(RngAlgorithm::ChaCha, &[19; 32]);
    let mut made_up = MadeUp { schemas: &said["components"]["schemas"], rng };
    let (mut done, mut all) = (0, 0);
    for (method, path, op, schema) in with_words(&said) {
        let address = address(&path, &op);
        for _ in 0..BODIES {
            let mut body = made_up.of(&schema, 0);
            if body.get("base_revision").is_some() {
                body["base_revision"] = json!(api.studio.store.piece(1).unwrap().revision);
            }
            let (status, answer) = asked(&api, &method, &address, &body).await;
            let described = op["responses"][status.as_str()].is_object();
            assert!(described, "{method} {address} answered {status}, which is not described, to {body}: {answer}");
            assert_ne!(answer["title"], "The request cannot be understood", "{method} {address}: {body}: {answer}");
            done += usize::from(status.is_success());
            all += 1;
        }
    }
    assert!(all >= 160 && done >= 20, "{done} of {all} were done");
}

/// A limit that is not the one of every text or list: those are tried where everything is made much too long.
fn own(limit: &Value) -> Option<usize> {
    limit.as_u64().map(|most| most as usize).filter(|most| *most < MOST_CHARACTERS.min(MOST_ENTRIES))
}

/// The described schemas, and what tells whether something is one of them.
struct Schemas<'a> {
    all: &'a Value,
    told: RefCell<HashMap<String, Option<Validator>>>,
}

impl Schemas<'_> {
    fn is(&self, schema: &Value, body: &Value) -> bool {
        let mut told = self.told.borrow_mut();
        let root = || json!({ "components": { "schemas": self.all } });
        let validator = told.entry(schema.to_string()).or_insert_with(|| Validator::new(&whole(schema, &root())).ok());
        validator.as_ref().is_some_and(|v| v.is_valid(body))
    }
}

/// Every number, text and list in a body that has a limit of its own, by where it stands, with one that is beyond it.
fn beyond(schema: &Value, schemas: &Schemas, body: &Value, at: String, found: &mut Vec<(String, Value)>) {
    if let Some(name) = schema["$ref"].as_str() {
        return beyond(&schemas.all[name.rsplit('/').next().unwrap()], schemas, body, at, found);
    }
    for part in ["oneOf", "allOf"] {
        for s in schema[part].as_array().into_iter().flatten().filter(|s| schemas.is(s, body)) {
            beyond(s, schemas, body, at.clone(), found);
        }
    }
    match body {
        Value::Number(_) => {
            let far = |limit: &Value, by: f64| {
                limit.as_f64().map(|l| if body.is_i64() || body.is_u64() { json!((l + by) as i64) } else { json!(l + by) })
            };
            found.extend(far(&schema["maximum"], 1.0).into_iter().chain(far(&schema["minimum"], -1.0)).map(|n| (at.clone(), n)));
        }
        Value::String(_) => found.extend(own(&schema["maxLength"]).map(|most| (at, json!("x".repeat(most + 1))))),
        Value::Object(parts) => {
            for (name, part) in parts {
                beyond(&schema["properties"][name], schemas, part, format!("{at}/{name}"), found);
            }
        }
        Value::Array(items) => {
            if let Some(first) = items.first() {
                let more = own(&schema["maxItems"]).map(|most| Value::Array(vec![first.clone(); most + 1]));
                found.extend(more.map(|m| (at.clone(), m)));
                beyond(&schema["items"], schemas, first, format!("{at}/0"), found);
            }
        }
        _ => {}
    }
}

/// Puts each of `wrong` into bodies made up for every operation, and tells which of how many were taken.
async fn taken_of(seed: u8, wrong: impl Fn(&Value, &Value) -> Vec<(String, Value)>) -> (Vec<String>, usize) {
    let (api, said) = (Api::demo(), described());
    let rng = TestRng::from_seed(RngAlgorithm::ChaCha, &[seed; 32]);
    let mut made_up = MadeUp { schemas: &said["components"]["schemas"], rng };
    let (mut taken, mut tried) = (Vec::new(), 0);
    for (method, path, op, schema) in with_words(&said) {
        let address = address(&path, &op);
        for _ in 0..BODIES {
            let body = made_up.of(&schema, 0);
            for (at, value) in wrong(&schema, &body) {
                let mut bad = body.clone();
                if bad.get("base_revision").is_some() {
                    bad["base_revision"] = json!(api.studio.store.piece(1).unwrap().revision);
                }
                *bad.pointer_mut(&at).unwrap() = value;
                let (status, _) = asked(&api, &method, &address, &bad).await;
                tried += 1;
                if !status.is_client_error() {
                    taken.push(format!("{method} {address} {at}: {status}: {body}"));
                }
            }
        }
    }
    (taken, tried)
}

#[tokio::test]
async fn what_is_beyond_a_described_limit_is_refused() {
    let said = described();
    let schemas = Schemas { all: &said["components"]["schemas"], told: RefCell::default() };
    let (taken, tried) = taken_of(23, |schema, body| {
        let mut found = Vec::new();
        beyond(schema, &schemas, body, String::new(), &mut found);
        found
    })
    .await;
    assert!(tried > 100, "only {tried} were tried");
    assert!(taken.is_empty(), "{} of {tried} were taken: {taken:#?}", taken.len());
}

/// The texts and lists below a schema for which no limit is said, by where they stand.
fn unlimited(schema: &Value, at: &str, found: &mut Vec<String>) {
    if let Some(of) = schema.as_object() {
        let is = |t: &str| schema["type"] == t || schema["type"].as_array().is_some_and(|all| all.iter().any(|one| one == t));
        let told = |names: &[&str]| names.iter().any(|n| !schema[*n].is_null());
        if (is("string") && !told(&["maxLength", "enum", "const"])) || (is("array") && !told(&["maxItems", "prefixItems"])) {
            found.push(at.to_owned());
        }
        of.iter().for_each(|(name, inner)| unlimited(inner, &format!("{at}/{name}"), found));
    }
    schema.as_array().into_iter().flatten().for_each(|inner| unlimited(inner, at, found));
}

#[test]
fn every_text_and_list_that_is_asked_with_has_a_limit() {
    let said = described();
    let mut found = Vec::new();
    let mut open: Vec<String> = Vec::new();
    let mut known = std::collections::BTreeSet::new();
    let mut look = |schema: &Value, at: &str, open: &mut Vec<String>| {
        unlimited(schema, at, &mut found);
        let text = schema.to_string();
        open.extend(text.split("#/components/schemas/").skip(1).map(|s| s.split('"').next().unwrap().to_owned()));
    };
    for (method, path, op) in operations(&said) {
        look(&op["requestBody"]["content"]["application/json"], &format!("{method} {path}"), &mut open);
        look(&op["parameters"], &format!("{method} {path}"), &mut open);
    }
    while let Some(name) = open.pop() {
        if known.insert(name.clone()) {
            look(&said["components"]["schemas"][&name], &name, &mut open);
        }
    }
    assert!(known.len() > 60, "{known:?}");
    assert_eq!(found, Vec::<String>::new());
}

#[tokio::test]
async fn an_address_that_is_too_long_is_refused() {
    let (api, most) = (Api::demo(), lean_swatch::limits::MOST_ADDRESS);
    let of = |n: usize| format!("/api/journal?words={}", "x".repeat(n - "/api/journal?words=".len()));
    let (status, said) = asked(&api, "GET", &of(most + 1), &Value::Null).await;
    assert_eq!((status, said["title"].as_str()), (StatusCode::URI_TOO_LONG, Some("The address is too long")));
    assert_ne!(asked(&api, "GET", &of(most), &Value::Null).await.0, StatusCode::URI_TOO_LONG);
}

/// Longer than anything a painter types, in characters or items.
const LONG: usize = 30_000;

/// Every text and list in a body, by where it stands, with one that is much too long.
fn overlong(body: &Value, at: String, found: &mut Vec<(String, Value)>) {
    match body {
        Value::String(_) => found.push((at, json!("x".repeat(LONG)))),
        Value::Object(parts) => parts.iter().for_each(|(name, part)| overlong(part, format!("{at}/{name}"), found)),
        Value::Array(items) => {
            if let Some(first) = items.first() {
                found.push((at.clone(), Value::Array(vec![first.clone(); LONG])));
                overlong(first, format!("{at}/0"), found);
            }
        }
        _ => {}
    }
}

#[tokio::test]
async fn what_is_much_too_long_is_refused() {
    let (taken, tried) = taken_of(29, |_, body| {
        let mut found = Vec::new();
        overlong(body, String::new(), &mut found);
        found
    })
    .await;
    assert!(tried > 100, "only {tried} were tried");
    assert!(taken.is_empty(), "{} of {tried} were taken: {taken:#?}", taken.len());
}
