//! The size an eye just tells apart, by a Bayesian staircase.

use crate::kinds::Drill;

/// Places on the ladder of sizes.
const PLACES: usize = 81;
/// Steepness of the psychometric function, as for most such judgements (Watson & Pelli 1983).
const STEEP: f64 = 3.5;
/// Answers that go wrong by inattention. A choice.
const LAPSES: f64 = 0.02;
/// Spread of what is believed before the first answer, as a factor: any eye within four times the usual, up or down. A choice.
const SPREAD: f64 = 4.0;

/// What is known of an eye in one drill. The next size is asked at the mean of what is believed of its threshold (King-Smith et al. 1994, ZEST, after
/// Watson & Pelli 1983, QUEST): the threshold is where four in five beyond guessing are right (a Weibull function).
#[derive(Clone, Debug, PartialEq)]
pub struct Threshold {
    drill: Drill,
    /// Belief on each place of the ladder, adding up to 1.
    belief: Vec<f64>,
}

impl Threshold {
    /// Before any answer.
    pub fn before(drill: Drill) -> Self {
        let usual = drill.usual().ln();
        let belief = (0..PLACES).map(|i| (-0.5 * ((size_at(drill, i).ln() - usual) / SPREAD.ln() * 1.6).powi(2)).exp()).collect();
        Self { drill, belief }.settled()
    }

    /// After some answers: sizes asked, and whether they were right.
    pub fn of(drill: Drill, answers: impl IntoIterator<Item = (f64, bool)>) -> Self {
        answers.into_iter().fold(Self::before(drill), |t, (size, right)| t.after(size, right))
    }

    /// After one more answer.
    pub fn after(mut self, size: f64, right: bool) -> Self {
        for i in 0..PLACES {
            let p = chance(self.drill, size, size_at(self.drill, i));
            self.belief[i] *= if right { p } else { 1.0 - p };
        }
        self.settled()
    }

    fn settled(mut self) -> Self {
        let sum: f64 = self.belief.iter().sum();
        let even = 1.0 / PLACES as f64;
        self.belief.iter_mut().for_each(|b| *b = if sum > 0.0 { *b / sum } else { even });
        self
    }

    fn mean(&self) -> f64 {
        self.belief.iter().enumerate().map(|(i, b)| b * size_at(self.drill, i).ln()).sum()
    }

    /// The size it just tells apart.
    pub fn size(&self) -> f64 {
        self.mean().exp()
    }

    /// The doubt in that, as a factor: 1.2 means a fifth more or less, two times in three.
    pub fn doubt(&self) -> f64 {
        let mean = self.mean();
        let spread: f64 = self.belief.iter().enumerate().map(|(i, b)| b * (size_at(self.drill, i).ln() - mean).powi(2)).sum();
        spread.sqrt().exp()
    }

    /// What to ask next: at the threshold, where an answer teaches most.
    pub fn next_size(&self) -> f64 {
        let (least, most) = self.drill.range();
        self.size().clamp(least, most)
    }
}

/// The size at a place of the ladder, from the smallest to the largest in equal factors.
fn size_at(drill: Drill, place: usize) -> f64 {
    let (least, most) = drill.range();
    (least.ln() + (most.ln() - least.ln()) * place as f64 / (PLACES - 1) as f64).exp()
}

/// The chance that an eye of some threshold answers a question of some size rightly.
pub(crate) fn chance(drill: Drill, size: f64, threshold: f64) -> f64 {
    let guess = drill.by_guess();
    guess + (1.0 - guess - LAPSES) * (1.0 - (-(size / threshold).powf(STEEP) * (5f64).ln()).exp())
}
