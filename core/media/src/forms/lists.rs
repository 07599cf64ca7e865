//! What hands do in each medium, as lists of forms. The last step changes fastest, so that forms that follow each other share what lies
//! beneath it.

use super::{Act, Form, Laying, STRENGTHS};

/// A step of one pigment without its place.
#[derive(Clone, Copy)]
struct Step {
    amount: u8,
    times: u8,
    act: Act,
}

const fn lay(amount: u8) -> Step {
    Step { amount, times: 1, act: Act::Lay }
}

const fn often(amount: u8, times: u8) -> Step {
    Step { amount, times, act: Act::Lay }
}

const fn rub(amount: u8) -> Step {
    Step { amount, times: 1, act: Act::Rub }
}

const LIFT: Laying = done(Act::Lift);
const BURNISH: Laying = done(Act::Burnish);

const fn done(act: Act) -> Laying {
    Laying { parts: [0; 3], amount: 0, times: 1, act, slip: None }
}

/// Orders in which so many pigments can follow each other.
fn orders(pigments: usize) -> &'static [&'static [usize]] {
    match pigments {
        1 => &[&[0]],
        2 => &[&[0, 1], &[1, 0]],
        _ => &[&[0, 1, 2], &[0, 2, 1], &[1, 0, 2], &[1, 2, 0], &[2, 0, 1], &[2, 1, 0]],
    }
}

/// The same where one of the first two comes back at the end.
fn returning(pigments: usize) -> &'static [&'static [usize]] {
    const THREE: [[usize; 4]; 12] = [
        [0, 1, 2, 0],
        [0, 1, 2, 1],
        [0, 2, 1, 0],
        [0, 2, 1, 2],
        [1, 0, 2, 1],
        [1, 0, 2, 0],
        [1, 2, 0, 1],
        [1, 2, 0, 2],
        [2, 0, 1, 2],
        [2, 0, 1, 0],
        [2, 1, 0, 2],
        [2, 1, 0, 1],
    ];
    const FOUR: [&[usize]; 12] = [
        &THREE[0], &THREE[1], &THREE[2], &THREE[3], &THREE[4], &THREE[5], &THREE[6], &THREE[7], &THREE[8], &THREE[9], &THREE[10],
        &THREE[11],
    ];
    match pigments {
        2 => &[&[0, 1, 0], &[1, 0, 1]],
        3 => &FOUR,
        _ => &[],
    }
}

/// In every one of these orders, with every combination of these ways for the first, the second and so on; then what is done at the end.
fn combined(orders: &[&[usize]], ways: &[&[Step]], end: Option<Laying>) -> Vec<Form> {
    let mut all = Vec::new();
    for order in orders {
        let mut found: Vec<Vec<Laying>> = vec![Vec::new()];
        for (place, ways) in order.iter().zip(ways) {
            let with = |before: &Vec<Laying>, step: &Step| {
                let mut parts = [0; 3];
                parts[*place] = 1;
                let next = Laying { parts, amount: step.amount, times: step.times, act: step.act, slip: None };
                before.iter().copied().chain([next]).collect::<Vec<_>>()
            };
            found = found.iter().flat_map(|before| ways.iter().map(|step| with(before, step)).collect::<Vec<_>>()).collect();
        }
        all.extend(found.into_iter().map(|layings| Form::of(&layings.into_iter().chain(end).collect::<Vec<_>>())));
    }
    all
}

/// Alcohol marker: one to three coats of a pen, over each other in any order; a pen that comes back; a blender over all of it. A lighter pen
/// lifts by itself.
pub(super) fn pens(pigments: usize) -> Vec<Form> {
    const ONE: &[Step] = &[often(1, 1)];
    const TWO: &[Step] = &[often(1, 1), often(1, 2)];
    const THREE: &[Step] = &[often(1, 1), often(1, 2), often(1, 3)];
    let ways: [&[Step]; 3] = if pigments < 3 { [THREE; 3] } else { [TWO; 3] };
    let blended: [&[Step]; 3] = match pigments {
        1 => [THREE, ONE, ONE],
        2 => [TWO, TWO, ONE],
        _ => [TWO, ONE, ONE],
    };
    let order = orders(pigments);
    let back: [&[Step]; 4] = [TWO, TWO, ONE, ONE];
    [combined(order, &ways, None), combined(returning(pigments), &back, None), combined(order, &blended, Some(LIFT))].concat()
}

/// Coloured pencil: each pencil light, middle or firm, some of them several times; burnished at the end.
pub(super) fn pencils(pigments: usize) -> Vec<Form> {
    const ONCE: &[Step] = &[lay(1), lay(2), lay(3)];
    const ANY: &[Step] = &[lay(1), lay(2), lay(3), often(1, 2), often(2, 2), often(3, 2), often(3, 3)];
    const PRESSED: &[Step] = &[lay(2), lay(3), often(3, 2)];
    const FIRST_OF_THREE: &[Step] = &[lay(2), lay(3), often(3, 2)];
    const PRESSED_ONCE: &[Step] = &[lay(2), lay(3)];
    let order = orders(pigments);
    match pigments {
        1 => [combined(order, &[ANY], None), combined(order, &[PRESSED], Some(BURNISH)), combined(order, &[&[often(3, 3)]], Some(BURNISH))]
            .concat(),
        2 => [combined(order, &[ANY; 2], None), combined(order, &[PRESSED; 2], Some(BURNISH))].concat(),
        // What lies under another two or one is laid to be seen through them, never lightly.
        _ => [
            combined(order, &[FIRST_OF_THREE, PRESSED_ONCE, ONCE], None),
            combined(order, &[&[lay(3), often(3, 2)], &[lay(2)], &[lay(2)]], Some(BURNISH)),
        ]
        .concat(),
    }
}

/// Soft pastel: light, full and heavy strokes, crisp or rubbed into what lies beneath; a stick laid on itself until it closes the tooth; a
/// stick that comes back lightly.
pub(super) fn sticks(pigments: usize) -> Vec<Form> {
    const FULL: &[Step] = &[lay(2)];
    const LIGHT: &[Step] = &[lay(1)];
    const CRISP: &[Step] = &[lay(1), lay(2)];
    const BOTH: &[Step] = &[lay(1), lay(2), rub(1), rub(2)];
    const UNDER: &[Step] = &[lay(1), lay(2), lay(3), often(2, 2)];
    const OVER: &[Step] = &[lay(1), lay(2), lay(3), rub(1), rub(2), rub(3)];
    let order = orders(pigments);
    match pigments {
        1 => combined(order, &[&[lay(1), lay(2), lay(3), often(2, 2), often(2, 3)]], None),
        2 => [combined(order, &[UNDER, OVER], None), combined(returning(2), &[FULL, BOTH, LIGHT], None)].concat(),
        // A third stick goes over a full first stroke: over a light one it would make a fourth recipe of the same two.
        _ => [
            combined(order, &[FULL, BOTH, BOTH], None),
            combined(order, &[FULL, CRISP, &[lay(3)]], None),
            combined(returning(3), &[FULL, CRISP, LIGHT, LIGHT], None),
        ]
        .concat(),
    }
}

const ANY_STRENGTH: std::ops::RangeInclusive<u8> = 1..=DEEP;
const DEEP: u8 = STRENGTHS as u8;
/// From a middle wash on it is worth laying it twice: what is thinner is one wash a little stronger.
const TWICE: std::ops::RangeInclusive<u8> = 3..=DEEP;

/// Watercolour: a wash of up to three pigments mixed by parts of washes of equal strength, laid once or twice; one wash over another; three over
/// each other; lifting at the end, or before the last.
pub(super) fn washes(pigments: usize) -> Vec<Form> {
    let wash = |parts: [u8; 3], amount| Laying { parts, amount, times: 1, ..Laying::default() };
    let mut all: Vec<Form> = mixtures(pigments).iter().flat_map(|m| ANY_STRENGTH.map(move |s| Form::of(&[wash(*m, s)]))).collect();
    let twice = |m: &[u8; 3], s| Form::of(&[Laying { times: 2, ..wash(*m, s) }]);
    all.extend(mixtures(pigments).iter().flat_map(|m| TWICE.map(move |s| twice(m, s))));
    let even = mixtures(pigments)[0];
    all.extend((3..=DEEP).map(|s| Form::of(&[wash(even, s), LIFT])));
    let seen = if pigments < 3 { ANY_STRENGTH } else { 3..=DEEP };
    for [lower, upper] in pairs(pigments) {
        for s in seen.clone() {
            all.extend(seen.clone().map(|t| Form::of(&[wash(*lower, s), wash(*upper, t)])));
        }
    }
    const SOME: &[Step] = &[lay(3), lay(4)];
    let order = orders(pigments);
    if pigments == 3 {
        all.extend(combined(order, &[SOME; 3], None));
    }
    if pigments > 1 {
        all.extend(lifted_before_the_last(order));
    }
    all
}

/// Strong washes, lifted, with a thinner last one over what is left.
fn lifted_before_the_last(orders: &[&[usize]]) -> Vec<Form> {
    const STRONG: &[Step] = &[lay(4), lay(5)];
    const OVER: &[Step] = &[lay(3), lay(4)];
    let ways: &[&[Step]] = if orders[0].len() == 2 { &[STRONG, OVER] } else { &[&[lay(4)], &[lay(4)], OVER] };
    let lifted = |f: &Form| {
        let (last, below) = f.layings().split_last().expect("a form has layings");
        Form::of(&below.iter().copied().chain([LIFT, *last]).collect::<Vec<_>>())
    };
    combined(orders, ways, None).iter().map(lifted).collect()
}

/// Ways to mix one wash of so many pigments.
fn mixtures(pigments: usize) -> &'static [[u8; 3]] {
    match pigments {
        1 => &[[1, 0, 0]],
        2 => &[[1, 1, 0], [2, 1, 0], [1, 2, 0], [3, 1, 0], [1, 3, 0], [6, 1, 0], [1, 6, 0]],
        _ => &[
            [1, 1, 1],
            [2, 1, 1],
            [1, 2, 1],
            [1, 1, 2],
            [2, 2, 1],
            [2, 1, 2],
            [1, 2, 2],
            [4, 1, 1],
            [1, 4, 1],
            [1, 1, 4],
            [4, 2, 1],
            [4, 1, 2],
            [2, 4, 1],
            [1, 4, 2],
            [2, 1, 4],
            [1, 2, 4],
        ],
    }
}

/// Pairs of washes, lower first, that hold each of so many pigments.
fn pairs(pigments: usize) -> &'static [[[u8; 3]; 2]] {
    match pigments {
        1 => &[],
        2 => &[[[1, 0, 0], [0, 1, 0]], [[0, 1, 0], [1, 0, 0]]],
        _ => &[
            [[1, 1, 0], [0, 0, 1]],
            [[1, 0, 1], [0, 1, 0]],
            [[0, 1, 1], [1, 0, 0]],
            [[0, 0, 1], [1, 1, 0]],
            [[0, 1, 0], [1, 0, 1]],
            [[1, 0, 0], [0, 1, 1]],
        ],
    }
}
