//! Health, and what there is to choose from.

use crate::extract::{Json as In, Query};
use crate::jobs::JobView;
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::{BoxLine, DamagedLine, PieceLine, PieceView, PigmentView, StudioView};
use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use lean_media::{Medium, ground, library};
use lean_piece::change::SetBrief;
use lean_piece::intent::moods::{self, Mood};
use lean_piece::intent::schools::{self, Asked};
use lean_piece::{Brief, Command, PageFormat, Piece};
use serde::{Deserialize, Serialize};

/// That the server answers.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Health {
    /// Always true.
    ok: bool,
    /// Version of the program.
    version: &'static str,
}

/// Whether the server answers and its data file can be read.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/health", responses((status = 200, body = Health), (status = 503, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn health(State(studio): State<Studio>) -> Result<Json<Health>, Problem> {
    studio.run(|s| Ok(s.store.boxes().map(|_| ())?)).await?;
    Ok(Json(Health { ok: true, version: env!("CARGO_PKG_VERSION") }))
}

/// Pieces, Boxes and grounds.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/studio", responses((status = 200, body = StudioView))))]
pub(crate) async fn overview(State(studio): State<Studio>) -> Result<Json<StudioView>, Problem> {
    studio
        .run(|s| {
            let boxes = s.store.boxes()?;
            Ok(Json(StudioView {
                pieces: s.store.pieces()?.into_iter().map(PieceLine::from).collect(),
                boxes: boxes
                    .into_iter()
                    .map(|b| BoxLine { id: b.id, name: b.paint_box.name, medium: b.paint_box.medium, pigments: b.paint_box.pigments.len() })
                    .collect(),
                damaged: s.store.damaged()?.into_iter().map(DamagedLine::from).collect(),
                troubles: super::keeping::troubles(s),
                demo: s.visiting.is_some(),
                home: s.home.as_deref().map(str::to_owned),
                simulates: s.simulates,
                played: super::played::played_readings(s)?,
                can_quit: s.quit.is_some(),
                earlier_data: s.store.older_shape().map(|o| o.kept.display().to_string()),
                filling: s.filling.now(),
                grounds: ground::shipped().iter().cloned().chain(super::grounds::own(s)?).collect(),
            }))
        })
        .await
}

/// Opens the demo studio at an address of its own, which the job then names. Its data file lies beside one's own, which is not touched.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/demo", operation_id = "visit_demo", responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn visit_demo(State(studio): State<Studio>, headers: HeaderMap) -> Result<(StatusCode, Json<JobView>), Problem> {
    let visiting = studio.visiting.clone().ok_or_else(|| Problem::not_found("There is no demo studio to visit from here."))?;
    let host = headers.get(header::HOST).and_then(|h| h.to_str().ok()).unwrap_or("127.0.0.1");
    let home = format!("http://{host}");
    let view = studio.jobs.start_long(0, "opening the demo studio", move |job| {
        job.leads_to(visiting(&home)?);
        Ok(())
    });
    Ok((StatusCode::ACCEPTED, Json(view)))
}

/// Answer to *Quit*: the place of the data.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Ended {
    /// Where the data file lies; none where everything lay in memory.
    data: Option<String>,
}

/// Ends the program. Everything is saved; requests and work under way have a moment to end.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/quit", operation_id = "quit", responses((status = 200, body = Ended), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn quit(State(studio): State<Studio>) -> Result<Json<Ended>, Problem> {
    let quit = studio.quit.as_ref().ok_or_else(|| Problem::not_found("This program cannot be ended from a page."))?;
    quit.ask();
    Ok(Json(Ended { data: studio.store.path().map(|p| p.display().to_string()) }))
}

/// In which medium pigments are to be shown.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct InMedium {
    /// Oil when left out.
    medium: Option<Medium>,
}

/// The shipped modelled pigments.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/library", params(InMedium), responses((status = 200, body = Vec<PigmentView>), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn shipped_pigments(Query(asked): Query<InMedium>) -> Json<Vec<PigmentView>> {
    let medium = asked.medium.unwrap_or(Medium::Oil);
    Json(library::modelled().iter().map(|p| PigmentView::of(p, medium)).collect())
}

/// Choices of the brief in a medium.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Choices {
    /// Questions painters answer differently.
    schools: Vec<Asked>,
    /// Mood words with what each usually does.
    moods: Vec<Mood>,
}

/// Schools and mood words to choose from in a medium.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/choices", params(InMedium), responses((status = 200, body = Choices), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn choices(Query(asked): Query<InMedium>) -> Json<Choices> {
    Json(Choices { schools: schools::asked(asked.medium.unwrap_or(Medium::Oil)), moods: moods::shipped() })
}

/// A new piece.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NewPiece {
    /// What it is.
    brief: Brief,
    /// Paper in the painter's printer; A4 when left out.
    page: Option<PageFormat>,
}

/// Starts a piece. It draws on the first Box of its medium, if there is one.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces", request_body = NewPiece, responses((status = 201, body = PieceView), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn create_piece(State(studio): State<Studio>, In(new): In<NewPiece>) -> Result<(StatusCode, Json<PieceView>), Problem> {
    let view = studio
        .run(move |s| {
            let mut piece = Piece::new(new.brief.clone()).apply(Command::SetBrief(SetBrief { brief: new.brief }))?.0;
            piece.paint_box = s.store.boxes()?.into_iter().find(|b| b.paint_box.medium == piece.brief.medium).map(|b| b.id);
            piece.sheet.page = new.page.unwrap_or_default();
            let kept = s.store.create_piece(&piece)?;
            let paint_box = s.box_of(&kept)?;
            Ok(PieceView::of(kept, paint_box.as_ref(), &s.lists))
        })
        .await?;
    Ok((StatusCode::CREATED, Json(view)))
}
