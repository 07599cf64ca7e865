import { useEffect } from "react";
import type { ZoneMix } from "../../api/client";
import { Station } from "../../bench/Bench";
import {
  capital,
  numberWord,
  signed,
  temperatureWord,
  useBench,
  useLooking,
  useMixOf,
  usePreview,
  useSelection,
  useToldOf,
  zoneName,
} from "../../bench/context";
import { FindingNote } from "../../bench/Findings";
import { Card } from "../../kit/Section";
import { Dials } from "../../lenses/picture/Dials";
import { Plan } from "../../lenses/picture/Plan";
import { paintedPlan, waysOf } from "../../lenses/picture/Planned";
import { Measure } from "../../lenses/recipe/Measure";
import { Recipe } from "../../lenses/recipe/Recipe";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { Trials } from "../../lenses/trial/Trials";
import { figure, said } from "../../room/figures";
import { Missing } from "../missing/Missing";
import { AmongNeighbours } from "./Among";
import styles from "./Mixes.module.css";
import { SideBySide } from "./SideBySide";

/** Every zone in its mix, what was wanted beside what the set gives. */
export function Mixes() {
  return <Station name="Mixes" surface={<Surface />} card={<MixCard />} />;
}

function Surface() {
  const bench = useBench();
  const looking = useLooking();
  const { preview } = usePreview();
  const { view } = bench;
  const { look } = looking;
  const ground = useGround();
  const mixes = preview?.data.mixes ?? view.derived.mixes;
  if (!mixes.length) {
    return (
      <Missing
        set
        why="Every zone is mixed from a lean set: the few pigments of your Box that will do for this piece."
      />
    );
  }
  const marks = new Map(mixes.map((m) => [m.zone, m.given]));
  return (
    <div className={styles.plan}>
      <Plan
        marks={marks}
        ways={waysOf(view, mixes)}
        ground={ground}
        look={look}
        painted={looking.flat || preview ? undefined : paintedPlan(view)}
        label="The piece in its mixes"
      />
      <Dials />
      <p className={styles.hint}>{capital(view.derived.order.words)}. Space: the reference.</p>
    </div>
  );
}

/** All mixes in the order of work. */
function MixList() {
  const { view } = useBench();
  const { preview } = usePreview();
  const ground = useGround();
  const { order } = view.derived;
  const place = (m: ZoneMix) => order.zones.indexOf(m.zone);
  const laid = [...(preview?.data.mixes ?? view.derived.mixes)].sort((a, b) => place(a) - place(b));
  return (
    <ul className={styles.mixes} aria-label="Mixes">
      {laid.map((m) => (
        <MixRow key={m.zone} mix={m} ground={ground} />
      ))}
    </ul>
  );
}

function MixRow({ mix, ground }: { mix: ZoneMix; ground: string }) {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  return (
    <li>
      <button
        type="button"
        className={`plain ${styles.row}`}
        aria-pressed={selection.zone === mix.zone}
        draggable
        onDragStart={(e) => e.dataTransfer.setData("text/colour", JSON.stringify(mix.given.lab))}
        onClick={() => selection.selectZone(mix.zone)}
      >
        <Stroke
          marks={[mix.wanted, mix.given, ...mix.then.map((f) => f.given)]}
          ground={ground}
          height={24}
          look={looking.look}
        />
        <span>
          <b>
            <span className="figures">{mix.zone}</span> {zoneName(bench.view, mix.zone)}
          </b>
          <span className={styles.sentence}>
            {said(mix.sentence)}
            {mix.then.length > 0 && ` ${capital(numberWord(mix.then.length + 1))} mixes, one into the next.`}
          </span>
        </span>
      </button>
    </li>
  );
}

/** How finely parts are measured, and whether mixes are to be kin. */
function Mixing() {
  const { view, changes } = useBench();
  const { mixing, brief } = view.piece;
  const { finer_gain, kin_loss } = view.derived;
  const set = (change: Partial<typeof mixing>) =>
    changes.request({ do: "set-mixing", mixing: { ...mixing, ...change } });
  return (
    <div className={styles.mixing}>
      {brief.medium === "oil" && (
        <Tick
          on={(mixing.parts ?? false) || mixing.finer}
          says="Whole parts only, no tints mixed first"
          onTick={(parts) => set({ parts, finer: false })}
        />
      )}
      {brief.medium === "oil" && (mixing.parts || mixing.finer) && (
        <Tick
          on={mixing.finer}
          says="Finer: up to sixteen parts, or a touch of one more"
          effect={finer_gain == null ? undefined : `lowers the average error by ${figure(finer_gain, 2)}`}
          onTick={(finer) => set({ finer, parts: true })}
        />
      )}
      {!mixing.parts && !mixing.finer && (
        <Tick on={mixing.by_miss ?? false} says="Ignore mixing accuracy" onTick={(by_miss) => set({ by_miss })} />
      )}
      <Tick
        on={mixing.kin}
        says="Share pigments between mixes where nobody sees the difference"
        effect={kin_loss == null ? undefined : `raises the average error by ${figure(kin_loss, 2)}`}
        onTick={(kin) => set({ kin })}
      />
    </div>
  );
}

function Tick({
  on,
  says,
  effect,
  onTick,
}: {
  on: boolean;
  says: string;
  effect?: string;
  onTick: (on: boolean) => void;
}) {
  return (
    <label className={styles.tick}>
      <input type="checkbox" checked={on} onChange={(e) => onTick(e.currentTarget.checked)} />
      <span>
        {says}
        {effect && <b>{effect}</b>}
      </span>
    </label>
  );
}

/** What is let down once, before anything is mixed from it. */
function LetDowns() {
  const { view } = useBench();
  const { let_downs } = view.derived;
  if (!let_downs.length) return null;
  return (
    <section className={styles.letDowns}>
      <h3>Tints to mix first</h3>
      <ul>
        {let_downs.map((l) => (
          <li key={l.words}>
            <b>{said(l.words)}</b>
            <span>
              {l.zones.length > 1 ? `${numberWord(l.zones.length)} mixes use it` : `for ${zoneName(view, l.zones[0])}`}:{" "}
              <Measure amount={l.amount} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How thin each pan is made, so that parts are parts of washes of equal strength. */
function Pans() {
  const { view, box } = useBench();
  const { pans } = view.derived;
  if (!pans.length) return null;
  return (
    <section className={styles.letDowns}>
      <h3>Washes of equal strength</h3>
      <ul>
        {pans.map((p) => (
          <li key={p.pigment}>
            <b>{box?.pigments.find((q) => q.id === p.pigment)?.name ?? p.pigment}</b>
            <span>{said(p.words)}</span>
          </li>
        ))}
      </ul>
      <p>For a deep wash; each weaker one is a third of the one before: strong, middle, thin, faint.</p>
    </section>
  );
}

/** The mixes that take over along a graded zone, with where each has taken over half way. */
function ThenMixes({ mix, ground }: { mix: ZoneMix; ground: string }) {
  const { look } = useLooking();
  const told = useToldOf(mix.zone);
  return mix.then.map((f, i) => (
    <div key={f.at} className={styles.recipe}>
      <h3>
        {f.at === 1 ? "At the far end" : "Half way"}, handed over at{" "}
        <span className="figures">{Math.round(f.hand_over * 100)} %</span>
      </h3>
      <Stroke
        marks={[f.wanted, f.given]}
        ground={ground}
        height={44}
        look={look}
        label="Wanted there, and from the set"
      />
      <p>
        Value <span className="figures">{figure(f.wanted.value, 1)}</span>: {said(f.sentence)}
      </p>
      {told?.then[i] && <Recipe mix={f.mix} told={told.then[i]} />}
    </div>
  ));
}

/** The simpler recipe of a zone, or the fuller one where the simpler is taken: to look at, and to take with one key. */
function Alternative({ mix }: { mix: ZoneMix }) {
  const { view, changes } = useBench();
  const { mixing } = view.piece;
  const told = useToldOf(mix.zone);
  const simple = mixing.simple ?? [];
  const take = () =>
    changes.request({
      do: "set-mixing",
      mixing: {
        ...mixing,
        simple: mix.simple ? simple.filter((z) => z !== mix.zone) : [...simple, mix.zone],
      },
    });
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const writing = e.target instanceof HTMLElement && e.target.closest("input, textarea, select");
      if (e.key === "t" && !writing && !e.ctrlKey && !e.metaKey && !e.altKey) take();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });
  if (!mix.simpler) return null;
  return (
    <div className={styles.simpler}>
      <p>{said(mix.simpler.words)}:</p>
      {told?.simpler && <Recipe mix={mix.simpler.mix} told={told.simpler} />}
      <button type="button" className={styles.take} onClick={take} aria-keyshortcuts="t">
        <kbd className="figures">t</kbd> {mix.simple ? "Take the fuller one" : "Take the simpler one"}
      </button>
    </div>
  );
}

function MixCard() {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const { view } = bench;
  const ground = useGround();
  const m = useMixOf(selection.zone);
  const told = useToldOf(selection.zone);
  if (!m) {
    const missed = view.derived.mixes.filter((x) => !x.reached);
    return (
      <Card>
        <h2>Mixes</h2>
        <p>Each stroke is split: the target left, the mix right, on the ground of the piece.</p>
        <MixList />
        <Mixing />
        {view.derived.riskiest && (
          <p>
            {said(view.derived.riskiest.words)}{" "}
            <button
              type="button"
              className="act"
              onClick={() => view.derived.riskiest && selection.selectZone(view.derived.riskiest.zone)}
            >
              Go to it
            </button>
          </p>
        )}
        <LetDowns />
        <Pans />
        {missed.length > 0 && (
          <p>
            Out of reach: {missed.map((x) => zoneName(view, x.zone)).join(", ")}. In the field an arrow leads to where
            each ends up.
          </p>
        )}
        <p>
          Choose a zone for its recipe. Drag its mark in the field, or move it with the arrow keys, and the mix follows.
        </p>
      </Card>
    );
  }
  return (
    <Card>
      <h2>{capital(zoneName(view, m.zone))}</h2>
      <Stroke
        marks={[m.wanted, m.given]}
        ground={ground}
        height={84}
        look={looking.look}
        label="Wanted, and from the set"
      />
      <div className={styles.under}>
        <span>wanted</span>
        <span>from the set</span>
      </div>
      <p className={styles.said}>{said(m.sentence)}</p>
      <dl className={styles.readings}>
        <dt>value</dt>
        <dd className="figures">
          {figure(m.wanted.value, 1)} <i>to</i> {figure(m.given.value, 1)}
        </dd>
        <dd className="figures">{signed(m.delta_value, 1)}</dd>
        <dt>temperature</dt>
        <dd>{temperatureWord(m.given.temperature)}</dd>
        <dd className="figures">{signed(m.delta_temperature, 0)}</dd>
        <dt>colour</dt>
        <dd>{m.closeness}</dd>
        <dd className="figures">{figure(m.difference, 1)}</dd>
      </dl>
      <div className={styles.recipe}>
        <h3>{m.then.length ? "At the near end" : told?.mix.head}</h3>
        {told && <Recipe mix={m.mix} told={told.mix} />}
        <p className={styles.sure}>
          {said(m.slip)}
          {m.amount && (
            <>
              {" "}
              Mix <Measure amount={m.amount} />.
            </>
          )}
        </p>
        {m.simpler && <Alternative mix={m} />}
      </div>
      <ThenMixes mix={m} ground={ground} />
      <SideBySide zone={m.zone} />
      <Trials key={m.zone} of={{ zone: m.zone }} />
      <AmongNeighbours zone={m.zone} />
      {view.derived.findings
        .filter((f) => f.zones.includes(m.zone))
        .map((f) => (
          <FindingNote key={f.key} finding={f} />
        ))}
      <h3 className={styles.all}>All mixes</h3>
      <MixList />
    </Card>
  );
}
