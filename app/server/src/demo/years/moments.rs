//! What was seen when, and what became of it.

use super::{IN, OUT};
use lean_media::Medium;
use lean_piece::easel::Outcome;
use lean_piece::light::{Lamp, LampFrom, Tint};
use lean_plan::studies::StudyKind;

/// One small piece of the two years.
pub(crate) struct Moment {
    pub title: &'static str,
    pub picture: &'static str,
    pub subject: &'static str,
    pub weather: &'static str,
    pub light: &'static str,
    pub lamp: Lamp,
    pub outdoors: bool,
    pub month: i8,
    pub day: i8,
    pub hour: i8,
    pub years_back: i16,
    pub medium: Medium,
    /// How many pigments its set has.
    pub set: usize,
    pub studies: &'static [StudyKind],
    /// The study it went on with, and why.
    pub chosen: u8,
    pub reason: &'static str,
    pub outcome: Outcome,
    pub learnt: &'static str,
}

const fn lamp(tint: Tint, from: LampFrom, hard: bool) -> Lamp {
    Lamp { tint, from, hard }
}

const LOW_SUN: Lamp = lamp(Tint::Warm, LampFrom::Left, true);
const HIGH_SUN: Lamp = lamp(Tint::Neutral, LampFrom::Above, true);
const EVENING_SUN: Lamp = lamp(Tint::Warm, LampFrom::Right, true);
const GREY_SKY: Lamp = lamp(Tint::Cool, LampFrom::Above, false);
const WINDOW: Lamp = lamp(Tint::Cool, LampFrom::Left, false);
const LAMP: Lamp = lamp(Tint::Warm, LampFrom::Right, true);

const LANE: &str = "the lane";
const WEIR: &str = "the weir";
const SILL: &str = "things on the sill";

/// What all of them have in common.
const MOMENT: Moment = Moment {
    title: "",
    picture: "",
    subject: LANE,
    weather: "clear",
    light: "low sun",
    lamp: LOW_SUN,
    outdoors: true,
    month: 1,
    day: 1,
    hour: 12,
    years_back: 0,
    medium: Medium::Watercolour,
    set: 4,
    studies: OUT,
    chosen: 1,
    reason: "",
    outcome: Outcome::AsHoped,
    learnt: "",
};

/// A thing on the sill, by the window.
const STILL: Moment =
    Moment { subject: SILL, weather: "", light: "north window", lamp: WINDOW, outdoors: false, studies: IN, medium: Medium::Oil, ..MOMENT };

pub(crate) const MOMENTS: &[Moment] = &[
    Moment {
        title: "Lane, snow at sunrise",
        picture: "lane-winter-early",
        weather: "snow, clear",
        month: 1,
        day: 18,
        hour: 8,
        years_back: 1,
        reason: "the blue in the snow holds it together",
        outcome: Outcome::InPart,
        learnt: "The snow went too light everywhere; no paper was left for the sunlit edge.",
        ..MOMENT
    },
    Moment {
        title: "Weir in winter mist",
        picture: "weir-winter-mist",
        subject: WEIR,
        weather: "mist",
        light: "from everywhere",
        lamp: GREY_SKY,
        month: 2,
        day: 6,
        hour: 11,
        years_back: 1,
        set: 3,
        reason: "three greys are enough",
        learnt: "Nothing darker than value 5 was needed. Wet into wet all through.",
        ..MOMENT
    },
    Moment {
        title: "Lane, first green",
        picture: "lane-spring-early",
        month: 4,
        day: 11,
        hour: 7,
        years_back: 1,
        chosen: 2,
        reason: "red earth against the young green",
        outcome: Outcome::InPart,
        learnt: "Greens out of the pan are too cold; the ochre belongs in all of them.",
        ..MOMENT
    },
    Moment {
        title: "Weir at noon",
        picture: "weir-spring-noon",
        subject: WEIR,
        light: "high sun",
        lamp: HIGH_SUN,
        month: 5,
        day: 24,
        hour: 12,
        years_back: 1,
        medium: Medium::Pencil,
        reason: "the punt is the only strong colour",
        learnt: "Start the poplars dark; wax will not take a dark over a light.",
        ..MOMENT
    },
    Moment {
        title: "Lane in full summer",
        picture: "lane-summer-noon",
        light: "high sun",
        lamp: HIGH_SUN,
        month: 7,
        day: 3,
        hour: 13,
        years_back: 1,
        medium: Medium::Oil,
        set: 5,
        reason: "as it stood, only quieter",
        outcome: Outcome::NotAtAll,
        learnt: "Every green the same. Decide warm and cool before the first tube is opened.",
        ..MOMENT
    },
    Moment {
        title: "Weir, late light",
        picture: "weir-summer-late",
        subject: WEIR,
        light: "low sun",
        lamp: EVENING_SUN,
        month: 8,
        day: 16,
        hour: 18,
        years_back: 1,
        chosen: 2,
        reason: "orange sky, its opposite in the water",
        learnt: "The sky first and all of it; the poplars into it while it was damp.",
        ..MOMENT
    },
    Moment {
        title: "Lane, late in October",
        picture: "lane-autumn-late",
        light: "low sun",
        lamp: EVENING_SUN,
        month: 10,
        day: 21,
        hour: 16,
        years_back: 1,
        medium: Medium::Marker,
        set: 5,
        reason: "leaves lit from behind rule it",
        learnt: "One red is enough when the rest is grey.",
        ..MOMENT
    },
    Moment {
        title: "Weir, November mist",
        picture: "weir-autumn-mist",
        subject: WEIR,
        weather: "mist",
        light: "from everywhere",
        lamp: GREY_SKY,
        month: 11,
        day: 9,
        hour: 8,
        years_back: 1,
        set: 3,
        reason: "values only, two steps in all",
        outcome: Outcome::InPart,
        learnt: "The poplars came out too dark: half a step is plenty at that distance.",
        ..MOMENT
    },
    Moment {
        title: "Jug and pears, white cloth",
        picture: "sill-window-white",
        month: 12,
        day: 4,
        hour: 11,
        years_back: 1,
        reason: "cool light, the shadows warm by the table",
        learnt: "White cloth is value 8 in the light and 5 in its folds, never white.",
        ..STILL
    },
    Moment {
        title: "Lane, dusk over snow",
        picture: "lane-winter-dusk",
        weather: "overcast",
        light: "after sunset",
        lamp: GREY_SKY,
        month: 1,
        day: 27,
        hour: 17,
        medium: Medium::Pencil,
        reason: "nearly one hue",
        outcome: Outcome::InPart,
        learnt: "Burnished too early; the sky would take no more.",
        ..MOMENT
    },
    Moment {
        title: "Jug by lamplight",
        picture: "sill-lamp-red",
        light: "one lamp",
        lamp: LAMP,
        month: 2,
        day: 20,
        hour: 20,
        set: 5,
        reason: "the cloth is the picture, the jug only its shadow",
        learnt: "Under a warm lamp the blue jug is a warm dark grey. Paint that.",
        ..STILL
    },
    Moment {
        title: "Weir, grey May",
        picture: "weir-spring-overcast",
        subject: WEIR,
        weather: "overcast",
        light: "from everywhere",
        lamp: GREY_SKY,
        month: 5,
        day: 8,
        hour: 10,
        reason: "cool light, so the shadows turn warm",
        learnt: "The same three pans as in winter, and one green.",
        ..MOMENT
    },
    Moment {
        title: "Weir, summer dusk",
        picture: "weir-summer-dusk",
        subject: WEIR,
        light: "after sunset",
        lamp: EVENING_SUN,
        month: 7,
        day: 12,
        hour: 21,
        chosen: 2,
        reason: "rose sky, sea-green water",
        learnt: "The darks first made; then the sky looked light at once.",
        ..MOMENT
    },
    Moment {
        title: "Jug and pears, green cloth",
        picture: "sill-both-green",
        light: "window and lamp",
        month: 9,
        day: 14,
        hour: 19,
        reason: "each side of the jug in its own light",
        outcome: Outcome::InPart,
        learnt: "Two lights want two families of greys. I mixed one.",
        ..STILL
    },
    Moment {
        title: "Lane, overcast October",
        picture: "lane-autumn-overcast",
        weather: "overcast",
        light: "from everywhere",
        lamp: GREY_SKY,
        month: 10,
        day: 13,
        hour: 10,
        medium: Medium::Pencil,
        reason: "leaves as greyed reds",
        learnt: "Few layers, no hurry: the paper still had tooth at the end.",
        ..MOMENT
    },
    Moment {
        title: "Jug by lamplight, white cloth",
        picture: "sill-lamp-white",
        light: "one lamp",
        lamp: LAMP,
        month: 11,
        day: 3,
        hour: 18,
        reason: "warm light, cool shadows, whites that lean",
        learnt: "The white cloth under a lamp is a light ochre. It still reads as white.",
        ..STILL
    },
];
