//! Where painters disagree: each question with its schools, a line of reason each, and the usual one per medium.

use lean_media::Medium;
use serde::{Deserialize, Serialize};

/// A question painters answer differently.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[expect(missing_docs, reason = "each is described by its title")]
pub enum Question {
    Black,
    WhiteInWatercolour,
    Begin,
    ShadowChroma,
    OrderOfTones,
    WhereToWork,
    Ground,
    Shadows,
    Reference,
    Laying,
    Wheel,
    Emphasis,
    Highlights,
    Outline,
    Greying,
}

/// A school.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[expect(missing_docs, reason = "each is described by its label and reason")]
pub enum School {
    NeverBlack,
    BlackAllowed,
    NeutralsOver,
    PaperOnly,
    OpaqueWhite,
    ValuePlan,
    HuesFirst,
    GreyedShadows,
    RichShadows,
    DarkToLight,
    MiddleOutward,
    LightToDark,
    DarkBaseOutward,
    LightBaseDarkestMiddle,
    ManyLightLayers,
    WholeTogether,
    FarToNear,
    FocalFirst,
    TonedRelative,
    TonedOpposite,
    WhiteGround,
    OppositeOfLight,
    AlwaysBlueViolet,
    MatchReference,
    ValuesOnly,
    MixedOnPalette,
    BrokenColour,
    Glazes,
    PaintersWheel,
    PrintersWheel,
    PerceptualWheel,
    OwnWheel,
    OneFocalPoint,
    WholeAlive,
    HighlightsLast,
    HighlightsReserved,
    NoOutline,
    DrawnContours,
    GreyWithOpposite,
    GreyWithGrey,
    GreyWithMother,
}

/// One answer to a question.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Answer {
    /// Which.
    pub school: School,
    /// In a few words.
    pub label: &'static str,
    /// Why, in one line.
    pub reason: &'static str,
}

const fn a(school: School, label: &'static str, reason: &'static str) -> Answer {
    Answer { school, label, reason }
}

impl Question {
    /// All questions, in the order they are shown.
    pub const ALL: [Self; 15] = [
        Self::Begin,
        Self::Reference,
        Self::Shadows,
        Self::ShadowChroma,
        Self::Black,
        Self::Greying,
        Self::Emphasis,
        Self::Ground,
        Self::OrderOfTones,
        Self::WhereToWork,
        Self::Laying,
        Self::Highlights,
        Self::WhiteInWatercolour,
        Self::Outline,
        Self::Wheel,
    ];

    /// What it is about.
    pub fn title(self) -> &'static str {
        match self {
            Self::Black => "black",
            Self::WhiteInWatercolour => "white in watercolour",
            Self::Begin => "where to begin",
            Self::ShadowChroma => "colour in shadows",
            Self::OrderOfTones => "order of tones",
            Self::WhereToWork => "where to work",
            Self::Ground => "ground",
            Self::Shadows => "temperature of shadows",
            Self::Reference => "reference",
            Self::Laying => "laying colour",
            Self::Wheel => "wheel",
            Self::Emphasis => "emphasis",
            Self::Highlights => "highlights",
            Self::Outline => "outline",
            Self::Greying => "greying a colour",
        }
    }

    /// Whether the question arises in a medium.
    pub(crate) fn arises(self, medium: Medium) -> bool {
        self != Self::WhiteInWatercolour || medium == Medium::Watercolour
    }

    /// The schools with their reasons.
    pub fn answers(self) -> &'static [Answer] {
        use School::*;
        const BLACK: &[Answer] = &[
            a(NeverBlack, "never", "A dark mixed from opposites is richer and belongs to the rest."),
            a(BlackAllowed, "one more dark", "A black is a pigment like others and saves mixing."),
            a(NeutralsOver, "neutrals laid over", "Greys over a colour turn it dark while the colour below stays alive."),
        ];
        const WHITE: &[Answer] = &[
            a(PaperOnly, "paper only", "Nothing is as light as paper left bare."),
            a(OpaqueWhite, "opaque white allowed", "Corrections and cool greys, where paper was lost."),
        ];
        const BEGIN: &[Answer] = &[
            a(ValuePlan, "value plan", "Right values carry hues the place never had."),
            a(HuesFirst, "hues first", "The colours are the subject; values are fitted to them."),
        ];
        const CHROMA: &[Answer] = &[
            a(GreyedShadows, "greyed", "Quiet shadows let the light speak."),
            a(RichShadows, "the richest place", "Shadows keep colour that the light bleaches out."),
        ];
        const TONES: &[Answer] = &[
            a(DarkToLight, "dark to light", "Light chalk covers dark; the darks hold the drawing."),
            a(MiddleOutward, "middle outward", "From a middle both ends can be judged."),
            a(LightToDark, "light to dark", "What is laid dark in water stays dark."),
            a(DarkBaseOutward, "dark base, blended outward to light", "The lighter pen dissolves the darker edge."),
            a(LightBaseDarkestMiddle, "light base, darkest, then the middle", "The middle joins two tones that are already right."),
            a(ManyLightLayers, "many light layers", "Tooth filled slowly takes more colours."),
        ];
        const WHERE: &[Answer] = &[
            a(WholeTogether, "whole surface together", "Every colour is judged among its neighbours."),
            a(FarToNear, "far to near", "Nearer edges lie over farther ones."),
            a(FocalFirst, "focal first", "The rest is kept below what matters most."),
        ];
        const GROUND: &[Answer] = &[
            a(TonedRelative, "toned with a relative", "What shows between strokes belongs to the subject."),
            a(TonedOpposite, "toned with an opposite", "What shows between strokes makes the subject glow."),
            a(WhiteGround, "white left as light", "Light comes back from the paper through the colour."),
        ];
        const SHADOWS: &[Answer] = &[
            a(OppositeOfLight, "opposite of the light", "Cool under warm light, warm under cool light."),
            a(AlwaysBlueViolet, "always a little blue or violet", "The sky fills every shadow."),
        ];
        const REFERENCE: &[Answer] = &[
            a(MatchReference, "match it", "The subject's colours are why it was chosen."),
            a(ValuesOnly, "values only", "Keep its values, choose the hues."),
        ];
        const LAYING: &[Answer] = &[
            a(MixedOnPalette, "mixed before it is laid", "One flat note, judged before it is down."),
            a(BrokenColour, "broken: dabs side by side", "The eye mixes, and the surface lives."),
            a(Glazes, "glazes", "Light passes through and comes back deeper."),
        ];
        const WHEEL: &[Answer] = &[
            a(PaintersWheel, "painters'", "Red, yellow, blue: the opposites most have learnt."),
            a(PrintersWheel, "printers'", "Magenta, yellow, cyan: cleaner greens and violets."),
            a(PerceptualWheel, "perceptual", "Even steps to the eye."),
            a(OwnWheel, "this Box's own", "The opposite of a pigment is what really greys it."),
        ];
        const EMPHASIS: &[Answer] = &[
            a(OneFocalPoint, "one focal point", "Strongest contrast and purest colour in one place."),
            a(WholeAlive, "whole surface alive", "No place is less than another."),
        ];
        const HIGHLIGHTS: &[Answer] = &[
            a(HighlightsLast, "last", "Judged against everything that is there."),
            a(HighlightsReserved, "reserved from the start", "Clean because nothing was under them."),
        ];
        const OUTLINE: &[Answer] = &[
            a(NoOutline, "none", "Edges come from contrast."),
            a(DrawnContours, "drawn contours", "A line in a colour of the scheme holds the shapes."),
        ];
        const GREYING: &[Answer] = &[
            a(GreyWithOpposite, "with the opposite", "The grey keeps a trace of both."),
            a(GreyWithGrey, "with a grey of the right undertone", "Sure, and quick."),
            a(GreyWithMother, "with the mother colour", "Everything is tied together."),
        ];
        match self {
            Self::Black => BLACK,
            Self::WhiteInWatercolour => WHITE,
            Self::Begin => BEGIN,
            Self::ShadowChroma => CHROMA,
            Self::OrderOfTones => TONES,
            Self::WhereToWork => WHERE,
            Self::Ground => GROUND,
            Self::Shadows => SHADOWS,
            Self::Reference => REFERENCE,
            Self::Laying => LAYING,
            Self::Wheel => WHEEL,
            Self::Emphasis => EMPHASIS,
            Self::Highlights => HIGHLIGHTS,
            Self::Outline => OUTLINE,
            Self::Greying => GREYING,
        }
    }

    /// The usual answer in a medium.
    pub fn usual(self, medium: Medium) -> School {
        use Medium::{Marker, Oil, Pencil, SoftPastel, Watercolour};
        match (self, medium) {
            (Self::Black, Marker) => School::NeutralsOver,
            // What is chosen rather than mixed has no deep dark but a black.
            (Self::Black, Pencil | SoftPastel) => School::BlackAllowed,
            (Self::OrderOfTones, SoftPastel) => School::DarkToLight,
            (Self::OrderOfTones, Oil) => School::MiddleOutward,
            (Self::OrderOfTones, Watercolour) => School::LightToDark,
            (Self::OrderOfTones, Marker) => School::DarkBaseOutward,
            (Self::OrderOfTones, Pencil) => School::ManyLightLayers,
            (Self::Highlights, Watercolour | Marker) => School::HighlightsReserved,
            (Self::Ground, Watercolour | Marker) => School::WhiteGround,
            (Self::Wheel, _) => School::PerceptualWheel,
            (Self::Laying, SoftPastel) => School::BrokenColour,
            (Self::Laying, Watercolour | Pencil | Marker) => School::Glazes,
            _ => self.answers()[0].school,
        }
    }
}

impl School {
    /// In a few words.
    pub fn label(self) -> &'static str {
        Question::ALL.iter().flat_map(|q| q.answers()).find(|a| a.school == self).map_or("", |a| a.label)
    }
}

/// A question as the screen shows it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Asked {
    /// Which.
    pub question: Question,
    /// What it is about.
    pub title: &'static str,
    /// The schools.
    pub answers: Vec<Answer>,
    /// The usual one in this medium.
    pub usual: School,
}

/// The questions that arise in a medium.
pub fn asked(medium: Medium) -> Vec<Asked> {
    Question::ALL
        .into_iter()
        .filter(|q| q.arises(medium))
        .map(|q| Asked { question: q, title: q.title(), answers: q.answers().to_vec(), usual: q.usual(medium) })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    #[test]
    fn every_school_answers_one_question_and_says_why() {
        let all: Vec<&Answer> = Question::ALL.iter().flat_map(|q| q.answers()).collect();
        let distinct: BTreeSet<School> = all.iter().map(|a| a.school).collect();
        assert_eq!(distinct.len(), all.len());
        assert!(all.iter().all(|a| !a.label.is_empty() && a.reason.ends_with('.')));
    }

    #[test]
    fn the_usual_answer_is_one_of_the_answers() {
        for medium in Medium::ALL {
            for q in asked(medium) {
                assert!(q.answers.iter().any(|a| a.school == q.usual), "{medium:?} {}", q.title);
            }
        }
        assert!(asked(Medium::Oil).iter().all(|q| q.question != Question::WhiteInWatercolour));
        assert_eq!(Question::OrderOfTones.usual(Medium::Watercolour), School::LightToDark);
    }
}
