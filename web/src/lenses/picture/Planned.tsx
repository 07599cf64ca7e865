import { type ReactNode, useId } from "react";
import type { Mark, PieceView, Study, ZoneMix } from "../../api/client";
import { useMap } from "../../api/useMap";
import { type Look, seen } from "../../bench/context";
import styles from "./Planned.module.css";

/** Colours a zone runs through: each mark pure at its share of the way. */
export type Way = { direction: number; stops: { at: number; mark: Mark }[] };

type Props = {
  view: PieceView;
  /** Colour of each zone, by number. */
  marks: Map<number, Mark>;
  /** Zones that run from colour to colour. */
  ways?: Map<number, Way>;
  ground: string;
  look: Look;
  label: string;
  /** Address of the same picture painted in the hand of its medium; laid over the flat one once it has come. */
  painted?: string;
  /** Shapes without paint are drawn as lines on the ground. */
  outlined?: boolean;
  children?: ReactNode;
};

/** The piece drawn as its zones in paint on the ground. */
export function Planned({ view, marks, ways, ground, look, label, painted, outlined, children }: Props) {
  const shapes = useMap(view.derived.map);
  const id = useId();
  // Of a drawing the lines are always there.
  const lines = view.piece.reference?.lines;
  return (
    <svg
      viewBox={`0 0 ${shapes.width || 1} ${shapes.height || 1}`}
      className={styles.planned}
      role="img"
      aria-label={label}
      style={{ background: ground }}
    >
      {[...shapes.of].map(([zone, { path }]) => {
        const mark = marks.get(zone);
        const way = ways?.get(zone);
        const run = `${id}-way-${zone}`;
        const fill = way ? `url(#${run})` : mark ? seen(mark, look) : "transparent";
        // The paint's own hairline closes the seam that smoothing edges leaves between neighbours.
        return (
          <g key={zone}>
            {way && <Run id={run} way={way} look={look} />}
            <path
              d={path}
              fillRule="evenodd"
              fill={fill}
              stroke={lines || (outlined && !mark) ? "#101010" : fill}
              strokeOpacity={outlined && !mark ? 0.5 : 1}
              strokeWidth={lines ? 2 : 1}
            />
          </g>
        );
      })}
      {painted && look === "as-it-is" && (
        <>
          <image href={painted} width={shapes.width || 1} height={shapes.height || 1} preserveAspectRatio="none" />
          {outlined &&
            [...shapes.of].flatMap(([zone, { path }]) =>
              marks.has(zone) ? [] : [<path key={zone} d={path} fill="none" stroke="#101010" strokeOpacity={0.5} />],
            )}
        </>
      )}
      {children}
    </svg>
  );
}

function Run({ id, way, look }: { id: string; way: Way; look: Look }) {
  const turn = (way.direction * Math.PI) / 180;
  const [x, y] = [Math.cos(turn) / 2, Math.sin(turn) / 2];
  return (
    <linearGradient id={id} x1={0.5 - x} y1={0.5 - y} x2={0.5 + x} y2={0.5 + y}>
      {way.stops.map((s) => (
        <stop key={s.at} offset={s.at} stopColor={seen(s.mark, look)} />
      ))}
    </linearGradient>
  );
}

/** How the mixes of graded zones run into each other. */
export function waysOf(view: PieceView, mixes: ZoneMix[]): Map<number, Way> {
  const way = (m: ZoneMix): Way => ({
    direction: view.piece.zones.find((z) => z.id === m.zone)?.graded?.direction ?? 0,
    stops: [{ at: 0, mark: m.given }, ...m.then.map((f) => ({ at: f.at, mark: f.given }))],
  });
  return new Map(mixes.filter((m) => m.then.length).map((m) => [m.zone, way(m)]));
}

/** What is planned for every zone, as it is or as the drag going on would make it, and how graded ones run. */
export function targetsOf(view: PieceView, preview: { zone: number; data: { target: Mark } } | null) {
  const { shapes } = view.derived;
  const target = (s: (typeof shapes)[number]) => (preview?.zone === s.zone ? preview.data.target : s.target);
  const way = (s: (typeof shapes)[number]): Way[] => {
    const direction = view.piece.zones.find((z) => z.id === s.zone)?.graded?.direction;
    if (!s.graded_to || direction === undefined) return [];
    return [
      {
        direction,
        stops: [
          { at: 0, mark: target(s) },
          { at: 1, mark: s.graded_to },
        ],
      },
    ];
  };
  return {
    marks: new Map(shapes.map((s) => [s.zone, target(s)])),
    ways: new Map(shapes.flatMap((s) => way(s).map((w) => [s.zone, w] as const))),
  };
}

/** Where the plan is, painted in its mixes. */
export const paintedPlan = (view: PieceView, width = 900) =>
  `/api/pieces/${view.id}/painted?width=${width}&of=${view.revision}`;

/** Where a study is, painted. It changes with its mixes only. */
export const paintedStudy = (view: PieceView, study: Study, width: number) =>
  `/api/pieces/${view.id}/painted?study=${study.number}&width=${width}&of=${printOf(study)}-${view.derived.map?.digest.slice(0, 8)}`;

/** A number that changes when a study's colours do. */
export function printOf(study: Study): string {
  const labs = study.mixes.map(
    (m) => `${m.zone}:${m.mix.lab.l.toFixed(2)},${m.mix.lab.a.toFixed(2)},${m.mix.lab.b.toFixed(2)}`,
  );
  let print = 7;
  for (const c of labs.join(";")) print = (print * 31 + c.charCodeAt(0)) >>> 0;
  return print.toString(36);
}
