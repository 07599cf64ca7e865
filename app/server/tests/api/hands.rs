//! Every recipe of the demo studio in the hands of somebody who errs by a fifth, in all five media.

use crate::support::Api;
use lean_colour::Lab;
use lean_media::amount::{Mass, Rubbing};
use lean_media::opaque::OIL;
use lean_media::{Choices, Ground, Layer, Layering, Medium, Paint, Parts, Pigment, PigmentId, State};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{ChosenSet, Piece};
use lean_plan::mixes::{mixes, pigments_of, technique_of};
use lean_recipes::cost::{STEP, apart};
use lean_recipes::{Heap, Mix};
use lean_search::progress::Unwatched;
use lean_search::{Recipes, Tables, search};
use std::sync::OnceLock;

/// A piece of the demo that has a set, with its Box.
struct Demo {
    piece: Piece,
    paint_box: PaintBox,
}

impl Demo {
    /// The pieces in work, which are the first five.
    fn all() -> &'static [Self] {
        static ALL: OnceLock<Vec<Demo>> = OnceLock::new();
        ALL.get_or_init(Self::found)
    }

    fn found() -> Vec<Self> {
        let api = Api::demo();
        let store = &api.studio.store;
        let boxes = ["yard-pastels", "bench-oils", "kite-pens", "bell-pencils", "hen-pans"];
        let boxes: Vec<PaintBox> = boxes.map(|id| store.paint_box(&BoxId(id.into())).expect("the demo has it")).into();
        let pieces = store.pieces().expect("the list is readable");
        let of = |id| {
            let mut piece = store.piece(id).expect("it is readable").piece;
            let paint_box = boxes.iter().find(|b| b.medium == piece.brief.medium).expect("a Box for every medium").clone();
            if piece.chosen.pigments.is_empty() {
                let asked = piece.ask(&paint_box, vec![piece.own_need()], 5..=5);
                let found = search(&asked.ask(), &Tables::default(), &Unwatched, &|_| {}).expect("there is a set").remove(0);
                piece.chosen = ChosenSet { pigments: found.pigments };
            }
            Self { piece, paint_box }
        };
        pieces.into_iter().filter(|s| s.id <= 5).map(|s| of(s.id)).collect()
    }

    fn medium(&self) -> Medium {
        self.piece.brief.medium
    }

    fn recipes(&self) -> Vec<Mix> {
        let technique = technique_of(&self.piece, &self.paint_box, &pigments_of(&self.paint_box, &self.piece.chosen.pigments));
        mixes(&self.piece, &Recipes::of(technique.as_ref())).into_iter().map(|m| m.mix).collect()
    }

    fn find<'a>(&'a self) -> impl Fn(&PigmentId) -> Option<&'a Pigment> {
        |id| self.paint_box.pigments.iter().find(|p| p.id == *id)
    }

    /// What is laid for a mix, one list for each thing the hand measures as one.
    fn laid(&self, mix: &Mix) -> Vec<Vec<Layer<'_>>> {
        mix.layers.iter().map(|l| l.general(self.medium(), &self.find()).expect("amounts are kept")).collect()
    }

    fn mixed(&self, amounts: &[(PigmentId, f64)]) -> Lab {
        let of: Vec<(&Pigment, Parts)> = amounts.iter().map(|(id, n)| (self.find()(id).expect("it is in the Box"), Parts(*n))).collect();
        Paint::mixed(&of).expect("there are parts").opaque(OIL).xyz().lab()
    }
}

fn colour(ground: &Ground, layers: Vec<Layer>) -> Lab {
    Layering { ground, layers }.lay(State::Dry).expect("the ground takes it").reflectance.xyz().lab()
}

/// A number in −1..1 for each step: the same every time.
struct Noise(u64);

impl Noise {
    fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 11) as f64 / (1u64 << 52) as f64 - 1.0
    }

    /// A fifth too little to a quarter too much.
    fn hand(&mut self) -> f64 {
        (self.next() * 1.25f64.ln()).exp()
    }
}

/// The mix as a hand makes it.
fn by_hand(demo: &Demo, mix: &Mix, ground: &Ground, noise: &mut Noise) -> Lab {
    if mix.layers.is_empty() {
        return wet_by_hand(demo, mix, noise);
    }
    let mut layers = Vec::new();
    for mut same in demo.laid(mix) {
        let by = noise.hand();
        for layer in &mut same {
            match layer {
                Layer::Wash { of } => of.iter_mut().for_each(|(_, x)| x.0 *= noise.hand()),
                Layer::Ink { of, .. } => of[0].1.0 *= by,
                Layer::Pencil { pressure, .. } => pressure.0 = (pressure.0 * by).min(1.0),
                Layer::Pastel { mass, .. } => mass.0 *= by,
                _ => {}
            }
        }
        layers.extend(same);
    }
    colour(ground, layers)
}

fn wet_by_hand(demo: &Demo, mix: &Mix, noise: &mut Noise) -> Lab {
    let heaps = if mix.heaps.is_empty() { vec![Heap { of_last: 0, with: mix.parts.clone() }] } else { mix.heaps.clone() };
    let mut last: Vec<(PigmentId, f64)> = mix.parts.iter().map(|p| (p.pigment.clone(), 0.0)).collect();
    for heap in heaps {
        let before: f64 = last.iter().map(|l| l.1).sum();
        let taken = if before > 0.0 { f64::from(heap.of_last) * noise.hand() / before } else { 0.0 };
        last.iter_mut().for_each(|l| l.1 *= taken);
        for part in &heap.with {
            let joins = f64::from(part.parts) * noise.hand();
            last.iter_mut().filter(|l| l.0 == part.pigment).for_each(|l| l.1 += joins);
        }
    }
    demo.mixed(&last)
}

#[test]
fn demo_recipes_are_what_their_amounts_give_and_stay_near_it_in_a_hand_that_errs() {
    const TRIES: usize = 300;
    let mut media = Vec::new();
    for demo in Demo::all() {
        let ground = demo.piece.ground();
        let mut noise = Noise(11);
        let (mut far, mut tries) = (0, 0);
        let recipes: Vec<Mix> = demo.recipes().into_iter().filter(|m| !m.is_bare_ground()).collect();
        for mix in &recipes {
            let own = match mix.layers.is_empty() {
                true => demo.mixed(&mix.amounts().into_iter().map(|(id, n)| (id.clone(), n)).collect::<Vec<_>>()),
                false => colour(&ground, demo.laid(mix).concat()),
            };
            assert!(apart(own, mix.lab) < 0.01, "{:?}: {mix:?} gives {own:?}", demo.medium());
            far += (0..TRIES).filter(|_| apart(by_hand(demo, mix, &ground, &mut noise), mix.lab) > STEP / 2.0).count();
            tries += TRIES;
        }
        let most = if demo.medium() == Medium::Oil { 0.05 } else { 0.20 };
        let share = far as f64 / tries as f64;
        println!("{}: {} recipes, {:.1} % of tries are half a step off", demo.medium().name(), recipes.len(), 100.0 * share);
        media.push(demo.medium());
        assert!(share <= most, "{:?}: {share}", demo.medium());
    }
    assert!(Medium::ALL.iter().all(|m| media.contains(m)), "{media:?}");
}

#[test]
fn a_simpler_recipe_is_taken_and_given_back() {
    let all = Demo::all();
    let demo = all.iter().find(|d| d.medium() == Medium::Oil).expect("the demo has an oil");
    let technique = technique_of(&demo.piece, &demo.paint_box, &pigments_of(&demo.paint_box, &demo.piece.chosen.pigments));
    let recipes = Recipes::of(technique.as_ref());
    let before = mixes(&demo.piece, &recipes);
    let one = before.iter().find(|m| m.simpler.is_some()).expect("some recipe can be simpler");
    let simpler = one.simpler.as_ref().expect("it was just found");
    let mut piece = demo.piece.clone();
    piece.mixing.simple = vec![one.zone];
    let after = mixes(&piece, &recipes);
    let taken = after.iter().find(|m| m.zone == one.zone).expect("the zone is still there");
    assert!(taken.simple && taken.mix == simpler.mix && !one.simple);
    let back = taken.simpler.as_ref().expect("the fuller recipe is offered");
    assert_eq!((&back.mix, back.worse), (&one.mix, -simpler.worse));
    assert!(after.iter().filter(|m| m.zone != one.zone).all(|m| before.contains(m)), "no other zone changed");
}

#[test]
fn no_pastel_leans_on_what_a_crisp_stroke_picks_up() {
    let all = Demo::all();
    let demo = all.iter().find(|d| d.medium() == Medium::SoftPastel).expect("the demo has a pastel");
    let ground = demo.piece.ground();
    let usual = Choices::default().pastel.crisp;
    let moved = |layers: Vec<Layer>| {
        let with = |share: f64| {
            let mut layers = layers.clone();
            for layer in &mut layers {
                if let Layer::Pastel { rubbing, .. } = layer
                    && rubbing.0 == usual
                {
                    *rubbing = Rubbing(share);
                }
            }
            colour(&ground, layers)
        };
        apart(with(0.0), with(0.15))
    };
    let stroke = |id: &str, mass: f64| {
        let stick = demo.find()(&PigmentId(id.into())).expect("it is in the Box");
        Layer::Pastel { of: vec![(stick, Parts(1.0))], mass: Mass(mass), rubbing: Rubbing(usual) }
    };
    assert!(moved(vec![stroke("cocoa", 3.0), stroke("chalk-white", 0.5)]) > STEP, "such a recipe would lean on it");
    let recipes = demo.recipes();
    assert!(recipes.iter().any(|mix| mix.layers.len() > 1), "none of them lays one stick over another");
    for mix in recipes {
        let by = moved(demo.laid(&mix).concat());
        assert!(by <= STEP, "{mix:?} moves by {} of a step", by / STEP);
    }
}
