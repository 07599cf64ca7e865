import { useRef, useState } from "react";
import { useBench } from "../../../bench/context";
import { unitWord, written } from "../../../bench/lengths";
import styles from "../Brief.module.css";
import { Panel, type Point } from "./Panel";
import { type Candidate, type Place, useWall } from "./useWall";
import { useWallTool } from "./useWallTool";

type Props = { candidate: Candidate; i: number; chosen: boolean; w: number; h: number };

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const share = (v: number) => Math.min(1, Math.max(0, v));
const grown = (c: Candidate, by: number) => ({ width: c.size.width * by, height: c.size.height * by });

/** One way to hang it, to scale: dragged to its place, its corner dragged to its size, both with keys too. */
export function Hung({ candidate: c, i, chosen, w, h }: Props) {
  const { view } = useBench();
  const { wall, set } = useWall();
  const tool = useWallTool();
  const grip = useRef<SVGRectElement>(null);
  const [live, setLive] = useState<{ at?: Place; grow?: number }>({});
  const start = useRef<{ x: number; y: number } | null>(null);
  const drawn = view.on_wall[i];
  if (!drawn || !wall) return null;
  const { units } = view.piece.intent;
  const keep = (change: Partial<Candidate>) =>
    set({ candidates: wall.candidates.map((o, n) => (n === i ? { ...o, ...change } : o)), taken: i });

  // While it is dragged, what the server drew is moved and scaled about its middle.
  const [cx, cy] = [c.at.x * w, c.at.y * h];
  const by = live.grow ?? 1;
  const [dx, dy] = live.at ? [live.at.x * w - cx, live.at.y * h - cy] : [0, 0];
  const turn = (p: Place): Point => [cx + (p.x * w - cx) * by + dx, cy + (p.y * h - cy) * by + dy];
  const panels = drawn.panels.map((p) => p.map(turn));
  const [first, last] = [panels[0], panels[panels.length - 1]];
  const outline = [first[0], last[1], last[2], first[3]];

  const hold = (e: React.PointerEvent) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    start.current = { x: e.clientX, y: e.clientY };
  };
  const growth = (e: React.PointerEvent, from: { x: number; y: number }) => {
    const r = grip.current?.ownerSVGElement?.getBoundingClientRect();
    const far = (x: number, y: number) => Math.hypot(x - (r?.left ?? 0) - cx, y - (r?.top ?? 0) - cy);
    const grow = far(e.clientX, e.clientY) / Math.max(1, far(from.x, from.y));
    const most = Math.min(3000 / Math.max(c.size.width, c.size.height), Math.max(0.05, grow));
    return Math.max(10 / Math.min(c.size.width, c.size.height), most);
  };
  const size = `${written(c.size.width * by, units)} × ${written(c.size.height * by, units)} ${unitWord(units)}`;
  return (
    <g opacity={chosen ? 1 : 0.45}>
      {panels.map((p, n) => (
        <Panel key={n} points={p} n={n} of={panels.length} id={`panel-${i}-${n}`} />
      ))}
      <polygon
        points={outline.map((p) => p.join(",")).join(" ")}
        fill="transparent"
        className={styles.panelShape}
        data-chosen={chosen}
        role="button"
        tabIndex={0}
        aria-label={`Panel ${i + 1}, ${written(c.size.width, units)} by ${written(c.size.height, units)} ${unitWord(units)}: arrows move it, + and − change its size`}
        onKeyDown={(e) => {
          const step = STEPS[e.key];
          if (step) keep({ at: { x: share(c.at.x + step[0] * 0.01), y: share(c.at.y + step[1] * 0.01) } });
          else if (e.key === "+" || e.key === "-") keep({ size: grown(c, e.key === "+" ? 1.05 : 1 / 1.05) });
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
        onPointerDown={(e) => !tool.now && hold(e)}
        onPointerMove={(e) => {
          const s = start.current;
          if (s)
            setLive({ at: { x: share(c.at.x + (e.clientX - s.x) / w), y: share(c.at.y + (e.clientY - s.y) / h) } });
        }}
        onPointerUp={() => {
          start.current = null;
          if (live.at) keep({ at: live.at }).finally(() => setLive({}));
          else if (!chosen) set({ taken: i });
        }}
      />
      {chosen && (
        <>
          <text x={(first[0][0] + last[1][0]) / 2} y={first[0][1] - 8} textAnchor="middle" className={styles.live}>
            {panels.length > 1 ? `${panels.length} × ${size}, ${written(drawn.width * by, units)} in all` : size}
          </text>
          <rect
            ref={grip}
            x={last[2][0] - 7}
            y={last[2][1] - 7}
            width={14}
            height={14}
            className={styles.grip}
            onPointerDown={hold}
            onPointerMove={(e) => start.current && setLive({ grow: growth(e, start.current) })}
            onPointerUp={() => {
              start.current = null;
              if (live.grow) keep({ size: grown(c, live.grow) }).finally(() => setLive({}));
            }}
          >
            <title>Drag to change the size</title>
          </rect>
        </>
      )}
    </g>
  );
}
