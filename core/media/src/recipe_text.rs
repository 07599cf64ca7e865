//! Wet mixes written as text: `PB29*2 + PW6*1`.

use crate::pigment::{Parts, Pigment};

/// Reads `ID*PARTS + ID*PARTS`; `*PARTS` may be left out for one part.
///
/// # Errors
/// Names the piece that could not be read, or the pigment that is not in the Box.
pub fn parse<'a>(text: &str, owned: &'a [Pigment]) -> Result<Vec<(&'a Pigment, Parts)>, String> {
    if text.contains('>') {
        return Err("\">\" lays one coat over another, which wet oil mixes do not have: join pigments with \"+\"".into());
    }
    text.split('+').map(|piece| parse_piece(piece.trim(), owned)).collect()
}

fn parse_piece<'a>(piece: &str, owned: &'a [Pigment]) -> Result<(&'a Pigment, Parts), String> {
    let (id, parts) = match piece.split_once('*') {
        Some((id, parts)) => {
            (id.trim(), parts.trim().parse::<f64>().map_err(|_| format!("\"{piece}\": the parts after * must be a number, as in PB29*2"))?)
        }
        None => (piece, 1.0),
    };
    if id.is_empty() {
        return Err(format!("\"{piece}\" names no pigment: write a recipe as ID*PARTS + ID*PARTS"));
    }
    let pigment = owned.iter().find(|p| p.id.0 == id).ok_or_else(|| format!("no pigment \"{id}\" in this Box"))?;
    if !parts.is_finite() || parts < 0.0 {
        return Err(format!("\"{piece}\": parts must be zero or more"));
    }
    Ok((pigment, Parts(parts)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library::modelled;

    #[test]
    fn recipes_are_read() {
        let r = parse("PB29*2 + PW6", modelled()).unwrap();
        assert_eq!(r.iter().map(|(p, n)| (p.id.0.as_str(), n.0)).collect::<Vec<_>>(), [("PB29", 2.0), ("PW6", 1.0)]);
    }

    #[test]
    fn what_cannot_be_read_is_named() {
        assert!(parse("PB29*two", modelled()).unwrap_err().contains("PB29*two"));
        assert!(parse("XX1*1", modelled()).unwrap_err().contains("XX1"));
        assert!(parse("PB29*-1", modelled()).is_err());
        assert!(parse("PB29*1 + ", modelled()).unwrap_err().contains("names no pigment"));
        assert!(parse("PB29 > PW6", modelled()).unwrap_err().contains("+"));
    }
}
