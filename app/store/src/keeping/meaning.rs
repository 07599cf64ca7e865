//! What rows of an archive mean, however they are written: spaces, the order of names and the letters of a number say nothing.

use crate::Store;
use serde_json::Value;
use std::collections::BTreeMap;
use std::fmt::Write;

/// Half a SHA-256 of what the fields of a row mean; its `sum` aside, which is of its letters. `fields` are JSON texts by name.
pub(super) fn meaning(fields: &BTreeMap<&str, String>) -> String {
    let mut all = String::new();
    for (name, text) in fields.iter().filter(|(name, _)| **name != "sum") {
        let value = serde_json::from_str(text).unwrap_or(Value::Null);
        canonical(&Value::String((*name).to_owned()), &mut all);
        canonical(&value, &mut all);
    }
    let mut digest = Store::digest_of(all.as_bytes());
    digest.truncate(32);
    digest
}

/// One way to write a value: names in their order, whole numbers without a point, others with the fewest digits that tell them from their neighbours.
fn canonical(value: &Value, out: &mut String) {
    const EXACT: f64 = 9_007_199_254_740_992.0;
    match value {
        Value::Number(n) => {
            let written = match (n.as_i64(), n.as_f64()) {
                (Some(i), _) => write!(out, "{i}"),
                (None, Some(x)) if x.fract() == 0.0 && x.abs() < EXACT => write!(out, "{}", x as i64),
                (None, x) => write!(out, "{:e}", x.unwrap_or(0.0)),
            };
            // Writing to a text does not fail.
            let _ = written;
        }
        Value::Array(all) => {
            out.push('[');
            for one in all {
                canonical(one, out);
                out.push(',');
            }
            out.push(']');
        }
        Value::Object(fields) => {
            out.push('{');
            let sorted: BTreeMap<&String, &Value> = fields.iter().collect();
            for (name, one) in sorted {
                canonical(&Value::String(name.clone()), out);
                out.push(':');
                canonical(one, out);
                out.push(',');
            }
            out.push('}');
        }
        Value::String(s) => {
            let _ = write!(out, "{}:{s}", s.len());
        }
        other => out.push_str(&other.to_string()),
    }
}

/// JSON written anew as this program would write what it means.
pub(super) fn tidied(json: &str) -> String {
    serde_json::from_str::<Value>(json).map_or_else(|_| json.to_owned(), |v| v.to_string())
}

/// JSON without the spaces between its parts.
pub(super) fn compact(json: &str) -> String {
    let (mut within, mut escaped) = (false, false);
    let mut keep = |c: &char| {
        let was_within = within;
        if within {
            within = escaped || *c != '"';
            escaped = !escaped && *c == '\\';
        } else {
            within = *c == '"';
        }
        was_within || !c.is_ascii_whitespace()
    };
    json.chars().filter(|c| keep(c)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(text: &str) -> String {
        meaning(&BTreeMap::from([("body", text.to_owned())]))
    }

    #[test]
    fn spaces_order_and_letters_of_numbers_mean_nothing_and_everything_else_does() {
        let as_written = of(r#"{"l":1.0,"name":"a \"b\"","z":[1,2.5]}"#);
        assert_eq!(as_written, of("{ \"z\": [1, 2.50],\n \"name\" : \"a \\u0022b\\u0022\", \"l\": 1 }"));
        for other in
            [r#"{"l":1.5,"name":"a \"b\"","z":[1,2.5]}"#, r#"{"l":1,"name":"a \"b\"","z":[2.5,1]}"#, r#"{"l":1,"name":"a b","z":[1,2.5]}"#]
        {
            assert_ne!(as_written, of(other), "{other}");
        }
    }

    #[test]
    fn spaces_within_words_stay() {
        assert_eq!(compact("{ \"a \\\" b\" : [ 1 , 2 ] }"), "{\"a \\\" b\":[1,2]}");
    }
}
