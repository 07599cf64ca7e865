//! A booklet of studies.

use super::super::sheet::WhichCopy;
use crate::extract::Query;
use crate::print::{self, Reader};
use crate::problem::Problem;
use crate::state::Studio;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_piece::{PageFormat, StudyNumber};
use lean_plan::studies::booklet::{Chapter, booklet};
use lean_plan::studies::sheet::Copy;
use serde::Deserialize;

/// What goes into the booklet.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Booklet {
    /// Studies by piece and number, as in `1:2,1:3,4:1`.
    of: String,
    /// What it is called; "Studies" when left out.
    title: Option<String>,
    /// Paper; A4 when left out.
    page: Option<PageFormat>,
    /// Painted, flat or outlines.
    copy: Option<WhichCopy>,
}

/// Studies by piece, in the order in which the pieces were named first.
fn chapters(text: &str) -> Result<Vec<(i64, Vec<StudyNumber>)>, Problem> {
    let mut all: Vec<(i64, Vec<StudyNumber>)> = Vec::new();
    for word in text.split(',').map(str::trim).filter(|w| !w.is_empty()) {
        let read = word.split_once(':').and_then(|(p, n)| Some((p.parse().ok()?, StudyNumber(n.parse().ok()?))));
        let (piece, number) =
            read.ok_or_else(|| Problem::unusable(format!("\"{word}\" names no study. Write piece and number, as 4:1.")))?;
        match all.iter_mut().find(|(p, _)| *p == piece) {
            Some((_, numbers)) if numbers.contains(&number) => {}
            Some((_, numbers)) => numbers.push(number),
            None => all.push((piece, vec![number])),
        }
    }
    Ok(all)
}

/// Studies of several pieces as one PDF at true size, with what is in it on its first page.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/journal/booklet.pdf", operation_id = "print_booklet", params(Booklet), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn pdf(State(studio): State<Studio>, Query(asked): Query<Booklet>, reader: Reader) -> Result<Response, Problem> {
    let chosen = chapters(&asked.of)?;
    let title: String = asked.title.filter(|t| !t.trim().is_empty()).unwrap_or_else(|| "Studies".into()).chars().take(80).collect();
    let copy = Copy::from(asked.copy.unwrap_or_default());
    let bytes = studio
        .run(move |s| {
            let pieces = chosen
                .iter()
                .map(|(id, numbers)| {
                    let kept = s.store.piece(*id)?;
                    let paint_box = s.box_of(&kept)?.ok_or_else(|| {
                        Problem::unusable(format!("\"{}\" draws on no Box, so its recipes cannot be written.", kept.piece.brief.title))
                    })?;
                    Ok((kept.piece, paint_box, numbers))
                })
                .collect::<Result<Vec<_>, Problem>>()?;
            let chapters: Vec<Chapter> =
                pieces.iter().map(|(piece, paint_box, n)| Chapter { piece, paint_box, studies: n.to_vec() }).collect();
            let sheets = booklet(&title, &chapters, asked.page.unwrap_or_default(), copy).map_err(Problem::unusable)?;
            print::pdf::write(&reader.sheets(sheets)).map_err(Problem::internal)
        })
        .await?;
    Ok(([(header::CONTENT_TYPE, "application/pdf"), (header::CONTENT_DISPOSITION, "inline; filename=\"booklet.pdf\"")], bytes)
        .into_response())
}
