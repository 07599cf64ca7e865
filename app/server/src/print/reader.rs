//! How numbers are written where the reader is.

use axum::extract::FromRequestParts;
use axum::http::header;
use axum::http::request::Parts;
use lean_plan::paper::{Item, Sheet};
use std::convert::Infallible;

/// Languages whose numbers are set off by a comma, as the Unicode CLDR has them, those of painters' programs first.
const COMMA: &str =
    "de fr it es nl pt pl ru uk cs sk sl hr sr bs mk bg ro hu el tr sv da nb nn no fi is et lv lt ca eu gl id vi ka hy az kk sq be fo af";
/// Places of these languages where it is a point all the same.
const POINT: &str = "de-CH de-LI it-CH es-419 es-MX es-US es-PR es-DO es-GT es-HN es-NI es-PA es-PE es-SV es-CU";

/// The reader of a sheet: the sheet's words are the program's, its numbers the reader's.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Reader {
    comma: bool,
}

impl Reader {
    /// By the first of the languages a browser says its reader reads, such as `de-AT,de;q=0.9,en;q=0.8`.
    pub(crate) fn of(languages: &str) -> Self {
        let first = languages.split([',', ';']).next().unwrap_or_default().trim();
        let listed = |list: &str, one: &str| list.split(' ').any(|l| l.eq_ignore_ascii_case(one));
        let language = first.split('-').next().unwrap_or_default();
        Self { comma: listed(COMMA, language) && !listed(POINT, first) }
    }

    /// Sheets with their numbers written for the reader.
    pub(crate) fn sheets(self, mut sheets: Vec<Sheet>) -> Vec<Sheet> {
        if self.comma {
            for mark in sheets.iter_mut().flat_map(|s| &mut s.marks) {
                if let Item::Text { text, .. } = mark {
                    *text = set_off(text);
                }
            }
        }
        sheets
    }
}

impl<S: Sync> FromRequestParts<S> for Reader {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Infallible> {
        let said = parts.headers.get(header::ACCEPT_LANGUAGE).and_then(|v| v.to_str().ok());
        Ok(Self::of(said.unwrap_or_default()))
    }
}

/// Every point between two digits becomes a comma.
fn set_off(text: &str) -> String {
    let letters: Vec<char> = text.chars().collect();
    let digit = |at: Option<usize>| at.and_then(|i| letters.get(i)).is_some_and(char::is_ascii_digit);
    let written = letters.iter().enumerate().map(|(i, c)| match c {
        '.' if digit(i.checked_sub(1)) && digit(Some(i + 1)) => ',',
        c => *c,
    });
    written.collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_written_as_they_are_where_the_reader_is() {
        for (languages, comma) in [
            ("de-AT,de;q=0.9,en;q=0.8", true),
            ("fr", true),
            ("pt-BR,pt", true),
            ("de-CH, de", false),
            ("es-MX", false),
            ("en-GB,de;q=0.5", false),
            ("", false),
            ("*", false),
        ] {
            assert_eq!(Reader::of(languages), Reader { comma }, "{languages}");
        }
        assert_eq!(set_off("Value 5.2, a hair. 0.4 of a step; v.2 and 3."), "Value 5,2, a hair. 0,4 of a step; v.2 and 3.");
        let text = |text: &str| Item::Text { x: 0.0, y: 0.0, size: 3.0, bold: false, text: text.into() };
        let sheet = || Sheet { width: 210.0, height: 297.0, title: "1.5".into(), marks: vec![text("2.5 mm")] };
        let written = |languages: &str| match &Reader::of(languages).sheets(vec![sheet()])[0].marks[0] {
            Item::Text { text, .. } => text.clone(),
            _ => String::new(),
        };
        assert_eq!((written("de"), written("en")), ("2,5 mm".into(), "2.5 mm".into()));
    }
}
