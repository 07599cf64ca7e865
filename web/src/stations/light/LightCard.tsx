import { NativeSelect } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { EXCEPTIONS, LAMPS_FROM, TINTS } from "../../api/words";
import { useBench, useSelection, zoneName } from "../../bench/context";
import { FindingNote } from "../../bench/Findings";
import { Card, Section } from "../../kit/Section";
import { useStudio } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { StarterHere } from "../box/StartBox";
import { FitValues } from "./FitValues";
import styles from "./Light.module.css";

type Falling = Schemas["Falling"];
const USUAL: Schemas["Lamp"] = { tint: "warm", from: "left", hard: true };
const OTHER: Schemas["Lamp"] = { tint: "cool", from: "right", hard: false };

/** What was proposed and not said to be so: findings are silent about it. */
function Guesses() {
  const { view, changes } = useBench();
  const guessed = view.piece.zones.filter(({ facts: f }) => !f.by_hand && (f.plane || f.distance || f.role || f.kind));
  if (!guessed.length) return null;
  return (
    <p className={styles.guesses}>
      {guessed.length === 1 ? "One zone has a suggestion" : `${guessed.length} zones have suggestions`} that you have
      not accepted. Findings ignore them until then. Correct what is wrong zone by zone, then{" "}
      <button type="button" className="act" onClick={() => changes.request({ do: "confirm-facts" })}>
        Accept all
      </button>
    </p>
  );
}

/** The light of the piece, and targets from it. */
export function LightCard() {
  const { view, changes } = useBench();
  const { lighting } = view.piece;
  const set = (change: Partial<Schemas["Lighting"]>) =>
    changes.requestNow((v) => ({ do: "set-lighting", lighting: { ...v.piece.lighting, ...change } }));
  const { falling } = lighting;
  const first = "first" in falling ? falling.first : USUAL;
  const kinds: [Falling["kind"], string, Falling][] = [
    ["one", "one", { kind: "one", first }],
    ["two", "two", { kind: "two", first, second: "second" in falling ? falling.second : OTHER }],
    ["flat", "none, flat", { kind: "flat" }],
  ];
  return (
    <Card>
      <h2>The light</h2>
      <fieldset className={styles.words}>
        <legend>Lights</legend>
        {kinds.map(([kind, label, next]) => (
          <label key={kind}>
            <input
              type="radio"
              name="falling"
              checked={falling.kind === kind}
              onChange={() => set({ falling: next })}
            />
            {label}
          </label>
        ))}
      </fieldset>
      {"first" in falling && (
        <LampFields
          title={falling.kind === "two" ? "The first" : "It is"}
          lamp={falling.first}
          onChange={(lamp) => set({ falling: { ...falling, first: lamp } })}
        />
      )}
      {falling.kind === "two" && (
        <LampFields
          title="The second"
          lamp={falling.second}
          onChange={(second) => set({ falling: { ...falling, second } })}
        />
      )}
      <fieldset className={styles.words}>
        <legend>Here</legend>
        <label>
          <input type="checkbox" checked={lighting.outdoors} onChange={() => set({ outdoors: !lighting.outdoors })} />
          open sky
        </label>
        {EXCEPTIONS.map((e) => (
          <label key={e.value}>
            <input
              type="checkbox"
              checked={lighting.exceptions.includes(e.value)}
              onChange={() =>
                set({
                  exceptions: lighting.exceptions.includes(e.value)
                    ? lighting.exceptions.filter((x) => x !== e.value)
                    : [...lighting.exceptions, e.value],
                })
              }
            />
            {e.label}
          </label>
        ))}
      </fieldset>
      <button type="button" className="act main" onClick={() => changes.request({ do: "propose-facts" })}>
        Suggest light and shadow
      </button>
      <Guesses />
      <Targets />
      <Relations />
      {view.derived.findings
        .filter((f) => f.zones.length === 0)
        .map((f) => (
          <FindingNote key={f.key} finding={f} />
        ))}
    </Card>
  );
}

function LampFields({
  title,
  lamp,
  onChange,
}: {
  title: string;
  lamp: Schemas["Lamp"];
  onChange: (l: Schemas["Lamp"]) => void;
}) {
  return (
    <div className={styles.lamp} role="group" aria-label={title}>
      <NativeSelect
        label={title}
        value={lamp.tint}
        data={TINTS.map((t) => ({ value: t.value, label: t.label }))}
        onChange={(e) => onChange({ ...lamp, tint: e.currentTarget.value as Schemas["Tint"] })}
      />
      <NativeSelect
        label="from where"
        value={lamp.from}
        data={LAMPS_FROM}
        onChange={(e) => onChange({ ...lamp, from: e.currentTarget.value as Schemas["LampFrom"] })}
      />
      <NativeSelect
        label="edges"
        value={lamp.hard ? "hard" : "soft"}
        data={["hard", "soft"]}
        onChange={(e) => onChange({ ...lamp, hard: e.currentTarget.value === "hard" })}
      />
    </div>
  );
}

function Targets() {
  const { view, changes } = useBench();
  const studio = useStudio();
  const reach = view.derived.light.reach;
  const others = studio.data?.pieces.filter((p) => p.id !== view.id && p.zones > 0) ?? [];
  const pictures = view.piece.others;
  const borrow = (from: string) => {
    const picture = pictures.find((o) => o.digest === from);
    if (from) changes.borrowLight(picture ? { of: "picture", digest: from } : { of: "piece", id: Number(from) });
  };
  return (
    <Section title="Targets">
      {reach ? (
        <p>
          {view.piece.chosen.pigments.length ? "The set" : "This Box"} reaches{" "}
          <span className="figures">
            {figure(reach.darkest, 1)} to {figure(reach.lightest, 1)}
          </span>{" "}
          on this ground.
        </p>
      ) : (
        <div>
          <p>What can be reached depends on what you own. To begin with, of modelled pigments:</p>
          <StarterHere />
        </div>
      )}
      {view.piece.reference && <FitValues />}
      <button
        type="button"
        className="act"
        disabled={!reach}
        onClick={() => changes.request({ do: "targets-from-rules" })}
      >
        From the rules of light alone
      </button>
      {others.length + pictures.length > 0 && (
        <NativeSelect
          label="Borrow the light of"
          value=""
          data={[
            { value: "", label: "another picture" },
            ...pictures.map((o) => ({ value: o.digest, label: o.file_name })),
            ...others.map((p) => ({ value: String(p.id), label: p.title })),
          ]}
          onChange={(e) => borrow(e.currentTarget.value)}
        />
      )}
    </Section>
  );
}

/** What got squeezed, and in which order zones catch the eye. */
function Relations() {
  const { view } = useBench();
  const { selectZone } = useSelection();
  const { squeezed, eye, on_the_wall } = view.derived.light;
  return (
    <>
      {squeezed.length > 0 && (
        <Section title="Squeezed">
          <ul className={styles.list}>
            {squeezed.slice(0, 5).map((s) => (
              <li key={`${s.light}-${s.dark}`}>
                <button type="button" className="plain" onClick={() => selectZone(s.light)}>
                  {zoneName(view, s.light)} over {zoneName(view, s.dark)}
                </button>{" "}
                <span className="figures">
                  {figure(s.read, 1)} → {figure(s.planned, 1)}
                </span>
              </li>
            ))}
          </ul>
        </Section>
      )}
      {eye.length > 1 && (
        <Section title="Eye path">
          <p>
            {eye.slice(0, 6).map((z, i) => (
              <span key={z}>
                {i > 0 && ", then "}
                <button type="button" className={`plain ${styles.under}`} onClick={() => selectZone(z)}>
                  {zoneName(view, z)}
                </button>
              </span>
            ))}
          </p>
        </Section>
      )}
      {on_the_wall && <p>{on_the_wall}</p>}
    </>
  );
}
