//! Reading files: comma-separated tables ([`table`]) and the text exchange format for measurements of ISO 28178 ([`exchange`]), in and out,
//! spectral or colour only. What is wrong is said with its line.

pub mod exchange;
pub mod table;

use crate::layering::State;
use crate::learn::{Evidence, Judged};
use lean_colour::{BANDS, Lab, Light, Reflectance, Xyz};
use thiserror::Error;

/// One swatch in a reading file.
#[derive(Clone, Debug, PartialEq)]
pub struct Swatch {
    /// What it is called there.
    pub id: String,
    /// Plain name; may be empty.
    pub name: String,
    /// Share of pigment in a tint, 1 for a masstone, when the file says so.
    pub fraction: Option<f64>,
    /// Thickness of a film or dose of the coats, when the file says so.
    pub film: Option<f64>,
    /// Wet or dry.
    pub state: State,
    /// What was read.
    pub of: Evidence,
}

/// What is wrong with a reading file, and where.
#[derive(Clone, Debug, Error, PartialEq, Eq)]
#[error("line {line}: {what}")]
pub struct FileProblem {
    /// Line, from 1.
    pub line: usize,
    /// What is wrong there, and what would be right.
    pub what: String,
}

fn problem<T>(line: usize, what: impl Into<String>) -> Result<T, FileProblem> {
    Err(FileProblem { line, what: what.into() })
}

/// What a column holds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Column {
    Id,
    Name,
    Fraction,
    Film,
    State,
    Band(usize),
    /// L*, a* or b* and the light it is relative to.
    Lab(usize, Light),
    Xyz(usize, Light),
    Other,
}

/// Columns of one file, checked to be enough.
struct Columns(Vec<Column>);

/// The band a column name ends in, such as `SPECTRAL_NM450`, `nm_450` or `450`. Wavelengths that are no band of ours are passed over.
fn band_of(name: &str) -> Option<Option<usize>> {
    let digits: String = name.chars().rev().take_while(char::is_ascii_digit).collect::<String>().chars().rev().collect();
    let before = name[..name.len() - digits.len()].trim_end_matches(['_', ' ']).to_ascii_uppercase();
    let named = ["", "NM", "R", "SPECTRAL", "SPECTRAL_NM", "SPECTRAL_DEC", "SPECTRAL_PCT"].contains(&before.as_str());
    let nm: usize = digits.parse().ok().filter(|n| named && (300..=1100).contains(n))?;
    Some(((380..=730).contains(&nm) && nm.is_multiple_of(10)).then(|| (nm - 380) / 10))
}

impl Columns {
    fn checked(columns: Vec<Column>, line: usize) -> Result<Self, FileProblem> {
        let has = |c: Column| columns.contains(&c);
        let bands = columns.iter().filter(|c| matches!(c, Column::Band(_))).count();
        let whole = |of: fn(usize, Light) -> Column| Light::ALL.iter().any(|l| (0..3).all(|i| has(of(i, *l))));
        if bands > 0 && bands != BANDS {
            let missing: Vec<String> = (0..BANDS).filter(|b| !has(Column::Band(*b))).map(|b| (380 + 10 * b).to_string()).take(4).collect();
            return problem(
                line,
                format!("{bands} spectral columns, but 36 are needed (380 to 730 nm by 10); {} is missing", missing.join(", ")),
            );
        }
        if bands == 0 && !whole(Column::Lab) && !whole(Column::Xyz) {
            return problem(
                line,
                "no readings: there must be 36 spectral columns (380 to 730), or all three of L, a and b, or of X, Y and Z",
            );
        }
        if let Some(twice) = columns.iter().enumerate().find(|(i, c)| **c != Column::Other && columns[..*i].contains(c)) {
            return problem(line, format!("column {} says the same as an earlier one: keep one of the two", twice.0 + 1));
        }
        Ok(Self(columns))
    }

    /// One row turned into a swatch. Spectral readings go before colours when both are there.
    fn swatch(&self, fields: &[&str], line: usize) -> Result<Swatch, FileProblem> {
        if fields.len() != self.0.len() {
            return problem(line, format!("{} fields where {} are needed", fields.len(), self.0.len()));
        }
        let at = |c: Column| self.0.iter().position(|x| *x == c).map(|i| fields[i].trim());
        let number = |c: Column, what: &str| -> Result<Option<f64>, FileProblem> {
            let Some(text) = at(c).filter(|t| !t.is_empty()) else { return Ok(None) };
            match text.parse::<f64>() {
                Ok(n) if n.is_finite() => Ok(Some(n)),
                _ => problem(line, format!("\"{text}\" in {what} is not a number; decimals are written with a point")),
            }
        };
        let id = at(Column::Id).unwrap_or_default().to_owned();
        let state = match at(Column::State).unwrap_or_default().to_ascii_lowercase().as_str() {
            "" | "dry" => State::Dry,
            "wet" => State::Wet,
            other => return problem(line, format!("the state \"{other}\": write wet or dry")),
        };
        let fraction = number(Column::Fraction, "fraction")?;
        if fraction.is_some_and(|f| !(0.0..=1.0).contains(&f)) {
            return problem(line, format!("a fraction of {}: it lies between 0 and 1", fraction.unwrap_or_default()));
        }
        let of = self.evidence(&number, line)?;
        Ok(Swatch { id, name: at(Column::Name).unwrap_or_default().to_owned(), fraction, film: number(Column::Film, "film")?, state, of })
    }

    fn evidence(&self, number: &impl Fn(Column, &str) -> Result<Option<f64>, FileProblem>, line: usize) -> Result<Evidence, FileProblem> {
        if self.0.contains(&Column::Band(0)) {
            let mut bands = [0.0; BANDS];
            for (i, r) in bands.iter_mut().enumerate() {
                let nm = 380 + 10 * i;
                *r = number(Column::Band(i), &format!("{nm} nm"))?
                    .ok_or(FileProblem { line, what: format!("nothing stands at {nm} nm") })?;
            }
            if bands.iter().any(|r| *r > 2.0) {
                bands.iter_mut().for_each(|r| *r /= 100.0);
            }
            if let Some(i) = bands.iter().position(|r| !(-0.02..=1.2).contains(r)) {
                return problem(
                    line,
                    format!("{} at {} nm is no reflectance: write shares from 0 to 1, or percent", bands[i], 380 + 10 * i),
                );
            }
            return Ok(Evidence::Spectral(Reflectance(bands)));
        }
        for light in Light::ALL {
            let three = |of: fn(usize, Light) -> Column, names: [&str; 3]| -> Result<Option<[f64; 3]>, FileProblem> {
                if !self.0.contains(&of(0, light)) {
                    return Ok(None);
                }
                let mut found = [0.0; 3];
                for (i, f) in found.iter_mut().enumerate() {
                    *f = number(of(i, light), names[i])?.ok_or(FileProblem { line, what: format!("nothing stands in {}", names[i]) })?;
                }
                Ok(Some(found))
            };
            let to_daylight = |xyz: Xyz| if light == Light::Daylight { xyz } else { xyz.adapted(light.white(), Light::Daylight.white()) };
            if let Some([l, a, b]) = three(Column::Lab, ["L", "a", "b"])? {
                if !(0.0..=100.0).contains(&l) || a.abs() > 200.0 || b.abs() > 200.0 {
                    return problem(line, format!("{l} {a} {b} is no colour: L lies between 0 and 100, a and b between -200 and 200"));
                }
                return Ok(Evidence::ColourOnly(to_daylight(xyz_relative_to([l, a, b], light.white())).lab()));
            }
            if let Some([x, y, z]) = three(Column::Xyz, ["X", "Y", "Z"])? {
                if !(0.0..=100.5).contains(&y) || x < 0.0 || z < 0.0 {
                    return problem(line, format!("{x} {y} {z} is no surface's colour: Y lies between 0 and 100"));
                }
                return Ok(Evidence::ColourOnly(to_daylight(Xyz { x, y, z }).lab()));
            }
        }
        problem(line, "no readings in this line")
    }
}

/// Tristimulus values of a CIELAB colour relative to a white.
fn xyz_relative_to([l, a, b]: [f64; 3], white: Xyz) -> Xyz {
    let as_daylight: Xyz = Lab::new(l, a, b).xyz();
    let day = Light::Daylight.white();
    Xyz { x: as_daylight.x / day.x * white.x, y: as_daylight.y, z: as_daylight.z / day.z * white.z }
}

/// A number as it is written: short, and the same when it is read back.
fn written(n: f64) -> String {
    format!("{n}")
}

/// Whether every swatch can be written with its bands; otherwise all are written as colours, for one file has one set of columns.
fn all_spectral(swatches: &[Swatch]) -> bool {
    swatches.iter().all(|s| matches!(s.of, Evidence::Spectral(_)))
}

/// The 36 bands, or the three coordinates of the colour.
fn written_evidence(of: &Evidence, spectral: bool) -> Vec<String> {
    let lab = match of {
        Evidence::Spectral(r) if spectral => return r.0.map(written).to_vec(),
        Evidence::Spectral(r) => r.xyz().lab(),
        Evidence::ColourOnly(lab) | Evidence::Judged(Judged { lab, .. }) => *lab,
    };
    [lab.l, lab.a, lab.b].map(written).to_vec()
}
