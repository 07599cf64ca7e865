import { NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, Refused, type Schemas } from "../../../api/client";
import { capital, seen, useBench, useLooking, useSelection, zoneName } from "../../../bench/context";
import { unitWord, written } from "../../../bench/lengths";
import { Act } from "../../../kit/Act";
import { Card, Note, Section, Warning } from "../../../kit/Section";
import { Plan } from "../../../lenses/picture/Plan";
import { paintedPlan } from "../../../lenses/picture/Planned";
import { useGround } from "../../../lenses/stroke/useGround";
import { said } from "../../../room/figures";
import styles from "./Surfaces.module.css";

type Told = Schemas["ToldMix"];

/** The plan, with its zones to be chosen. */
export function SurfacesRoom() {
  const { view } = useBench();
  const { look, flat } = useLooking();
  const ground = useGround();
  const marks = new Map(view.derived.mixes.map((m) => [m.zone, m.given] as const));
  return (
    <Plan
      marks={marks}
      ground={ground}
      look={look}
      label="The plan in its mixes"
      painted={flat ? undefined : paintedPlan(view)}
      vivid
    />
  );
}

/** What the chosen zone can be made of: siblings, relatives with one ruling, dabs that fuse. */
export function SurfacesCard() {
  const { view } = useBench();
  const { zone, selectZone } = useSelection();
  const [count, setCount] = useState(4);
  const [metres, setMetres] = useState(2.5);
  const found = useQuery({
    queryKey: ["surfaces", view.id, view.revision, zone, count, metres],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/surfaces/{zone}", {
          params: { path: { id: view.id, zone: zone ?? 0 }, query: { count, distance: metres * 1000 } },
        }),
      ),
    enabled: zone !== null,
    retry: false,
    placeholderData: (before) => before,
  });
  if (zone === null) {
    return (
      <Card>
        <h2>Surfaces</h2>
        <p>Choose a zone on the picture: windows, stones, leaves, a wash that drifts.</p>
        <Act main onDo={() => selectZone(view.piece.zones[0]?.id ?? null)}>
          Begin with {view.piece.zones[0] && zoneName(view, view.piece.zones[0].id)}
        </Act>
      </Card>
    );
  }
  const s = found.data?.surfaces;
  return (
    <Card>
      <h2>{capital(zoneName(view, zone))}</h2>
      {found.error instanceof Refused && <Warning>{found.error.problem.detail}</Warning>}
      {s && (
        <>
          <Section title="Siblings">
            <NumberInput
              label="How many that repeat"
              value={count}
              min={2}
              max={12}
              onChange={(n) => Number(n) >= 2 && Number(n) <= 12 && setCount(Number(n))}
            />
            <Mixes of={s.siblings} />
            <UseIt worked="siblings" zone={zone} count={count} metres={metres} possible={s.siblings.length > 1} />
            {s.siblings.length < count && (
              <Note>
                {s.siblings.length === 1 ? "This set holds only one" : `This set holds only ${s.siblings.length}`} of
                this value that differ.
              </Note>
            )}
            <Note>All within a quarter step of value, and all different.</Note>
          </Section>
          <Section title="Variation inside it">
            <Mixes of={s.variation} shares />
            <UseIt worked="variation" zone={zone} count={count} metres={metres} possible={s.variation.length > 1} />
            {s.left_out.length > 0 && <Note>No relative near enough holds {s.left_out.join(", ")}.</Note>}
          </Section>
          <Section title="Broken colour">
            <NumberInput
              label="Seen from, metres"
              value={metres}
              min={0.2}
              max={20}
              step={0.5}
              onChange={(n) => Number(n) >= 0.2 && Number(n) <= 20 && setMetres(Number(n))}
            />
            {s.broken ? (
              <>
                <Mixes of={s.broken.dabs} shares />
                <UseIt worked="broken" zone={zone} count={count} metres={metres} possible />
                <Note>
                  Dabs up to {written(s.broken.largest, view.piece.intent.units)} {unitWord(view.piece.intent.units)}{" "}
                  fuse at that distance. {said(s.broken.words)}
                </Note>
              </>
            ) : (
              <Note>No plainly different mixes of this set fuse to this colour.</Note>
            )}
          </Section>
        </>
      )}
      {found.data && found.data.reserved.length > 0 && (
        <Section title="Stays bare">
          <ul>
            {found.data.reserved.map((r) => (
              <li key={r.zone}>{said(r.words)}</li>
            ))}
          </ul>
        </Section>
      )}
    </Card>
  );
}

/** Keeps a surface with the zone, or lays it in one mix again. */
function UseIt(props: { worked: Schemas["Worked"]; zone: number; count: number; metres: number; possible: boolean }) {
  const { view, changes } = useBench();
  const { worked, zone, count, metres, possible } = props;
  const used = view.piece.zones.find((z) => z.id === zone)?.surface?.worked === worked;
  if (used) {
    return <Act onDo={() => changes.request({ do: "drop-surface", zone })}>Lay it in one mix again</Act>;
  }
  if (!possible) return null;
  return (
    <Act
      label={`Use it here: ${worked}`}
      onDo={() => changes.request({ do: "use-surface", zone, worked, count, distance: metres * 1000 })}
    >
      Use it here
    </Act>
  );
}

function Mixes({ of, shares }: { of: Told[]; shares?: boolean }) {
  const { look } = useLooking();
  return (
    <ul className={styles.mixes}>
      {of.map((m) => (
        <li key={m.recipe}>
          <i style={{ background: seen(m.mark, look) }} />
          <span>
            {shares && <b className="figures">{Math.round(m.share * 100)} %</b>} {m.recipe}
          </span>
        </li>
      ))}
    </ul>
  );
}
