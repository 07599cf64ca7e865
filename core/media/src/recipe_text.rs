//! Recipes written as text: `PB29*2 + PW6*1` mixes, `PY35*0.5 > PB29*0.15` lays over, first laid first.

use crate::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use crate::layering::{Binder, Layer};
use crate::pigment::{Parts, Pigment};

/// The medium a written recipe is for, with what the amounts leave open.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Written {
    /// Parts by volume, each layer opaque or a film of this thickness.
    Oil {
        /// Thickness of every layer; `None` hides what lies beneath.
        film: Option<Thickness>,
    },
    /// Thickness X of each pigment in a wash. `lift` lifts the washes beneath.
    Watercolour,
    /// Dose of each ink. `blender` is a colourless one.
    Marker {
        /// Later coats go into wet ink.
        into_wet: bool,
    },
    /// Pressure of each pencil. `burnish` presses all beneath flat.
    Pencil,
    /// Mass of each stick of half pigment, half chalk; a black holds a tenth of chalk.
    Pastel {
        /// How much of what lies beneath joins every stroke.
        rubbing: Rubbing,
    },
}

/// Reads the layers of a recipe; the amount after `*` may be left out for 1.
///
/// # Errors
/// Names the piece that could not be read, or the pigment that is not in the Box.
pub fn layers<'a>(text: &str, written: Written, owned: &'a [Pigment]) -> Result<Vec<Layer<'a>>, String> {
    text.split('>').map(|layer| one_layer(layer.trim(), written, owned)).collect()
}

fn one_layer<'a>(text: &str, written: Written, owned: &'a [Pigment]) -> Result<Layer<'a>, String> {
    match (text, written) {
        ("lift", Written::Watercolour) => return Ok(Layer::Lifting),
        ("blender", Written::Marker { .. }) => return Ok(Layer::Blender),
        ("burnish", Written::Pencil) => return Ok(Layer::Burnishing),
        _ => {}
    }
    let of = parse(text, owned)?;
    Ok(match written {
        Written::Oil { film } => Layer::Paint { binder: Binder::Oil, of, film },
        Written::Watercolour => Layer::Wash { of: of.into_iter().map(|(p, n)| (p, Thickness(n.0))).collect() },
        Written::Marker { into_wet } => Layer::Ink { of: of.into_iter().map(|(p, n)| (p, Dose(n.0))).collect(), into_wet },
        Written::Pencil => match of.as_slice() {
            [(pigment, n)] => Layer::Pencil { of: pigment, pressure: Pressure(n.0) },
            _ => return Err(format!("\"{text}\": pencils are not mixed before they are laid; lay one over the other with \">\"")),
        },
        Written::Pastel { rubbing } => {
            let mass = Mass(of.iter().map(|(_, n)| n.0).sum());
            Layer::Pastel { of, mass, rubbing }
        }
    })
}

/// Reads one mix, `ID*AMOUNT + ID*AMOUNT`.
///
/// # Errors
/// Names the piece that could not be read, or the pigment that is not in the Box.
pub fn parse<'a>(text: &str, owned: &'a [Pigment]) -> Result<Vec<(&'a Pigment, Parts)>, String> {
    text.split('+').map(|piece| parse_piece(piece.trim(), owned)).collect()
}

fn parse_piece<'a>(piece: &str, owned: &'a [Pigment]) -> Result<(&'a Pigment, Parts), String> {
    let (id, amount) = match piece.split_once('*') {
        Some((id, amount)) => {
            (id.trim(), amount.trim().parse::<f64>().map_err(|_| format!("\"{piece}\": what follows * must be a number, as in PB29*2"))?)
        }
        None => (piece, 1.0),
    };
    if id.is_empty() {
        return Err(format!("\"{piece}\" names no pigment: write a recipe as ID*AMOUNT + ID*AMOUNT"));
    }
    let pigment = owned.iter().find(|p| p.id.0 == id).ok_or_else(|| format!("no pigment \"{id}\" in this Box"))?;
    if !amount.is_finite() || amount < 0.0 {
        return Err(format!("\"{piece}\": an amount must be zero or more"));
    }
    Ok((pigment, Parts(amount)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library::modelled;

    #[test]
    fn mixes_are_read() {
        let r = parse("PB29*2 + PW6", modelled()).unwrap();
        assert_eq!(r.iter().map(|(p, n)| (p.id.0.as_str(), n.0)).collect::<Vec<_>>(), [("PB29", 2.0), ("PW6", 1.0)]);
    }

    #[test]
    fn layers_are_read_first_laid_first() {
        let wash = layers("PY35*0.5 > PB29*.15 + PV23*.02 > lift", Written::Watercolour, modelled()).unwrap();
        assert_eq!(wash.len(), 3);
        assert!(matches!(&wash[1], Layer::Wash { of } if of.len() == 2 && of[0].1 == Thickness(0.15)));
        assert_eq!(wash[2], Layer::Lifting);
        let pastel = layers("PB29*1 + PO20*2", Written::Pastel { rubbing: Rubbing(0.0) }, modelled()).unwrap();
        assert!(matches!(&pastel[0], Layer::Pastel { mass, .. } if *mass == Mass(3.0)));
    }

    #[test]
    fn what_cannot_be_read_is_named() {
        assert!(parse("PB29*two", modelled()).unwrap_err().contains("PB29*two"));
        assert!(parse("XX1*1", modelled()).unwrap_err().contains("XX1"));
        assert!(parse("PB29*-1", modelled()).is_err());
        assert!(parse("PB29*1 + ", modelled()).unwrap_err().contains("names no pigment"));
        assert!(layers("PB29 > ", Written::Watercolour, modelled()).unwrap_err().contains("names no pigment"));
        assert!(layers("PB29 + PR108", Written::Pencil, modelled()).unwrap_err().contains(">"));
        assert!(layers("lift", Written::Pencil, modelled()).unwrap_err().contains("lift"));
    }
}
