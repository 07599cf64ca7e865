//! Typed colours, understood.

use crate::extract::Query;
use crate::problem::Problem;
use axum::Json;
use lean_colour::typed::{self, Typed};
use lean_colour::{Lab, Srgb8};
use serde::{Deserialize, Serialize};

/// A colour in numbers or words.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
pub(crate) struct Text {
    /// `#33aa66`, `60 20 -10`, `lch 60 30 250`, or words: "pale blue grey".
    text: String,
}

/// A colour that was typed.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct TypedColour {
    /// The colour.
    lab: Lab,
    /// For the screen.
    screen: Srgb8,
    /// True where it was said in words, and is doubtful.
    in_words: bool,
}

/// The colour that a text is taken for.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/colour", operation_id = "read_colour", params(Text), responses((status = 200, body = TypedColour), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(Query(typed): Query<Text>) -> Result<Json<TypedColour>, Problem> {
    let read = typed::read(&typed.text).map_err(Problem::unusable)?;
    let lab = read.lab();
    Ok(Json(TypedColour { lab, screen: lab.xyz().srgb(), in_words: matches!(read, Typed::Words(_)) }))
}
