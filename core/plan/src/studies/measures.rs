//! What makes a study differ, in words: values, balance of warm and cool, strength, what ties it together, and how it hangs.

use crate::wall::{loudness, room};
use lean_colour::temperature::SAME;
use lean_colour::{Lab, Temperature};
use lean_media::PigmentId;
use lean_piece::{Piece, Study};

/// Difference of mean chroma that is seen between two versions of a picture. A choice.
const STRONGER: f64 = 3.0;
/// Share of the picture that a pigment must be in before it ties it together. A choice.
const TIES: f64 = 0.6;

/// How a study differs from the plan and from the others, a sentence each. `name` is what the painter calls a pigment.
pub fn measures(piece: &Piece, study: &Study, name: &dyn Fn(&PigmentId) -> String) -> Vec<String> {
    let laid: Vec<(f64, Lab, &Study)> =
        study.mixes.iter().filter_map(|m| Some((piece.zone(m.zone)?.reading.area, m.mix.lab, study))).collect();
    let area: f64 = laid.iter().map(|l| l.0).sum();
    if area <= 0.0 {
        return Vec::new();
    }
    let share = |is: &dyn Fn(Lab) -> bool| laid.iter().filter(|l| is(l.1)).map(|l| l.0).sum::<f64>() / area;
    let mean = |f: &dyn Fn(Lab) -> f64| laid.iter().map(|l| l.0 * f(l.1)).sum::<f64>() / area;
    let mut said = vec![values(&laid.iter().map(|l| l.1).collect::<Vec<_>>())];
    said.push(balance(share(&|l| l.temperature().0 > SAME), share(&|l| l.temperature().0 < -SAME)));
    let plan = piece.zones.iter().map(|z| z.reading.area * piece.wanted(z).chroma()).sum::<f64>() / area;
    said.push(strength(mean(&|l| l.chroma()), plan));
    said.extend(tied(piece, study, area, name));
    if let Some(wall) = &piece.wall {
        let colours: Vec<Lab> = study.mixes.iter().map(|m| m.mix.lab).collect();
        said.extend(loudness::voice_of(piece, &colours, &wall.reading).map(|v| loudness::sentence(&v)));
        said.extend(wall.reading.room.and_then(|r| room::stands(&r, Temperature(mean(&|l| l.temperature().0)))).map(str::to_owned));
    }
    said
}

fn values(colours: &[Lab]) -> String {
    let values = colours.iter().map(|l| l.value().0);
    let (low, high) = (values.clone().fold(f64::INFINITY, f64::min), values.fold(0.0, f64::max));
    format!("Values from {low:.1} to {high:.1}.")
}

fn balance(warm: f64, cool: f64) -> String {
    // A share of nothing may come out a little below it.
    let percent = |s: f64| format!("{:.0} %", (100.0 * s).max(0.0));
    match (warm, cool) {
        (w, c) if w < 0.05 && c < 0.05 => "Nearly all of it is neutral.".into(),
        (w, c) if w >= c => format!("Mostly warm: {} against {} cool.", percent(w), percent(c)),
        (w, c) => format!("Mostly cool: {} against {} warm.", percent(c), percent(w)),
    }
}

fn strength(own: f64, plan: f64) -> String {
    match own - plan {
        d if d > STRONGER => format!("Stronger in colour than the plan, {own:.0} against {plan:.0}."),
        d if d < -STRONGER => format!("Quieter in colour than the plan, {own:.0} against {plan:.0}."),
        _ => format!("About as strong in colour as the plan, {own:.0}."),
    }
}

/// The pigment that lies in most of the picture.
fn tied(piece: &Piece, study: &Study, area: f64, name: &dyn Fn(&PigmentId) -> String) -> Option<String> {
    let in_it = |p: &PigmentId| {
        let has = study.mixes.iter().filter(|m| m.mix.parts.iter().any(|part| part.pigment == *p));
        has.filter_map(|m| Some(piece.zone(m.zone)?.reading.area)).sum::<f64>() / area
    };
    let (pigment, share) = study.pigments.iter().map(|p| (p, in_it(p))).max_by(|a, b| a.1.total_cmp(&b.1))?;
    Some(if share >= TIES {
        format!("Held together by {}, in {:.0} % of it.", name(pigment), 100.0 * share)
    } else {
        format!("No pigment runs through it: {} is in most, {:.0} %.", name(pigment), 100.0 * share)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_said_follows_the_figures() {
        assert_eq!(balance(0.7, 0.2), "Mostly warm: 70 % against 20 % cool.");
        assert_eq!(balance(0.6, -1e-12), "Mostly warm: 60 % against 0 % cool.");
        assert_eq!(balance(0.01, 0.02), "Nearly all of it is neutral.");
        assert!(strength(20.0, 12.0).starts_with("Stronger") && strength(9.0, 12.5).starts_with("Quieter"));
        assert_eq!(values(&[Lab::new(51.0, 0.0, 0.0), Lab::new(51.0, 5.0, 0.0)]), "Values from 5.0 to 5.0.");
    }
}
