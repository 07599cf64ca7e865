//! How time and memory grow, as a table and a plot.

use crate::questions::{need, owned};
use lean_media::Medium;
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Tables, search};
use std::fmt::Write;
use std::time::Instant;

/// One cold search.
pub(crate) struct Case {
    pub medium: Medium,
    pub n: usize,
    pub m: usize,
    pub k: usize,
    pub threads: usize,
}

/// What it took.
pub(crate) struct Took {
    pub seconds: f64,
    /// Most memory in use above what was there before, in MB.
    pub megabytes: f64,
    pub proved: bool,
}

pub(crate) fn run(case: &Case) -> Took {
    let pool = rayon::ThreadPoolBuilder::new().num_threads(case.threads).build().expect("threads can be started");
    let pigments = owned(case.n);
    let needs = [need(case.medium, case.m)];
    let ask = Ask { pigments: &pigments, medium: case.medium, needs: &needs, choice: &Choice::default(), sizes: 2..=case.k };
    let before = crate::MEMORY.begin();
    let start = Instant::now();
    let found = pool.install(|| search(&ask, &Tables::default(), &Unwatched, &|_| {})).expect("there is an answer");
    let seconds = start.elapsed().as_secs_f64();
    let megabytes = (crate::MEMORY.most() - before) as f64 / f64::from(1 << 20);
    Took { seconds, megabytes, proved: found.iter().all(|s| s.proved_optimal) }
}

/// Cases that differ in one thing, with what that is.
pub(crate) fn series() -> Vec<(&'static str, Vec<Case>)> {
    let usual = || Case { medium: Medium::Oil, n: 60, m: 24, k: 6, threads: 2 };
    vec![
        ("pigments n", [15, 30, 45, 60, 90].map(|n| Case { n, ..usual() }).into()),
        ("targets m", [6, 12, 24, 48].map(|m| Case { m, ..usual() }).into()),
        ("largest size k", [3, 4, 5, 6, 7, 8].map(|k| Case { k, ..usual() }).into()),
        ("threads", [1, 2].map(|threads| Case { threads, ..usual() }).into()),
        ("medium", Medium::ALL.map(|medium| Case { medium, ..usual() }).into()),
    ]
}

impl Case {
    fn at(&self, what: &str) -> String {
        match what {
            "pigments n" => self.n.to_string(),
            "targets m" => self.m.to_string(),
            "largest size k" => self.k.to_string(),
            "threads" => self.threads.to_string(),
            _ => self.medium.name().to_owned(),
        }
    }
}

/// Runs all series; returns the table in Markdown and the plot in SVG.
pub(crate) fn report() -> (String, String) {
    let mut table =
        String::from("| what | | seconds, cold | against the usual | memory, MB | all proved |\n|---|---|---:|---:|---:|---|\n");
    let mut plots = Vec::new();
    let base = run(&Case { medium: Medium::Oil, n: 60, m: 24, k: 6, threads: 2 }).seconds;
    for (what, cases) in series() {
        let mut points = Vec::new();
        for case in &cases {
            let took = run(case);
            let proved = if took.proved { "yes" } else { "no" };
            let _ = writeln!(
                table,
                "| {what} | {} | {:.2} | {:.2} | {:.0} | {proved} |",
                case.at(what),
                took.seconds,
                took.seconds / base,
                took.megabytes
            );
            points.push((case.at(what), took.seconds));
        }
        if what != "medium" {
            plots.push((what, points));
        }
    }
    (table, crate::plot::svg(&plots))
}
