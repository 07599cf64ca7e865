//! The command line as a script sees it: JSON on standard output, problems on standard error, exit 2 for bad input.

use lean_colour::Lab;
use lean_media::amount::Rubbing;
use lean_media::recipe_text::{Written, layers};
use lean_media::{Layering, State, ground, pigment_file};
use serde_json::Value;
use std::path::PathBuf;
use std::process::Command;

/// The program with these arguments: exit code, JSON, what it said of problems.
fn run(args: &[&str]) -> (i32, Value, String) {
    let out = Command::new(env!("CARGO_BIN_EXE_lean-swatch")).args(args).output().expect("the program starts");
    let text = String::from_utf8(out.stdout).expect("its output is text");
    (out.status.code().unwrap_or(-1), serde_json::from_str(&text).unwrap_or(Value::Null), String::from_utf8_lossy(&out.stderr).into_owned())
}

fn pigments() -> String {
    concat!(env!("CARGO_MANIFEST_DIR"), "/../../core/media/tests/data/example_pigments.json").into()
}

fn reference() -> PathBuf {
    concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/tram-shed/reference.jpg").into()
}

/// Colour of a recipe on a flat ground, by the core model.
fn laid(recipe: &str, written: Written, ground: &str, state: State) -> Lab {
    let owned = pigment_file::read(&std::fs::read_to_string(pigments()).unwrap()).unwrap();
    let ground = ground::parse(ground).unwrap();
    let layering = Layering { ground: &ground, layers: layers(recipe, written, &owned).unwrap() };
    layering.lay(state).unwrap().reflectance.xyz().lab()
}

#[test]
fn mixes_of_every_medium_are_printed() {
    let file = pigments();
    let (wash, ink, rubbed) = (Written::Watercolour, Written::Marker { into_wet: false }, Written::Pastel { rubbing: Rubbing(0.3) });
    for (args, lab) in [
        (vec!["--medium", "oil", "PR108*1 + PW6*4"], Lab::new(58.050, 48.444, 23.220)),
        (vec!["--medium", "watercolour", "--ground", "0.88", "PY35*.5 > PB29*.15"], laid("PY35*.5 > PB29*.15", wash, "0.88", State::Dry)),
        (vec!["--medium", "marker", "--ground", "0.9", "PB15:3*.03 > PY74*.1"], laid("PB15:3*.03 > PY74*.1", ink, "0.9", State::Dry)),
        (vec!["--medium", "pencil", "--ground", "0.88", "PR108*.7"], laid("PR108*.7", Written::Pencil, "0.88", State::Dry)),
        (
            vec!["--medium", "pastel", "--ground", "0.10", "--rubbed", "0.3", "PB29*3 > PO20*1"],
            laid("PB29*3 > PO20*1", rubbed, "0.10", State::Dry),
        ),
        (vec!["--medium", "watercolour", "--ground", "0.88", "--wet", "PB29*.15"], laid("PB29*.15", wash, "0.88", State::Wet)),
    ] {
        let (code, seen, problems) = run(&[&["mix", "--box", file.as_str()], args.as_slice()].concat());
        assert_eq!(code, 0, "{args:?}: {problems}");
        for (key, wanted) in ["l", "a", "b"].into_iter().zip([lab.l, lab.a, lab.b]) {
            assert!((seen["lab"][key].as_f64().unwrap() - wanted).abs() < 6e-4, "{args:?}: {}", seen["lab"]);
        }
        assert_eq!(seen["reflectance"].as_array().unwrap().len(), 36);
        for key in ["xyz", "oklab", "value", "temperature", "srgb", "in_srgb_gamut"] {
            assert!(!seen[key].is_null(), "{key} is missing");
        }
    }
}

#[test]
fn a_film_a_named_ground_a_file_of_bands_and_a_lamp_are_understood() {
    let (code, film, problems) = run(&["mix", "--medium", "oil", "--film", "0.3", "--ground", "0", "PW6"]);
    assert_eq!(code, 0, "{problems}");
    assert!(film["lab"]["b"].as_f64().unwrap() < -1.0, "thin white over black is bluish");
    let folder = tempfile::tempdir().unwrap();
    let bands = folder.path().join("ground.txt");
    std::fs::write(&bands, vec!["0.88"; 36].join("\n")).unwrap();
    let on = |ground: &str, light: &str| run(&["mix", "--medium", "watercolour", "--ground", ground, "--light", light, "PB29*.1"]).1;
    let bands = bands.display().to_string();
    assert_eq!(on(&bands, "d65"), on("0.88", "d65"));
    assert_ne!(on("0.88", "tungsten")["value"], on("0.88", "d65")["value"]);
    assert!(on("kraft-brown", "d65")["value"].as_f64().unwrap() < on("cold-pressed", "d65")["value"].as_f64().unwrap());
}

#[test]
fn bad_input_ends_with_two_and_says_what_to_do() {
    let folder = tempfile::tempdir().unwrap();
    let odd = folder.path().join("odd.json");
    std::fs::write(&odd, "{\"pigments\":[{\"id\":\"a\",\"name\":\"A\",\"k\":[1],\"s\":[1],\"white\":false}]}").unwrap();
    let odd = odd.display().to_string();
    for (args, words) in [
        (vec!["mix", "--medium", "oil", "XX9*1"], "XX9"),
        (vec!["mix", "--medium", "oil", "PB29*0"], "all parts are zero"),
        (vec!["mix", "--medium", "oil", "PB29*nan"], "PB29*nan"),
        (vec!["mix", "--medium", "oil", "--ground", "velvet", "PB29"], "velvet"),
        (vec!["mix", "--medium", "oil", "--light", "moon", "PB29"], "moon"),
        (vec!["mix", "--medium", "oil", "--box", &odd, "a"], "1 numbers"),
        (vec!["mix", "--medium", "oil", "--box", "/nowhere.json", "a"], "/nowhere.json"),
        (vec!["mix", "--medium", "marker", "--film", "2", "PB29"], "--film is for oil"),
        (vec!["mix", "--medium", "pencil", "PB29*2"], "between 0 and 1"),
        (vec!["mix", "--medium", "gold", "PB29"], "gold"),
        (vec!["values", "/nowhere.jpg"], "/nowhere.jpg"),
        (vec!["values", &odd], "text file"),
    ] {
        let (code, _, problems) = run(&args);
        assert_eq!(code, 2, "{args:?}: {problems}");
        assert!(problems.contains(words), "{args:?}: {problems}");
    }
    let strokes = vec!["PB29*.1"; 20].join(" > ");
    let (code, _, problems) = run(&["mix", "--medium", "pastel", "--ground", "laid-cool-grey", &strokes]);
    assert!(code == 2 && problems.contains("takes 2 layers of pastel, not 20"), "{problems}");
}

#[test]
fn values_of_a_picture_are_printed_and_drawn() {
    let folder = tempfile::tempdir().unwrap();
    let out = folder.path().join("greys.png");
    let picture = reference();
    let (code, seen, problems) = run(&["values", &picture.display().to_string(), "--groups", "4", "--out", &out.display().to_string()]);
    assert_eq!(code, 0, "{problems}");
    assert_eq!((seen["width"].as_u64(), seen["height"].as_u64()), (Some(1600), Some(1200)));
    let counts: Vec<u64> = seen["histogram"].as_array().unwrap().iter().map(|n| n.as_u64().unwrap()).collect();
    assert_eq!((counts.len(), counts.iter().sum::<u64>()), (100, 1600 * 1200));
    let groups = seen["groups"].as_array().unwrap();
    let shares: f64 = groups.iter().map(|g| g["share"].as_f64().unwrap()).sum();
    assert!(groups.len() == 4 && (shares - 1.0).abs() < 1e-9);
    let of = |key: &str| seen[key].as_f64().unwrap();
    assert!(of("darkest") < of("median") && of("median") < of("lightest"));
    assert!(seen["clipped"]["dark"].is_number() && seen["clipped"]["light"].is_number());
    let drawn = image::open(&out).unwrap().to_rgb8();
    let greys: std::collections::HashSet<[u8; 3]> = drawn.pixels().map(|p| p.0).collect();
    assert!(greys.len() == 4 && greys.iter().all(|g| g[0] == g[1] && g[1] == g[2]), "{greys:?}");
}
