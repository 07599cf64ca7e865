//! Wet paint: two-constant mixing (Kubelka & Munk 1931; Duncan 1940), opaque or as a film (Kubelka 1948).

use super::{Binder, Building, Layer, Refused, State, Top, weighed};
use crate::film;
use crate::opaque::masstone;

pub(super) fn lay(b: &mut Building, layer: &Layer) -> Result<(), Refused> {
    let Layer::Paint { binder, of, film: thickness } = layer else { return Ok(()) };
    let total: f64 = of.iter().map(|(_, n)| n.0).sum();
    let (k, mut s) = weighed(of, |n| n.0 / total);
    let choices = b.choices;
    if b.state == State::Wet {
        match binder {
            Binder::Oil => {}
            Binder::Gouache => {
                let whites: Vec<_> = of.iter().filter(|(p, _)| p.white).cloned().collect();
                let (_, white) = weighed(&whites, |n| n.0 / total);
                for (s, w) in s.iter_mut().zip(white) {
                    *s += w * (1.0 / choices.wash.white_dries_to - 1.0);
                }
            }
            Binder::Acrylic => s.iter_mut().for_each(|s| *s += choices.wash.milky),
        }
    }
    let surface = match (binder, b.state) {
        (Binder::Oil, _) => choices.oil,
        (Binder::Gouache, State::Dry) => choices.gouache,
        (Binder::Gouache, State::Wet) => choices.water,
        (Binder::Acrylic, _) => choices.acrylic,
    };
    // Paint wets bare ground, and goes on within paint of its own kind; what else lies there is seen through it as it was.
    if thickness.is_some() && b.top != Top::Bare && b.top != Top::Surface(surface) && !matches!(b.top, Top::PaperToBody { share: 1.0, .. })
    {
        b.enter(surface);
    }
    for i in 0..k.len() {
        b.inside[i] = match thickness {
            None => masstone(k[i], s[i]),
            Some(x) => film::over(k[i], s[i], x.0, b.inside[i]),
        };
    }
    b.top = match binder {
        Binder::Gouache => Top::PaperToBody { share: 1.0, state: b.state },
        Binder::Oil | Binder::Acrylic => Top::Surface(surface),
    };
    Ok(())
}
