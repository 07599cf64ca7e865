import { useEffect } from "react";
import type { Schemas, Zone } from "../../api/client";
import { ROLES } from "../../api/words";
import { Station } from "../../bench/Bench";
import { useBench, useLooking, usePreview, useSelection, zoneName } from "../../bench/context";
import { Rooms, useRoom } from "../../bench/Rooms";
import { Dials } from "../../lenses/picture/Dials";
import { Picture } from "../../lenses/picture/Picture";
import { Plan } from "../../lenses/picture/Plan";
import { targetsOf } from "../../lenses/picture/Planned";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { Missing } from "../missing/Missing";
import { Looks } from "../subject/Looks";
import { ColourCard } from "./colour/ColourCard";
import { factsAfter } from "./factKeys";
import styles from "./Light.module.css";
import { LightCard } from "./LightCard";
import { ZoneLight } from "./ZoneLight";

const ROOMS = [
  ["light", "light and shadow"],
  ["colour", "hue and chroma"],
] as const;

/** Plan the relations before the colours: the reference beside the plan, and the families of light and shadow. */
export function Light() {
  const bench = useBench();
  const selection = useSelection();
  const room = useRoom(ROOMS);
  useFactKeys(room === "light");
  const empty = bench.view.piece.zones.length === 0;
  return (
    <Station
      name="Light"
      surface={
        empty ? (
          <Missing why="Light falls on zones: they come from a picture, or from a few planes to begin with." />
        ) : (
          <>
            <Rooms rooms={ROOMS} />
            <Looks />
            <div className={styles.beside}>
              <div className={styles.plan}>
                <AsPlanned vivid={room === "colour"} />
                <Dials />
              </div>
              <FamilyColumns />
            </div>
          </>
        )
      }
      card={room === "colour" ? <ColourCard /> : selection.zone === null ? <LightCard /> : <ZoneLight />}
    />
  );
}

/** The plan as large as fits; squinting and neighbours are seen on its pixels, everything else is drawn. */
function AsPlanned({ vivid }: { vivid: boolean }) {
  const { view } = useBench();
  const { look } = useLooking();
  const { preview } = usePreview();
  const ground = useGround();
  if (look === "squint" || look === "neighbours") return <Picture planned />;
  return <Plan {...targetsOf(view, preview)} ground={ground} look={look} vivid={vivid} label="The piece as planned" />;
}

/** Single keys say how the selected zone stands in the light. */
function useFactKeys(on: boolean) {
  const bench = useBench();
  const { view, changes } = bench;
  const { zone } = useSelection();
  useEffect(() => {
    if (!on) return;
    const press = (e: KeyboardEvent) => {
      const t = e.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName) || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented)
        return;
      if (document.querySelector("[role=dialog]")) return;
      const chosen = view.piece.zones.find((z) => z.id === zone);
      if (!chosen || !factsAfter(chosen.facts, e.key)) return;
      e.preventDefault();
      changes.requestNow((v) => {
        const now = v.piece.zones.find((z) => z.id === chosen.id);
        const facts = now && factsAfter(now.facts, e.key);
        return facts ? { do: "set-facts", zone: chosen.id, facts } : null;
      });
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [on, view, changes, zone]);
}

/** Who stands in the light and who in shadow, each family from light to dark. */
function FamilyColumns() {
  const { view } = useBench();
  const two = view.piece.lighting.falling.kind === "two";
  const zones = [...view.piece.zones].sort((a, b) => plannedValue(view, b.id) - plannedValue(view, a.id));
  const family = (z: Zone) => ROLES.find((r) => r.value === z.facts.role)?.family ?? null;
  const of = (which: "lit" | "shadow" | null, light?: Schemas["Which"]) =>
    zones.filter((z) => family(z) === which && (!light || z.facts.light === light));
  return (
    <div className={styles.families}>
      {two ? (
        <>
          <Family title="in the first light" zones={of("lit", "first")} />
          <Family title="shadow of the first" zones={of("shadow", "first")} />
          <Family title="in the second light" zones={of("lit", "second")} />
          <Family title="shadow of the second" zones={of("shadow", "second")} />
        </>
      ) : (
        <>
          <Family title="in the light" zones={of("lit")} />
          <Family title="in shadow" zones={of("shadow")} />
        </>
      )}
      <Family title="no part, or its own light" zones={of(null)} />
    </div>
  );
}

const plannedValue = (view: ReturnType<typeof useBench>["view"], id: number) =>
  view.derived.shapes.find((s) => s.zone === id)?.target.value ?? 0;

function Family({ title, zones }: { title: string; zones: Zone[] }) {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const ground = useGround();
  return (
    <section className={styles.family} aria-label={title}>
      <h2>{title}</h2>
      {zones.length === 0 && <p>none</p>}
      <ul>
        {zones.map((z) => {
          const shape = bench.view.derived.shapes.find((s) => s.zone === z.id);
          if (!shape) return null;
          const word = ROLES.find((r) => r.value === z.facts.role)?.label;
          return (
            <li key={z.id}>
              <button
                type="button"
                className="plain"
                aria-pressed={selection.zone === z.id}
                onClick={() => selection.selectZone(z.id)}
              >
                <Stroke marks={[shape.target]} ground={ground} height={22} look={looking.look} />
                <span>
                  <span className="figures">{z.id}</span> {zoneName(bench.view, z.id)}
                </span>
                <span className="figures">{figure(shape.target.value, 1)}</span>
                {word && word !== "lit" && word !== "in shadow" && <small>{word}</small>}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
