//! The house: modules of a crate lean on each other one way only, and core knows nothing of what is above it.

use regex::Regex;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// A module by the names on its path; the crate itself is the empty one.
type Module = Vec<String>;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

fn sources(folder: &Path, found: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).expect("a folder of sources").flatten() {
        let path = entry.path();
        if path.is_dir() {
            sources(&path, found);
        } else if path.extension().is_some_and(|e| e == "rs") {
            found.push(path);
        }
    }
}

/// Every module of a crate with its text, tests left out.
fn modules(src: &Path) -> BTreeMap<Module, String> {
    let mut files = Vec::new();
    sources(src, &mut files);
    let module = |file: &PathBuf| {
        let inside = file.strip_prefix(src).expect("it lies inside").with_extension("");
        let mut names: Module = inside.iter().map(|n| n.to_string_lossy().into_owned()).collect();
        if names.last().is_some_and(|n| ["mod", "lib", "main"].contains(&n.as_str())) {
            names.pop();
        }
        let text = std::fs::read_to_string(file).expect("a readable source");
        (names, text.split("#[cfg(test)]\nmod ").next().unwrap_or_default().to_owned())
    };
    files.iter().map(module).collect()
}

/// The modules of its own crate that one names.
fn named(module: &Module, text: &str, all: &BTreeMap<Module, String>) -> BTreeSet<Module> {
    let path = Regex::new(r"\b(crate|self|super(?:::super)*)((?:::[a-z_0-9]+)*)(::\{[^;]*?\})?").expect("a pattern");
    let first = Regex::new(r"[{,]\s*([a-z_0-9]+)\s*(?:,|\}|::)").expect("a pattern");
    let mut out = BTreeSet::new();
    for found in path.captures_iter(text) {
        let start = match &found[1] {
            "crate" => Vec::new(),
            "self" => module.clone(),
            up => module[..module.len().saturating_sub(up.split("::").count())].to_vec(),
        };
        let own: Vec<String> = found[2].split("::").skip(1).map(str::to_owned).collect();
        let in_braces = found.get(3).map_or("", |g| g.as_str());
        let inner = first.captures_iter(in_braces).map(|c| Some(c[1].to_owned())).chain([None]);
        for last in inner {
            let mut target: Module = start.iter().chain(&own).cloned().chain(last).collect();
            while !target.is_empty() && !all.contains_key(&target) {
                target.pop();
            }
            out.insert(target);
        }
    }
    out
}

/// Neighbours in one folder that lead back to themselves, each with the way round.
fn circles(all: &BTreeMap<Module, String>) -> Vec<String> {
    let mut arrows: BTreeMap<(Module, String), BTreeSet<String>> = BTreeMap::new();
    for (module, text) in all {
        for target in named(module, text, all) {
            let shared = module.iter().zip(&target).take_while(|(a, b)| a == b).count();
            if shared < module.len() && shared < target.len() {
                arrows.entry((module[..shared].to_vec(), module[shared].clone())).or_default().insert(target[shared].clone());
            }
        }
    }
    let around = |start: &(Module, String)| {
        let mut ways = vec![vec![start.1.clone()]];
        let mut seen = BTreeSet::new();
        while let Some(way) = ways.pop() {
            let here = way.last().expect("never empty").clone();
            for next in arrows.get(&(start.0.clone(), here)).into_iter().flatten() {
                let longer = [way.as_slice(), std::slice::from_ref(next)].concat();
                if *next == start.1 {
                    return Some(format!("{}: {}", start.0.join("/"), longer.join(" -> ")));
                }
                if seen.insert(next.clone()) {
                    ways.push(longer);
                }
            }
        }
        None
    };
    arrows.keys().filter_map(around).collect()
}

fn crates() -> Vec<PathBuf> {
    let of = |part: &str| std::fs::read_dir(root().join(part)).expect("a part of the house").flatten().map(|e| e.path().join("src"));
    of("core").chain(of("app")).chain([root().join("demo/src")]).filter(|p| p.is_dir()).collect()
}

#[test]
fn no_modules_of_a_crate_lean_on_each_other_in_a_circle() {
    let found: Vec<String> =
        crates().iter().flat_map(|c| circles(&modules(c)).into_iter().map(move |w| format!("{}: {w}", c.display()))).collect();
    assert!(found.is_empty(), "{}", found.join("\n"));
}

#[test]
fn a_circle_is_found() {
    let text = |t: &str| t.to_owned();
    let module = |names: &[&str]| names.iter().map(|n| (*n).to_owned()).collect::<Module>();
    let mut all: BTreeMap<Module, String> = BTreeMap::new();
    all.insert(module(&[]), text("pub mod light;"));
    all.insert(module(&["light"]), text("use crate::{mixes::Mix, zones};"));
    all.insert(module(&["zones"]), text(""));
    all.insert(module(&["mixes"]), text(""));
    all.insert(module(&["mixes", "string"]), text("use super::Mix;"));
    assert_eq!(circles(&all), Vec::<String>::new(), "a child may name its parent");
    all.insert(module(&["mixes", "string"]), text("use super::super::zones::found;"));
    all.insert(module(&["zones"]), text("fn f() { crate::light::lit() }"));
    assert_eq!(circles(&all).len(), 3, "{:?}", circles(&all));
}

/// Core is rules and computation: none of its crates may reach the network, the disk or a clock.
#[test]
fn core_stays_pure() {
    let forbidden = ["tokio", "axum", "rusqlite", "hyper", "tempfile", "lean-store", "lean-swatch"];
    // Days and times of day may be reckoned with; what the clock says comes from outside.
    let of_the_clock = Regex::new(r"::now\(\)|\bSystemTime\b|\bInstant\b|jiff::(Timestamp|Zoned|tz)\b").expect("a pattern");
    for folder in std::fs::read_dir(root().join("core")).expect("core").flatten() {
        let manifest = std::fs::read_to_string(folder.path().join("Cargo.toml")).expect("a manifest");
        let used = manifest.split("[dev-dependencies]").next().unwrap_or_default();
        let named: Vec<&&str> = forbidden.iter().filter(|f| used.contains(&format!("\n{f}."))).collect();
        assert!(named.is_empty(), "{}: {named:?}", folder.path().display());
        let mut files = Vec::new();
        sources(&folder.path().join("src"), &mut files);
        for file in files {
            let text = std::fs::read_to_string(&file).expect("a readable source");
            assert!(!of_the_clock.is_match(&text), "{} knows what time it is", file.display());
        }
    }
}

/// The API has one list of names: two types of one name would describe each other there.
#[test]
fn no_two_types_of_the_api_share_a_name() {
    let type_of = Regex::new(r"(?s)((?:#\[[^\n]*\]\n)+)pub (?:struct|enum) (\w+)").expect("a pattern");
    let mut seen: BTreeMap<String, PathBuf> = BTreeMap::new();
    let mut files = Vec::new();
    for folder in ["core", "app"] {
        sources(&root().join(folder), &mut files);
    }
    for file in files {
        let text = std::fs::read_to_string(&file).expect("a readable source");
        for found in type_of.captures_iter(&text).filter(|f| f[1].contains("ToSchema")) {
            if let Some(other) = seen.insert(found[2].to_owned(), file.clone()) {
                panic!("{} is in {} and in {}", &found[2], other.display(), file.display());
            }
        }
    }
    assert!(seen.len() > 200, "{} types found", seen.len());
}

/// Numbers that are no value, temperature, hue, chroma, length, share or angle: optics, costs, statistics, paces and other plain factors.
const PLAIN: [&str; 41] = [
    "k",
    "s",
    "x",
    "y",
    "r",
    "rgb",
    "ground",
    "load",
    "mass",
    "much",
    "n",
    "p",
    "q",
    "own",
    "parts",
    "background",
    "relative",
    "of",
    "noise",
    "margin",
    "internal",
    "seen",
    "veil",
    "dl",
    "da",
    "db",
    "outside",
    "inverse",
    "miss",
    "charge",
    "limit",
    "pace",
    "contrast",
    "strength",
    "sharpness",
    "difference",
    "wide",
    "before",
    "now",
    "hand",
    "amount",
];

/// Public functions of core that take a bare number for such a thing, each with its reason. At most ten.
const BARE: [(&str, &str); 10] = [
    ("new", "the coordinates of CIELAB are a space of their own"),
    ("from_lch", "the same colour in polar coordinates"),
    ("greatest_chroma", "lightness L* is a coordinate, not a value of the ladder"),
    ("over_zones", "lengths in any unit, only compared"),
    ("fuses", "two lengths in any unit, only compared"),
    ("judge", "how hard a drill is: its unit is the drill's own"),
    ("ask", "the same"),
    ("fitted", "width to height, a ratio above 1 too"),
    ("in_photo", "a place in pixels"),
    ("projection", "the same"),
];

/// Takes out what nests in angle brackets, so that commas part arguments only.
fn arguments(text: &str) -> Vec<String> {
    let mut depth = 0i32;
    let mut out = vec![String::new()];
    for c in text.chars() {
        match c {
            '(' | '<' | '[' => depth += 1,
            ')' | '>' | ']' => depth -= 1,
            _ => {}
        }
        if c == ',' && depth == 0 {
            out.push(String::new());
        } else if let Some(last) = out.last_mut() {
            last.push(c);
        }
    }
    out
}

/// Whether every module on the way to this one is public.
fn is_reached(module: &Module, all: &BTreeMap<Module, String>) -> bool {
    (0..module.len()).all(|depth| all.get(&module[..depth].to_vec()).is_some_and(|t| t.contains(&format!("pub mod {};", module[depth]))))
}

/// Names of public functions of a crate with an argument that is a bare number and no plain one.
fn bare(all: &BTreeMap<Module, String>) -> Vec<(String, String)> {
    let function = Regex::new(r"(?m)^\s*pub (?:const )?fn (\w+)(?:<[^>]*>)?\(").expect("a pattern");
    let number = Regex::new(r"\bf64\b").expect("a pattern");
    let mut found = Vec::new();
    for (module, text) in all.iter().filter(|(m, _)| is_reached(m, all)) {
        for f in function.captures_iter(text) {
            let start = f.get(0).expect("the whole").end();
            let mut open = 1;
            let end = text[start..].find(|c| {
                open += i32::from(c == '(') - i32::from(c == ')');
                open == 0
            });
            for argument in arguments(&text[start..start + end.unwrap_or(0)]).iter().filter(|a| number.is_match(a)) {
                let name = argument.split(':').next().unwrap_or_default().trim().trim_start_matches("mut ").to_owned();
                if !PLAIN.contains(&name.as_str()) {
                    found.push((f[1].to_owned(), format!("{}: {}({})", module.join("::"), &f[1], argument.trim())));
                }
            }
        }
    }
    found
}

/// A value taken for a temperature, or a share for a length, does not compile.
#[test]
fn what_painters_measure_has_types() {
    assert!(BARE.len() <= 10 && BARE.iter().all(|(_, reason)| reason.len() > 5));
    let core = crates().into_iter().filter(|c| c.starts_with(root().join("core")));
    let found: Vec<String> =
        core.flat_map(|c| bare(&modules(&c))).filter(|(name, _)| !BARE.iter().any(|b| b.0 == name)).map(|(_, told)| told).collect();
    assert!(found.is_empty(), "these take a bare number:\n{}", found.join("\n"));
}

#[test]
fn a_bare_number_is_found() {
    let of = |text: &str| {
        BTreeMap::from([
            (vec![], "pub mod a;\nmod b;".to_owned()),
            (vec!["a".to_owned()], text.to_owned()),
            (vec!["b".to_owned()], text.to_owned()),
        ])
    };
    assert_eq!(bare(&of("pub fn lift(&self, lab: Lab, by: &[(u8, f64)], k: f64) -> f64 {}")).len(), 1);
    assert_eq!(bare(&of("pub fn lift(self, by: Value, f: impl Fn(Share) -> f64) {}")).len(), 1, "what a closure gives counts too");
    assert_eq!(bare(&of("fn lift(by: f64) {}")).len(), 0);
}
