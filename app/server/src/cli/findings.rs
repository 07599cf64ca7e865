//! `lean-swatch findings PLAN.json`

use clap::Args;
use lean_plan::findings::plan::written::WrittenPlan;
use lean_plan::findings::{Finding, of_plan};
use lean_plan::requests::Request;
use serde::Serialize;
use std::path::PathBuf;

#[derive(Args)]
pub(super) struct Findings {
    /// A plan without a picture, as docs/schemas/findings.schema.json has it; `-` reads standard input.
    plan: PathBuf,
}

/// The whole answer. See docs/schemas/findings-answer.schema.json.
#[derive(Serialize)]
pub(super) struct Answer {
    findings: Vec<Said>,
}

/// One finding, its zones by name.
#[derive(Serialize)]
struct Said {
    rule: &'static str,
    zones: Vec<String>,
    title: String,
    reason: String,
    school: String,
    /// What helps, in words; empty where nothing is proposed.
    help: String,
    /// Changes that would mend it, the suggested one first.
    changes: Vec<Change>,
}

#[derive(Serialize)]
struct Change {
    what: String,
    targets: Vec<Target>,
}

#[derive(Serialize)]
struct Target {
    zone: String,
    lab: [f64; 3],
}

pub(super) fn run(a: Findings) -> Result<Answer, String> {
    let at = |problem: String| format!("{}: {problem}", a.plan.display());
    let text = if a.plan.as_os_str() == "-" { std::io::read_to_string(std::io::stdin()) } else { std::fs::read_to_string(&a.plan) };
    let plan = WrittenPlan::read(&text.map_err(|e| at(e.to_string()))?).map_err(at)?;
    let findings = of_plan(&plan.plan()).into_iter().map(|f| said(&plan, f)).collect();
    Ok(Answer { findings })
}

fn said(plan: &WrittenPlan, f: Finding) -> Said {
    let suggested = f.suggestion.iter().map(|request| (f.help.as_str(), request));
    let changes =
        suggested.chain(f.also.iter().map(|p| (p.help.as_str(), &p.request))).filter_map(|(what, request)| change(plan, what, request));
    Said {
        rule: f.rule,
        zones: f.zones.iter().map(|z| plan.name(*z).to_owned()).collect(),
        changes: changes.collect(),
        title: f.title,
        reason: f.why,
        school: f.school,
        help: f.help,
    }
}

fn change(plan: &WrittenPlan, what: &str, request: &Request) -> Option<Change> {
    let Request::SetTargets { targets, .. } = request else { return None };
    let rounded = |v: f64| (v * 100.0).round() / 100.0;
    let target = |t: &lean_plan::requests::ZoneTarget| Target {
        zone: plan.name(t.zone).to_owned(),
        lab: [rounded(t.target.l), rounded(t.target.a), rounded(t.target.b)],
    };
    Some(Change { what: what.to_owned(), targets: targets.iter().map(target).collect() })
}
