//! What a painter calls the things said of light, where they are chosen from.

use super::{Distance, Exception, Key, Kind, LampFrom, Plane, Role, Tint};
use crate::worded;

worded! {
    Role {
        Lit: "in light",
        Halftone: "halftone",
        Shadow: "in shadow",
        Reflected: "reflected light",
        Contact: "contact shadow",
        Highlight: "highlight",
        SelfLuminous: "light source",
    }
    Plane { Sky: "sky", Flat: "flat", Slanted: "slanted", Upright: "upright" }
    Distance { Near: "near", Middle: "middle", Far: "far" }
    Kind {
        Water: "water",
        White: "white object",
        Dark: "dark object",
        Skin: "skin",
        Foliage: "leaves or grass",
        Fur: "hair, fur or feathers",
        Metal: "metal",
        Cloth: "cloth",
        Fruit: "fruit or flowers",
    }
    Tint { Warm: "warm", Cool: "cool", Neutral: "neutral" }
    LampFrom { Left: "the left", Right: "the right", Above: "above", Below: "below", Front: "the front", Behind: "behind" }
    Exception {
        FarGlow: "distant glow",
        Snow: "snow or frost",
        LowSun: "low sun",
        Night: "night",
        Backlight: "backlight",
    }
    Key { AsRead: "as measured", Full: "full", High: "high", Low: "low" }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A list that leaves one out would hide it from the painter; its own place in the enum tells.
    #[test]
    fn every_list_is_whole_and_says_nothing_twice() {
        fn whole<T: Copy>(all: &[T], last: usize, label: impl Fn(T) -> &'static str) {
            let words: std::collections::BTreeSet<_> = all.iter().map(|&t| label(t)).collect();
            assert_eq!(words.len(), all.len());
            assert_eq!(all.len(), last + 1, "{words:?}");
        }
        whole(Role::ALL, Role::SelfLuminous as usize, Role::label);
        whole(Plane::ALL, Plane::Upright as usize, Plane::label);
        whole(Distance::ALL, Distance::Far as usize, Distance::label);
        whole(Kind::ALL, Kind::Fruit as usize, Kind::label);
        whole(Tint::ALL, Tint::Neutral as usize, Tint::label);
        whole(LampFrom::ALL, LampFrom::Behind as usize, LampFrom::label);
        whole(Exception::ALL, Exception::Backlight as usize, Exception::label);
        whole(Key::ALL, Key::Low as usize, Key::label);
    }
}
