//! How long a text, a list and an address may be: checked at the door whatever they mean, and said in the description of the API. Many mean
//! something shorter; [`stated`] says that too where a form says it.

#[cfg(feature = "description")]
mod stated;

#[cfg(feature = "description")]
pub use stated::stated;

use serde::de::{DeserializeSeed, Deserializer, Error, MapAccess, SeqAccess, Visitor};
use std::fmt;

/// Most characters of a text.
pub const MOST_CHARACTERS: usize = 20_000;
/// Most entries of a list.
pub const MOST_ENTRIES: usize = 20_000;
/// Most characters of an address with everything it asks.
pub const MOST_ADDRESS: usize = 16_000;
/// The texts that are whole files, and most characters of each.
pub(crate) const FILES: [(&str, usize); 1] = [("pigment_file", 2_000_000)];

/// Checks that no text and no list of a request is longer than fits.
///
/// # Errors
/// Says which is too long, by how much, and what to do.
pub fn checked(body: &[u8]) -> Result<(), String> {
    let mut read = serde_json::Deserializer::from_slice(body);
    match (Fits { most: MOST_CHARACTERS }).deserialize(&mut read) {
        // What is no JSON at all is told by who needs it.
        Err(e) if e.is_data() => Err(e.to_string()),
        _ => Ok(()),
    }
}

/// Goes through a value and keeps nothing.
struct Fits {
    /// Most characters of the text, if it is one.
    most: usize,
}

impl<'de> DeserializeSeed<'de> for Fits {
    type Value = ();

    fn deserialize<D: Deserializer<'de>>(self, from: D) -> Result<(), D::Error> {
        from.deserialize_any(self)
    }
}

impl<'de> Visitor<'de> for Fits {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("a value")
    }

    fn visit_bool<E>(self, _: bool) -> Result<(), E> {
        Ok(())
    }

    fn visit_i64<E>(self, _: i64) -> Result<(), E> {
        Ok(())
    }

    fn visit_u64<E>(self, _: u64) -> Result<(), E> {
        Ok(())
    }

    fn visit_f64<E>(self, _: f64) -> Result<(), E> {
        Ok(())
    }

    fn visit_unit<E>(self) -> Result<(), E> {
        Ok(())
    }

    fn visit_str<E: Error>(self, text: &str) -> Result<(), E> {
        // Most texts are short: their bytes tell already.
        let n = if text.len() > self.most { text.chars().count() } else { 0 };
        if n > self.most {
            let begins: String = text.chars().take(20).collect();
            return Err(E::custom(format!("The text \"{begins}…\" has {n} characters; {} fit. Shorten it.", self.most)));
        }
        Ok(())
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<(), A::Error> {
        let mut n = 0;
        while list.next_element_seed(Fits { most: MOST_CHARACTERS })?.is_some() {
            n += 1;
            if n > MOST_ENTRIES {
                return Err(A::Error::custom(format!("A list has more than {MOST_ENTRIES} entries, which is more than fit. Part it.")));
            }
        }
        Ok(())
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        while let Some(name) = map.next_key::<std::borrow::Cow<str>>()? {
            let most = FILES.iter().find(|(file, _)| *file == name).map_or(MOST_CHARACTERS, |(_, most)| *most);
            map.next_value_seed(Fits { most })?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn refused(body: &serde_json::Value) -> Option<String> {
        checked(body.to_string().as_bytes()).err()
    }

    #[test]
    fn what_is_too_long_is_refused_wherever_it_stands() {
        let long = |n: usize| "ü".repeat(n);
        assert_eq!(refused(&json!({ "a": [{ "b": long(MOST_CHARACTERS) }], "c": vec![1; MOST_ENTRIES] })), None);
        let said = refused(&json!({ "a": [{ "b": long(MOST_CHARACTERS + 1) }] })).unwrap();
        assert!(said.contains("20001 characters; 20000 fit"), "{said}");
        assert!(refused(&json!([[vec![0.5; MOST_ENTRIES + 1]]])).unwrap().contains("20000 entries"));
        assert_eq!(refused(&json!({ "pigment_file": long(MOST_CHARACTERS + 1) })), None, "a file is long");
        assert!(refused(&json!({ "pigment_file": long(FILES[0].1 + 1) })).is_some());
        assert!(refused(&json!({ "pigment_file": { "text": long(MOST_CHARACTERS + 1) } })).is_some(), "only the text itself");
        assert_eq!(checked(b"{\"a\": [1, 2"), Ok(()), "what is no JSON is told elsewhere");
    }
}
