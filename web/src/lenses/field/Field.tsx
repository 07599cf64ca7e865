import { useElementSize } from "@mantine/hooks";
import { useRef } from "react";
import { answer, api, hex, type Mark, type Preview, type Schemas, type ZoneShape } from "../../api/client";
import {
  seen,
  useBench,
  useLooking,
  useMixOf,
  usePreview,
  useSelection,
  useTargets,
  zoneName,
} from "../../bench/context";
import { figure } from "../../room/figures";
import { massName } from "../picture/Overlay";
import styles from "./Field.module.css";
import { type Aside, H, numbersOf, W } from "./numbers";
import { type Scale, scaleOf } from "./scale";

/** Value up, temperature across. Zones are marks; dragging one moves its target. */
export function Field() {
  const bench = useBench();
  const selection = useSelection();
  const { ref, width, height } = useElementSize();
  const { derived } = bench.view;
  const scale = scaleOf(width, height, derived);
  const shapes = [...derived.shapes].sort(
    (a, b) => Number(a.zone === selection.zone) - Number(b.zone === selection.zone),
  );
  const numbers = numbersOf(
    shapes.map((s) => ({ x: scale.x(s.target.temperature), y: scale.y(s.target.value) })),
    shapes.map((s) => String(s.zone)),
  );
  return (
    <div ref={ref} className={styles.box}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className={styles.field}
          role="group"
          aria-label="Field: value up, temperature across"
        >
          <Axes scale={scale} width={width} height={height} />
          <Reach scale={scale} />
          {!selection.massesShown && <Families scale={scale} />}
          {selection.massesShown
            ? [
                ...derived.masses.map((m) => <MassMark key={m.mass} mark={m} scale={scale} />),
                ...derived.masses.map((m) => <MassNameAt key={`n${m.mass}`} mark={m} scale={scale} width={width} />),
              ]
            : shapes.map((s, i) => <ZoneMark key={s.zone} shape={s} scale={scale} aside={numbers[i]} />)}
        </svg>
      )}
      {derived.shapes.length === 0 && (
        <p className={styles.empty}>
          Zones of the picture will stand here: lighter ones higher, warmer ones further right. Drag one to change what
          it should be.
        </p>
      )}
    </div>
  );
}

/** A mass: the mean of what lies in it, the larger the more of the picture it is. */
function MassMark({ mark, scale }: { mark: Schemas["MassMark"]; scale: Scale }) {
  const { view } = useBench();
  const { look } = useLooking();
  const [x, y] = [scale.x(mark.target.temperature), scale.y(mark.target.value)];
  const r = 9 + 26 * Math.sqrt(mark.area);
  const name = massName(view, mark.mass);
  return (
    <g className={styles.mass}>
      <title>{`${name}, value ${figure(mark.target.value, 1)}`}</title>
      <rect x={x - r} y={y - r * 0.6} width={2 * r} height={1.2 * r} fill={seen(mark.target, look)} />
      <text x={x} y={y + 4} textAnchor="middle" data-dark={mark.target.value < 5}>
        {mark.mass}
      </text>
    </g>
  );
}

/** Its name on the side that has room, over all marks. */
function MassNameAt({ mark, scale, width }: { mark: Schemas["MassMark"]; scale: Scale; width: number }) {
  const { view } = useBench();
  const named = view.piece.masses.find((m) => m.id === mark.mass)?.name;
  if (!named) return null;
  const [x, y] = [scale.x(mark.target.temperature), scale.y(mark.target.value)];
  const r = 13 + 26 * Math.sqrt(mark.area);
  const left = x > width / 2;
  return (
    <text x={left ? x - r : x + r} y={y + 4} textAnchor={left ? "end" : "start"} className={styles.massName}>
      {named}
    </text>
  );
}

function Axes({ scale, width, height }: { scale: Scale; width: number; height: number }) {
  return (
    <g aria-hidden="true">
      {Array.from({ length: 11 }, (_, v) => (
        <g key={v}>
          <line x1={30} x2={width - 12} y1={scale.y(v)} y2={scale.y(v)} className={styles.rung} />
          <text x={22} y={scale.y(v) + 4} textAnchor="end" className="figures" fill="currentColor">
            {v}
          </text>
        </g>
      ))}
      <line x1={scale.x(0)} x2={scale.x(0)} y1={scale.y(10)} y2={scale.y(0)} className={styles.neutral} />
      <text x={32} y={height - 12} className={styles.word}>
        cool
      </text>
      <text x={width - 12} y={height - 12} textAnchor="end" className={styles.word}>
        warm
      </text>
    </g>
  );
}

/** What mixes of the set can reach. */
function Reach({ scale }: { scale: Scale }) {
  const rows = useBench().view.derived.reach;
  if (rows.length < 2) return null;
  const left = rows.map((r) => `${scale.x(r.cool)},${scale.y(r.value)}`);
  const right = rows.map((r) => `${scale.x(r.warm)},${scale.y(r.value)}`).reverse();
  return <polygon points={[...left, ...right].join(" ")} className={styles.reach} aria-hidden="true" />;
}

/** Lit and shadow families seen apart: an outline round each, with its word. */
function Families({ scale }: { scale: Scale }) {
  const { view } = useBench();
  const { shapes } = view.derived;
  const family = (roles: string[]) =>
    view.piece.zones
      .filter((z) => z.facts.role && roles.includes(z.facts.role))
      .flatMap((z) => shapes.find((s) => s.zone === z.id) ?? [])
      .map((s) => [scale.x(s.target.temperature), scale.y(s.target.value)] as [number, number]);
  return (
    <g className={styles.families} aria-hidden="true">
      {(
        [
          ["lit", family(["lit", "halftone"]), true],
          ["shadow", family(["shadow", "reflected", "contact"]), false],
        ] as const
      ).map(([word, marks, above]) => {
        if (marks.length < 2) return null;
        const corners = marks.flatMap(([x, y]) => [
          [x - 22, y - 14],
          [x + 22, y - 14],
          [x + 22, y + 14],
          [x - 22, y + 14],
        ]) as [number, number][];
        const outline = hull(corners);
        const end = outline.reduce((a, b) => (above ? (b[1] < a[1] ? b : a) : b[1] > a[1] ? b : a));
        return (
          <g key={word}>
            <polygon points={outline.map((p) => p.join(",")).join(" ")} data-family={word} />
            <text x={end[0]} y={end[1] + (above ? -4 : 13)} textAnchor="middle">
              {word}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** The convex outline of points, by walking along their lower and upper sides. */
function hull(points: [number, number][]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const side = (all: [number, number][]) => {
    const out: [number, number][] = [];
    for (const p of all) {
      while (out.length > 1) {
        const [a, b] = [out[out.length - 2], out[out.length - 1]];
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
        out.pop();
      }
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...side(sorted), ...side([...sorted].reverse())];
}

function ZoneMark({ shape, scale, aside }: { shape: ZoneShape; scale: Scale; aside: Aside | null }) {
  const bench = useBench();
  const selection = useSelection();
  const drag = useDrag(shape.zone, scale);
  const target: Mark = useTargets()(shape.zone) ?? shape.target;
  const mix = useMixOf(shape.zone);
  const chosen = selection.zone === shape.zone;
  const [x, y] = [scale.x(target.temperature), scale.y(target.value)];
  const moved = Math.hypot(scale.x(shape.reading.temperature) - x, scale.y(shape.reading.value) - y) > 6;
  const name = zoneName(bench.view, shape.zone);
  return (
    <g>
      {moved && (
        <g className={styles.was} aria-hidden="true">
          <line x1={scale.x(shape.reading.temperature)} y1={scale.y(shape.reading.value)} x2={x} y2={y} />
          <circle cx={scale.x(shape.reading.temperature)} cy={scale.y(shape.reading.value)} r={3} />
        </g>
      )}
      {mix && !mix.reached && <Miss from={[x, y]} to={[scale.x(mix.given.temperature), scale.y(mix.given.value)]} />}
      <g
        {...drag}
        role="button"
        tabIndex={0}
        aria-pressed={chosen}
        aria-label={`Zone ${shape.zone}, ${name}: value ${figure(target.value, 1)}, ${figure(Math.abs(target.temperature), 0)} ${target.temperature < 0 ? "cooler" : "warmer"} than the picture${mix && !mix.reached ? ", out of reach of the set" : ""}`}
        className={styles.mark}
        data-zone={shape.zone}
        data-chosen={chosen}
        onFocus={() => !chosen && selection.selectZone(shape.zone)}
        onClick={() => selection.selectZone(shape.zone)}
      >
        <rect x={x - W / 2 - 4} y={y - H / 2 - 5} width={W + 8} height={H + 10} fill="transparent" />
        <rect x={x - W / 2} y={y - H / 2} width={W} height={H} fill={hex(target.screen)} className={styles.paint} />
        {aside ? (
          <text x={x + aside.right} y={y + aside.down} textAnchor={aside.anchor} className={`figures ${styles.aside}`}>
            {shape.zone}
          </text>
        ) : (
          <text
            x={x}
            y={y + 4}
            textAnchor="middle"
            className="figures"
            fill={target.value > 5.2 ? "#101010" : "#f6f6f6"}
          >
            {shape.zone}
          </text>
        )}
      </g>
    </g>
  );
}

/** A short arrow from what is wanted to where the set ends up. */
function Miss({ from, to }: { from: [number, number]; to: [number, number] }) {
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const tip = (turn: number) => `${to[0] - 7 * Math.cos(angle + turn)},${to[1] - 7 * Math.sin(angle + turn)}`;
  return (
    <g className={styles.miss} aria-hidden="true">
      <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} />
      <polyline points={`${tip(0.5)} ${to[0]},${to[1]} ${tip(-0.5)}`} />
    </g>
  );
}

/** Dragging: a preview follows the pointer, one question to the server at a time; letting go saves. */
function useDrag(zone: number, scale: Scale) {
  const bench = useBench();
  const selection = useSelection();
  const { setPreview } = usePreview();
  const from = useRef<{ x: number; y: number; far: boolean } | null>(null);
  const asking = useRef(false);
  const wanted = useRef<{ value: number; temperature: number } | null>(null);

  const place = (e: React.PointerEvent<SVGGElement>) => {
    const frame = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
    return scale.at(e.clientX - (frame?.left ?? 0), e.clientY - (frame?.top ?? 0));
  };
  const ask = async () => {
    if (asking.current) return;
    asking.current = true;
    try {
      while (from.current && wanted.current) {
        const to = wanted.current;
        wanted.current = null;
        const body = { base_revision: bench.view.revision, zone, to };
        const data: Preview = await answer(
          api.POST("/api/pieces/{id}/zones/preview", { params: { path: { id: bench.view.id } }, body }),
        );
        if (from.current) setPreview({ zone, data });
      }
    } catch {
      // A preview that fails shows nothing new; letting go says what is wrong.
    } finally {
      asking.current = false;
    }
  };
  return {
    onPointerDown: (e: React.PointerEvent<SVGGElement>) => {
      if (e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      from.current = { x: e.clientX, y: e.clientY, far: false };
      selection.selectZone(zone);
    },
    onPointerMove: (e: React.PointerEvent<SVGGElement>) => {
      const start = from.current;
      if (!start) return;
      start.far ||= Math.hypot(e.clientX - start.x, e.clientY - start.y) > 3;
      if (!start.far) return;
      wanted.current = place(e);
      void ask();
    },
    onPointerUp: (e: React.PointerEvent<SVGGElement>) => {
      const start = from.current;
      from.current = null;
      wanted.current = null;
      if (start?.far) {
        bench.changes.move(zone, place(e)).finally(() => setPreview(null));
      }
    },
    onPointerCancel: () => {
      from.current = null;
      setPreview(null);
    },
  };
}
