//! Greys over colour: which grey, laid over a colour, drops its value by so much with most of the colour left, and which lighter pen lifts it again.

use crate::mark::Mark;
use crate::mixes::swatch;
use lean_colour::{Lab, Steps, Temperature};
use lean_media::forms::{self, Form};
use lean_media::layering::{Layering, State};
use lean_media::{Ground, Medium, Pigment, PigmentId, ground};
use lean_piece::paint_box::PaintBox;
use lean_recipes::{mix_layers, telling};
use serde::Serialize;

/// Most chroma of a grey. A choice.
const GREY: f64 = 12.0;
/// Steps within which the wanted drop is met. A choice.
const MET: f64 = 0.35;
/// How many are told.
const TOLD: usize = 6;

/// A grey over a colour.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GreyOver {
    /// Which grey.
    pub grey: PigmentId,
    /// What is laid, first laid first.
    pub laid: String,
    /// The colour alone.
    pub before: Mark,
    /// With the grey over it.
    pub after: Mark,
    /// Steps it drops.
    pub drop: f64,
    /// Share of the colour's chroma that is left, 0..=1 or more.
    pub left: f64,
    /// A lighter pigment that lifts it again; `None` where none does.
    pub lifted: Option<LiftedAgain>,
}

/// What lifts a colour that was greyed.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LiftedAgain {
    /// Which pigment, laid over it.
    pub by: PigmentId,
    /// What it becomes.
    pub becomes: Mark,
}

/// Greys of a Box over one of its pigments that drop its value by `drop`, those that leave most colour first.
///
/// # Errors
/// When the pigment is not in the Box or is a grey itself, or the medium is mixed wet and lays nothing over another.
pub fn greys_over(paint_box: &PaintBox, pigment: &PigmentId, drop: Steps) -> Result<Vec<GreyOver>, String> {
    let medium = paint_box.medium;
    if medium.is_wet_opaque() {
        return Err("Oil is mixed before it is laid: grey it with its opposite instead.".into());
    }
    let colour = paint_box.find(pigment).ok_or_else(|| format!("\"{pigment}\" is not in this Box."))?;
    let ground = ground::usual(medium);
    let alone = swatch(medium, &ground, colour);
    if alone.chroma() <= GREY {
        return Err(format!("{} is a grey itself. Choose a colour to lay a grey over.", crate::wording::capital(&colour.name)));
    }
    let greys = paint_box.pigments.iter().filter(|p| p.id != *pigment && !p.owned.used_up && swatch(medium, &ground, p).chroma() <= GREY);
    // The colour as its swatch is laid, a grey over it in one or two layers.
    let forms: Vec<Form> = forms::list(medium, &ground, 2, 3).into_iter().filter(|f| f.lays_in_turn()).collect();
    let name = |id: &PigmentId| paint_box.name_of(id);
    let mut found: Vec<(f64, GreyOver)> = Vec::new();
    for grey in greys {
        let best = forms.iter().filter_map(|f| {
            let after = laid(medium, &ground, f, &[colour, grey])?;
            let drops = alone.value().0 - after.value().0;
            Some(((drops - drop.0).abs(), f, after, drops))
        });
        let near = best.filter(|b| b.0 <= MET).max_by(|a, b| a.2.chroma().total_cmp(&b.2.chroma()));
        let Some((_, form, after, drop)) = near else { continue };
        let left = after.chroma() / alone.chroma().max(1e-6);
        let laid = telling::layers(&mix_layers(medium, &ground, form, &[colour, grey]), &name);
        let lifted = lifted(paint_box, &ground, form, colour, grey, after);
        let (before, after) = (Mark::of(alone, Temperature(0.0)), Mark::of(after, Temperature(0.0)));
        found.push((left, GreyOver { grey: grey.id.clone(), laid, before, after, drop, left, lifted }));
    }
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    Ok(found.into_iter().take(TOLD).map(|f| f.1).collect())
}

fn laid(medium: Medium, ground: &Ground, form: &Form, of: &[&Pigment]) -> Option<Lab> {
    let layers = form.layering(medium, ground, of);
    Some(Layering { ground, layers }.lay(State::Dry).ok()?.reflectance.xyz().lab())
}

/// The lighter pigment that, laid over it once more, lifts it the most.
fn lifted(paint_box: &PaintBox, ground: &Ground, form: &Form, colour: &Pigment, grey: &Pigment, from: Lab) -> Option<LiftedAgain> {
    let medium = paint_box.medium;
    let once = forms::swatch(medium)?;
    let tried = paint_box.pigments.iter().filter(|p| p.id != colour.id && p.id != grey.id && !p.owned.used_up).filter_map(|p| {
        let mut layers = form.layering(medium, ground, &[colour, grey]);
        layers.extend(once.layering(medium, ground, &[p]));
        let lab = Layering { ground, layers }.lay(State::Dry).ok()?.reflectance.xyz().lab();
        Some((p.id.clone(), lab))
    });
    let best = tried.max_by(|a, b| a.1.l.total_cmp(&b.1.l))?;
    (best.1.value().0 >= from.value().0 + 0.15).then(|| LiftedAgain { by: best.0, becomes: Mark::of(best.1, Temperature(0.0)) })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn pens() -> PaintBox {
        let b = lean_demo::pens();
        PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
    }

    #[test]
    fn a_grey_over_a_colour_drops_it_and_leaves_colour() {
        let b = pens();
        let ground = ground::usual(b.medium);
        let strong =
            b.pigments.iter().max_by(|x, y| swatch(b.medium, &ground, x).chroma().total_cmp(&swatch(b.medium, &ground, y).chroma()));
        let found = greys_over(&b, &strong.unwrap().id, Steps(1.0)).unwrap();
        assert!(!found.is_empty());
        for g in &found {
            assert!((g.drop - 1.0).abs() <= MET && g.after.value.0 < g.before.value.0, "{g:?}");
            let grey = swatch(b.medium, &ground, b.find(&g.grey).unwrap());
            assert!(grey.chroma() <= GREY);
            assert!(g.lifted.as_ref().is_none_or(|l| l.becomes.value.0 > g.after.value.0));
        }
        assert!(found.windows(2).all(|w| w[0].left >= w[1].left), "most colour first");
    }

    #[test]
    fn what_cannot_be_is_said() {
        let oils = lean_demo::oils();
        let oils = PaintBox { name: oils.name, medium: oils.medium, pigments: oils.pigments };
        assert!(greys_over(&oils, &oils.pigments[0].id, Steps(1.0)).unwrap_err().contains("Oil"));
        assert!(greys_over(&pens(), &"gone".into(), Steps(1.0)).unwrap_err().contains("gone"));
        let b = pens();
        let ground = ground::usual(b.medium);
        let dull = b.pigments.iter().min_by(|x, y| swatch(b.medium, &ground, x).chroma().total_cmp(&swatch(b.medium, &ground, y).chroma()));
        assert!(greys_over(&b, &dull.unwrap().id, Steps(1.0)).unwrap_err().contains("grey itself"));
    }
}
