//! `lean-swatch findings`, by its schemas.

use serde_json::{Value, json};
use std::process::Command;

fn run(plan: &str) -> (i32, String, String) {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("plan.json");
    std::fs::write(&path, plan).expect("it is written");
    let out = Command::new(env!("CARGO_BIN_EXE_lean-swatch")).arg("findings").arg(&path).output().expect("it runs");
    let text = |b: Vec<u8>| String::from_utf8(b).expect("text");
    (out.status.code().unwrap_or(-1), text(out.stdout), text(out.stderr))
}

fn check(schema: &str, document: &Value) {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schemas").join(schema);
    let schema: Value = serde_json::from_str(&std::fs::read_to_string(path).expect("the schema is there")).expect("it is JSON");
    let validator = jsonschema::validator_for(&schema).expect("the schema is one");
    let errors: Vec<String> = validator.iter_errors(document).map(|e| format!("{}: {e}", e.instance_path())).collect();
    assert!(errors.is_empty(), "{errors:#?}");
}

/// A jug on a table by a window, with every field of the form used once.
fn jug(shadow: [f64; 3]) -> Value {
    json!({
        "title": "jug", "medium": "oil", "ground": "panel-white",
        "light": { "lamps": [{ "tint": "cool", "from": "left", "hard": false }], "flat": false, "outdoors": false, "exceptions": [] },
        "schools": { "shadow-chroma": "greyed-shadows" },
        "zones": [
            { "name": "wall", "lab": [74, -1, -2], "area": 50, "facts": { "plane": "upright", "distance": "far", "role": "lit" },
              "neighbours": { "jug": 12, "wall in shade": 30 } },
            { "name": "wall in shade", "lab": shadow, "area": 25, "facts": { "role": "shadow" } },
            { "name": "jug", "lab": [60, 10, 20], "area": 10, "importance": "focal",
              "facts": { "role": "lit", "light": "first", "kind": null, "local": [58, 12, 24] }, "neighbours": { "jug in shade": 8 } },
            { "name": "jug in shade", "lab": [38, 10, 18], "area": 8, "facts": { "role": "shadow" } }
        ]
    })
}

#[test]
fn a_reversed_shadow_is_found_with_its_reason_and_a_change() {
    let plan = jug([48.0, -2.0, -14.0]);
    check("findings.schema.json", &plan);
    let (code, out, problems) = run(&plan.to_string());
    assert_eq!(code, 0, "{problems}");
    let answer: Value = serde_json::from_str(&out).expect("JSON");
    check("findings-answer.schema.json", &answer);
    let found = &answer["findings"][0];
    assert_eq!((&found["rule"], &found["zones"]), (&json!("opposition"), &json!(["wall in shade", "wall"])), "{out}");
    assert_eq!(found["changes"][0]["targets"][0]["zone"], "wall in shade");
    assert_eq!(found["school"], "shadows opposite of the light");
}

#[test]
fn a_sound_plan_gets_no_remark() {
    let (code, out, _) = run(&jug([48.0, 3.0, 8.0]).to_string());
    assert_eq!((code, out.trim()), (0, "{\"findings\":[]}"));
}

#[test]
fn bad_plans_exit_with_2_and_say_what_is_wrong() {
    let mut unknown = jug([48.0, 3.0, 8.0]);
    unknown["zones"][0]["facts"]["rol"] = json!("lit");
    let mut stray = jug([48.0, 3.0, 8.0]);
    stray["zones"][0]["neighbours"]["teapot"] = json!(3);
    for (plan, says) in [(unknown, "unknown field `rol`"), (stray, "\"teapot\", which is no other zone"), (json!({}), "missing field")] {
        let (code, out, problems) = run(&plan.to_string());
        assert_eq!((code, out.as_str()), (2, ""));
        assert!(problems.contains(says), "{problems}");
    }
}
