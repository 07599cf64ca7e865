//! `lean-swatch lean` as a script sees it.

use serde_json::{Value, json};
use std::path::Path;
use std::process::Command;

fn run(args: &[&str]) -> (i32, Value, String) {
    let out = Command::new(env!("CARGO_BIN_EXE_lean-swatch")).arg("lean").args(args).output().expect("the program starts");
    let text = String::from_utf8(out.stdout).expect("its output is text");
    (out.status.code().unwrap_or(-1), serde_json::from_str(&text).unwrap_or(Value::Null), String::from_utf8_lossy(&out.stderr).into_owned())
}

fn repository(path: &str) -> Value {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(path);
    serde_json::from_str(&std::fs::read_to_string(&path).unwrap_or_else(|e| panic!("{}: {e}", path.display()))).expect("it is JSON")
}

/// The solved instance as two files, and what they hold.
struct Solved {
    folder: tempfile::TempDir,
    case: Value,
}

impl Solved {
    fn new() -> Self {
        let case = repository("core/search/tests/data/solved_search.json")["cases"][0].clone();
        let folder = tempfile::tempdir().expect("a folder");
        let one = |p: &Value, white: bool| json!({ "id": p["id"], "name": p["id"], "k": p["K"], "s": p["S"], "white": white });
        let mut pigments: Vec<Value> = case["pigments"].as_array().unwrap().iter().map(|p| one(p, false)).collect();
        pigments.push(one(&case["white"], true));
        let labs = case["targets_lab_D65"].as_array().unwrap().iter();
        let targets: Vec<Value> =
            labs.zip(case["weights"].as_array().unwrap()).map(|(lab, weight)| json!({ "lab": lab, "weight": weight })).collect();
        let write = |name: &str, v: &Value| std::fs::write(folder.path().join(name), v.to_string()).expect("it is written");
        write("box.json", &json!({ "pigments": pigments }));
        write("targets.json", &json!({ "targets": targets }));
        Self { folder, case }
    }

    fn path(&self, name: &str) -> String {
        self.folder.path().join(name).display().to_string()
    }

    fn write(&self, name: &str, text: &str) -> String {
        std::fs::write(self.folder.path().join(name), text).expect("it is written");
        self.path(name)
    }

    fn run(&self, more: &[&str]) -> (i32, Value, String) {
        run(&[&["--box", &self.path("box.json"), "--targets", &self.path("targets.json")], more].concat())
    }
}

fn check(schema: &str, document: &Value) {
    let schema = repository(&format!("docs/schemas/{schema}"));
    let validator = jsonschema::validator_for(&schema).expect("the schema is one");
    let errors: Vec<String> = validator.iter_errors(document).map(|e| format!("{}: {e}", e.instance_path())).collect();
    assert!(errors.is_empty(), "{errors:#?}");
}

#[test]
fn the_solved_instance_is_printed_as_the_schemas_say() {
    let solved = Solved::new();
    let (code, answer, problems) = solved.run(&["--sizes", "2..4", "--mixes", "parts"]);
    assert_eq!(code, 0, "{problems}");
    check("lean.schema.json", &answer);
    check("targets.schema.json", &serde_json::from_str(&std::fs::read_to_string(solved.path("targets.json")).unwrap()).unwrap());
    for expected in solved.case["expected"].as_array().unwrap() {
        let Some(size) = answer["sizes"].as_array().unwrap().iter().find(|s| s["k"] == expected["k"]) else { continue };
        assert!((size["cost"].as_f64().unwrap() - expected["cost"].as_f64().unwrap()).abs() < 1e-5);
        assert_eq!(size["proved_optimal"], true);
        let white = &solved.case["white"]["id"];
        for recipe in size["recipes"].as_array().unwrap() {
            let mut ids = recipe["parts"].as_object().unwrap().keys();
            assert!(ids.all(|id| size["pigments"].as_array().unwrap().iter().any(|p| p == id) || white == id));
        }
    }
}

#[test]
fn every_medium_answers_and_layers_are_told() {
    let solved = Solved::new();
    for medium in ["oil", "watercolour", "marker", "pencil", "pastel"] {
        let (code, answer, problems) = solved.run(&["--sizes", "3", "--medium", medium]);
        assert_eq!(code, 0, "{medium}: {problems}");
        check("lean.schema.json", &answer);
        let layered = answer["sizes"][0]["recipes"].as_array().unwrap().iter().any(|r| !r["layers"].is_null());
        assert_eq!(layered, medium != "oil", "{medium}");
    }
}

#[test]
fn seeds_exclusions_and_demands_are_kept() {
    let solved = Solved::new();
    let (_, free, _) = solved.run(&["--sizes", "3"]);
    let best = free["sizes"][0]["pigments"].as_array().unwrap();
    let (unwanted, other) =
        (best[0].as_str().unwrap(), solved.case["pigments"].as_array().unwrap().iter().find(|p| !best.contains(&p["id"])));
    let seed = other.unwrap()["id"].as_str().unwrap();
    let (code, held, problems) =
        solved.run(&["--sizes", "3", "--keep", seed, "--without", unwanted, "--good-enough", "--mother", &format!("{seed}:0.1")]);
    assert_eq!(code, 0, "{problems}");
    let size = &held["sizes"][0];
    let set = size["pigments"].as_array().unwrap();
    assert!(set.iter().any(|p| p == seed) && set.iter().all(|p| p != unwanted));
    assert!(size["recipes"].as_array().unwrap().iter().all(|r| !r["parts"][seed].is_null()), "the mother colour is in every mix");
}

#[test]
fn one_set_for_several_pieces() {
    let solved = Solved::new();
    let pieces = json!({ "pieces": [
        { "targets": [{ "lab": [60, 20, 30] }, { "lab": [40, 10, 10] }] },
        { "weight": 2, "ground": "panel-white", "targets": [{ "lab": [50, -10, -20], "weight": 3 }] },
    ]});
    check("targets.schema.json", &pieces);
    let file = solved.write("pieces.json", &pieces.to_string());
    let (code, answer, problems) = run(&["--box", &solved.path("box.json"), "--targets", &file, "--sizes", "2", "--rank", "miss"]);
    assert_eq!(code, 0, "{problems}");
    check("lean.schema.json", &answer);
    let size = &answer["sizes"][0];
    let (one, two) = (size["pieces"][0].as_f64().unwrap(), size["pieces"][1].as_f64().unwrap());
    assert!((size["cost"].as_f64().unwrap() - (one + 2.0 * two) / 3.0).abs() < 1e-9);
    assert_eq!(size["recipes"].as_array().unwrap().len(), 2);
}

#[test]
fn bad_input_ends_with_two_and_says_what_to_do() {
    let solved = Solved::new();
    let ids: Vec<&str> = solved.case["pigments"].as_array().unwrap().iter().map(|p| p["id"].as_str().unwrap()).collect();
    let (first, all) = (ids[0], ids.join(","));
    let three = ids[..3].join(",");
    for (args, words) in [
        (vec!["--keep", first, "--without", first], "both locked and excluded"),
        (vec!["--without", all.as_str()], "No pigment is left"),
        (vec!["--keep", three.as_str(), "--sizes", "1..2"], "3 pigments are locked"),
        (vec!["--keep", "XX1"], "XX1"),
        (vec!["--sizes", "0..3"], "0 to 3"),
        (vec!["--sizes", "few"], "few"),
        (vec!["--medium", "gold"], "gold"),
        (vec!["--ground", "velvet"], "velvet"),
        (vec!["--darkest", "0.0"], "as dark as value 0.0"),
        (vec!["--darkest", "6", "--lightest", "4"], "lighter than the lightest"),
        (vec!["--only-hues", "beige"], "beige"),
        (vec!["--mother", "PB29"], "ID:SHARE"),
        (vec!["--value-weight", "-1"], "value"),
    ] {
        let (code, answer, problems) = solved.run(&args);
        assert_eq!(code, 2, "{args:?}: {problems}");
        assert!(answer.is_null() && problems.contains(words), "{args:?}: {problems}");
    }
    for (text, words) in [
        ("{\"targets\":[]}", "nothing to match"),
        ("{\"targets\":[{\"lab\":[50,0,0],\"weight\":0}]}", "nothing to match"),
        ("{\"targets\":[{\"lab\":[50,0,0],\"weight\":-1}]}", "weight of -1"),
        ("{\"targets\":[{\"lab\":[150,0,0]}]}", "L* is 0 to 100"),
        ("{\"targets\":[{\"lab\":[50,0]}]}", "not a target file"),
        ("{}", "\"targets\", or \"pieces\""),
        ("colours", "not a target file"),
    ] {
        let file = solved.write("odd.json", text);
        let (code, _, problems) = run(&["--box", &solved.path("box.json"), "--targets", &file]);
        assert_eq!(code, 2, "{text}: {problems}");
        assert!(problems.contains(words), "{text}: {problems}");
    }
    let mut twice: Value = serde_json::from_str(&std::fs::read_to_string(solved.path("box.json")).unwrap()).unwrap();
    let doubled = twice["pigments"][0].clone();
    twice["pigments"].as_array_mut().unwrap().push(doubled);
    let twice = solved.write("twice.json", &twice.to_string());
    let (code, _, problems) = run(&["--box", &twice, "--targets", &solved.path("targets.json")]);
    assert!(code == 2 && problems.contains("both called"), "{problems}");
}

#[test]
fn a_box_without_white_is_searched_and_said() {
    let solved = Solved::new();
    let mut plain: Value = serde_json::from_str(&std::fs::read_to_string(solved.path("box.json")).unwrap()).unwrap();
    plain["pigments"].as_array_mut().unwrap().retain(|p| p["white"] != true);
    let plain = solved.write("plain.json", &plain.to_string());
    let (code, answer, problems) = run(&["--box", &plain, "--targets", &solved.path("targets.json"), "--sizes", "2"]);
    assert_eq!(code, 0, "{problems}");
    assert!(problems.contains("no white"));
    assert_eq!(answer["sizes"][0]["proved_optimal"], true);
}
