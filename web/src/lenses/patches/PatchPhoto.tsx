import { useRef, useState } from "react";
import styles from "./Patches.module.css";
import type { Patch } from "./usePatches";

const WIDE = 1000;
/** Pixels a pointer moves before a cell is dragged. */
const STARTS = 5;

type Spot = { x: number; y: number };
type Drag = { cell: number; from: Spot; by: Spot; moved: boolean };

/** A photo of swatches with its cells: pressed to be chosen or left out, dragged or moved by the arrow keys, put where the photo is pressed. */
export function PatchPhoto({
  digest,
  proportion,
  patches,
  grey,
  chosen,
  onChoose,
  onMove,
  onSpot,
}: {
  digest: string;
  proportion: number;
  patches: Patch[];
  grey: Spot | null;
  /** The one cell that is chosen, where only one is. */
  chosen?: number | null;
  onChoose: (cell: number) => void;
  onMove: (cell: number, place: Patch["place"]) => void;
  onSpot: (at: Spot) => void;
}) {
  const high = WIDE / proportion;
  const frame = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const at = (e: React.PointerEvent): Spot => {
    const r = frame.current?.getBoundingClientRect();
    if (!r?.width) return { x: 0, y: 0 };
    const share = (n: number, from: number, size: number) => Math.min(1, Math.max(0, (n - from) / size));
    return { x: share(e.clientX, r.left, r.width), y: share(e.clientY, r.top, r.height) };
  };
  const shifted = (place: Patch["place"], by: Spot) => ({
    ...place,
    x: Math.min(1 - place.width, Math.max(0, place.x + by.x)),
    y: Math.min(1 - place.height, Math.max(0, place.y + by.y)),
  });
  return (
    <svg
      ref={frame}
      viewBox={`0 0 ${WIDE} ${high}`}
      className={styles.photo}
      role="group"
      aria-label="Photo of swatches"
      onPointerUp={(e) => !drag && onSpot(at(e))}
    >
      <image href={`/api/field-notes/photo/${digest}`} width={WIDE} height={high} />
      {patches.map((p, i) => {
        const place = drag?.cell === i ? shifted(p.place, drag.by) : p.place;
        const [x, y] = [place.x * WIDE, place.y * high];
        const pressed = chosen === undefined ? !p.off : chosen === i;
        return (
          <g
            key={i}
            role="button"
            tabIndex={0}
            aria-label={`Cell ${i + 1}, ${p.name}${p.doubtful ? ", doubtful" : ""}`}
            aria-pressed={pressed}
            className={styles.cell}
            data-guessed={p.guessed}
            onPointerDown={(e) => {
              e.stopPropagation();
              e.currentTarget.setPointerCapture(e.pointerId);
              setDrag({ cell: i, from: at(e), by: { x: 0, y: 0 }, moved: false });
            }}
            onPointerMove={(e) => {
              if (drag?.cell !== i) return;
              const now = at(e);
              const by = { x: now.x - drag.from.x, y: now.y - drag.from.y };
              const width = frame.current?.getBoundingClientRect().width ?? WIDE;
              const far = Math.hypot(by.x, by.y / proportion) * width;
              setDrag({ ...drag, by, moved: drag.moved || far > STARTS });
            }}
            onPointerUp={(e) => {
              e.stopPropagation();
              if (drag?.moved) onMove(i, place);
              else onChoose(i);
              setDrag(null);
            }}
            onKeyDown={(e) => {
              const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
              if (by) {
                e.preventDefault();
                e.stopPropagation();
                onMove(i, shifted(p.place, { x: by[0] * 0.005, y: by[1] * 0.005 }));
              }
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onChoose(i);
              }
            }}
          >
            <rect x={x} y={y} width={place.width * WIDE} height={place.height * high} />
            <text x={x + 4} y={y + 19}>
              {i + 1}
            </text>
          </g>
        );
      })}
      {grey && <circle cx={grey.x * WIDE} cy={grey.y * high} r={12} className={styles.grey} aria-label="Grey card" />}
    </svg>
  );
}
