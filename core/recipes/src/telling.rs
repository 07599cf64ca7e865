//! A recipe in words.

use crate::mix::{Heap, Mix, MixLayer, Part};
use lean_media::PigmentId;
use serde::Serialize;

/// Words left out of a layer because they are usual: a full crisp stroke, one coat, a pencil pressed as usual.
const USUAL: [&str; 4] = ["full", "crisp", "one coat", "middle"];
/// Words for the ways to lay a layer, and the adverbs for them.
const SAID: [(&str, &str); 4] = [("light", "lightly"), ("firm", "firmly"), ("heavy", "heavily"), ("rubbed in", "rubbed in")];
/// From so many parts to one a thing is let down rather than mixed in parts. A choice.
const LET_DOWN: u16 = 4;

/// A recipe as it is read out: over a list, on one line, or step by step.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Told {
    /// What stands over it: `In 4 parts`, `In 2 heaps`, `In 3 layers`, `Alone`, `Bare`.
    pub head: String,
    /// A mix as one says it before measuring, see [`spoken`]; empty for one thing alone and for layers.
    pub spoken: String,
    /// All of it on one line, see [`short`].
    pub line: String,
    /// Its layers or heaps, the first made first; none where it is mixed in one heap, or bare.
    pub steps: Vec<ToldStep>,
}

/// One layer or heap of a recipe.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ToldStep {
    /// What is laid or mixed: `over it 2 slate blue : 1 dove`.
    pub what: String,
    /// How: `full, crisp`; empty for a heap.
    pub how: String,
}

/// A recipe as it is read out. `name` is what the painter calls a pigment.
pub fn told(mix: &Mix, name: &dyn Fn(&PigmentId) -> String) -> Told {
    Told { head: head(mix), spoken: spoken(mix, name), line: short(mix, name), steps: steps(mix, name) }
}

/// Shares of a mix from which there is mostly, some, a little of a thing; below there is a trace. Choices.
const MOSTLY: f64 = 0.3;
const SOME: f64 = 0.1;
const A_LITTLE: f64 = 0.02;

/// A wet mix as one says it before measuring: `mostly white and green earth, a little ochre, a trace of sienna`.
pub fn spoken(mix: &Mix, name: &dyn Fn(&PigmentId) -> String) -> String {
    if !mix.layers.is_empty() || mix.parts.len() < 2 {
        return String::new();
    }
    let mut amounts = mix.amounts();
    amounts.sort_by(|a, b| b.1.total_cmp(&a.1));
    let all: f64 = amounts.iter().map(|(_, n)| n).sum();
    let (mut mostly, mut rest) = (Vec::new(), Vec::new());
    for (nth, (id, n)) in amounts.into_iter().enumerate() {
        match n / all {
            share if share >= MOSTLY || nth == 0 => mostly.push(name(id)),
            share if share >= SOME => rest.push(format!("some {}", name(id))),
            share if share >= A_LITTLE => rest.push(format!("a little {}", name(id))),
            _ => rest.push(format!("a trace of {}", name(id))),
        }
    }
    let mostly = match mostly.as_slice() {
        [] | [_] if rest.is_empty() => String::new(),
        [one, other] if rest.is_empty() => format!("{one} and {other} in about equal parts"),
        [all @ .., last] if !all.is_empty() => format!("mostly {} and {last}", all.join(", ")),
        all => format!("mostly {}", all.join(", ")),
    };
    [mostly].into_iter().chain(rest).filter(|part| !part.is_empty()).collect::<Vec<_>>().join(", ")
}

fn head(mix: &Mix) -> String {
    let layers: u32 = mix.layers.iter().map(|l| u32::from(l.times)).sum();
    match (mix.parts.as_slice(), layers, mix.heaps.len()) {
        ([], ..) => "Bare".into(),
        (_, 1, _) => "In one layer".into(),
        (_, n, _) if n > 0 => format!("In {n} layers"),
        (_, _, n) if n > 0 => format!("In {n} heaps"),
        ([_], ..) => "Alone".into(),
        (parts, ..) => format!("In {} parts", parts.iter().filter(|p| !p.touch).map(|p| u32::from(p.parts)).sum::<u32>()),
    }
}

fn steps(mix: &Mix, name: &dyn Fn(&PigmentId) -> String) -> Vec<ToldStep> {
    let mixed = |of: &[Part]| match of {
        [only] => name(&only.pigment),
        of => of.iter().map(|p| format!("{} {}", p.parts, name(&p.pigment))).collect::<Vec<_>>().join(" : "),
    };
    let layer = |(i, l): (usize, &MixLayer)| ToldStep {
        what: match l.of.as_slice() {
            [] => "then".into(),
            of if i > 0 => format!("over it {}", mixed(of)),
            of => mixed(of),
        },
        how: l.how.clone(),
    };
    let made = |(i, h): (usize, &Heap)| {
        let what = heap(h, name);
        ToldStep { what: if i > 0 { format!("of that {what}") } else { what }, how: String::new() }
    };
    let layers = mix.layers.iter().enumerate().map(layer);
    if mix.layers.is_empty() { mix.heaps.iter().enumerate().map(made).collect() } else { layers.collect() }
}

/// A recipe on one line: whole parts, `3 slate blue : 1 white`; heaps, `slate blue 1:16 in white, of that 1 : 3 white`; or layers, first laid
/// first, `slate blue, over it dove lightly`. `name` is what the painter calls a pigment.
pub fn short(mix: &Mix, name: &dyn Fn(&PigmentId) -> String) -> String {
    let part = |p: &Part| if p.touch { format!("a touch of {}", name(&p.pigment)) } else { format!("{} {}", p.parts, name(&p.pigment)) };
    let mixed = |of: &[Part]| of.iter().map(part).collect::<Vec<_>>().join(" : ");
    match mix.parts.as_slice() {
        [] => "bare ground".into(),
        _ if !mix.layers.is_empty() => layers(&mix.layers, name),
        _ if !mix.heaps.is_empty() => mix.heaps.iter().map(|h| heap(h, name)).collect::<Vec<_>>().join(", of that "),
        [only] => format!("{} alone", name(&only.pigment)),
        parts => mixed(parts),
    }
}

/// Layers on one line, first laid first: `slate blue, over it dove lightly`, `raspberry, two coats`.
pub fn layers(of: &[MixLayer], name: &dyn Fn(&PigmentId) -> String) -> String {
    let mixed = |of: &[Part]| of.iter().map(|p| format!("{} {}", p.parts, name(&p.pigment))).collect::<Vec<_>>().join(" : ");
    let said = |what: String, how: &str| {
        let told = how.split(", ").filter(|h| !USUAL.contains(h));
        told.fold(what, |line, how| match SAID.iter().find(|(plain, _)| *plain == how) {
            Some((_, adverb)) => format!("{line} {adverb}"),
            None => format!("{line}, {how}"),
        })
    };
    let layer = |l: &MixLayer| match l.of.as_slice() {
        [] => l.how.clone(),
        [only] => said(name(&only.pigment), &l.how),
        of => said(mixed(of), &l.how),
    };
    of.iter().map(layer).collect::<Vec<_>>().join(", over it ")
}

/// One heap, `blue 1:16 in white`; what is taken of the heap before stands first, as a bare number.
pub fn heap(heap: &Heap, name: &dyn Fn(&PigmentId) -> String) -> String {
    let part = |p: &Part| format!("{} {}", p.parts, name(&p.pigment));
    match heap.with.as_slice() {
        [into] if heap.of_last == 1 && into.parts >= LET_DOWN => format!("1:{} in {}", into.parts, name(&into.pigment)),
        [a, b] if heap.of_last == 0 && a.parts.min(b.parts) == 1 && a.parts.max(b.parts) >= LET_DOWN => {
            let (strong, into) = if a.parts == 1 { (a, b) } else { (b, a) };
            format!("{} 1:{} in {}", name(&strong.pigment), into.parts, name(&into.pigment))
        }
        of => {
            let last = (heap.of_last > 0).then(|| heap.of_last.to_string());
            last.into_iter().chain(of.iter().map(part)).collect::<Vec<_>>().join(" : ")
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::Lab;

    fn part(id: &str, parts: u16) -> Part {
        Part { pigment: id.into(), parts, touch: false }
    }

    fn line(heaps: Vec<Heap>) -> String {
        let parts = vec![part("white", 9), part("blue", 1)];
        short(&Mix { parts, heaps, ..Mix::bare(Lab::new(50.0, 0.0, 0.0)) }, &|id| id.0.clone())
    }

    #[test]
    fn a_mix_is_said_before_it_is_measured() {
        let name = |id: &PigmentId| id.0.clone();
        let first = Heap { of_last: 0, with: vec![part("green earth", 8), part("ochre", 1)] };
        let then = Heap { of_last: 3, with: vec![part("white", 4)] };
        let heaps = Mix {
            parts: vec![part("white", 5), part("green earth", 3), part("ochre", 1)],
            heaps: vec![first, then],
            ..Mix::bare(Lab::new(50.0, 0.0, 0.0))
        };
        assert_eq!(spoken(&heaps, &name), "mostly white and green earth, a little ochre");
        let trace = Heap { of_last: 0, with: vec![part("white", 64), part("red", 1)] };
        let tint = Mix { parts: vec![part("white", 64), part("red", 1)], heaps: vec![trace], ..heaps.clone() };
        assert_eq!(spoken(&tint, &name), "mostly white, a trace of red");
        let half = Mix { parts: vec![part("white", 1), part("red", 1)], heaps: Vec::new(), ..heaps };
        assert_eq!(spoken(&half, &name), "white and red in about equal parts");
    }

    #[test]
    fn a_recipe_is_read_out_step_by_step() {
        let blue = Heap { of_last: 0, with: vec![part("blue", 1), part("white", 16)] };
        let then = Heap { of_last: 1, with: vec![part("white", 3)] };
        let name = |id: &PigmentId| id.0.clone();
        let mix = |parts: Vec<Part>, heaps: Vec<Heap>| Mix { parts, heaps, ..Mix::bare(Lab::new(50.0, 0.0, 0.0)) };
        let heaps = told(&mix(vec![part("white", 9), part("blue", 1)], vec![blue, then]), &name);
        assert_eq!(heaps.head, "In 2 heaps");
        let what: Vec<&str> = heaps.steps.iter().map(|s| s.what.as_str()).collect();
        assert_eq!(what, ["blue 1:16 in white", "of that 1 : 3 white"]);
        let touch = Part { touch: true, ..part("red", 0) };
        let parts = told(&mix(vec![part("ochre", 3), part("white", 1), touch], vec![]), &name);
        assert_eq!((parts.head.as_str(), parts.steps.len()), ("In 4 parts", 0));
        assert_eq!(told(&mix(vec![part("ochre", 1)], vec![]), &name).head, "Alone");
        assert_eq!(
            told(&mix(vec![], vec![]), &name),
            Told { head: "Bare".into(), spoken: String::new(), line: "bare ground".into(), steps: vec![] }
        );
    }

    #[test]
    fn layers_read_like_the_hand() {
        let layer = |id: &str, how: &str| MixLayer {
            of: vec![part(id, 1)],
            how: how.into(),
            second: None,
            times: 1,
            act: lean_media::forms::Act::Lay,
            amounts: Vec::new(),
        };
        let said = |of: &[MixLayer]| layers(of, &|id| id.0.clone());
        assert_eq!(said(&[layer("raspberry", "two coats")]), "raspberry, two coats");
        assert_eq!(said(&[layer("ochre", "full"), layer("chalk white", "light, crisp")]), "ochre, over it chalk white lightly");
        assert_eq!(
            said(&[layer("slate", "firm, twice"), layer("sand", "heavy, rubbed in")]),
            "slate firmly, twice, over it sand heavily rubbed in"
        );
    }

    #[test]
    fn what_is_strong_is_let_down_and_taken_of() {
        let blue = Heap { of_last: 0, with: vec![part("blue", 1), part("white", 16)] };
        assert_eq!(line(vec![blue.clone(), Heap { of_last: 1, with: vec![part("white", 3)] }]), "blue 1:16 in white, of that 1 : 3 white");
        assert_eq!(
            line(vec![blue.clone(), Heap { of_last: 1, with: vec![part("white", 14)] }]),
            "blue 1:16 in white, of that 1:14 in white"
        );
        let last = Heap { of_last: 2, with: vec![part("ochre", 1), part("white", 6)] };
        assert_eq!(line(vec![blue, last]), "blue 1:16 in white, of that 2 : 1 ochre : 6 white");
    }
}
