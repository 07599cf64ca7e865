//! The inventory of a Box as a table: comma-separated, one pigment a line, in and out.

use super::listed::{self, with_free_ids};
use crate::mixes::swatch;
use lean_colour::inferred::reflectance_of;
use lean_colour::real::toward_real;
use lean_colour::{Lab, Reflectance};
use lean_media::opaque::OIL;
use lean_media::pens::ink_seen_as;
use lean_media::pigment::Owned;
use lean_media::{Medium, Pigment, PigmentId, Provenance, ground, library};
use lean_piece::paint_box::PaintBox;

/// The columns, in their order.
const COLUMNS: [&str; 17] = [
    "id",
    "name",
    "colour_index",
    "label",
    "lightfastness",
    "hazard",
    "staining",
    "granulating",
    "hardness",
    "covering",
    "left",
    "bought",
    "lent_to",
    "used_up",
    "L",
    "a",
    "b",
];

/// Writes the inventory of a Box; the colour is that of each pigment's usual swatch.
pub fn write(paint_box: &PaintBox) -> String {
    let mut out = csv::Writer::from_writer(Vec::new());
    // Writing to memory cannot fail.
    let _ = out.write_record(COLUMNS);
    let usual = ground::usual(paint_box.medium);
    for p in &paint_box.pigments {
        let lab = swatch(paint_box.medium, &usual, p);
        let share = |s: Option<f64>| s.map(|s| s.to_string()).unwrap_or_default();
        let yes = |b: bool| if b { "yes" } else { "" }.to_owned();
        let o = &p.owned;
        let _ = out.write_record([
            p.id.0.clone(),
            safe(&p.name),
            p.colour_index.join(" "),
            safe(&o.label),
            p.lightfastness.clone(),
            p.hazard.clone(),
            yes(p.staining),
            yes(p.granulating),
            share(o.hardness),
            share(o.covering),
            share(o.left),
            safe(&o.bought),
            safe(&o.lent_to),
            yes(o.used_up),
            format!("{:.2}", lab.l),
            format!("{:.2}", lab.a),
            format!("{:.2}", lab.b),
        ]);
    }
    out.into_inner().map(|b| String::from_utf8_lossy(&b).into_owned()).unwrap_or_default()
}

/// A text that no spreadsheet takes for a formula.
fn safe(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@']) { format!("'{text}") } else { text.to_owned() }
}

/// Reads an inventory into a Box: rows whose id is in it bring it up to date; others are put in, as a shipped pigment by Colour Index name or plain name,
/// or as a pigment inferred from the colour of its masstone. Columns may stand in any order; only a name, an id or a Colour Index name is needed.
///
/// # Errors
/// Says which line is wrong, and what would be right; the Box then stays as it is.
pub fn read(paint_box: &PaintBox, text: &str) -> Result<PaintBox, String> {
    let mut rows = csv::ReaderBuilder::new().flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    let head = rows.headers().map_err(|e| format!("This is no table: {e}."))?.clone();
    let column = |name: &str| head.iter().position(|h| h.eq_ignore_ascii_case(name));
    if ["id", "name", "colour_index"].iter().all(|c| column(c).is_none()) {
        return Err("The first line names no column that is known: at least id, name or colour_index is needed.".into());
    }
    let mut next = paint_box.clone();
    for (n, row) in rows.records().enumerate() {
        let line = n + 2;
        let row = row.map_err(|e| format!("Line {line}: {e}."))?;
        let field = |name: &str| column(name).and_then(|i| row.get(i)).map(|t| t.trim_start_matches('\'')).filter(|t| !t.is_empty());
        if COLUMNS.iter().all(|c| field(c).is_none()) {
            continue;
        }
        let at = |e: String| format!("Line {line}: {e}");
        let there = field("id").and_then(|id| next.pigments.iter().position(|p| p.id.0 == id));
        let old = match there {
            Some(i) => next.pigments[i].clone(),
            None => with_free_ids(vec![new_one(paint_box.medium, &field).map_err(at)?], &next.pigments).remove(0),
        };
        let new = described(old, &field).map_err(at)?;
        match there {
            Some(i) => next.pigments[i] = new,
            None => next.pigments.push(new),
        }
    }
    Ok(next)
}

/// A pigment that is not in the Box yet.
fn new_one<'r>(medium: Medium, field: &dyn Fn(&str) -> Option<&'r str>) -> Result<Pigment, String> {
    let called: Vec<&str> = ["id", "colour_index", "name"].iter().filter_map(|c| field(c)).collect();
    let known = called.iter().find_map(|t| listed::read(t).ok()?.into_iter().find_map(|e| library::find(&e.pigment?.0)));
    let number = |name: &str| field(name).map(|t| t.parse::<f64>().map_err(|_| format!("\"{t}\" in {name} is no number.")));
    let colour = match (number("L"), number("a"), number("b")) {
        (Some(l), Some(a), Some(b)) => Some(Lab::new(l?, a?, b?)),
        _ => None,
    };
    let name = field("name").or(called.first().copied()).unwrap_or("pigment");
    match (known, colour) {
        (Some(p), _) => Ok(p.clone()),
        (None, Some(lab)) if (0.0..=100.0).contains(&lab.l) && lab.a.abs().max(lab.b.abs()) <= 150.0 => Ok(of_colour(medium, name, lab)),
        (None, Some(lab)) => {
            Err(format!("{} {} {} is no colour: L lies between 0 and 100, a and b between -150 and 150.", lab.l, lab.a, lab.b))
        }
        (None, None) => Err(format!("\"{name}\" is no shipped pigment. Give the colour of its masstone as L, a and b.")),
    }
}

/// Scattering of a pigment of which only a colour is known, relative to titanium white. A choice: the middle of the shipped ones.
const USUAL_S: f64 = 0.25;

/// A pigment inferred from one colour: its spectrum is one of many (Burns 2020), its scattering a guess until a tint is read.
pub fn of_colour(medium: Medium, name: &str, lab: Lab) -> Pigment {
    of_masstone(medium, name, &reflectance_of(toward_real(lab).xyz()).reflectance)
}

/// A pigment inferred from the reflectance of its masstone, of one coat where it is a pen.
pub(crate) fn of_masstone(medium: Medium, name: &str, seen: &Reflectance) -> Pigment {
    let absorbs = |r: f64| {
        let inside = OIL.inside(r).clamp(0.004, 0.995);
        USUAL_S * (1.0 - inside).powi(2) / (2.0 * inside)
    };
    let mut k: Vec<f64> = seen.0.iter().map(|r| absorbs(*r)).collect();
    if medium == Medium::Marker {
        // A swatch of one coat.
        k = ink_seen_as(seen);
    }
    let id: String = name.chars().map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' }).collect();
    Pigment {
        id: PigmentId(if id.trim_matches('-').is_empty() { "pigment".into() } else { id.trim_matches('-').to_owned() }),
        name: name.to_owned(),
        colour_index: Vec::new(),
        k,
        s: vec![USUAL_S; seen.0.len()],
        white: false,
        lightfastness: String::new(),
        hazard: String::new(),
        staining: false,
        granulating: false,
        provenance: Provenance::Inferred,
        model: None,
        doubt: None,
        owned: Owned::default(),
        second: None,
    }
}

/// A pigment as a row describes it; what the row does not say stays.
fn described<'r>(p: Pigment, field: &dyn Fn(&str) -> Option<&'r str>) -> Result<Pigment, String> {
    let text = |name: &str, old: &str| field(name).unwrap_or(old).to_owned();
    let yes =
        |name: &str, old: bool| field(name).map_or(old, |t| matches!(t.to_ascii_lowercase().as_str(), "yes" | "y" | "1" | "true" | "x"));
    let share = |name: &str, old: Option<f64>| match field(name) {
        None => Ok(old),
        Some(t) => match t.parse::<f64>() {
            Ok(n) if (0.0..=1.0).contains(&n) => Ok(Some(n)),
            _ => Err(format!("\"{t}\" in {name} is out of range: it is a share from 0 to 1.")),
        },
    };
    let o = p.owned.clone();
    let owned = Owned {
        label: text("label", &o.label),
        hardness: share("hardness", o.hardness)?,
        covering: share("covering", o.covering)?,
        left: share("left", o.left)?,
        bought: text("bought", &o.bought),
        lent_to: text("lent_to", &o.lent_to),
        used_up: yes("used_up", o.used_up),
    };
    Ok(Pigment {
        name: text("name", &p.name),
        lightfastness: text("lightfastness", &p.lightfastness),
        hazard: text("hazard", &p.hazard),
        staining: yes("staining", p.staining),
        granulating: yes("granulating", p.granulating),
        owned,
        ..p
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::difference::ciede2000;

    fn oils() -> PaintBox {
        let b = lean_demo::oils();
        PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
    }

    #[test]
    fn an_inventory_comes_back_as_it_went() {
        let mut b = oils();
        b.pigments[1].owned =
            Owned { label: "No 12, \"sea\", old".into(), left: Some(0.25), lent_to: "a neighbour".into(), ..Owned::default() };
        b.pigments[2].name = "=danger".into();
        let text = write(&b);
        assert!(!text.contains(",=danger"), "no spreadsheet takes it for a formula");
        assert_eq!(read(&b, &text).unwrap(), b);
    }

    #[test]
    fn new_rows_are_put_in_by_name_or_by_colour() {
        let empty = PaintBox { pigments: Vec::new(), ..oils() };
        let got = read(&empty, "name,L,a,b,left\nburnt sienna,,,,0.5\nmy moss,45,-18,22,\nPB29,,,,\n,,,,\n").unwrap();
        let ids: Vec<&str> = got.pigments.iter().map(|p| p.id.0.as_str()).collect();
        assert_eq!(ids, ["PBr7-burnt-sienna", "my-moss", "PB29"]);
        assert_eq!((got.pigments[0].owned.left, got.pigments[1].provenance.clone()), (Some(0.5), Provenance::Inferred));
        for medium in Medium::ALL {
            let usual = ground::usual(medium);
            let lab = swatch(medium, &usual, &of_colour(medium, "moss", Lab::new(45.0, -18.0, 22.0)));
            let near = ciede2000(lab, Lab::new(45.0, -18.0, 22.0));
            // A wash is laid thin, a pencil lets the paper through: only what covers gives the masstone back.
            assert!(medium != Medium::Oil || near < 2.0, "{medium:?}: {near:.1}");
            assert!(lab.a < 0.0 && lab.b > 0.0, "{medium:?}: it is still a green");
        }
        got.check().unwrap();
    }

    #[test]
    fn what_is_wrong_is_said_with_its_line() {
        let wrong = |text: &str| read(&oils(), text).unwrap_err();
        assert!(wrong("velvet,silk\n1,2").contains("colour_index"));
        assert!(wrong("name,left\nburnt sienna,3").contains("Line 2: \"3\" in left"));
        assert!(wrong("name\nzzzz").contains("no shipped pigment"));
        assert!(wrong("name,L,a,b\nx,400,0,0").contains("400"));
    }
}
