//! The limits, written into the description of the API.

use super::{FILES, MOST_ADDRESS, MOST_CHARACTERS, MOST_ENTRIES};
use lean_piece::easel::{MOST_DEPARTURES, MOST_PHOTOS};
use lean_piece::intent::{MOST_MOODS, MOST_WORDS};
use lean_piece::paint_box::MOST_TEXT;
use lean_piece::wall::MOST_CANDIDATES;
use lean_piece::{MOST_COMPANIONS, MOST_NAME, MOST_OTHERS, MOST_SESSIONS};
use lean_plan::field_note::MOST_MARKS;
use serde_json::{Map, Value, json};
use std::collections::BTreeSet;

/// Texts and lists that fit less than any may, by the form and the field they stand in; whatever lies in them is checked by the core.
const SHORTER: &[(&str, &str, usize)] = &[
    ("Brief", "title", MOST_NAME),
    ("Intent", "purpose", MOST_WORDS),
    ("Intent", "for_whom", MOST_NAME),
    ("Intent", "moods", MOST_MOODS),
    ("Occasion", "light", MOST_NAME),
    ("Occasion", "subject", MOST_NAME),
    ("Occasion", "weather", MOST_NAME),
    ("Composition", "reason", MOST_NAME),
    ("Departure", "reason", MOST_WORDS),
    ("Ending", "words", MOST_WORDS),
    ("Easel", "departures", MOST_DEPARTURES),
    ("Easel", "photos", MOST_PHOTOS),
    ("FieldNote", "words", 300),
    ("FieldNote", "light", 80),
    ("FieldNote", "weather", 80),
    ("FieldNote", "at", 40),
    ("FieldNote", "file_name", MOST_NAME),
    ("FieldNote", "marks", MOST_MARKS),
    ("FieldMark", "word", 60),
    ("FieldMark", "pigment", 60),
    ("NewReading", "note", MOST_TEXT),
    ("ReadingChange", "note", MOST_TEXT),
    ("GroundRecord", "side", 300),
    ("GroundRecord", "rehearsals", 60),
    ("Rehearsal", "what", 300),
    ("Rehearsal", "result", 300),
    ("Aim", "also_for", MOST_COMPANIONS),
    ("NewBox", "name", 80),
    ("rename-zone", "name", MOST_NAME),
    ("set-others", "others", MOST_OTHERS),
    ("set-sessions", "sessions", MOST_SESSIONS),
    ("set-wall", "candidates", MOST_CANDIDATES),
];

/// Writes into a description how long every text, list and part of an address may be that is asked with.
pub fn stated(description: &mut Value) {
    let asked = asked_with(description);
    if let Some(components) = description.get_mut("components").and_then(Value::as_object_mut) {
        components.insert("responses".into(), any_answers());
    }
    let schemas = description.pointer_mut("/components/schemas").and_then(Value::as_object_mut);
    for (name, schema) in schemas.into_iter().flatten().filter(|(name, _)| asked.contains(*name)) {
        limit(schema, name);
    }
    let operations = description.get_mut("paths").and_then(Value::as_object_mut).into_iter().flat_map(Map::values_mut);
    for operation in operations.filter_map(Value::as_object_mut).flat_map(Map::values_mut) {
        if let Some(responses) = operation.get_mut("responses").and_then(Value::as_object_mut) {
            for (status, name, _) in ANY {
                responses.insert(status.into(), json!({ "$ref": format!("#/components/responses/{name}") }));
            }
        }
        for parameter in operation.get_mut("parameters").and_then(Value::as_array_mut).into_iter().flatten() {
            parameter.get_mut("schema").into_iter().for_each(|s| say(s, "maxLength", "string", MOST_ADDRESS));
        }
    }
}

/// Answers that any address may give: status, name in the description, reason.
const ANY: [(&str, &str, &str); 2] = [
    ("414", "AddressTooLong", "The address is longer than any the pages ask for."),
    ("431", "HeadTooLong", "The head of the request is longer than 64 kB; there is no body."),
];

fn any_answers() -> Value {
    let problem = json!({ "application/problem+json": { "schema": { "$ref": "#/components/schemas/Problem" } } });
    let answer = |(status, name, words): &(&str, &str, &str)| {
        let content = if *status == "414" { problem.clone() } else { json!({}) };
        ((*name).to_owned(), json!({ "description": words, "content": content }))
    };
    Value::Object(ANY.iter().map(answer).collect())
}

/// The schemas that bodies of requests are made of.
fn asked_with(description: &Value) -> BTreeSet<String> {
    let mut found = BTreeSet::new();
    let operations = description["paths"].as_object().into_iter().flat_map(Map::values).filter_map(Value::as_object);
    let mut open: Vec<&Value> = operations.flat_map(Map::values).map(|o| &o["requestBody"]).collect();
    while let Some(value) = open.pop() {
        if let Some(name) = value["$ref"].as_str().and_then(|r| r.rsplit('/').next())
            && found.insert(name.to_owned())
        {
            open.push(&description["components"]["schemas"][name]);
        }
        open.extend(value.as_object().into_iter().flat_map(Map::values));
        open.extend(value.as_array().into_iter().flatten());
    }
    found
}

/// Limits everything within a schema; `form` is its name, or that of the one of several shapes it has.
fn limit(schema: &mut Value, form: &str) {
    say(schema, "maxLength", "string", MOST_CHARACTERS);
    say(schema, "maxItems", "array", MOST_ENTRIES);
    let Some(parts) = schema.as_object_mut() else { return };
    for shapes in ["oneOf", "allOf", "anyOf", "prefixItems"] {
        for shape in parts.get_mut(shapes).and_then(Value::as_array_mut).into_iter().flatten() {
            let form = tag(shape).unwrap_or(form.to_owned());
            limit(shape, &form);
        }
    }
    for inner in ["items", "additionalProperties"] {
        parts.get_mut(inner).into_iter().for_each(|of| limit(of, form));
    }
    for (field, inner) in parts.get_mut("properties").and_then(Value::as_object_mut).into_iter().flatten() {
        let shorter = SHORTER.iter().find(|(f, name, _)| *f == form && name == field).map(|s| s.2);
        let file = FILES.iter().find(|(name, _)| name == field).map(|f| f.1);
        if let Some(most) = shorter.or(file) {
            say(inner, "maxLength", "string", most);
            say(inner, "maxItems", "array", most);
        }
        limit(inner, form);
    }
}

/// What tells one of several shapes from the others: the only value a field of it may have.
fn tag(shape: &Value) -> Option<String> {
    let fields = shape["properties"].as_object()?;
    fields.values().find_map(|f| f["enum"].as_array().filter(|of| of.len() == 1)?[0].as_str().map(str::to_owned))
}

/// Says a limit of a schema of that type, unless one is said.
fn say(schema: &mut Value, limit: &str, of: &str, most: usize) {
    let is = match &schema["type"] {
        Value::String(one) => one == of,
        Value::Array(all) => all.iter().any(|t| t == of),
        _ => false,
    };
    let said = |name: &str| schema.get(name).is_some();
    if is && !["enum", "const", "prefixItems", limit].into_iter().any(said) {
        schema[limit] = json!(most);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_shorter_limit_stands_in_the_description() {
        let said = crate::description::description();
        let said = serde_json::to_value(&said).unwrap();
        let schemas = &said["components"]["schemas"];
        let shapes = schemas["Request"]["oneOf"].as_array().unwrap();
        for (form, field, most) in SHORTER {
            let form = schemas
                .get(form)
                .or_else(|| shapes.iter().find(|s| tag(s).as_deref() == Some(form)))
                .unwrap_or_else(|| panic!("{form} is described"));
            let of = &form["properties"][field];
            assert!(of["maxLength"] == *most || of["maxItems"] == *most, "{field}: {of}");
        }
    }
}
