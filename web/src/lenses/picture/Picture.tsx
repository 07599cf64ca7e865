import { useElementSize } from "@mantine/hooks";
import { type ReactNode, useRef, useState } from "react";
import type { PieceView, Schemas } from "../../api/client";
import { useBench, zoneName } from "../../bench/context";
import styles from "./Picture.module.css";

export type Place = Schemas["Place"];

/** Address of the reference in one of the ways of looking. The digest makes a new picture a new address. */
export function viewAddress(id: number, digest: string, look: string, groups: number | null): string {
  const query = new URLSearchParams({ look, of: digest });
  if (groups !== null && (look === "values" || look === "squint")) query.set("groups", String(groups));
  return `/api/pieces/${id}/reference/view?${query}`;
}

/** Address of the plan in one of the ways of looking. The revision makes a changed plan a new address. */
export function plannedAddress(id: number, revision: number, look: string, groups: number | null): string {
  const query = new URLSearchParams({ look, of: String(revision) });
  if (groups !== null && (look === "values" || look === "squint")) query.set("groups", String(groups));
  return `/api/pieces/${id}/planned/view?${query}`;
}

/** Width by height of what the zones of a piece lie on. */
export function aspectOf(view: PieceView): number {
  const { reference, brief } = view.piece;
  return reference ? reference.width / reference.height : brief.size.width / brief.size.height;
}

type Props = {
  /** Draw a line on the picture, freely; given all its points when let go. */
  onLine?: (stroke: Place[]) => void;
  /** Only the two ends matter: the line is drawn straight. */
  straight?: boolean;
  /** The plan instead of the reference. */
  planned?: boolean;
  /** Another picture of the reference than the ways of looking give. */
  address?: string;
  /** Zones are left out. */
  bare?: boolean;
  /** A place was pointed at while isolating. */
  onPatch?: (at: Place) => void;
  patch?: Place | null;
  children?: ReactNode;
};

/** The reference as large as fits, with its zones as still, thin double lines and numbers. */
export function Picture({ onLine, straight, planned, address, bare, onPatch, patch, children }: Props) {
  const bench = useBench();
  const { view, look, groups, isolate } = bench;
  const { ref, width, height } = useElementSize();
  const reference = view.piece.reference;
  if (!reference && !view.outlook.shapes.length) return null;
  const aspect = aspectOf(view);
  const seenAs = bench.peek ? "as-it-is" : look;
  const digest = `${reference?.digest.slice(0, 12)}${JSON.stringify(reference?.frame ?? view.revision)}`;
  const src =
    address ??
    (planned
      ? plannedAddress(view.id, view.revision, seenAs, groups)
      : viewAddress(view.id, seenAs === "neighbours" ? `${digest}${view.revision}` : digest, seenAs, groups));
  const w = Math.max(0, Math.min(width, height * aspect));
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <div className={styles.picture} style={{ width: w, height: w / aspect }}>
          <img
            src={src}
            alt={`${planned ? "The plan" : `Reference ${reference?.file_name ?? "of planes"}`}, ${look.replaceAll("-", " ")}`}
            draggable={false}
          />
          <Zones
            width={w}
            height={w / aspect}
            onLine={onLine}
            straight={straight}
            bare={bare}
            onPatch={isolate ? onPatch : undefined}
            patch={patch}
          />
          {children}
        </div>
      )}
    </div>
  );
}

function Zones({ width, height, onLine, straight, bare, onPatch, patch }: { width: number; height: number } & Props) {
  const bench = useBench();
  const { outlook } = bench.view;
  const [line, setLine] = useState<Place[] | null>(null);
  const frame = useRef<SVGSVGElement>(null);
  // Before there are zones a line can still be measured.
  const [gw, gh] = outlook.grid_width ? [outlook.grid_width, outlook.grid_height] : [400, (400 * height) / width];
  const place = (e: React.PointerEvent): Place => {
    const r = frame.current?.getBoundingClientRect();
    const share = (at: number, from = 0, size = 1) => Math.min(1, Math.max(0, (at - from) / size));
    return { x: share(e.clientX, r?.left, r?.width), y: share(e.clientY, r?.top, r?.height) };
  };
  const chosen = outlook.shapes.find((s) => s.zone === bench.zone);
  const unit = gw / width;
  return (
    <svg
      ref={frame}
      className={styles.zones}
      viewBox={`0 0 ${gw} ${gh}`}
      width={width}
      height={height}
      data-drawing={!!onLine}
      role="group"
      aria-label="Zones on the picture"
      onPointerDown={(e) => {
        if (onLine) {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLine([place(e)]);
        } else if (onPatch) onPatch(place(e));
      }}
      onPointerMove={(e) => line && setLine(straight ? [line[0], place(e)] : [...line, place(e)])}
      onPointerUp={(e) => {
        if (line && onLine) onLine(straight ? [line[0], place(e)] : [...line, place(e)]);
        setLine(null);
      }}
      onPointerCancel={() => setLine(null)}
    >
      {bench.isolate && <Grey path={chosen?.path} patch={patch} gw={gw} gh={gh} />}
      {!bench.peek &&
        !bare &&
        outlook.shapes.map((s) => (
          <path
            key={s.zone}
            d={s.path}
            fillRule="evenodd"
            className={styles.shape}
            onClick={() => !onLine && !onPatch && bench.selectZone(s.zone)}
          >
            <title>{zoneName(bench.view, s.zone)}</title>
          </path>
        ))}
      {!bench.peek && chosen && !onLine && (
        <g className={styles.chosen} aria-hidden="true">
          <path d={chosen.path} />
          <path d={chosen.path} />
        </g>
      )}
      {!bench.peek &&
        !bare &&
        outlook.shapes.map((s) => (
          <g
            key={s.zone}
            role="button"
            tabIndex={0}
            aria-pressed={s.zone === bench.zone}
            aria-label={`Zone ${s.zone}, ${zoneName(bench.view, s.zone)}`}
            className={styles.number}
            data-chosen={s.zone === bench.zone}
            transform={`translate(${s.heart_x} ${s.heart_y}) scale(${unit})`}
            onClick={() => !onLine && bench.selectZone(s.zone)}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                bench.selectZone(s.zone);
              }
            }}
          >
            <circle r={11} />
            <text y={4} textAnchor="middle">
              {s.zone}
            </text>
          </g>
        ))}
      {line && (
        <g className={styles.cut} aria-hidden="true">
          <polyline points={line.map((p) => `${p.x * gw},${p.y * gh}`).join(" ")} />
          <polyline points={line.map((p) => `${p.x * gw},${p.y * gh}`).join(" ")} />
        </g>
      )}
    </svg>
  );
}

/** Everything but one zone or one patch covered with the neutral grey of the room. */
function Grey({ path, patch, gw, gh }: { path?: string; patch?: Place | null; gw: number; gh: number }) {
  const r = gw * 0.018;
  const hole = patch
    ? `M${patch.x * gw - r} ${patch.y * gh}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
    : (path ?? "");
  return <path d={`M0 0H${gw}V${gh}H0Z${hole}`} fillRule="evenodd" className={styles.grey} aria-hidden="true" />;
}
