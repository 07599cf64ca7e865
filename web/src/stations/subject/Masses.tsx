import { NativeSelect } from "@mantine/core";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { DISTANCES, PLANES } from "../../api/words";
import { Station } from "../../bench/Bench";
import { capital, useBench, useSelection, zoneName } from "../../bench/context";
import { TextField } from "../../kit/DraftFields";
import { Acts, Card } from "../../kit/Section";
import { massName } from "../../lenses/picture/Overlay";
import { Picture } from "../../lenses/picture/Picture";
import { said } from "../../room/figures";
import styles from "./Subject.module.css";
import { Working } from "./Working";

type Tool = "part" | "redraw";
const HINTS: Record<Tool, string> = {
  part: "Draw a line across the mass. Esc leaves it whole.",
  redraw: "Start in the mass and bulge out, or start outside and cut in. Esc leaves the border.",
};

/** The big shapes that hold together when squinting, and what is known of each. */
export function MassesRoom({ rooms }: { rooms: React.ReactNode }) {
  const { view, changes } = useBench();
  const { showMasses } = useSelection();
  const [asked, choose] = useState<number | null>(null);
  const [tool, setTool] = useState<Tool | null>(null);
  useEffect(() => {
    showMasses(true);
    return () => showMasses(false);
  }, [showMasses]);
  useEffect(() => {
    const leave = (e: KeyboardEvent) => e.key === "Escape" && setTool(null);
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, []);
  const chosen = view.piece.masses.some((m) => m.id === asked) ? asked : null;
  const drawn = (stroke: Schemas["Spot"][]) => {
    setTool(null);
    if (chosen === null || !tool) return;
    changes.request({ do: tool === "part" ? "part-mass" : "redraw-mass", mass: chosen, stroke });
  };
  const mass = view.piece.masses.find((m) => m.id === chosen);
  return (
    <Station
      name="Subject"
      surface={
        <>
          {rooms}
          {view.piece.masses.length ? (
            <Picture masses={{ chosen, onChoose: choose }} onLine={tool ? drawn : undefined}>
              {tool && <p className={styles.hintOver}>{HINTS[tool]}</p>}
            </Picture>
          ) : (
            <NoMasses />
          )}
          <Working />
        </>
      }
      card={
        mass ? <MassCard key={mass.id} mass={mass} tool={tool} onTool={setTool} /> : <AllMasses onChoose={choose} />
      }
    />
  );
}

function NoMasses() {
  const { view, changes } = useBench();
  if (!view.piece.reference || view.piece.reference.lines) {
    return <p className={styles.none}>Masses are found in a photo. This piece has none.</p>;
  }
  return (
    <p className={styles.none}>
      The big shapes of this picture were not looked for yet.{" "}
      <button type="button" className="act main" onClick={() => changes.proposeMasses()}>
        Find its masses
      </button>
    </p>
  );
}

function AllMasses({ onChoose }: { onChoose: (mass: number) => void }) {
  const { view, changes } = useBench();
  const { masses } = view.piece;
  if (!masses.length) return <p>What you set for a mass applies to every place in it.</p>;
  return (
    <Card>
      <h2>{masses.length === 1 ? "1 mass" : `${masses.length} masses`}</h2>
      <p>
        The shapes that hold together when you squint. What is said of one holds for its places, unless a zone says
        otherwise.
      </p>
      <ul className={styles.masses}>
        {masses.map((m) => {
          const mark = view.derived.masses.find((o) => o.mass === m.id);
          const said = [PLANES, DISTANCES]
            .map((words, i) => words.find((w) => w.value === (i ? m.distance : m.plane))?.label)
            .filter(Boolean);
          return (
            <li key={m.id}>
              <button type="button" className="plain" onClick={() => onChoose(m.id)}>
                <span className="figures">{m.id}</span> <b>{capital(massName(view, m.id))}</b>{" "}
                <span className="figures">{Math.round(100 * (mark?.area ?? 0))} %</span>
                {said.length > 0 && <i>{said.join(", ")}</i>}
              </button>
            </li>
          );
        })}
      </ul>
      <Straddling />
      <button type="button" className="act" onClick={() => changes.proposeMasses()}>
        Find masses again
      </button>
    </Card>
  );
}

/** Zones that lie in the light in one mass and otherwise in another. */
function Straddling() {
  const { view, changes } = useBench();
  return view.derived.straddling.map((s) => (
    <p key={s.zone} className={styles.part}>
      {said(s.why)}{" "}
      <button type="button" className="act" onClick={() => changes.partByMass(s.zone, s.mass)}>
        Make it two zones
      </button>
    </p>
  ));
}

function MassCard({
  mass,
  tool,
  onTool,
}: {
  mass: Schemas["Mass"];
  tool: Tool | null;
  onTool: (t: Tool | null) => void;
}) {
  const { view, changes } = useBench();
  const say = (change: Partial<Schemas["OfMass"]>) => {
    const { plane, distance, light } = mass;
    return changes.request({
      do: "say-of-mass",
      mass: mass.id,
      said: { name: mass.name, plane: plane ?? null, distance: distance ?? null, light: light ?? null, ...change },
    });
  };
  const zones = view.derived.masses.find((m) => m.mass === mass.id)?.zones ?? [];
  const two = view.piece.lighting.falling.kind === "two";
  const others = view.piece.masses.filter((m) => m.id !== mass.id);
  return (
    <Card>
      <form
        className={styles.name}
        onSubmit={(e) => {
          e.preventDefault();
          (document.activeElement as HTMLElement | null)?.blur();
        }}
      >
        <span className="figures">{mass.id}</span>
        <TextField
          aria-label={`Name of mass ${mass.id}`}
          placeholder={`mass ${mass.id}: sky, ground, figure …`}
          kept={mass.name}
          maxLength={80}
          onKeep={(name) => say({ name })}
          variant="unstyled"
          classNames={{ input: styles.nameInput }}
        />
      </form>
      <NativeSelect
        label="It faces"
        value={mass.plane ?? ""}
        data={[{ value: "", label: "not said" }, ...PLANES.map(({ value, label }) => ({ value, label }))]}
        onChange={(e) => say({ plane: (e.currentTarget.value || null) as Schemas["Plane"] | null })}
      />
      <NativeSelect
        label="It is"
        value={mass.distance ?? ""}
        data={[{ value: "", label: "not said" }, ...DISTANCES.map(({ value, label }) => ({ value, label }))]}
        onChange={(e) => say({ distance: (e.currentTarget.value || null) as Schemas["Distance"] | null })}
      />
      {two && (
        <NativeSelect
          label="It stands in"
          value={mass.light ?? ""}
          data={[
            { value: "", label: "not said" },
            { value: "first", label: "the first light" },
            { value: "second", label: "the second light" },
          ]}
          onChange={(e) => say({ light: (e.currentTarget.value || null) as Schemas["Which"] | null })}
        />
      )}
      {zones.length > 0 && <p>Mostly in it: {zones.map((z) => zoneName(view, z)).join(", ")}.</p>}
      <NativeSelect
        label="Join with"
        value=""
        data={[
          { value: "", label: "another mass" },
          ...others.map((m) => ({ value: String(m.id), label: `${m.id} ${capital(massName(view, m.id))}` })),
        ]}
        onChange={(e) =>
          e.currentTarget.value &&
          changes.request({ do: "join-masses", into: mass.id, from: Number(e.currentTarget.value) })
        }
      />
      <Acts>
        {(["part", "redraw"] as const).map((t) => (
          <button
            key={t}
            type="button"
            className="act"
            aria-pressed={tool === t}
            onClick={() => onTool(tool === t ? null : t)}
          >
            {t === "part" ? "Part by a line" : "Redraw its border"}
          </button>
        ))}
      </Acts>
    </Card>
  );
}
