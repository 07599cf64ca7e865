//! Long work of many painters, taken in turn: whoever waits longest without having had a turn comes next.

use std::collections::VecDeque;
use std::sync::{Condvar, Mutex};

/// Turns at long work.
pub struct Turns {
    state: Mutex<State>,
    changed: Condvar,
}

struct State {
    free: usize,
    next: u64,
    /// Works that wait, in the order they came.
    waiting: VecDeque<Waiting>,
    /// When each painter had a turn last, by its number.
    had: Vec<(String, u64)>,
    turns: u64,
}

struct Waiting {
    number: u64,
    painter: String,
}

impl State {
    /// The work that is next: of the painter whose last turn is longest ago, the one that came first.
    fn first(&self) -> Option<u64> {
        let last = |w: &Waiting| self.had.iter().find(|(p, _)| *p == w.painter).map_or(0, |(_, turn)| *turn);
        self.waiting.iter().min_by_key(|w| (last(w), w.number)).map(|w| w.number)
    }
}

/// A turn; it ends when this is dropped.
pub struct Turn<'t>(&'t Turns);

impl Turns {
    /// So many works at once, at least one.
    pub fn of(together: usize) -> Self {
        let state = State { free: together.max(1), next: 1, waiting: VecDeque::new(), had: Vec::new(), turns: 0 };
        Self { state: Mutex::new(state), changed: Condvar::new() }
    }

    /// Waits for a turn; `given_up` is asked now and then, and ends the waiting without one.
    pub fn wait(&self, painter: &str, given_up: &dyn Fn() -> bool) -> Option<Turn<'_>> {
        const ASKED: std::time::Duration = std::time::Duration::from_millis(200);
        let mut state = self.state.lock().unwrap_or_else(|p| p.into_inner());
        let number = state.next;
        state.next += 1;
        state.waiting.push_back(Waiting { number, painter: painter.to_owned() });
        loop {
            if given_up() {
                state.waiting.retain(|w| w.number != number);
                self.changed.notify_all();
                return None;
            }
            if state.free > 0 && state.first() == Some(number) {
                break;
            }
            state = self.changed.wait_timeout(state, ASKED).unwrap_or_else(|p| p.into_inner()).0;
        }
        state.waiting.retain(|w| w.number != number);
        state.free -= 1;
        state.turns += 1;
        let turn = state.turns;
        state.had.retain(|(p, _)| p != painter);
        state.had.push((painter.to_owned(), turn));
        // Another may be free as well.
        self.changed.notify_all();
        Some(Turn(self))
    }
}

impl Drop for Turn<'_> {
    fn drop(&mut self) {
        self.0.state.lock().unwrap_or_else(|p| p.into_inner()).free += 1;
        self.0.changed.notify_all();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::mpsc;
    use std::thread::scope;

    fn waiting(turns: &Turns) -> usize {
        turns.state.lock().unwrap().waiting.len()
    }

    #[test]
    fn one_who_asks_ten_times_does_not_keep_another_waiting() {
        let turns = Turns::of(1);
        let (done, order) = mpsc::channel();
        scope(|s| {
            let first = turns.wait("ann", &|| false).unwrap();
            let queue = |painter: &'static str, number: usize| {
                let (turns, done) = (&turns, done.clone());
                s.spawn(move || {
                    let turn = turns.wait(painter, &|| false).unwrap();
                    done.send(painter).unwrap();
                    drop(turn);
                });
                while waiting(turns) < number {
                    std::thread::yield_now();
                }
            };
            (1..=5).for_each(|n| queue("ann", n));
            queue("bea", 6);
            drop(first);
        });
        drop(done);
        let order: Vec<&str> = order.iter().collect();
        assert_eq!(order[0], "bea", "{order:?}");
        assert_eq!(order.len(), 6);
    }

    #[test]
    fn who_gives_up_leaves_the_queue() {
        let turns = Turns::of(1);
        let held = turns.wait("ann", &|| false);
        assert!(turns.wait("bea", &|| true).is_none());
        assert_eq!(waiting(&turns), 0);
        drop(held);
        assert!(turns.wait("bea", &|| false).is_some());
    }
}
