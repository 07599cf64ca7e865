//! Comma-separated reading files.
//!
//! A head line names the columns in any order: `id`, `name`, `fraction`, `film`, `state`; and either 36 bands `380` … `730`, or `L`, `a`, `b`
//! (daylight), or `L_d50`, `a_d50`, `b_d50`, or `X`, `Y`, `Z`. Other columns are passed over.

use super::{Column, Columns, FileProblem, State, Swatch, all_spectral, band_of, problem, written, written_evidence};
use lean_colour::{BANDS, Light};

/// Reads a table.
///
/// # Errors
/// The line and what is wrong in it.
pub fn read(text: &str) -> Result<Vec<Swatch>, FileProblem> {
    let text = text.trim_start_matches('\u{feff}');
    let head = text.lines().next().unwrap_or_default();
    let separator = if head.contains(';') {
        b';'
    } else if head.contains('\t') {
        b'\t'
    } else {
        b','
    };
    let mut reader = csv::ReaderBuilder::new().delimiter(separator).flexible(true).from_reader(text.as_bytes());
    let line_of = |e: &csv::Error| e.position().map_or(1, |p| p.line() as usize);
    let names = reader.headers().map_err(|e| FileProblem { line: line_of(&e), what: e.to_string() })?.clone();
    let columns = Columns::checked(names.iter().map(column).collect(), 1)?;
    let mut swatches = Vec::new();
    for record in reader.records() {
        let record = record.map_err(|e| FileProblem { line: line_of(&e), what: e.to_string() })?;
        let line = record.position().map_or(0, |p| p.line() as usize);
        let fields: Vec<&str> = record.iter().collect();
        if fields.iter().all(|f| f.trim().is_empty()) {
            continue;
        }
        swatches.push(columns.swatch(&fields, line)?);
    }
    if swatches.is_empty() {
        return problem(1, "there is no reading below the head line");
    }
    Ok(swatches)
}

fn column(name: &str) -> Column {
    let name = name.trim();
    match name {
        "L" | "L*" => return Column::Lab(0, Light::Daylight),
        "a" | "a*" => return Column::Lab(1, Light::Daylight),
        "b" | "b*" => return Column::Lab(2, Light::Daylight),
        "X" => return Column::Xyz(0, Light::Daylight),
        "Y" => return Column::Xyz(1, Light::Daylight),
        "Z" => return Column::Xyz(2, Light::Daylight),
        _ => {}
    }
    match name.to_ascii_lowercase().as_str() {
        "id" => Column::Id,
        "name" => Column::Name,
        "fraction" => Column::Fraction,
        "film" => Column::Film,
        "state" => Column::State,
        "l_d50" => Column::Lab(0, Light::D50),
        "a_d50" => Column::Lab(1, Light::D50),
        "b_d50" => Column::Lab(2, Light::D50),
        _ => band_of(name).flatten().map_or(Column::Other, Column::Band),
    }
}

/// Writes a table that [`read`] reads back. Spectral swatches and colours cannot stand in one table: when both are given, all are written as colours.
pub fn write(swatches: &[Swatch]) -> String {
    let spectral = all_spectral(swatches);
    let mut out = csv::Writer::from_writer(Vec::new());
    let mut head: Vec<String> = ["id", "name", "fraction", "film", "state"].map(String::from).to_vec();
    if spectral {
        head.extend((0..BANDS).map(|i| (380 + 10 * i).to_string()));
    } else {
        head.extend(["L", "a", "b"].map(String::from));
    }
    let optional = |n: Option<f64>| n.map(written).unwrap_or_default();
    let rows = swatches.iter().map(|s| {
        let state = if s.state == State::Wet { "wet" } else { "dry" };
        let mut row = vec![s.id.clone(), s.name.clone(), optional(s.fraction), optional(s.film), state.to_owned()];
        row.extend(written_evidence(&s.of, spectral));
        row
    });
    for row in std::iter::once(head).chain(rows) {
        out.write_record(row).expect("writing to memory does not fail");
    }
    String::from_utf8(out.into_inner().expect("memory is flushed")).expect("only text was written")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::learn::Evidence;
    use lean_colour::{Lab, Reflectance};

    fn swatch(of: Evidence) -> Swatch {
        Swatch { id: "a, \"1\"".into(), name: "slate".into(), fraction: Some(0.25), film: None, state: State::Wet, of }
    }

    #[test]
    fn what_is_written_is_read_back() {
        let spectral = vec![swatch(Evidence::Spectral(Reflectance(std::array::from_fn(|i| 0.1 + i as f64 / 70.0))))];
        assert_eq!(read(&write(&spectral)).unwrap(), spectral);
        let colours = vec![swatch(Evidence::ColourOnly(Lab::new(40.5, -3.25, 10.0)))];
        let back = read(&write(&colours)).unwrap();
        let Evidence::ColourOnly(lab) = back[0].of else { panic!("a colour was written") };
        assert!((lab.l - 40.5).abs() < 1e-6 && (lab.a + 3.25).abs() < 1e-6 && (lab.b - 10.0).abs() < 1e-6);
    }

    #[test]
    fn percent_and_other_separators_are_understood() {
        let head: Vec<String> = (0..BANDS).map(|i| format!("nm_{}", 380 + 10 * i)).collect();
        let row: Vec<String> = (0..BANDS).map(|i| format!("{}", 20 + i)).collect();
        let read = read(&format!("id;{}\nx;{}\n", head.join(";"), row.join(";"))).unwrap();
        assert_eq!(read[0].of, Evidence::Spectral(Reflectance(std::array::from_fn(|i| (20 + i) as f64 / 100.0))));
    }

    #[test]
    fn what_is_wrong_is_said_with_its_line() {
        for (text, line, words) in [
            ("id,L,a,b\nx,50,1,2\ny,fifty,1,2\n", 3, "\"fifty\" in L"),
            ("id,L,a,b\nx,50,1\n", 2, "3 fields where 4"),
            ("id,L,a\nx,50,1\n", 1, "no readings"),
            ("id,L,a,b\nx,150,1,2\n", 2, "no colour"),
            ("id,L,a,b,state\nx,50,1,2,damp\n", 2, "wet or dry"),
            ("id,380,390\nx,0.1,0.2\n", 1, "2 spectral columns"),
            ("id,L,a,b,L\nx,50,1,2,3\n", 1, "column 5"),
            ("id,L,a,b\n", 1, "no reading below"),
            ("id,L,a,b,fraction\nx,50,1,2,1.5\n", 2, "fraction of 1.5"),
        ] {
            let found = read(text).unwrap_err();
            assert!(found.line == line && found.what.contains(words), "{text:?}: {found}");
        }
    }
}
