//! The text exchange format for measurements, ISO 28178: keywords, a list of field names between `BEGIN_DATA_FORMAT` and
//! `END_DATA_FORMAT`, rows between `BEGIN_DATA` and `END_DATA`.

use super::{Column, Columns, FileProblem, State, Swatch, all_spectral, band_of, problem, written, written_evidence};
use lean_colour::{BANDS, Light};

/// Words of a line with the quotes taken off; `#` begins a remark.
fn words(line: &str) -> Vec<String> {
    let mut found = Vec::new();
    let mut word = String::new();
    let (mut quoted, mut any) = (false, false);
    for c in line.chars() {
        match c {
            '"' => {
                quoted = !quoted;
                any = true;
            }
            '#' if !quoted => break,
            c if c.is_whitespace() && !quoted => {
                if any {
                    found.push(std::mem::take(&mut word));
                }
                any = false;
            }
            c => {
                word.push(c);
                any = true;
            }
        }
    }
    if any {
        found.push(word);
    }
    found
}

/// Reads an exchange file. Colours are taken as relative to D50, as the standard has them, unless a keyword `ILLUMINANT` (or an
/// `ILLUMINATION_NAME`) says otherwise.
///
/// # Errors
/// The line and what is wrong in it.
pub fn read(text: &str) -> Result<Vec<Swatch>, FileProblem> {
    enum At {
        Head,
        Format,
        Between,
        Data,
        End,
    }
    let mut at = At::Head;
    let (mut light, mut names, mut columns) = (Light::D50, Vec::<String>::new(), None);
    let (mut fields_said, mut sets_said) = (None, None);
    let mut swatches = Vec::new();
    let mut last = 0;
    for (n, raw) in text.trim_start_matches('\u{feff}').lines().enumerate() {
        let line = n + 1;
        last = line;
        let words = words(raw);
        let Some(first) = words.first() else { continue };
        let count = |what: &str| match words.get(1).and_then(|w| w.parse::<usize>().ok()) {
            Some(n) => Ok(n),
            None => problem(line, format!("{what} must be followed by a whole number")),
        };
        match (&at, first.to_ascii_uppercase().as_str()) {
            (At::Head | At::Between, "BEGIN_DATA_FORMAT") => at = At::Format,
            (At::Format, "END_DATA_FORMAT") => {
                if fields_said.is_some_and(|f| f != names.len()) {
                    return problem(line, format!("{} field names, but NUMBER_OF_FIELDS says {}", names.len(), fields_said.unwrap_or(0)));
                }
                columns = Some(Columns::checked(names.iter().map(|n| column(n, light)).collect(), line)?);
                at = At::Between;
            }
            (At::Format, _) => names.extend(words),
            (At::Head | At::Between, "NUMBER_OF_FIELDS") => fields_said = Some(count("NUMBER_OF_FIELDS")?),
            (At::Head | At::Between, "NUMBER_OF_SETS") => sets_said = Some(count("NUMBER_OF_SETS")?),
            (At::Head, "ILLUMINANT" | "ILLUMINATION_NAME") => {
                let named = words.get(1).cloned().unwrap_or_default();
                light = Light::parse(&named).map_err(|what| FileProblem { line, what })?;
            }
            (At::Between, "BEGIN_DATA") => at = At::Data,
            (At::Head, "BEGIN_DATA") => return problem(line, "BEGIN_DATA comes before any field names: BEGIN_DATA_FORMAT is missing"),
            (At::Data, "END_DATA") => at = At::End,
            (At::Data, _) => {
                let fields: Vec<&str> = words.iter().map(String::as_str).collect();
                let columns = columns.as_ref().ok_or(FileProblem { line, what: "no field names were given".into() })?;
                swatches.push(columns.swatch(&fields, line)?);
            }
            (At::End, _) => break,
            _ => {}
        }
    }
    match at {
        At::End if sets_said.is_some_and(|s| s != swatches.len()) => {
            problem(last, format!("{} rows, but NUMBER_OF_SETS says {}", swatches.len(), sets_said.unwrap_or(0)))
        }
        At::End if swatches.is_empty() => problem(last, "there is no row between BEGIN_DATA and END_DATA"),
        At::End => Ok(swatches),
        At::Data => problem(last, "END_DATA is missing: the file was cut short"),
        At::Format => problem(last, "END_DATA_FORMAT is missing"),
        At::Head | At::Between => problem(last.max(1), "there is no BEGIN_DATA: this is no exchange file, or it was cut short"),
    }
}

fn column(name: &str, light: Light) -> Column {
    match name.to_ascii_uppercase().as_str() {
        "SAMPLE_ID" => Column::Id,
        "SAMPLE_NAME" => Column::Name,
        "FRACTION" => Column::Fraction,
        "FILM" => Column::Film,
        "STATE" => Column::State,
        "LAB_L" => Column::Lab(0, light),
        "LAB_A" => Column::Lab(1, light),
        "LAB_B" => Column::Lab(2, light),
        "XYZ_X" => Column::Xyz(0, light),
        "XYZ_Y" => Column::Xyz(1, light),
        "XYZ_Z" => Column::Xyz(2, light),
        _ => band_of(name).flatten().map_or(Column::Other, Column::Band),
    }
}

/// Writes an exchange file that [`read`] reads back; colours relative to D65, and said to be.
pub fn write(swatches: &[Swatch]) -> String {
    let spectral = all_spectral(swatches);
    let mut names: Vec<String> = ["SAMPLE_ID", "SAMPLE_NAME", "STATE"].map(String::from).to_vec();
    let told = |f: fn(&Swatch) -> Option<f64>| !swatches.is_empty() && swatches.iter().all(|s| f(s).is_some());
    let (fraction, film) = (told(|s| s.fraction), told(|s| s.film));
    names.extend(fraction.then(|| "FRACTION".to_owned()));
    names.extend(film.then(|| "FILM".to_owned()));
    if spectral {
        names.extend((0..BANDS).map(|i| format!("SPECTRAL_NM{}", 380 + 10 * i)));
    } else {
        names.extend(["LAB_L", "LAB_A", "LAB_B"].map(String::from));
    }
    let quoted = |t: &str| format!("\"{}\"", t.replace('"', "'"));
    let mut out = format!(
        "ISO28178\nORIGINATOR \"Lean Swatch\"\nILLUMINANT \"D65\"\nNUMBER_OF_FIELDS {}\nBEGIN_DATA_FORMAT\n{}\nEND_DATA_FORMAT\nNUMBER_OF_SETS {}\nBEGIN_DATA\n",
        names.len(),
        names.join(" "),
        swatches.len()
    );
    for s in swatches {
        let mut row = vec![quoted(&s.id), quoted(&s.name), if s.state == State::Wet { "wet".into() } else { "dry".into() }];
        row.extend(fraction.then(|| written(s.fraction.unwrap_or_default())));
        row.extend(film.then(|| written(s.film.unwrap_or_default())));
        row.extend(written_evidence(&s.of, spectral));
        out.push_str(&row.join(" "));
        out.push('\n');
    }
    out + "END_DATA\n"
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::learn::Evidence;
    use lean_colour::{Lab, Reflectance};

    fn swatch(of: Evidence) -> Swatch {
        Swatch { id: "A 1".into(), name: "tint".into(), fraction: Some(0.1), film: None, state: State::Dry, of }
    }

    #[test]
    fn what_is_written_is_read_back() {
        let spectral = vec![swatch(Evidence::Spectral(Reflectance(std::array::from_fn(|i| 0.2 + i as f64 / 90.0))))];
        assert_eq!(read(&write(&spectral)).unwrap(), spectral);
        let back = read(&write(&[swatch(Evidence::ColourOnly(Lab::new(62.0, 5.5, -20.0)))])).unwrap();
        let Evidence::ColourOnly(lab) = back[0].of else { panic!("a colour was written") };
        assert!((lab.l - 62.0).abs() < 1e-6 && (lab.a - 5.5).abs() < 1e-6);
    }

    #[test]
    fn colours_are_relative_to_d50_unless_said_otherwise() {
        let file = |light: &str| {
            format!("{light}BEGIN_DATA_FORMAT\nSAMPLE_ID LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\nx 60 30 40\nEND_DATA\n")
        };
        let lab = |text: String| match read(&text).unwrap()[0].of {
            Evidence::ColourOnly(lab) => lab,
            other => panic!("a colour was written, not {other:?}"),
        };
        let (d50, d65) = (lab(file("")), lab(file("ILLUMINANT D65\n")));
        assert!((d65.a - 30.0).abs() < 1e-6);
        assert!((d50.l - 60.0).abs() < 2.5 && (d50.a - d65.a).abs() > 0.2, "{d50:?}");
    }

    #[test]
    fn what_is_wrong_is_said_with_its_line() {
        let head = "ISO28178\nNUMBER_OF_FIELDS 4\nBEGIN_DATA_FORMAT\nSAMPLE_ID LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\n";
        for (text, line, words) in [
            (format!("{head}BEGIN_DATA\nx 50 1 2\n"), 7, "cut short"),
            (format!("{head}BEGIN_DATA\nx 50 1\nEND_DATA\n"), 7, "3 fields where 4"),
            (format!("{head}NUMBER_OF_SETS 2\nBEGIN_DATA\nx 50 1 2\nEND_DATA\n"), 9, "1 rows"),
            (format!("{head}BEGIN_DATA\nx 50 1,5 2\nEND_DATA\n"), 7, "written with a point"),
            ("hello\n".to_owned(), 1, "no BEGIN_DATA"),
            ("BEGIN_DATA\n".to_owned(), 1, "BEGIN_DATA_FORMAT is missing"),
            (head.replace("FIELDS 4", "FIELDS 5"), 5, "NUMBER_OF_FIELDS says 5"),
            (format!("ILLUMINANT moon\n{head}"), 1, "no light"),
        ] {
            let found = read(&text).unwrap_err();
            assert!(found.line == line && found.what.contains(words), "{text:?}: {found}");
        }
    }
}
