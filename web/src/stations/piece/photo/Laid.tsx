import { useElementSize } from "@mantine/hooks";
import { type RefObject, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { useMap } from "../../../api/useMap";
import { type Spot, useBench, useSelection } from "../../../bench/context";
import { paintedPlan, paintedStudy } from "../../../lenses/picture/Planned";
import styles from "./Photo.module.css";

type Photo = Schemas["ProgressPhoto"];
type Progress = Schemas["Progress"];

const NAMES = ["upper left", "upper right", "lower right", "lower left"];

/** The photo with the plan's outlines over it; zones that are off are hatched. Its corners can be dragged, or moved by the arrow keys. */
export function Laid({ at, photo, progress }: { at: number; photo: Photo; progress: Progress | null }) {
  const { view, changes } = useBench();
  const { zone, selectZone } = useSelection();
  const [search] = useSearchParams();
  const shapes = useMap(view.derived.map);
  const { ref, width, height } = useElementSize();
  const [dragged, setDragged] = useState<Spot[] | null>(null);
  const [card, setCard] = useState<Spot | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const address = `/api/pieces/${view.id}/easel/photos/${at}/view?of=${photo.digest.slice(0, 12)}`;
  const w = Math.max(0, Math.min(width, (height * photo.width) / photo.height));
  const h = (w * photo.height) / photo.width;
  if (search.get("back") === "1") return <SteppedBack address={address} />;
  const corners = dragged ?? photo.corners ?? progress?.corners ?? WHOLE;
  const keep = (change: Partial<Photo>) => {
    setDragged(null);
    setCard(null);
    changes.requestNow((v) => {
      const now = v.piece.easel.photos[at];
      return now ? { do: "set-progress-photo", at, photo: { ...now, ...change } } : null;
    });
  };
  const moved = (i: number, to: Spot) => corners.map((c, n) => (n === i ? to : c));
  const off = new Set(progress?.zones.filter((z) => z.off).map((z) => z.zone));
  return (
    <div ref={ref} className={styles.room}>
      {w > 0 && (
        <div ref={frame} className={styles.photo} style={{ width: w, height: h }}>
          <img src={address} alt={`The piece on its way, ${photo.file_name}`} />
          <svg
            role="img"
            aria-label="The plan laid over the photo"
            preserveAspectRatio="none"
            viewBox={`0 0 ${shapes.width || 1} ${shapes.height || 1}`}
            style={{ width: 1000, height: 1000, transform: onto(corners, w, h) }}
          >
            <title>The plan laid over the photo</title>
            <defs>
              <pattern id="off" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <rect width="3" height="9" fill="#101010" />
                <rect x="3" width="2" height="9" fill="#f4f4f4" />
              </pattern>
            </defs>
            {[...shapes.of].map(([id, { path }]) => (
              <path
                key={id}
                d={path}
                fill={off.has(id) ? "url(#off)" : "transparent"}
                fillOpacity={0.55}
                fillRule="evenodd"
                stroke={id === zone ? "#f4f4f4" : "#101010"}
                strokeWidth={id === zone ? 3 : 0.8}
                onClick={() => selectZone(id)}
              />
            ))}
          </svg>
          {corners.map((c, i) => (
            <Handle
              key={NAMES[i]}
              name={`Corner ${NAMES[i]}`}
              at={c}
              size={[w, h]}
              frame={frame}
              onMove={(to) => setDragged(moved(i, to))}
              onEnd={() => dragged && keep({ corners: dragged })}
            />
          ))}
          {photo.card && (
            <Handle
              name="Grey card"
              at={card ?? photo.card}
              size={[w, h]}
              frame={frame}
              onMove={setCard}
              onEnd={() => card && keep({ card })}
            />
          )}
        </div>
      )}
    </div>
  );
}

/** A mark on the photo that is dragged, or moved by the arrow keys. */
function Handle({
  name,
  at,
  size: [w, h],
  frame,
  onMove,
  onEnd,
}: {
  name: string;
  at: Spot;
  size: [number, number];
  frame: RefObject<HTMLDivElement | null>;
  onMove: (to: Spot) => void;
  onEnd: () => void;
}) {
  return (
    <button
      type="button"
      className={styles.corner}
      style={{ left: at.x * w, top: at.y * h }}
      aria-label={name}
      onKeyDown={(e) => {
        const step = e.shiftKey ? 0.02 : 0.004;
        const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        onMove({ x: at.x + (by[0] ?? 0), y: at.y + (by[1] ?? 0) });
      }}
      onBlur={onEnd}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        const box = frame.current?.getBoundingClientRect();
        if (!box || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
        onMove({ x: (e.clientX - box.left) / w, y: (e.clientY - box.top) / h });
      }}
      onPointerUp={onEnd}
    />
  );
}

const WHOLE: Spot[] = [
  { x: 0.02, y: 0.02 },
  { x: 0.98, y: 0.02 },
  { x: 0.98, y: 0.98 },
  { x: 0.02, y: 0.98 },
];

/** The photo as from afar: small, in greys, mirrored, beside the study or the plan. */
function SteppedBack({ address }: { address: string }) {
  const { view } = useBench();
  const study = view.piece.studies.find((s) => s.number === view.piece.chosen_study);
  const beside = study ? paintedStudy(view, study, 300) : paintedPlan(view, 300);
  return (
    <div className={styles.back}>
      <figure>
        <img src={address} alt="The piece from afar" />
        <img src={beside} alt={study ? "The chosen study from afar" : "The plan from afar"} />
        <figcaption>from afar</figcaption>
      </figure>
      <figure className={styles.greys}>
        <img src={address} alt="The piece in greys" />
        <img src={beside} alt="What it should be, in greys" />
        <figcaption>in greys</figcaption>
      </figure>
      <figure className={styles.mirrored}>
        <img src={address} alt="The piece in a mirror" />
        <img src={beside} alt="What it should be, in a mirror" />
        <figcaption>in a mirror</figcaption>
      </figure>
    </div>
  );
}

/** The CSS transform that lays a square of 1000 pixels onto four corners: the projection of the unit square (Heckbert 1989). */
function onto(corners: Spot[], w: number, h: number): string {
  const p = corners.map((c) => [c.x * w, c.y * h] as const);
  const [a, b, c, d] = p;
  if (!a || !b || !c || !d) return "none";
  const [dx1, dy1, dx2, dy2] = [b[0] - c[0], b[1] - c[1], d[0] - c[0], d[1] - c[1]];
  const [sx, sy] = [a[0] - b[0] + c[0] - d[0], a[1] - b[1] + c[1] - d[1]];
  const det = dx1 * dy2 - dx2 * dy1 || 1e-9;
  const g = (sx * dy2 - dx2 * sy) / det;
  const k = (dx1 * sy - sx * dy1) / det;
  const m = [b[0] - a[0] + g * b[0], b[1] - a[1] + g * b[1], g, d[0] - a[0] + k * d[0], d[1] - a[1] + k * d[1], k];
  const s = 1 / 1000;
  return `matrix3d(${m[0] * s},${m[1] * s},0,${m[2] * s},${m[3] * s},${m[4] * s},0,${m[5] * s},0,0,1,0,${a[0]},${a[1]},0,1)`;
}
