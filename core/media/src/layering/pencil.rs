//! Coloured pencil: strokes that cover part of the tooth, overlap as they fall (Demichel 1924), with paper shining between them
//! (Yule & Nielsen 1951).

use super::{Bands, Building, Layer, Refused, Top};
use crate::broken::overlaps;
use crate::film;
use crate::pigment::Pigment;
use lean_colour::Share;

/// One pencil: how much of the tooth all its layers cover, and the film they leave.
struct Stroke<'a> {
    pigment: &'a Pigment,
    /// Share of the tooth that its layers have missed so far.
    missed: f64,
    film: f64,
    cover: f64,
    k: Bands,
    s: Bands,
}

/// Most changes of pencil over one another: every one doubles the number of overlaps.
const MOST_CHANGES: usize = 10;

pub(super) fn lay(b: &mut Building, run: &[&Layer]) -> Result<(), Refused> {
    let strokes = strokes(b, run)?;
    b.enter(b.choices.pencil.surface);
    let n = b.choices.pencil.spread;
    let areas = overlaps(&strokes.iter().map(|s| Share(s.cover)).collect::<Vec<_>>());
    for i in 0..b.inside.len() {
        let paper = b.inside[i];
        let seen = |state: usize| {
            let there = strokes.iter().enumerate().filter(|(at, _)| state >> at & 1 == 1);
            there.fold(paper, |below, (_, s)| film::over(s.k[i], s.s[i], s.film, below))
        };
        b.inside[i] = areas.iter().enumerate().map(|(state, area)| area.0 * seen(state).max(0.0).powf(1.0 / n)).sum::<f64>().powf(n);
    }
    if matches!(run.last(), Some(Layer::Burnishing)) {
        b.top = Top::Surface(b.choices.pencil.burnished);
    }
    Ok(())
}

fn strokes<'a>(b: &mut Building, run: &[&Layer<'a>]) -> Result<Vec<Stroke<'a>>, Refused> {
    let c = b.choices.pencil;
    let holds = c.most_film.min(b.ground.pencil_film);
    let mut strokes: Vec<Stroke> = Vec::new();
    let mut laid = 0usize;
    for layer in run {
        match layer {
            Layer::Pencil { of, pressure } => {
                let room = holds - strokes.iter().map(|s| s.film).sum::<f64>();
                if room <= 1e-9 {
                    return Err(Refused::ToothFull { ground: b.ground.name.clone(), what: "pencil", after: laid });
                }
                let film = c.film * pressure.0;
                if film > room + 1e-9 {
                    b.remark(format!("The tooth took only {:.0} % of the last layer of \"{}\".", 100.0 * room / film, of.id));
                }
                // Only layers laid straight on their own kind are one; with another pencil between them they stay apart.
                if strokes.last().is_none_or(|s| s.pigment.id != of.id) {
                    let bands = |v: &[f64]| std::array::from_fn(|i| v[i]);
                    let (k, s) = c.in_wax(of, b.choices.dulling);
                    strokes.push(Stroke { pigment: of, missed: 1.0, film: 0.0, cover: 0.0, k: bands(&k), s: bands(&s) });
                }
                let Some(stroke) = strokes.last_mut() else { continue };
                stroke.missed *= (-c.cover_rate * pressure.0).exp();
                stroke.film += film.min(room);
                stroke.cover = c.most_cover * (1.0 - stroke.missed);
                laid += 1;
            }
            Layer::Burnishing => burnish(&mut strokes, c.burnished_cover, c.burnished_film, c.burnished_mixing),
            _ => {}
        }
    }
    if strokes.len() > MOST_CHANGES {
        return Err(Refused::Amount(format!(
            "{} changes of pencil over one another: {MOST_CHANGES} are the most that can be followed",
            strokes.len()
        )));
    }
    Ok(strokes)
}

/// Presses everything flat: cover grows, films thin, and the top layer takes in some of the one below.
fn burnish(strokes: &mut [Stroke], cover: f64, film: f64, mixing: f64) {
    for s in strokes.iter_mut() {
        s.cover = cover;
        s.film *= film;
    }
    if let [.., below, top] = strokes {
        for i in 0..top.k.len() {
            top.k[i] = (1.0 - mixing) * top.k[i] + mixing * below.k[i];
            top.s[i] = (1.0 - mixing) * top.s[i] + mixing * below.s[i];
        }
    }
}
