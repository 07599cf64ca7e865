import { useElementSize } from "@mantine/hooks";
import { type ReactNode, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useBench, zoneName } from "../../bench/context";
import styles from "./Picture.module.css";

export type Place = Schemas["Place"];

/** Address of the reference in one of the ways of looking. The digest makes a new picture a new address. */
export function viewAddress(id: number, digest: string, look: string, groups: number | null): string {
  const query = new URLSearchParams({ look, of: digest.slice(0, 12) });
  if (groups !== null && (look === "values" || look === "squint")) query.set("groups", String(groups));
  return `/api/pieces/${id}/reference/view?${query}`;
}

type Props = {
  /** Draw a line across the picture; given both ends when let go. */
  onLine?: (from: Place, to: Place) => void;
  /** A place was pointed at while isolating. */
  onPatch?: (at: Place) => void;
  patch?: Place | null;
  children?: ReactNode;
};

/** The reference as large as fits, with its zones as still, thin double lines and numbers. */
export function Picture({ onLine, onPatch, patch, children }: Props) {
  const bench = useBench();
  const { view, look, groups, isolate } = bench;
  const { ref, width, height } = useElementSize();
  const reference = view.piece.reference;
  if (!reference) return null;
  const aspect = reference.width / reference.height;
  const w = Math.max(0, Math.min(width, height * aspect));
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <div className={styles.picture} style={{ width: w, height: w / aspect }}>
          <img
            src={viewAddress(view.id, reference.digest, bench.peek ? "as-it-is" : look, groups)}
            alt={`Reference ${reference.file_name}, ${look.replaceAll("-", " ")}`}
            draggable={false}
          />
          <Zones width={w} height={w / aspect} onLine={onLine} onPatch={isolate ? onPatch : undefined} patch={patch} />
          {children}
        </div>
      )}
    </div>
  );
}

function Zones({ width, height, onLine, onPatch, patch }: { width: number; height: number } & Props) {
  const bench = useBench();
  const { outlook } = bench.view;
  const [line, setLine] = useState<{ from: Place; to: Place } | null>(null);
  const frame = useRef<SVGSVGElement>(null);
  const [gw, gh] = [outlook.grid_width, outlook.grid_height];
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
          setLine({ from: place(e), to: place(e) });
        } else if (onPatch) onPatch(place(e));
      }}
      onPointerMove={(e) => line && setLine({ from: line.from, to: place(e) })}
      onPointerUp={(e) => {
        if (line && onLine) onLine(line.from, place(e));
        setLine(null);
      }}
      onPointerCancel={() => setLine(null)}
    >
      {bench.isolate && <Grey path={chosen?.path} patch={patch} gw={gw} gh={gh} />}
      {!bench.peek &&
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
          <line x1={line.from.x * gw} y1={line.from.y * gh} x2={line.to.x * gw} y2={line.to.y * gh} />
          <line x1={line.from.x * gw} y1={line.from.y * gh} x2={line.to.x * gw} y2={line.to.y * gh} />
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
