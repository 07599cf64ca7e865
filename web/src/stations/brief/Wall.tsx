import { Dropzone } from "@mantine/dropzone";
import { useElementSize } from "@mantine/hooks";
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { seen, useBench } from "../../bench/context";
import styles from "./Brief.module.css";
import { Length } from "./Length";
import { shown, unitWord } from "./lengths";
import { useWallTool } from "./useWallTool";

type Wall = Schemas["Wall"];
type Candidate = Schemas["Candidate"];
type Place = Schemas["Place"];

const KINDS: { value: Schemas["Panels"]; label: string }[] = [
  { value: "single", label: "one panel" },
  { value: "pair", label: "a pair" },
  { value: "triptych", label: "three" },
];

function useWall() {
  const { view, changes } = useBench();
  const wall = view.piece.wall ?? null;
  const set = (change: Partial<Wall>) =>
    changes
      .wishNow((v) => {
        if (!v.piece.wall) return null;
        const { measure, candidates, taken, heard } = { ...v.piece.wall, ...change };
        return { do: "set-wall", measure, candidates, taken, heard };
      })
      .catch(() => {});
  return { wall, set };
}

/** The photo of the place: a length measured in it, and panels hung to scale. */
export function WallRoom() {
  const { view, changes } = useBench();
  const { wall } = useWall();
  const { ref, width, height } = useElementSize();
  if (!wall) {
    return (
      <Dropzone
        onDrop={(files) => files[0] && changes.put("wall", files[0]).catch(() => {})}
        multiple={false}
        className={styles.wallDrop}
        inputProps={{ id: "wall-file", "aria-label": "Choose a photo of the wall" }}
        aria-label="Drop or choose a photo of the wall"
      >
        <div>
          <b>Drop a photo of the wall it will hang on</b>
          <p>With one known length in it, panels can be tried on it to scale.</p>
        </div>
      </Dropzone>
    );
  }
  const aspect = wall.width / wall.height;
  const w = Math.max(0, Math.min(width, height * aspect));
  return (
    <div ref={ref} className={styles.wall}>
      {w > 0 && <Photo key={view.id} wall={wall} w={w} h={w / aspect} />}
    </div>
  );
}

function Photo({ wall, w, h }: { wall: Wall; w: number; h: number }) {
  const { view } = useBench();
  const { set } = useWall();
  const tool = useWallTool();
  const frame = useRef<SVGSVGElement>(null);
  const [line, setLine] = useState<[Place, Place] | null>(null);
  const [live, setLive] = useState<{ i: number; at?: Place; grow?: number } | null>(null);
  const start = useRef<{ x: number; y: number; at: Place } | null>(null);
  const place = (e: React.PointerEvent): Place => {
    const r = frame.current?.getBoundingClientRect();
    const clamp = (v: number) => Math.min(1, Math.max(0, v));
    return { x: clamp((e.clientX - (r?.left ?? 0)) / w), y: clamp((e.clientY - (r?.top ?? 0)) / h) };
  };
  const measured = (m: Schemas["Measure"]) => {
    tool.take(null);
    set({ measure: m });
  };
  const corner = (p: Place) => {
    const corners = [...tool.corners, p];
    tool.setCorners(corners);
    if (corners.length === 4) {
      measured({ by: "corners", corners, width: tool.width, height: tool.height });
      tool.setCorners([]);
    }
  };
  const units = view.piece.intent.units;
  const keep = (i: number, change: Partial<Candidate>) =>
    set({ candidates: wall.candidates.map((c, n) => (n === i ? { ...c, ...change } : c)), taken: i });
  const grown = (c: Candidate, by: number) => ({ width: c.size.width * by, height: c.size.height * by });
  const chosen = wall.taken ?? 0;
  return (
    <svg
      ref={frame}
      width={w}
      height={h}
      role="group"
      aria-label="The wall"
      data-measuring={!!tool.now}
      onPointerDown={(e) => {
        if (tool.now === "line") {
          e.currentTarget.setPointerCapture(e.pointerId);
          setLine([place(e), place(e)]);
        } else if (tool.now === "corners") corner(place(e));
      }}
      onPointerMove={(e) => line && setLine([line[0], place(e)])}
      onPointerUp={() => {
        if (line) {
          const [from, to] = line;
          measured({ by: "line", from, to, length: tool.length });
          setLine(null);
        }
      }}
    >
      <image href={`/api/pieces/${view.id}/wall/view?of=${wall.digest.slice(0, 12)}`} width={w} height={h} />
      {wall.candidates.map((c, i) => {
        const drawn = view.on_wall[i];
        if (!drawn || (i !== chosen && tool.now)) return null;
        const moved = live?.i === i ? live : null;
        const [dx, dy] = moved?.at ? [(moved.at.x - c.at.x) * w, (moved.at.y - c.at.y) * h] : [0, 0];
        const by = moved?.grow ?? 1;
        const points = drawn.panels.map((p) => p.map((q) => [q.x * w, q.y * h] as [number, number]));
        const [cx, cy] = [c.at.x * w, c.at.y * h];
        const turn = ([x, y]: [number, number]): [number, number] => [cx + (x - cx) * by + dx, cy + (y - cy) * by + dy];
        const last = points[points.length - 1].map(turn);
        return (
          <g key={i} opacity={i === chosen ? 1 : 0.45}>
            {points.map((p, n) => (
              <PanelOn key={n} points={p.map(turn)} n={n} of={points.length} id={`panel-${i}-${n}`} />
            ))}
            <polygon
              points={[points[0][0], points[points.length - 1][1], points[points.length - 1][2], points[0][3]]
                .map(turn)
                .map((p) => p.join(","))
                .join(" ")}
              fill="transparent"
              className={styles.panelShape}
              data-chosen={i === chosen}
              role="button"
              tabIndex={0}
              aria-label={`Panel ${i + 1}, ${shown(c.size.width, units)} by ${shown(c.size.height, units)} ${unitWord(units)}: arrows move it, + and − change its size`}
              onKeyDown={(e) => {
                const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
                if (step) keep(i, { at: { x: c.at.x + step[0] * 0.01, y: c.at.y + step[1] * 0.01 } });
                else if (e.key === "+" || e.key === "-") keep(i, { size: grown(c, e.key === "+" ? 1.05 : 1 / 1.05) });
                else return;
                e.preventDefault();
                e.stopPropagation();
              }}
              onPointerDown={(e) => {
                if (tool.now) return;
                e.stopPropagation();
                e.currentTarget.setPointerCapture(e.pointerId);
                start.current = { x: e.clientX, y: e.clientY, at: c.at };
              }}
              onPointerMove={(e) => {
                const s = start.current;
                if (!s) return;
                const clamp = (v: number) => Math.min(1, Math.max(0, v));
                setLive({
                  i,
                  at: { x: clamp(s.at.x + (e.clientX - s.x) / w), y: clamp(s.at.y + (e.clientY - s.y) / h) },
                });
              }}
              onPointerUp={() => {
                start.current = null;
                if (live?.at) keep(i, { at: live.at }).finally(() => setLive(null));
                else if (i !== chosen) set({ taken: i });
              }}
            />
            {i === chosen && (
              <>
                <text
                  x={(points[0][0][0] + last[1][0]) / 2}
                  y={turn(points[0][0])[1] - 8}
                  textAnchor="middle"
                  className={styles.live}
                >
                  {points.length > 1 ? `${points.length} × ` : ""}
                  {shown(c.size.width * by, units)} × {shown(c.size.height * by, units)} {unitWord(units)}
                  {points.length > 1 ? `, ${shown(drawn.width * by, units)} in all` : ""}
                </text>
                <rect
                  x={last[2][0] - 7}
                  y={last[2][1] - 7}
                  width={14}
                  height={14}
                  className={styles.grip}
                  onPointerDown={(e) => {
                    e.stopPropagation();
                    e.currentTarget.setPointerCapture(e.pointerId);
                    start.current = { x: e.clientX, y: e.clientY, at: c.at };
                  }}
                  onPointerMove={(e) => {
                    const s = start.current;
                    if (!s) return;
                    const r = frame.current?.getBoundingClientRect();
                    const far = (x: number, y: number) => Math.hypot(x - (r?.left ?? 0) - cx, y - (r?.top ?? 0) - cy);
                    const grow = far(e.clientX, e.clientY) / Math.max(1, far(s.x, s.y));
                    const most = Math.min(3000 / Math.max(c.size.width, c.size.height), Math.max(0.05, grow));
                    setLive({ i, grow: Math.max(10 / Math.min(c.size.width, c.size.height), most) });
                  }}
                  onPointerUp={() => {
                    start.current = null;
                    if (live?.grow) keep(i, { size: grown(c, live.grow) }).finally(() => setLive(null));
                  }}
                >
                  <title>Drag to change the size</title>
                </rect>
              </>
            )}
          </g>
        );
      })}
      <MeasureMarks wall={wall} line={line} corners={tool.corners} w={w} h={h} />
    </svg>
  );
}

/** One panel in the photo, filled with its part of the plan. */
function PanelOn({ points, n, of, id }: { points: [number, number][]; n: number; of: number; id: string }) {
  const { view, look } = useBench();
  const { grid_width: gw, grid_height: gh, shapes } = view.outlook;
  const [a, b, , d] = points;
  const clip = points.map((p) => p.join(",")).join(" ");
  if (!shapes.length) return <polygon points={clip} fill="#d8d7d3" />;
  // Close enough to the projection for a sketch; the printed mock-up is exact.
  const part = gw / of;
  const m = [(b[0] - a[0]) / part, (b[1] - a[1]) / part, (d[0] - a[0]) / gh, (d[1] - a[1]) / gh, a[0], a[1]];
  return (
    <g aria-hidden="true">
      <clipPath id={id}>
        <polygon points={clip} />
      </clipPath>
      <g clipPath={`url(#${id})`}>
        <g transform={`matrix(${m.join(" ")}) translate(${-n * part} 0)`}>
          {shapes.map((s) => (
            <path
              key={s.zone}
              d={s.path}
              fillRule="evenodd"
              fill={seen(s.target, look)}
              stroke={seen(s.target, look)}
            />
          ))}
        </g>
      </g>
    </g>
  );
}

function MeasureMarks({
  wall,
  line,
  corners,
  w,
  h,
}: {
  wall: Wall;
  line: [Place, Place] | null;
  corners: Place[];
  w: number;
  h: number;
}) {
  const at = (p: Place) => `${p.x * w},${p.y * h}`;
  const m = wall.measure;
  const ends: Place[] | null = line ?? (m?.by === "line" ? [m.from, m.to] : null);
  const quad = corners.length ? corners : m?.by === "corners" ? m.corners : null;
  return (
    <g className={styles.measure} aria-hidden="true">
      {ends && (
        <>
          <polyline points={ends.map(at).join(" ")} />
          <polyline points={ends.map(at).join(" ")} />
        </>
      )}
      {quad && (
        <>
          <polygon points={quad.map(at).join(" ")} />
          <polygon points={quad.map(at).join(" ")} />
        </>
      )}
    </g>
  );
}

/** What was measured, the ways to hang it, and what the wall says. */
export function WallCard() {
  const { view, changes } = useBench();
  const { wall, set } = useWall();
  const tool = useWallTool();
  const { units } = view.piece.intent;
  if (!wall) {
    return (
      <div className={styles.card}>
        <h2>The wall</h2>
        <p>The place a piece will hang often decides its size and how loud it may be.</p>
      </div>
    );
  }
  const { size } = view.piece.brief;
  const add = (panels: Schemas["Panels"]) => {
    const share = { single: 1, pair: 2, triptych: 3 }[panels];
    const candidate: Candidate = {
      panels,
      size: { width: Math.max(10, size.width / share), height: size.height },
      gap: panels === "single" ? 0 : 30,
      at: { x: 0.42, y: 0.4 },
    };
    set({ candidates: [...wall.candidates, candidate], taken: wall.candidates.length });
  };
  const chosen = wall.candidates.length ? (wall.taken ?? 0) : null;
  const candidate = chosen === null ? null : wall.candidates[chosen];
  const drawn = chosen === null ? null : view.on_wall[chosen];
  const edit = (change: Partial<Candidate>) =>
    candidate && set({ candidates: wall.candidates.map((c, n) => (n === chosen ? { ...c, ...change } : c)) });
  const reading = wall.reading;
  return (
    <div className={styles.card}>
      <h2>The wall</h2>
      <p>
        It reads <span className="figures">{reading.value.toFixed(1)}</span>,{" "}
        {Math.abs(reading.temperature) < 3 ? "neither warm nor cool" : reading.temperature > 0 ? "warm" : "cool"}, and
        is {reading.loudness < 0.25 ? "quiet" : reading.loudness < 0.5 ? "of some voice" : "loud"}{" "}
        <span className="figures">{reading.loudness.toFixed(2)}</span>. {view.outlook.light.on_the_wall}
      </p>
      <p className={styles.acts}>
        {(
          [
            ["quiet", "meant to be quiet here"],
            ["speaks-up", "meant to speak up"],
          ] as const
        ).map(([heard, label]) => (
          <button
            key={heard}
            type="button"
            className="act"
            aria-pressed={wall.heard === heard}
            onClick={() => set({ heard: wall.heard === heard ? null : heard })}
          >
            {wall.heard === heard ? `✓ ${label}` : label}
          </button>
        ))}
      </p>
      <hr />
      <h3>A known length</h3>
      <Length
        label="Length of the line"
        mm={tool.length}
        units={units}
        least={1}
        most={100000}
        onKeep={tool.setLength}
      />
      <p className={styles.acts}>
        <button
          type="button"
          className={`act${wall.measure ? "" : " main"}`}
          aria-pressed={tool.now === "line"}
          onClick={() => tool.take(tool.now === "line" ? null : "line")}
        >
          {tool.now === "line" ? "Drag along it now" : "Drag a line along it"}
        </button>
        <button
          type="button"
          className="act"
          aria-pressed={tool.now === "corners"}
          onClick={() => tool.take(tool.now === "corners" ? null : "corners")}
        >
          {tool.now === "corners" ? `Set corner ${tool.corners.length + 1} of 4` : "or four corners"}
        </button>
      </p>
      {tool.now === "corners" && (
        <div className={styles.pair}>
          <Length label="Wide" mm={tool.width} units={units} least={1} most={100000} onKeep={tool.setWidth} />
          <Length label="High" mm={tool.height} units={units} least={1} most={100000} onKeep={tool.setHeight} />
        </div>
      )}
      {wall.measure && (
        <>
          <hr />
          <h3>Ways to hang it</h3>
          <ul className={styles.candidates}>
            {wall.candidates.map((c, i) => (
              <li key={i}>
                <button type="button" className="plain" aria-pressed={i === chosen} onClick={() => set({ taken: i })}>
                  {KINDS.find((k) => k.value === c.panels)?.label}, {shown(c.size.width, units)} ×{" "}
                  {shown(c.size.height, units)}
                </button>
                <button
                  type="button"
                  className="plain"
                  aria-label={`Take way ${i + 1} off`}
                  onClick={() => set({ candidates: wall.candidates.filter((_, n) => n !== i), taken: null })}
                >
                  off
                </button>
              </li>
            ))}
          </ul>
          <p className={styles.acts}>
            {KINDS.map((k) => (
              <button key={k.value} type="button" className="act" onClick={() => add(k.value)}>
                {k.label}
              </button>
            ))}
          </p>
          {candidate && (
            <>
              <div className={styles.three}>
                <Length
                  label="Wide"
                  mm={candidate.size.width}
                  units={units}
                  least={10}
                  most={3000}
                  onKeep={(width) => edit({ size: { ...candidate.size, width } })}
                />
                <Length
                  label="High"
                  mm={candidate.size.height}
                  units={units}
                  least={10}
                  most={3000}
                  onKeep={(height) => edit({ size: { ...candidate.size, height } })}
                />
                <Length label="Gap" mm={candidate.gap} units={units} most={500} onKeep={(gap) => edit({ gap })} />
              </div>
              {drawn && (
                <p>
                  Its middle hangs{" "}
                  <span className="figures">
                    {shown(drawn.middle_height, units)} {unitWord(units)}
                  </span>{" "}
                  above the foot of the photo.
                </p>
              )}
              <p className={styles.acts}>
                <button
                  type="button"
                  className="act main"
                  disabled={candidate.size.width === size.width && candidate.size.height === size.height}
                  onClick={() =>
                    changes
                      .wish({ do: "set-brief", brief: { ...view.piece.brief, size: candidate.size } })
                      .catch(() => {})
                  }
                >
                  {candidate.size.width === size.width && candidate.size.height === size.height
                    ? "It is this size"
                    : "Make it this size"}
                </button>
                <a href={`/api/pieces/${view.id}/wall/mock-up`} target="_blank" rel="noreferrer">
                  Mock-up as a picture
                </a>
              </p>
            </>
          )}
        </>
      )}
      <hr />
      <button type="button" className="act" onClick={() => changes.wish({ do: "remove-wall" }).catch(() => {})}>
        Take the photo away
      </button>
    </div>
  );
}
