//! Devices that were paired, and pairing.

use crate::extract::{Json as In, Path};
use crate::guard;
use crate::problem::Problem;
use crate::serving::Peer;
use crate::sharing::{CODE_LASTS, Sharing};
use crate::state::Studio;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::IntoResponse;
use axum::{Extension, Json};
use qrcode::QrCode;
use qrcode::render::svg;
use serde::{Deserialize, Serialize};
use std::net::Ipv4Addr;

/// A paired device for the screen.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct DeviceLine {
    /// Its number.
    id: i64,
    /// What it was called.
    name: String,
    /// When it was paired, UTC.
    paired: String,
    /// When it was last here, UTC, to the hour.
    seen: String,
}

/// Where devices come to, and which may.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Devices {
    /// Where they come to; `None` while nothing is shared.
    address: Option<String>,
    /// Whether what goes to and fro is encrypted.
    encrypted: bool,
    /// Those that were paired.
    devices: Vec<DeviceLine>,
}

/// A code for one device.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PairingCode {
    /// What the device opens.
    url: String,
    /// The same as a picture to be photographed, SVG.
    drawn: String,
    /// For how many minutes.
    minutes: u64,
}

/// What a device shows to be paired.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Shown {
    /// The code.
    code: String,
    /// What it is to be called, 1..=40 characters.
    name: String,
}

fn sharing(studio: &Studio) -> Result<&Sharing, Problem> {
    studio
        .sharing
        .as_deref()
        .ok_or_else(|| Problem::unusable("Nothing is shared. Start the program with `lean-swatch serve --share` on a network you trust."))
}

/// Devices that were paired.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/devices", operation_id = "list_devices", responses((status = 200, body = Devices))))]
pub(crate) async fn list(State(studio): State<Studio>) -> Result<Json<Devices>, Problem> {
    studio
        .run(|s| {
            let line = |d: lean_store::Device| DeviceLine { id: d.id, name: d.name, paired: d.paired, seen: d.seen };
            Ok(Json(Devices {
                address: s.sharing.as_ref().map(|a| a.url()),
                encrypted: s.sharing.as_ref().is_some_and(|a| a.encrypted()),
                devices: s.store.devices()?.into_iter().map(line).collect(),
            }))
        })
        .await
}

/// A code for one device, used once within ten minutes.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/devices/code", operation_id = "new_pairing_code", responses((status = 201, body = PairingCode), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn code(State(studio): State<Studio>) -> Result<(StatusCode, Json<PairingCode>), Problem> {
    let sharing = sharing(&studio)?;
    // After the hash, which no browser sends on and no log keeps.
    let url = format!("{}/pair#{}", sharing.url(), sharing.new_code().map_err(Problem::internal)?);
    let drawn = QrCode::new(&url).map_err(|e| Problem::internal(e.to_string()))?;
    let drawn = drawn.render::<svg::Color>().min_dimensions(220, 220).build();
    Ok((StatusCode::CREATED, Json(PairingCode { url, drawn, minutes: CODE_LASTS.as_secs() / 60 })))
}

/// Sends a device away.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/devices/{id}", operation_id = "send_device_away", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn away(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.send_device_away(id)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Pairs the device that shows a code: it is given a cookie.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pair", operation_id = "pair_device", request_body = Shown, responses((status = 204), (status = 403, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn pair(
    State(studio): State<Studio>,
    peer: Option<Extension<Peer>>,
    In(shown): In<Shown>,
) -> Result<impl IntoResponse, Problem> {
    let name = shown.name.trim().to_owned();
    if !(1..=40).contains(&name.chars().count()) {
        return Err(Problem::unusable("A device needs a name of 1 to 40 characters."));
    }
    let encrypted = sharing(&studio)?.encrypted();
    let from = peer.map_or(Ipv4Addr::UNSPECIFIED.into(), |Extension(Peer(ip))| ip);
    let carries = studio.run(move |s| sharing(s)?.pair(&s.store, &shown.code, &name, from).map_err(Problem::internal)).await?;
    let secret = carries.ok_or_else(|| {
        let detail = "That code was used, is too old, or is none. Ask for another on the machine where the studio is.";
        Problem::new(StatusCode::FORBIDDEN, "no-such-code", "Not paired", detail)
    })?;
    Ok((StatusCode::NO_CONTENT, [(header::SET_COOKIE, guard::devices::cookie(&secret, encrypted))]))
}
