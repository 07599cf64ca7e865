import { useElementSize } from "@mantine/hooks";
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { PLANE_KINDS } from "../../api/words";
import { seen, useBench, useLooking, useSelection, zoneName } from "../../bench/context";
import { Acts, Card } from "../../kit/Section";
import { aspectOf } from "../../lenses/picture/Picture";
import styles from "./Planes.module.css";

type Plane = Schemas["PlaneShape"];
type Part = Schemas["Crop"];

/** Where a plane lies when it is put in. */
const PLACES: Record<Schemas["PlaneKind"], Part> = {
  sky: { left: 0, top: 0, width: 1, height: 0.5 },
  flat: { left: 0, top: 0.6, width: 1, height: 0.4 },
  slanted: { left: 0.5, top: 0.3, width: 0.45, height: 0.3 },
  upright: { left: 0.1, top: 0.25, width: 0.3, height: 0.45 },
  figure: { left: 0.42, top: 0.35, width: 0.16, height: 0.5 },
};

const inside = (v: number, size: number) => Math.min(1 - size, Math.max(0, v));

/** Planes dragged into place: the piece from nothing. */
export function PlanesSurface() {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const { view, changes } = bench;
  const { ref, width, height } = useElementSize();
  const aspect = aspectOf(view);
  const w = Math.max(0, Math.min(width, height * aspect));
  const h = w / aspect;
  const [drag, setDrag] = useState<{ i: number; part: Part } | null>(null);
  const start = useRef<{ x: number; y: number; part: Part; corner: boolean } | null>(null);
  const planes = view.piece.planes.map((p, i) => (drag?.i === i ? { ...p, part: drag.part } : p));
  const keep = (next: Plane[]) => changes.request({ do: "lay-planes", planes: next });
  const move = (i: number, dx: number, dy: number, grow: boolean) => {
    const p = view.piece.planes[i].part;
    const part = grow
      ? {
          ...p,
          width: Math.max(0.04, Math.min(1 - p.left, p.width + dx)),
          height: Math.max(0.04, Math.min(1 - p.top, p.height + dy)),
        }
      : { ...p, left: inside(p.left + dx, p.width), top: inside(p.top + dy, p.height) };
    keep(view.piece.planes.map((q, n) => (n === i ? { ...q, part } : q)));
  };
  const handlers = (i: number, corner: boolean) => ({
    onPointerDown: (e: React.PointerEvent<SVGElement>) => {
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      start.current = { x: e.clientX, y: e.clientY, part: view.piece.planes[i].part, corner };
      selection.selectZone(i + 1);
    },
    onPointerMove: (e: React.PointerEvent<SVGElement>) => {
      const s = start.current;
      if (!s) return;
      const [dx, dy] = [(e.clientX - s.x) / w, (e.clientY - s.y) / h];
      const p = s.part;
      setDrag({
        i,
        part: s.corner
          ? {
              ...p,
              width: Math.max(0.04, Math.min(1 - p.left, p.width + dx)),
              height: Math.max(0.04, Math.min(1 - p.top, p.height + dy)),
            }
          : { ...p, left: inside(p.left + dx, p.width), top: inside(p.top + dy, p.height) },
      });
    },
    onPointerUp: () => {
      start.current = null;
      if (drag) keep(planes).finally(() => setDrag(null));
    },
  });
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <svg width={w} height={h} className={styles.planes} role="group" aria-label="Planes">
          {planes.map((p, i) => {
            const shape = view.derived.shapes.find((s) => s.zone === i + 1);
            const [x, y, pw, ph] = [p.part.left * w, p.part.top * h, p.part.width * w, p.part.height * h];
            return (
              <g key={i} data-chosen={selection.zone === i + 1}>
                <path
                  d={pathOf(p.kind, x, y, pw, ph)}
                  fill={shape ? seen(shape.target, looking.look) : "#999"}
                  className={styles.plane}
                  role="button"
                  tabIndex={0}
                  aria-label={`${shape ? zoneName(view, i + 1) : p.kind}: arrows move it, with Shift they stretch it`}
                  onFocus={() => selection.zone !== i + 1 && selection.selectZone(i + 1)}
                  onKeyDown={(e) => {
                    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
                    if (!step) return;
                    e.preventDefault();
                    e.stopPropagation();
                    move(i, step[0] * 0.02, step[1] * 0.02, e.shiftKey);
                  }}
                  {...handlers(i, false)}
                />
                <text x={x + pw / 2} y={y + ph / 2 + 4} textAnchor="middle">
                  {i + 1}
                </text>
              </g>
            );
          })}
          {planes.map((p, i) =>
            selection.zone === i + 1 ? (
              <rect
                key={i}
                x={(p.part.left + p.part.width) * w - 13}
                y={(p.part.top + p.part.height) * h - 13}
                width={13}
                height={13}
                className={styles.corner}
                {...handlers(i, true)}
              >
                <title>Drag to stretch</title>
              </rect>
            ) : null,
          )}
        </svg>
      )}
    </div>
  );
}

/** The same shapes as the zones that come of them. */
function pathOf(kind: Schemas["PlaneKind"], x: number, y: number, w: number, h: number): string {
  if (kind === "slanted") return `M${x} ${y + h * 0.6}L${x + w / 2} ${y}L${x + w} ${y + h * 0.6}V${y + h}H${x}Z`;
  if (kind === "figure") {
    const [cx, r, ry] = [x + w / 2, w * 0.22, h * 0.13];
    return `M${cx - r} ${y + ry}a${r} ${ry} 0 1 0 ${2 * r} 0a${r} ${ry} 0 1 0 ${-2 * r} 0ZM${x + w * 0.2} ${y + h * 0.24}H${x + w * 0.8}L${x + w * 0.952} ${y + h}H${x + w * 0.048}Z`;
  }
  return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
}

export function PlanesCard() {
  const { view, changes } = useBench();
  const { planes } = view.piece;
  const keep = (next: Plane[]) => changes.request({ do: "lay-planes", planes: next });
  return (
    <Card>
      <h2>From nothing</h2>
      <p>Drag planes into place; nearer ones lie over farther ones. The corner stretches the selected one.</p>
      <Acts>
        {PLANE_KINDS.map((k) => (
          <button
            key={k.value}
            type="button"
            className="act"
            onClick={() => keep([...planes, { kind: k.value, part: PLACES[k.value] }])}
          >
            add {k.label}
          </button>
        ))}
      </Acts>
      {planes.length > 1 && (
        <button type="button" className="act" onClick={() => keep(planes.slice(0, -1))}>
          Take the last one away
        </button>
      )}
      <p>Their values come from the rules of light: open Light and choose “From the rules of light alone”.</p>
    </Card>
  );
}
