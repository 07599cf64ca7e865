//! Zones turned in the light: parts that cover the shape, colours by the rules or by the picture, and flat again.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::{Medium, ground};
use lean_picture::form::{Bulge, FormPart};
use lean_picture::places::Survey;
use lean_picture::zone_map::parts::Parts;
use lean_picture::{Picture, decode};
use lean_piece::light::{Falling, Kind, Lamp, LampFrom, Lighting, Role, Tint};
use lean_piece::{Brief, Command, Millimetres, Piece, Size, Zone, ZoneId};
use lean_plan::form::{Turning, lay_flat, turn};
use lean_plan::light::key::Reach;
use lean_plan::requests::Request;
use lean_plan::zones::{PictureFile, Surveyed, WORKING_SIDE, set_drawing, set_reference};

const REACH: Reach = Reach { darkest: 1.2, lightest: 9.5, lightest_layer: 9.5 };

struct Subject {
    piece: Piece,
    working: Picture,
    survey: Survey,
}

impl Subject {
    fn of(working: Picture, medium: Medium, command: Command) -> Self {
        let size = Size { width: Millimetres(210.0), height: Millimetres(297.0) };
        let piece = Piece::new(Brief { title: "Form".into(), medium, ground: ground::usual(medium).id, size });
        let survey = Survey::of(&working);
        Self { piece: piece.apply(command).unwrap().0, working, survey }
    }

    /// The kite in one of its plans of values.
    fn kite() -> Self {
        let full = decode(lean_demo::KITE).unwrap();
        let file = PictureFile::of("kite".into(), lean_demo::KITE_FILE.into(), &full);
        let working = full.reduced(WORKING_SIDE);
        let command = set_drawing(&working, file).unwrap();
        let mut subject = Self::of(working, Medium::Marker, command);
        let plan = Request::PlanValues { plan: 1, keep: Vec::new() };
        subject.piece = subject.piece.apply(plan.into_command(&subject.piece, None, None).unwrap()).unwrap().0;
        subject
    }

    /// A ball lit from the left on a flat ground.
    fn ball() -> Self {
        let (w, h) = (900u32, 700u32);
        let rgb = (0..w * h)
            .flat_map(|i| {
                let (x, y) = (f64::from(i % w) / 700.0 - 0.64, f64::from(i / w) / 700.0 - 0.5);
                let r = x.hypot(y) / 0.34;
                let lab = if r < 1.0 {
                    let z = (1.0 - r * r).sqrt();
                    let lit = (-0.8 * x / 0.34 + 0.6 * z).clamp(-0.4, 1.0);
                    Lab::new(46.0 + 16.0 * lit, 38.0, 26.0)
                } else {
                    Lab::new(82.0, -4.0, -18.0)
                };
                let c = lab.xyz().srgb();
                [c.r, c.g, c.b]
            })
            .collect();
        let picture = Picture { width: w, height: h, rgb };
        let command = set_reference(&picture, PictureFile::of("ball".into(), "ball.png".into(), &picture));
        let mut subject = Self::of(picture, Medium::Oil, command);
        let map = subject.piece.map().unwrap().clone();
        // Whatever shades the ball was found in become one zone.
        let at = |x: f64, y: f64| map.at((x * f64::from(map.width)) as u32, (y * f64::from(map.height)) as u32);
        let ball = at(0.5, 0.5);
        let ground = at(0.03, 0.05);
        for other in map.zones().into_iter().filter(|z| *z != ball && *z != ground) {
            let merged = lean_plan::zones::merge(&subject.piece, subject.look(), ZoneId(other), ZoneId(ball)).unwrap();
            subject.piece = subject.piece.apply(merged).unwrap().0;
        }
        subject
    }

    fn look(&self) -> Surveyed<'_> {
        Surveyed { working: &self.working, survey: &self.survey }
    }

    fn turned(&self, ask: &Turning) -> Piece {
        self.piece.apply(turn(&self.piece, self.look(), REACH, ask).unwrap()).unwrap().0
    }

    fn largest_but_one(&self) -> ZoneId {
        let mut zones: Vec<&Zone> = self.piece.zones.iter().collect();
        zones.sort_by(|a, b| b.reading.area.total_cmp(&a.reading.area));
        zones[1].id
    }
}

fn round(zones: Vec<ZoneId>) -> Turning {
    Turning { zones, bulge: None, dark: 0.3, edges: true, shadow: Vec::new(), holds_mean: false }
}

fn parts(piece: &Piece, whole: ZoneId) -> Vec<(FormPart, &Zone)> {
    piece.zones.iter().filter_map(|z| z.form.filter(|f| f.whole == whole).map(|f| (f.part, z))).collect()
}

fn part(piece: &Piece, whole: ZoneId, wanted: FormPart) -> &Zone {
    parts(piece, whole).into_iter().find(|(p, _)| *p == wanted).unwrap_or_else(|| panic!("a {}", wanted.word())).1
}

#[test]
fn parts_cover_the_shape_once_none_is_smaller_than_the_mark_and_the_rest_stays() {
    let subject = Subject::kite();
    let before = subject.piece.map().unwrap();
    let wing = subject.largest_but_one();
    let piece = subject.turned(&round(vec![wing]));
    let map = piece.map().unwrap();
    let ids: Vec<u16> = parts(&piece, wing).iter().map(|(_, z)| z.id.0).collect();
    assert!(ids.len() >= 3, "{ids:?}");
    for (was, is) in before.labels.iter().zip(&map.labels) {
        assert_eq!(*was == wing.0, ids.contains(is), "the shape keeps its border");
        assert!(*was == wing.0 || was == is, "the others stay");
    }
    let mark = std::f64::consts::FRAC_PI_4 * (0.012 * f64::from(map.width.max(map.height))).powi(2);
    for p in Parts::of(map).all.iter().filter(|p| ids.contains(&p.zone)) {
        assert!(f64::from(p.cells) >= mark.floor(), "a part of {} cells", p.cells);
    }
    assert!(piece.zones.iter().all(|z| map.zones().contains(&z.id.0)), "no zone without a place");
}

#[test]
fn the_shadow_side_is_darker_and_faces_away_from_the_light() {
    let mut subject = Subject::kite();
    let lamp = Lamp { tint: Tint::Warm, from: LampFrom::Left, hard: true };
    subject.piece.lighting = Lighting { falling: Falling::One { first: lamp }, ..Lighting::default() };
    let wing = subject.largest_but_one();
    let piece = subject.turned(&round(vec![wing]));
    let [base, middle, light] = [FormPart::Base, FormPart::Middle, FormPart::Light].map(|p| part(&piece, wing, p));
    assert_eq!(middle.id, wing, "the middle keeps the number");
    assert!(base.target.l < middle.target.l - 5.0 && middle.target.l < light.target.l - 3.0);
    assert_eq!((base.facts.role, light.facts.role), (Some(Role::Shadow), Some(Role::Lit)));
    let map = piece.map().unwrap();
    let across = |id: ZoneId| {
        let cells: Vec<usize> = (0..map.labels.len()).filter(|i| map.labels[*i] == id.0).collect();
        cells.iter().map(|i| (i % map.width as usize) as f64).sum::<f64>() / cells.len() as f64
    };
    assert!(across(light.id) < across(base.id), "light from the left");
    // Light from the other side turns it round.
    subject.piece.lighting = Lighting { falling: Falling::One { first: Lamp { from: LampFrom::Right, ..lamp } }, ..Lighting::default() };
    let piece = subject.turned(&round(vec![wing]));
    let map = piece.map().unwrap();
    let across = |id: ZoneId| {
        let cells: Vec<usize> = (0..map.labels.len()).filter(|i| map.labels[*i] == id.0).collect();
        cells.iter().map(|i| (i % map.width as usize) as f64).sum::<f64>() / cells.len() as f64
    };
    assert!(across(part(&piece, wing, FormPart::Light).id) > across(part(&piece, wing, FormPart::Base).id));
}

#[test]
fn in_a_photo_the_light_that_is_there_cuts_the_parts_and_is_their_colour() {
    let subject = Subject::ball();
    let map = subject.piece.map().unwrap();
    let ball = ZoneId(map.at(map.width / 2, map.height / 2));
    let piece = subject.turned(&round(vec![ball]));
    let (base, light) = (part(&piece, ball, FormPart::Base), part(&piece, ball, FormPart::Light));
    assert!(light.target.l > base.target.l + 8.0, "{:?} {:?}", light.target, base.target);
    assert!(light.target.hue().apart(base.target.hue()) < 8.0, "one colour in light and shade");
    let map = piece.map().unwrap();
    let row = map.height / 2;
    let first = (0..map.width).find(|x| map.at(*x, row) == light.id.0);
    let last = (0..map.width).rev().find(|x| map.at(*x, row) == base.id.0);
    assert!(first < last, "the light lies on the left, the shadow on the right");
}

#[test]
fn the_mean_is_held_when_it_is_asked_for() {
    for subject in [Subject::kite(), Subject::ball()] {
        let map = subject.piece.map().unwrap();
        let zone = ZoneId(map.at(map.width / 2, map.height / 2));
        let before = subject.piece.zone(zone).unwrap().target;
        let piece = subject.turned(&Turning { holds_mean: true, edges: false, ..round(vec![zone]) });
        let all = parts(&piece, zone);
        let area: f64 = all.iter().map(|(_, z)| z.reading.area).sum();
        let mean = all.iter().fold([0.0; 3], |s, (_, z)| {
            let w = z.reading.area / area;
            [s[0] + w * z.target.l, s[1] + w * z.target.a, s[2] + w * z.target.b]
        });
        let off = ciede2000(before, Lab::new(mean[0], mean[1], mean[2]));
        assert!(off < 1.0, "{off:.2}");
    }
}

#[test]
fn flat_again_is_what_it_was_and_turned_twice_is_turned_once() {
    let subject = Subject::kite();
    let wing = subject.largest_but_one();
    let once = subject.turned(&round(vec![wing]));
    let other = Subject { piece: once.clone(), working: subject.working.clone(), survey: Survey::of(&subject.working) };
    let base = part(&once, wing, FormPart::Base).id;
    let twice = other.turned(&round(vec![base]));
    assert_eq!(twice.map(), once.map());
    let targets = |piece: &Piece| parts(piece, wing).iter().map(|(p, z)| (*p, z.target)).collect::<Vec<_>>();
    assert_eq!(targets(&twice), targets(&once));
    let flat = other.piece.apply(lay_flat(&other.piece, other.look(), &[base]).unwrap()).unwrap().0;
    assert_eq!(flat.map(), subject.piece.map());
    let (was, is) = (subject.piece.zone(wing).unwrap(), flat.zone(wing).unwrap());
    assert_eq!((was.target, was.form, &was.name), (is.target, is.form, &is.name));
    assert_eq!(flat.zones.len(), subject.piece.zones.len());
    assert!(lay_flat(&flat, other.look(), &[wing]).unwrap_err().contains("flat already"));
    // One step of undo brings the very piece back.
    let (_, undo) = subject.piece.apply(turn(&subject.piece, subject.look(), REACH, &round(vec![wing])).unwrap()).unwrap();
    assert_eq!(once.take_back(undo).unwrap(), subject.piece);
}

#[test]
fn skin_turns_red_in_its_shadow_and_what_is_too_small_is_said() {
    let mut subject = Subject::ball();
    let map = subject.piece.map().unwrap();
    let ball = ZoneId(map.at(map.width / 2, map.height / 2));
    let zone = subject.piece.zones.iter_mut().find(|z| z.id == ball).unwrap();
    zone.target = Lab::new(66.0, 14.0, 20.0);
    zone.facts.kind = Some(Kind::Skin);
    let piece = subject.turned(&Turning { bulge: Some(Bulge::Round), ..round(vec![ball]) });
    let hue = |p: FormPart| part(&piece, ball, p).target.hue().0;
    assert!(hue(FormPart::Base) < hue(FormPart::Light) - 8.0, "{} {}", hue(FormPart::Base), hue(FormPart::Light));
    let wrong = turn(&subject.piece, subject.look(), REACH, &round(vec![ZoneId(99)])).unwrap_err();
    assert!(wrong.contains("no zone 99"));
    let kite = Subject::kite();
    let smallest = kite.piece.zones.iter().min_by(|a, b| a.reading.area.total_cmp(&b.reading.area)).unwrap();
    if smallest.reading.area < 0.001 {
        assert!(turn(&kite.piece, kite.look(), REACH, &round(vec![smallest.id])).unwrap_err().contains("too small"));
    }
}

#[test]
fn a_line_says_where_the_shadow_begins() {
    let subject = Subject::ball();
    let map = subject.piece.map().unwrap();
    let ball = ZoneId(map.at(map.width / 2, map.height / 2));
    let shadow = [0.25, 0.35, 0.45, 0.55, 0.65, 0.75].map(|y| lean_picture::spot::Spot { x: 0.42, y }).to_vec();
    let piece = subject.turned(&Turning { shadow, edges: false, ..round(vec![ball]) });
    let (base, map) = (part(&piece, ball, FormPart::Base).id, piece.map().unwrap());
    let left = (0..map.width).find(|x| map.at(*x, map.height / 2) == base.0).unwrap();
    assert!((f64::from(left) / f64::from(map.width) - 0.42).abs() < 0.03, "the base begins at the line: {left}");
}
