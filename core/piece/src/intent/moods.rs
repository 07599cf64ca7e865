//! Mood words: each does something stated to scheme, key and contrast, and can be changed.

use crate::light::Key;
use serde::{Deserialize, Serialize};

/// Which parts of the circle a mood lives in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum MoodScheme {
    /// Neighbours on the circle.
    Neighbours,
    /// Two opposites, one ruling.
    Opposites,
    /// One hue in all its values.
    OneHue,
    /// One hue and the two beside its opposite.
    SplitOpposite,
    /// Three even hues.
    Three,
    /// Four even hues.
    Square,
    /// Two pairs of opposites.
    Rectangle,
    /// One hue sliding into another from dark to light.
    Slide,
}

/// A mood word with what it does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mood {
    /// The word, 1..=40 characters.
    pub word: String,
    /// The scheme it asks for; `None` leaves it open.
    pub scheme: Option<MoodScheme>,
    /// The key it asks for; `None` leaves it open.
    pub key: Option<Key>,
    /// −1 soft to 1 strong.
    #[cfg_attr(feature = "schema", schema(minimum = -1, maximum = 1))]
    pub contrast: f64,
}

impl Mood {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        let n = self.word.trim().chars().count();
        if !(1..=40).contains(&n) {
            return Err(format!("A mood is one word of 1 to 40 characters; this has {n}."));
        }
        if !(-1.0..=1.0).contains(&self.contrast) {
            return Err(format!("A contrast of {} is out of range; it runs from -1 (soft) to 1 (strong).", self.contrast));
        }
        Ok(())
    }
}

/// Words to choose from, with what each usually does. Choices.
pub fn shipped() -> Vec<Mood> {
    use MoodScheme::{Neighbours, OneHue, Opposites, Slide, SplitOpposite, Three};
    let mood = |word: &str, scheme, key, contrast| Mood { word: word.into(), scheme, key, contrast };
    vec![
        mood("gentle", Some(Neighbours), Some(Key::High), -0.5),
        mood("still", Some(Neighbours), Some(Key::AsRead), -0.5),
        mood("festive", Some(Three), Some(Key::Full), 0.5),
        mood("sombre", Some(OneHue), Some(Key::Low), 0.0),
        mood("frosty", Some(Slide), Some(Key::High), 0.0),
        mood("glowing", Some(Opposites), Some(Key::Low), 0.5),
        mood("stark", Some(SplitOpposite), Some(Key::Full), 1.0),
        mood("hazy", Some(Neighbours), Some(Key::High), -1.0),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_shipped_word_is_sound_and_does_something() {
        for m in shipped() {
            m.check().unwrap();
            assert!(m.scheme.is_some() || m.key.is_some() || m.contrast != 0.0, "{}", m.word);
        }
        assert!(Mood { word: " ".into(), scheme: None, key: None, contrast: 0.0 }.check().is_err());
        assert!(Mood { word: "x".into(), scheme: None, key: None, contrast: 1.5 }.check().is_err());
    }
}
