import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { HUES, MATCHING } from "../../api/words";
import { useBench } from "../../bench/context";
import { unit } from "../../bench/stations";
import { useStudio } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import styles from "./Asked.module.css";
import { useDecide } from "./useDecide";

type Demands = Schemas["Demands"];
type Aim = Schemas["Aim"];

const LASTING = ["any", "I", "I to II", "I to III", "I to IV"];

/** What is asked of the set, as words that are switched on and off where they stand; each starts the search anew. */
export function Asked() {
  const { view, box } = useBench();
  const decide = useDecide();
  const [hues, setHues] = useState(false);
  const { demands, aim, brief } = view.piece;
  const values = view.derived.shapes.map((s) => s.target.value);
  const [darkest, lightest] = [Math.min(...values), Math.max(...values)];
  const ask = (change: Partial<Demands>) => decide({ do: "set-demands", demands: { ...demands, ...change } });
  const layered = brief.medium !== "oil";
  const mother = demands.mother && box?.pigments.find((p) => p.id === demands.mother?.pigment)?.name;
  const anyHue = (demands.only_hues?.length ?? 0) + (demands.warm_and_cool?.length ?? 0) > 0;
  return (
    <section className={styles.asked} aria-label="Asked of the set">
      <Row lead="asked">
        {view.derived.asked.no_black && !demands.no_black ? (
          <span className={styles.note}>
            no black, <Link to="../brief?room=rules">by the brief</Link>
          </span>
        ) : (
          <Switch on={!!demands.no_black} onSwitch={(on) => ask({ no_black: on })}>
            no black
          </Switch>
        )}
        <Switch on={!demands.families_may_go} onSwitch={(on) => ask({ families_may_go: !on })}>
          every hue of the plan
        </Switch>
        <Switch on={!!demands.no_hazard} onSwitch={(on) => ask({ no_hazard: on })}>
          nothing hazardous
        </Switch>
        <Turn
          says="light-fastness"
          words={LASTING}
          at={demands.least_lasting ?? 0}
          onTurn={(n) => ask({ least_lasting: n || null })}
        />
        <Switch on={!!demands.string} onSwitch={(on) => ask({ string: on })}>
          a string
        </Switch>
        <Switch
          on={demands.darkest != null}
          onSwitch={(on) => ask({ darkest: on ? reachable(darkest) : null })}
        >{`as dark as ${figure(demands.darkest ?? reachable(darkest), 1)}`}</Switch>
        <Switch
          on={demands.lightest != null}
          onSwitch={(on) => ask({ lightest: on ? reachable(lightest) : null })}
        >{`as light as ${figure(demands.lightest ?? reachable(lightest), 1)}`}</Switch>
        <Switch on={hues || anyHue} onSwitch={setHues}>
          hues
        </Switch>
      </Row>
      {(hues || anyHue) && <Hues demands={demands} onAsk={ask} />}
      <Row lead="mixes">
        <Turn
          says="pigments in one"
          words={["up to 3", "1 alone", "up to 2"]}
          at={demands.most_in_mix === 3 ? 0 : (demands.most_in_mix ?? 0)}
          onTurn={(n) => ask({ most_in_mix: n || null })}
        />
        {layered && (
          <Turn
            says="layers"
            words={["as many as the ground takes", "1 only", "up to 2", "up to 3", "up to 4"]}
            at={demands.most_layers === 5 ? 0 : (demands.most_layers ?? 0)}
            onTurn={(n) => ask({ most_layers: n || null })}
          />
        )}
        {layered && (
          <Switch on={!!demands.unusual_layers} onSwitch={(on) => ask({ unusual_layers: on })}>
            unusual layering
          </Switch>
        )}
        {demands.mother && (
          <Switch on onSwitch={() => ask({ mother: null })}>
            {`${mother ?? demands.mother.pigment} in every mix, ${Math.round(demands.mother.share * 100)} % at least`}
          </Switch>
        )}
      </Row>
      <Aims aim={aim} />
    </section>
  );
}

/** Planned values are asked for a hair inside, so that rounding does not put them out of reach. */
const reachable = (value: number) => Math.round(value * 10) / 10;

function Hues({ demands, onAsk }: { demands: Demands; onAsk: (change: Partial<Demands>) => void }) {
  const only = demands.only_hues ?? [];
  const both = demands.warm_and_cool ?? [];
  const turn = (list: Schemas["HueFamily"][], f: Schemas["HueFamily"]) =>
    list.includes(f) ? list.filter((x) => x !== f) : [...list, f];
  return (
    <>
      <Row lead="only">
        {HUES.map(({ value: f, label }) => (
          <Switch
            key={f}
            on={only.includes(f)}
            label={`only ${label}`}
            onSwitch={() => onAsk({ only_hues: turn(only, f) })}
          >
            {label}
          </Switch>
        ))}
        <span className={styles.note}>and greys</span>
      </Row>
      <Row lead="pairs">
        <span className={styles.note}>a warm and a cool</span>
        {HUES.map(({ value: f, label }) => (
          <Switch
            key={f}
            on={both.includes(f)}
            label={`a warm and a cool ${label}`}
            onSwitch={() => onAsk({ warm_and_cool: turn(both, f) })}
          >
            {label}
          </Switch>
        ))}
      </Row>
    </>
  );
}

const WEIGHTS = [10, 20, 40];

/** What a second layer costs, in steps of value, from few sticks in many layers to more sticks laid once. */
const LAYERS = [
  { words: "as usual", steps: null },
  { words: "few, many layers", steps: 0.03 },
  { words: "a layer costs a tenth of a step", steps: 0.1 },
  { words: "a layer costs half a step", steps: 0.5 },
  { words: "more, laid once", steps: 1 },
];

function Aims({ aim }: { aim: Aim }) {
  const { view } = useBench();
  const decide = useDecide();
  const studio = useStudio();
  const aimAt = (change: Partial<Aim>) => decide({ do: "set-aim", aim: { ...aim, ...change } });
  const medium = view.piece.brief.medium;
  const sizes = medium === "oil" ? [4, 6, 8] : medium === "watercolour" ? [4, 6, 8, 12] : [4, 6, 9, 12, 16, 24];
  const usualLargest = medium === "oil" || medium === "watercolour" ? 6 : 12;
  const laid = medium === "oil" || medium === "watercolour" ? null : `more ${unit(medium, 2)}, or more layers:`;
  const others = studio.data?.pieces.filter((p) => p.id !== view.id && p.medium === view.piece.brief.medium && p.zones);
  return (
    <Row lead="match">
      {MATCHING.map(({ value: matching, label: words }) => (
        <Switch key={matching} on={aim.matching === matching} onSwitch={() => aimAt({ matching })}>
          {words}
        </Switch>
      ))}
      {aim.matching !== "strict" && (
        <Turn
          says="a step of value weighs"
          words={WEIGHTS.map((w) => `${w}`)}
          at={Math.max(0, WEIGHTS.indexOf(aim.value_weight))}
          usual={1}
          onTurn={(n) => aimAt({ value_weight: WEIGHTS[n] })}
        />
      )}
      <Switch on={aim.good_enough} onSwitch={(good_enough) => aimAt({ good_enough })}>
        a quarter step is good enough
      </Switch>
      <Turn
        says={`${unit(view.piece.brief.medium, 2)} up to`}
        words={sizes.map(String)}
        at={Math.max(0, sizes.indexOf(aim.largest))}
        usual={sizes.indexOf(usualLargest)}
        onTurn={(n) => aimAt({ largest: sizes[n] })}
      />
      {laid && (
        <Turn
          says={laid}
          words={LAYERS.map((l) => l.words)}
          at={Math.max(
            0,
            LAYERS.findIndex((l) => l.steps === (aim.layer ?? null)),
          )}
          onTurn={(n) => aimAt({ layer: LAYERS[n].steps })}
        />
      )}
      {others?.map((p) => {
        const on = aim.also_for.some((c) => c.piece === p.id);
        const rest = aim.also_for.filter((c) => c.piece !== p.id);
        return (
          <Switch
            key={p.id}
            on={on}
            onSwitch={() => aimAt({ also_for: on ? rest : [...rest, { piece: p.id, weight: 1 }] })}
          >
            {`also for ${p.title}`}
          </Switch>
        );
      })}
    </Row>
  );
}

function Switch({
  on,
  label,
  onSwitch,
  children,
}: {
  on: boolean;
  label?: string;
  onSwitch: (on: boolean) => void;
  children: string;
}) {
  return (
    <button type="button" className={styles.switch} aria-pressed={on} aria-label={label} onClick={() => onSwitch(!on)}>
      {children}
    </button>
  );
}

/** One of a few words in turn. */
function Turn({
  says,
  words,
  at,
  usual = 0,
  onTurn,
}: {
  says: string;
  words: string[];
  at: number;
  usual?: number;
  onTurn: (next: number) => void;
}) {
  return (
    <span className={styles.turn}>
      {says}{" "}
      <button
        type="button"
        className={styles.switch}
        aria-label={`${says} ${words[at]}; change it`}
        data-changed={at !== usual}
        onClick={() => onTurn((at + 1) % words.length)}
      >
        {words[at]}
      </button>
    </span>
  );
}

function Row({ lead, children }: { lead: string; children: ReactNode }) {
  return (
    <div className={styles.row}>
      <span className={styles.lead}>{lead}</span>
      <div>{children}</div>
    </div>
  );
}
