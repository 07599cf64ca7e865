import { NativeSelect } from "@mantine/core";
import type { Mark, Schemas } from "../../api/client";
import { DISTANCES, KINDS, PLANES, ROLES, type Word } from "../../api/words";
import {
  capital,
  signed,
  temperatureWord,
  useBench,
  useLooking,
  useSelection,
  useTargets,
  zoneName,
} from "../../bench/context";
import { FindingNote } from "../../bench/Findings";
import { NumberField } from "../../kit/DraftFields";
import { Card, Section } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure, said } from "../../room/figures";
import { ROLE_KEYS } from "./factKeys";
import styles from "./Light.module.css";

type Facts = Schemas["Facts"];

/** How the selected zone stands in the light, and what it should be. */
export function ZoneLight() {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const targets = useTargets();
  const { view, changes } = bench;
  const ground = useGround();
  const zone = view.piece.zones.find((z) => z.id === selection.zone);
  const shape = view.derived.shapes.find((s) => s.zone === selection.zone);
  const target = zone && targets(zone.id);
  if (!zone || !shape || !target) return null;
  const { facts } = zone;
  const set = (change: Partial<Facts>) =>
    changes.requestNow((v) => {
      const now = v.piece.zones.find((z) => z.id === zone.id);
      return now ? { do: "set-facts", zone: zone.id, facts: { ...now.facts, ...change } } : null;
    });
  const two = view.piece.lighting.falling.kind === "two";
  return (
    <Card>
      <h2>
        <span className="figures">{zone.id}</span> {capital(zoneName(view, zone.id))}
      </h2>
      <Stroke
        marks={[shape.reading, target]}
        ground={ground}
        height={56}
        look={looking.look}
        label="Read, and planned"
      />
      <p>
        <span className="figures">
          {figure(shape.reading.value, 1)} → {figure(target.value, 1)}
        </span>
        , {temperatureWord(target.temperature)} <span className="figures">{signed(target.temperature, 0)}</span>
      </p>
      <div className={styles.facts}>
        <Fact
          keys={Object.values(ROLE_KEYS).join(" ")}
          label="Part"
          list={ROLES}
          value={facts.role}
          onChange={(role) => set({ role })}
        />
        <Fact keys="p" label="Plane" list={PLANES} value={facts.plane} onChange={(plane) => set({ plane })} />
        <Fact
          keys="a"
          label="Distance"
          list={DISTANCES}
          value={facts.distance}
          onChange={(distance) => set({ distance })}
        />
        <Fact keys="y" label="Kind" list={KINDS} value={facts.kind} onChange={(kind) => set({ kind })} />
        {two && (
          <NativeSelect
            label={<Keyed label="Light" keys="e" />}
            value={facts.light}
            data={[
              { value: "first", label: "the first" },
              { value: "second", label: "the second" },
            ]}
            onChange={(e) => set({ light: e.currentTarget.value as Schemas["Which"] })}
          />
        )}
      </div>
      {!facts.by_hand && facts.plane && <p>Suggested from the picture. Correct what is wrong.</p>}
      <Grading zone={zone.id} graded={zone.graded ?? null} end={shape.graded_to ?? target} />
      <Travelling zone={zone.id} />
      {view.derived.findings
        .filter((f) => f.zones.includes(zone.id))
        .map((f) => (
          <FindingNote key={f.key} finding={f} />
        ))}
      <p>
        <button type="button" className="act" onClick={() => selection.selectZone(null)}>
          The whole light
        </button>
      </p>
    </Card>
  );
}

/** What light that travels would make of the zone: a proposal with its reason. */
function Travelling({ zone }: { zone: number }) {
  const { view, changes } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const here = view.derived.light.travels.find((t) => t.zone === zone);
  const shape = view.derived.shapes.find((s) => s.zone === zone);
  if (!here || !shape) return null;
  return (
    <Section title="Light that travels" bare>
      <p>{said(here.why)}</p>
      <Stroke marks={[shape.target, here.mark]} ground={ground} height={32} look={look} label="Planned, and proposed" />
      <p>
        <button type="button" className="act" onClick={() => changes.request(here.request)}>
          {said(here.help)}
        </button>
      </p>
    </Section>
  );
}

/** A label with the keys that change it. */
function Keyed({ label, keys }: { label: string; keys: string }) {
  return (
    <>
      {label} <span className={`figures ${styles.keys}`}>{keys}</span>
    </>
  );
}

function Fact<T extends string>({
  label,
  keys,
  list,
  value,
  onChange,
}: {
  label: string;
  keys: string;
  list: Word<T>[];
  value: T | null | undefined;
  onChange: (v: T | null) => void;
}) {
  return (
    <NativeSelect
      label={<Keyed label={label} keys={keys} />}
      value={value ?? ""}
      data={[{ value: "", label: "not said" }, ...list.map((w) => ({ value: w.value, label: w.label }))]}
      onChange={(e) => onChange((e.currentTarget.value || null) as T | null)}
    />
  );
}

const WAYS = [
  { value: "90", label: "downwards" },
  { value: "270", label: "upwards" },
  { value: "0", label: "to the right" },
  { value: "180", label: "to the left" },
];

/** A target that runs to another value and temperature along a direction. */
function Grading({ zone, graded, end }: { zone: number; graded: Schemas["Graded"] | null; end: Mark }) {
  const { changes } = useBench();
  const set = (to: Schemas["FieldMove"], direction: number) =>
    changes.request({ do: "set-graded", zone, graded: { end: to, direction } });
  const field = (label: string, now: number, digits: number, keep: (n: number) => void, min: number, max: number) => (
    <NumberField
      label={label}
      kept={Number(now.toFixed(digits))}
      min={min}
      max={max}
      decimalScale={digits}
      onKeep={(n) => n !== null && keep(n)}
    />
  );
  return (
    <Section title="Grading" bare>
      <Tick
        on={!!graded}
        onTick={(on) =>
          on
            ? set({ value: Math.max(0, end.value - 1) }, 90)
            : changes.request({ do: "set-graded", zone, graded: null })
        }
      >
        It runs to another value
      </Tick>
      {graded && (
        <div className={styles.lamp}>
          {field("value", end.value, 1, (value) => set({ value }, graded.direction), 0, 10)}
          <NativeSelect
            label="which way"
            value={String(graded.direction)}
            data={WAYS}
            onChange={(e) => set({}, Number(e.currentTarget.value))}
          />
          {field("warmth", end.temperature, 0, (temperature) => set({ temperature }, graded.direction), -100, 100)}
        </div>
      )}
    </Section>
  );
}
