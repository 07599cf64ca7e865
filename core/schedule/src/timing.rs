//! A plan made ready to be timed again and again.

use crate::plan::{Impossible, Minutes, Plan, Sittings, Timetable};

/// What a timetable is judged by: minutes late, then when the last is finished.
pub(crate) type Worth = (u32, u32);

/// A plan with what follows every job looked up.
pub(crate) struct Timing<'a> {
    pub plan: &'a Plan,
    pub sittings: Sittings,
    /// For each job, what waits for it and how long.
    pub then: Vec<Vec<(usize, u32)>>,
    /// For each job, how many it waits for.
    pub waits: Vec<usize>,
    /// For each job, what must wait while it is wet, and how long.
    pub beside: Vec<Vec<(usize, u32)>>,
    /// Least minutes from the end of each job until all that waits for it is finished.
    pub tail: Vec<u32>,
    /// The earliest end-date, less the tail, of each job and all that waits for it.
    pub due: Vec<u32>,
}

/// No date.
pub(crate) const NO_DATE: u32 = u32::MAX / 2;

impl<'a> Timing<'a> {
    pub(crate) fn of(plan: &'a Plan) -> Result<Self, Impossible> {
        plan.check()?;
        let n = plan.jobs.len();
        let (mut then, mut waits, mut beside) = (vec![Vec::new(); n], vec![0; n], vec![Vec::new(); n]);
        for l in &plan.lags {
            then[l.before].push((l.after, l.wait.0));
            waits[l.after] += 1;
        }
        for a in &plan.apart {
            beside[a.one].push((a.other, a.one_wet.0));
            beside[a.other].push((a.one, a.other_wet.0));
        }
        let (mut tail, mut due) = (vec![0; n], vec![NO_DATE; n]);
        for i in plan.in_turn()?.into_iter().rev() {
            let job = plan.jobs[i];
            tail[i] = job.after.0;
            due[i] = job.due.map_or(NO_DATE, |d| d.0.saturating_sub(job.after.0));
            for (j, wait) in &then[i] {
                tail[i] = tail[i].max(wait + plan.jobs[*j].work.0 + tail[*j]);
                due[i] = due[i].min(due[*j].saturating_sub(wait + plan.jobs[*j].work.0));
            }
        }
        Ok(Self { plan, sittings: plan.sittings, then, waits, beside, tail, due })
    }

    pub(crate) fn work(&self, i: usize) -> u32 {
        self.plan.jobs[i].work.0
    }

    /// What begins are worth.
    pub(crate) fn worth(&self, begins: &[u32]) -> Worth {
        let ended = |i: usize| begins[i] + self.work(i) + self.plan.jobs[i].after.0;
        let late = (0..begins.len()).filter_map(|i| Some(ended(i).saturating_sub(self.plan.jobs[i].due?.0))).max().unwrap_or(0);
        (late, (0..begins.len()).map(ended).max().unwrap_or(0))
    }

    /// A timetable of begins that are known to keep every rule.
    pub(crate) fn table(&self, begins: Vec<u32>, least: Worth) -> Timetable {
        let (late, last) = self.worth(&begins);
        let mut order: Vec<usize> = (0..begins.len()).collect();
        order.sort_by_key(|i| begins[*i]);
        Timetable {
            order,
            last: Minutes(last),
            late: Minutes(late),
            proved: (late, last) <= least,
            least: Minutes(least.1),
            begins: begins.into_iter().map(Minutes).collect(),
        }
    }
}
