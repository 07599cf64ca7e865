//! The pigment file: `{"pigments":[{"id","name","k":[36],"s":[36],"white":bool}]}`.

use crate::pigment::{Pigment, PigmentId};
use serde::{Deserialize, Serialize};
use std::collections::HashSet;

/// What a pigment file holds. Fields beyond id, name, k, s and white are optional.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub(crate) struct PigmentFile {
    /// The pigments, each with 36 absorption and 36 scattering numbers.
    pub pigments: Vec<Pigment>,
}

/// Reads and checks a pigment file.
///
/// # Errors
/// Says at which line the text stops being JSON, or which pigment is wrong and how.
pub fn read(text: &str) -> Result<Vec<Pigment>, String> {
    let file: PigmentFile = serde_json::from_str(text)
        .map_err(|e| format!("this is not a pigment file: {e}. It should look like {{\"pigments\":[{{\"id\",\"name\",\"k\":[36 numbers],\"s\":[36 numbers],\"white\":false}}]}}"))?;
    if file.pigments.is_empty() {
        return Err("the pigment file holds no pigment: put at least one into \"pigments\"".into());
    }
    let mut seen: HashSet<&PigmentId> = HashSet::new();
    for p in &file.pigments {
        p.check()?;
        if !seen.insert(&p.id) {
            return Err(format!("two pigments are both called \"{}\": give each an id of its own", p.id));
        }
    }
    Ok(file.pigments)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn one(k: &str) -> String {
        let s = vec!["0.5"; 36].join(",");
        format!("{{\"pigments\":[{{\"id\":\"a\",\"name\":\"A\",\"k\":[{k}],\"s\":[{s}],\"white\":false}}]}}")
    }

    #[test]
    fn a_sound_file_is_read() {
        let p = read(&one(&vec!["1"; 36].join(","))).unwrap();
        assert_eq!((p.len(), p[0].id.0.as_str()), (1, "a"));
    }

    #[test]
    fn what_is_wrong_is_named() {
        assert!(read(&one("1,2")).unwrap_err().contains("2 numbers"));
        let mut bands = vec!["1"; 36];
        bands[3] = "-1";
        assert!(read(&one(&bands.join(","))).unwrap_err().contains("410 nm"));
        assert!(read("{").unwrap_err().contains("not a pigment file"));
        assert!(read("{\"pigments\":[]}").unwrap_err().contains("no pigment"));
        let twice = one(&vec!["1"; 36].join(","));
        let entry = &twice["{\"pigments\":[".len()..twice.len() - 2];
        assert!(read(&format!("{{\"pigments\":[{entry},{entry}]}}")).unwrap_err().contains("both called"));
    }
}
