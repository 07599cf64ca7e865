//! What readings taught, remembered: of hundreds of readings it takes a while to learn, and it is asked for with every look at them.

use lean_media::Pigment;
use lean_media::learn::CannotLearn;
use lean_piece::paint_box::{PaintBox, SwatchReading};
use lean_plan::paints::learned::{Learned, learned};
use lean_store::{ReadingId, Store};
use lru::LruCache;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// How many Boxes at their readings are remembered.
const REMEMBERED: NonZeroUsize = NonZeroUsize::new(16).unwrap();

/// The last things learned.
pub struct Lessons {
    known: Mutex<LruCache<String, Arc<Learned>>>,
    played_teach: bool,
}

impl Default for Lessons {
    fn default() -> Self {
        Self { known: Mutex::new(LruCache::new(REMEMBERED)), played_teach: false }
    }
}

impl Lessons {
    /// Lessons of a studio whose instruments are simulated: what they make up teaches there, and nowhere else.
    pub(crate) fn of_a_simulated_studio() -> Self {
        Self { played_teach: true, ..Self::default() }
    }

    /// What all these readings teach of a Box, each with its number: learned, or as it was learned before.
    ///
    /// # Errors
    /// When a reading holds numbers that are no surface's.
    pub fn of(&self, paint_box: &PaintBox, readings: &[(ReadingId, SwatchReading)]) -> Result<Arc<Learned>, CannotLearn> {
        let readings: &[(ReadingId, SwatchReading)] = &readings
            .iter()
            .map(|(id, r)| (*id, SwatchReading { left_out: r.left_out || r.is_played() && !self.played_teach, ..r.clone() }))
            .collect::<Vec<_>>();
        // Learning begins at the models, whatever was learned before: the same readings teach the same.
        let models = PaintBox { pigments: paint_box.pigments.iter().map(Pigment::unlearned).collect(), ..paint_box.clone() };
        let Ok(asked) = serde_json::to_vec(&(&models, readings)) else { return learned(paint_box, readings).map(Arc::new) };
        let asked = Store::digest_of(&asked);
        if let Some(known) = self.kept().get(&asked) {
            return Ok(known.clone());
        }
        let found = Arc::new(learned(paint_box, readings)?);
        self.kept().put(asked, found.clone());
        Ok(found)
    }

    fn kept(&self) -> MutexGuard<'_, LruCache<String, Arc<Learned>>> {
        self.known.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::demo;
    use lean_piece::paint_box::BoxId;

    #[test]
    fn what_is_remembered_is_what_would_be_learned_and_one_reading_less_is_another_question() {
        let store = Store::in_memory().unwrap();
        demo::fill_pans(&store).unwrap();
        let id = BoxId("hen-pans".into());
        let (paint_box, readings) = (store.paint_box(&id).unwrap(), store.readings(&id).unwrap());
        let lessons = Lessons::of_a_simulated_studio();
        let first = lessons.of(&paint_box, &readings).unwrap();
        assert_eq!(first.paint_box, learned(&paint_box, &readings).unwrap().paint_box);
        assert!(Arc::ptr_eq(&first, &lessons.of(&paint_box, &readings).unwrap()));
        // The Box it taught asks the same: it is learned from the models again.
        assert!(Arc::ptr_eq(&first, &lessons.of(&first.paint_box, &readings).unwrap()));
        // Its readings were played: in a real studio they teach nothing.
        assert_eq!(Lessons::default().of(&paint_box, &readings).unwrap().paint_box, learned(&paint_box, &[]).unwrap().paint_box);
        let fewer = lessons.of(&paint_box, &readings[1..]).unwrap();
        assert!(!Arc::ptr_eq(&first, &fewer));
    }
}
