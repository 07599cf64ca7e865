//! What holds for every timetable, on plans by chance.

use lean_schedule::{Apart, Effort, Job, Lag, Minutes, Plan, Sittings, Timetable, best, greedy};
use proptest::prelude::*;

/// A plan of up to `most` jobs: lags only forwards, some pairs apart, some dates.
fn plans(most: usize, days: bool) -> impl Strategy<Value = Plan> {
    let job = (1u32..20, 0u32..10, 0u32..15, proptest::option::of(10u32..120));
    let links = proptest::collection::vec((0usize..most, 0usize..most, 0u32..30, 0u32..30), 0..most * 2);
    (proptest::collection::vec(job, 2..=most), links.clone(), links).prop_map(move |(jobs, lags, apart)| {
        let n = jobs.len();
        let pairs = |of: Vec<(usize, usize, u32, u32)>| -> Vec<(usize, usize, u32, u32)> {
            of.into_iter().map(|(a, b, x, y)| (a % n, b % n, x, y)).filter(|(a, b, ..)| a < b).collect()
        };
        let jobs = jobs.into_iter().map(|(work, from, after, due)| Job {
            work: Minutes(work),
            from: Minutes(from),
            after: Minutes(after),
            due: due.map(Minutes),
        });
        Plan {
            jobs: jobs.collect(),
            lags: pairs(lags).into_iter().map(|(before, after, wait, _)| Lag { before, after, wait: Minutes(wait) }).collect(),
            apart: pairs(apart)
                .into_iter()
                .map(|(one, other, x, y)| Apart { one, one_wet: Minutes(x), other, other_wet: Minutes(y) })
                .collect(),
            sittings: if days { Sittings { long: Minutes(40), every: Minutes(100) } } else { Sittings::endless() },
        }
    })
}

/// Whether nothing wet is touched and nothing is done out of turn.
fn keeps_the_rules(plan: &Plan, table: &Timetable) -> Result<(), String> {
    let begin = |i: usize| table.begins[i].0;
    let end = |i: usize| begin(i) + plan.jobs[i].work.0;
    for (i, j) in plan.jobs.iter().enumerate() {
        let at = begin(i) % plan.sittings.every.0;
        if begin(i) < j.from.0 || at + j.work.0 > plan.sittings.long.0 {
            return Err(format!("{i} begins at {} out of its time", begin(i)));
        }
        for k in 0..i {
            if begin(i) < end(k) && begin(k) < end(i) {
                return Err(format!("{i} and {k} at once"));
            }
        }
    }
    for l in &plan.lags {
        if begin(l.after) < end(l.before) + l.wait.0 {
            return Err(format!("{l:?} is not kept"));
        }
    }
    for a in &plan.apart {
        let dry = begin(a.other) >= end(a.one) + a.one_wet.0 || begin(a.one) >= end(a.other) + a.other_wet.0;
        if !dry {
            return Err(format!("{a:?} is not kept"));
        }
    }
    let last = (0..plan.jobs.len()).map(|i| end(i) + plan.jobs[i].after.0).max().unwrap_or(0);
    let late = |i: usize| plan.jobs[i].due.map_or(0, |d| (end(i) + plan.jobs[i].after.0).saturating_sub(d.0));
    let latest = (0..plan.jobs.len()).map(late).max().unwrap_or(0);
    if (last, latest) == (table.last.0, table.late.0) { Ok(()) } else { Err("it says otherwise than it is".into()) }
}

/// The best of all orders, one by one.
fn of_all_orders(plan: &Plan) -> (u32, u32) {
    fn go(plan: &Plan, begins: &mut Vec<Option<u32>>, free: u32, best: &mut (u32, u32)) {
        let end = |begins: &[Option<u32>], i: usize| begins[i].map(|b| b + plan.jobs[i].work.0);
        if begins.iter().all(Option::is_some) {
            let ended = |i: usize| end(begins, i).unwrap_or(0) + plan.jobs[i].after.0;
            let late = (0..begins.len()).map(|i| plan.jobs[i].due.map_or(0, |d| ended(i).saturating_sub(d.0))).max().unwrap_or(0);
            let last = (0..begins.len()).map(ended).max().unwrap_or(0);
            *best = (*best).min((late, last));
            return;
        }
        for i in (0..begins.len()).filter(|i| begins[*i].is_none()).collect::<Vec<_>>() {
            if plan.lags.iter().any(|l| l.after == i && begins[l.before].is_none()) {
                continue;
            }
            let lags = plan.lags.iter().filter(|l| l.after == i).filter_map(|l| Some(end(begins, l.before)? + l.wait.0));
            let ones = plan.apart.iter().filter(|a| a.other == i).filter_map(|a| Some(end(begins, a.one)? + a.one_wet.0));
            let others = plan.apart.iter().filter(|a| a.one == i).filter_map(|a| Some(end(begins, a.other)? + a.other_wet.0));
            let ready = lags.chain(ones).chain(others).chain([free, plan.jobs[i].from.0]).max().unwrap_or(0);
            let begin = plan.sittings.fit(Minutes(ready), plan.jobs[i].work).0;
            begins[i] = Some(begin);
            go(plan, begins, begin + plan.jobs[i].work.0, best);
            begins[i] = None;
        }
    }
    let mut best = (u32::MAX, u32::MAX);
    go(plan, &mut vec![None; plan.jobs.len()], 0, &mut best);
    best
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(250))]

    #[test]
    fn a_small_plan_is_as_good_as_the_best_of_all_orders(plan in prop_oneof![plans(6, false), plans(6, true)]) {
        let table = best(&plan, Effort::default()).unwrap();
        prop_assert_eq!(keeps_the_rules(&plan, &table), Ok(()));
        prop_assert!(table.proved, "so few jobs are searched to the end");
        prop_assert_eq!((table.late.0, table.last.0), of_all_orders(&plan));
    }

    #[test]
    fn a_large_plan_keeps_the_rules_and_is_never_worse_than_greedy(plan in prop_oneof![plans(40, false), plans(40, true)]) {
        let few = Effort { orders: 200, nodes: 1000 };
        let (table, plain) = (best(&plan, few).unwrap(), greedy(&plan).unwrap());
        prop_assert_eq!(keeps_the_rules(&plan, &table), Ok(()));
        prop_assert_eq!(keeps_the_rules(&plan, &plain), Ok(()));
        prop_assert!((table.late, table.last) <= (plain.late, plain.last));
        prop_assert!(table.last >= table.least);
        prop_assert_eq!(best(&plan, few).unwrap(), table, "the same every time");
    }
}

#[test]
fn a_date_is_kept_or_said_to_be_missed() {
    let wash = |due| Job { after: Minutes(30), due: Some(Minutes(due)), ..Job::of(Minutes(10)) };
    let plan = |due| Plan { jobs: vec![Job::of(Minutes(60)), wash(due)], lags: vec![], apart: vec![], sittings: Sittings::endless() };
    let kept = best(&plan(45), Effort::default()).unwrap();
    assert_eq!((kept.late, kept.order), (Minutes(0), vec![1, 0]), "what is due goes first");
    let missed = best(&plan(35), Effort::default()).unwrap();
    assert_eq!((missed.late, missed.proved), (Minutes(5), true), "nobody can keep it");
}

#[test]
fn what_waits_for_itself_and_what_no_sitting_holds_is_refused() {
    let jobs = vec![Job::of(Minutes(50)), Job::of(Minutes(5))];
    let lag = |before, after| Lag { before, after, wait: Minutes(0) };
    let circle = Plan { jobs: jobs.clone(), lags: vec![lag(0, 1), lag(1, 0)], apart: vec![], sittings: Sittings::endless() };
    assert!(best(&circle, Effort::default()).unwrap_err().to_string().contains("waits for itself"));
    let short = Plan { jobs, lags: vec![], apart: vec![], sittings: Sittings { long: Minutes(40), every: Minutes(1440) } };
    assert!(greedy(&short).unwrap_err().to_string().contains("a sitting has 40"));
    let stray = Plan { lags: vec![lag(0, 9)], sittings: Sittings::endless(), ..short };
    assert!(best(&stray, Effort::default()).is_err());
}
