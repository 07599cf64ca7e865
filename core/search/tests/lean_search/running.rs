//! How a search runs: the same on any number of threads, from remembered tables, cancelled at once, its progress true.

use crate::asking::{need, some_targets};
use lean_media::{Medium, Pigment, library};
use lean_recipes::Grain;
use lean_search::demands::Demands;
use lean_search::progress::{Progress, Unwatched};
use lean_search::{Ask, Choice, NoAnswer, SetFound, Tables, search};
use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};

fn ask_with(
    pigments: &[Pigment],
    medium: Medium,
    choice: &Choice,
    sizes: (usize, usize),
    tables: &Tables,
    watch: &dyn Progress,
) -> Result<Vec<SetFound>, NoAnswer> {
    let needs = [need(medium, some_targets())];
    search(&Ask { pigments, medium, needs: &needs, choice, sizes: sizes.0..=sizes.1 }, tables, watch, &|_| {})
}

fn many(n: usize) -> Vec<Pigment> {
    library::modelled().iter().filter(|p| p.id.0 != "PW4").take(n).cloned().collect()
}

#[test]
fn more_pigments_never_cost_more_and_the_answer_is_the_same_on_any_number_of_threads() {
    for (medium, n, largest) in [(Medium::Oil, 40, 6), (Medium::Watercolour, 24, 5), (Medium::SoftPastel, 24, 5)] {
        let run = |threads: usize| {
            let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
            pool.install(|| ask_with(&many(n), medium, &Choice::default(), (1, largest), &Tables::default(), &Unwatched).unwrap())
        };
        let (one, two, five) = (run(1), run(2), run(5));
        assert_eq!(one, two);
        assert_eq!(one, five);
        assert!(one.windows(2).all(|w| w[1].cost <= w[0].cost + 1e-12));
        assert!(
            one.iter().all(|s| s.proved_optimal
                && s.runner_up_cost.is_none_or(|r| r >= s.cost)
                && s.price_of_dropping.iter().all(|p| *p >= -1e-12))
        );
        for s in &one {
            let listed: Vec<f64> = s.near_ties.iter().map(|t| t.cost).collect();
            assert!(listed.iter().all(|c| *c >= s.cost && *c <= s.cost * 1.02 + 1e-9) && listed.is_sorted());
            assert!(s.near_ties.iter().all(|t| t.pigments != s.pigments));
        }
    }
}

#[test]
fn remembered_tables_give_the_same_answer() {
    let owned = many(30);
    let choice = Choice {
        locked: vec![owned[4].id.clone()],
        excluded: vec![owned[9].id.clone()],
        demands: Demands { no_black: true, ..Demands::default() },
        grain: Grain::Parts,
    };
    let tables = Tables::default();
    ask_with(&owned, Medium::Oil, &Choice { grain: Grain::Parts, ..Choice::default() }, (2, 4), &tables, &Unwatched).unwrap();
    let warm = ask_with(&owned, Medium::Oil, &choice, (3, 5), &tables, &Unwatched).unwrap();
    let cold = ask_with(&owned, Medium::Oil, &choice, (3, 5), &Tables::default(), &Unwatched).unwrap();
    assert_eq!(warm, cold);
}

/// Records progress and cancels when told to.
struct Watch {
    shares: Mutex<Vec<f64>>,
    cancel_at: usize,
    reports: AtomicUsize,
    cancelled: AtomicBool,
}

impl Watch {
    fn cancelling_at(cancel_at: usize) -> Self {
        Self { shares: Mutex::default(), cancel_at, reports: AtomicUsize::new(0), cancelled: AtomicBool::new(false) }
    }
}

impl Progress for Watch {
    fn report(&self, share: f64) {
        self.shares.lock().unwrap().push(share);
        if self.reports.fetch_add(1, Ordering::Relaxed) + 1 == self.cancel_at {
            self.cancelled.store(true, Ordering::Relaxed);
        }
    }
    fn is_cancelled(&self) -> bool {
        self.cancelled.load(Ordering::Relaxed)
    }
}

#[test]
fn progress_runs_from_nothing_to_all() {
    let watch = Watch::cancelling_at(usize::MAX);
    ask_with(&many(24), Medium::Pencil, &Choice::default(), (2, 5), &Tables::default(), &watch).unwrap();
    let shares = watch.shares.into_inner().unwrap();
    assert!(shares.iter().all(|s| (0.0..=1.0 + 1e-9).contains(s)));
    assert!(shares.len() > 50 && (shares[shares.len() - 1] - 1.0).abs() < 1e-9);
    // Threads tell their shares out of order, but never by much.
    let mut most = 0.0f64;
    for s in &shares {
        assert!(*s >= most - 0.1, "{s} after {most}");
        most = most.max(*s);
    }
}

#[test]
fn a_cancelled_search_stops_at_once_wherever_it_is() {
    let owned = many(60);
    let whole = Watch::cancelling_at(usize::MAX);
    ask_with(&owned, Medium::Oil, &Choice::default(), (2, 6), &Tables::default(), &whole).unwrap();
    let reports = whole.reports.into_inner();
    let threads = std::thread::available_parallelism().map_or(1, usize::from);
    assert!(reports > 100 * threads, "a piece of work is short");
    for tenth in [0, 3, 6, 8, 9] {
        let watch = Watch::cancelling_at((reports * tenth / 10).max(1));
        let got = ask_with(&owned, Medium::Oil, &Choice::default(), (2, 6), &Tables::default(), &watch);
        assert_eq!(got, Err(NoAnswer::Cancelled), "at {tenth}/10");
        // Every thread ends the piece of work it is at, and begins no other.
        let after = watch.reports.into_inner() - watch.cancel_at;
        assert!(after <= threads, "{after} pieces of work were done after it was cancelled at {tenth}/10, on {threads} threads");
    }
}

#[test]
fn questions_evaluated_together_have_the_same_answers_as_alone() {
    let turned = |by: f64| {
        let turn = |t: lean_recipes::Target| lean_recipes::Target {
            lab: lean_colour::Lab::from_lch(t.lab.l, t.lab.chroma(), t.lab.hue().0 + by),
            ..t
        };
        some_targets().into_iter().map(turn).collect::<Vec<_>>()
    };
    for medium in [Medium::Oil, Medium::Watercolour, Medium::SoftPastel] {
        let pigments = many(20);
        let choice = Choice::default();
        let needs: Vec<[lean_search::Need; 1]> = [0.0, 70.0, 200.0].map(|by| [need(medium, turned(by))]).into();
        let asks: Vec<Ask> = needs.iter().map(|needs| Ask { pigments: &pigments, medium, needs, choice: &choice, sizes: 2..=4 }).collect();
        let together = Tables::default();
        together.prepare(&asks, &Unwatched).unwrap();
        for ask in &asks {
            let alone = search(ask, &Tables::default(), &Unwatched, &|_| {}).unwrap();
            assert_eq!(search(ask, &together, &Unwatched, &|_| {}).unwrap(), alone, "{medium:?}");
        }
    }
}

#[test]
fn evaluating_together_is_called_off_too() {
    struct Off;
    impl Progress for Off {
        fn report(&self, _: f64) {}
        fn is_cancelled(&self) -> bool {
            true
        }
    }
    let pigments = many(24);
    let choice = Choice::default();
    let needs = [[need(Medium::Oil, some_targets())], [need(Medium::Oil, some_targets().into_iter().rev().collect())]];
    let asks: Vec<Ask> =
        needs.iter().map(|needs| Ask { pigments: &pigments, medium: Medium::Oil, needs, choice: &choice, sizes: 2..=3 }).collect();
    assert_eq!(Tables::default().prepare(&asks, &Off), Err(NoAnswer::Cancelled));
}
