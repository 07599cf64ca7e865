//! Planned faults that must be noticed, and sound plans that must be left alone.

mod scene;

use lean_plan::findings::plan::written::WrittenPlan;
use lean_plan::findings::{Finding, of_plan};
use lean_plan::requests::Request;
use scene::{Fault, faults, sound};

fn of(plan: &WrittenPlan) -> Vec<Finding> {
    of_plan(&plan.plan())
}

/// What a finding says, with the names of its zones.
fn said(plan: &WrittenPlan, found: &[Finding]) -> String {
    let one = |f: &Finding| format!("  {}: {} ({})", f.rule, f.title, f.zones.iter().map(|z| plan.name(*z)).collect::<Vec<_>>().join(", "));
    found.iter().map(one).collect::<Vec<_>>().join("\n")
}

#[test]
fn sound_plans_are_left_alone() {
    let plans = sound();
    assert!(plans.len() >= 40, "{} sound plans", plans.len());
    let media: std::collections::BTreeSet<String> = plans.iter().map(|p| format!("{:?}", p.medium)).collect();
    assert_eq!(media.len(), 5, "{media:?}");
    let alarms: Vec<String> =
        plans.iter().map(|p| (p, of(p))).filter(|(_, f)| !f.is_empty()).map(|(p, f)| format!("{}:\n{}", p.title, said(p, &f))).collect();
    assert!(alarms.len() <= plans.len() / 40, "{} of {} sound plans get a remark:\n{}", alarms.len(), plans.len(), alarms.join("\n"));
}

#[test]
fn planted_faults_are_noticed() {
    let plans = sound();
    let faults = faults();
    assert!(faults.len() >= 60, "{} faults", faults.len());
    let missed: Vec<String> = faults.iter().filter_map(|f| missed(&plans, f)).collect();
    assert!(missed.len() * 20 <= faults.len(), "{} of {} planted faults are missed:\n{}", missed.len(), faults.len(), missed.join("\n"));
}

/// How a fault was missed; `None` when its rule speaks of its zone.
fn missed(plans: &[WrittenPlan], fault: &Fault) -> Option<String> {
    let plan = fault.planted(plans);
    let found = of(&plan);
    let noticed = found.iter().any(|f| f.rule == fault.rule && f.zones.iter().any(|z| plan.name(*z) == fault.zone));
    (!noticed).then(|| format!("{} in {}: {}\n{}", fault.rule, plan.title, fault.zone, said(&plan, &found)))
}

/// Every change a finding proposes ends that finding when it is taken.
#[test]
fn what_is_proposed_mends_what_was_said() {
    let plans = sound();
    let mut unmended = Vec::new();
    for fault in faults() {
        let plan = fault.planted(&plans);
        for found in of(&plan).iter().filter(|f| f.rule == fault.rule) {
            let requests = found.suggestion.iter().map(|w| (&found.help, w)).chain(found.also.iter().map(|p| (&p.help, &p.request)));
            for (help, request) in requests {
                let still = of(&taken(&plan, request)).into_iter().any(|f| f.key == found.key);
                if still {
                    unmended.push(format!("{} in {}: \"{help}\" changes nothing", found.key, plan.title));
                }
            }
        }
    }
    assert!(unmended.is_empty(), "{}", unmended.join("\n"));
}

/// Every sentence ends, names its zones, and reads as one.
#[test]
fn what_is_said_can_be_read_aloud() {
    let plans = sound();
    for fault in faults() {
        let plan = fault.planted(&plans);
        for f in of(&plan) {
            assert!(!f.title.ends_with('.') && !f.title.chars().next().is_some_and(char::is_lowercase), "{}", f.title);
            assert!(f.why.ends_with('.') || f.why.ends_with('?'), "{}", f.why);
            assert!(!f.why.contains("NaN") && !f.why.contains("inf") && !f.why.contains("-0"), "{}", f.why);
            assert!(!f.school.is_empty() && !f.rule.is_empty() && f.key.starts_with(f.rule), "{} {}", f.rule, f.key);
        }
    }
}

fn taken(plan: &WrittenPlan, request: &Request) -> WrittenPlan {
    let mut plan = plan.clone();
    let Request::SetTargets { targets, .. } = request else { return plan };
    for t in targets {
        plan.zones[usize::from(t.zone.0) - 1].lab = [t.target.l, t.target.a, t.target.b];
    }
    plan
}

#[test]
fn a_plan_is_read_from_json_and_bad_ones_are_refused() {
    let plan = &sound()[0];
    let text = serde_json::to_string(plan).unwrap();
    assert_eq!(WrittenPlan::read(&text).as_ref(), Ok(plan));
    for (bad, says) in [
        (text.replace("\"name\":\"roof\"", "\"name\":\"sky\""), "Two zones are called \"sky\""),
        (text.replace("[83.0,-4.0,-16.0]", "[183.0,-4.0,-16.0]"), "L* runs from 0 to 100"),
        (text.replace("\"area\":30.0", "\"area\":-1.0"), "it has to be above 0"),
        (text.replace("\"oil\"", "\"chalk\""), "The plan cannot be read"),
        (text.replace("\"far hills\":10.0", "\"farm\":10.0"), "no other zone of the plan"),
        ("{".into(), "The plan cannot be read"),
    ] {
        assert!(WrittenPlan::read(&bad).unwrap_err().contains(says), "{says}: {:?}", WrittenPlan::read(&bad));
    }
}
