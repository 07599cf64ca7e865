import { useEffect, useMemo, useRef, useState } from "react";
import { type Shapes, useMap } from "../../api/useMap";
import { type Spot, useBench, useLooking, useSelection, zoneName } from "../../bench/context";
import { apart } from "./apart";
import styles from "./Picture.module.css";

/** Radius of the number of a zone, in pixels: at rest, and of the one that is chosen. */
const NUMBER = { rest: 9.5, chosen: 11 };

/** Most places of the chosen zone that are numbered. */
const NUMBERED = 12;

export type OverlayProps = {
  /** Draw a line on the picture, freely; given all its points when let go. */
  onLine?: (stroke: Spot[]) => void;
  /** Only the two ends matter: the line is drawn straight. */
  straight?: boolean;
  /** One spot is enough: the first point ends the line. */
  point?: boolean;
  /** The other zones keep their colours beside the chosen one. */
  vivid?: boolean;
  /** Zones are left out. */
  bare?: boolean;
  /** A spot was pointed at while isolating. */
  onPatch?: (at: Spot) => void;
  patch?: Spot | null;
  /** Masses instead of zones. */
  masses?: { chosen: number | null; onChoose: (mass: number) => void };
};

/** What lies over a picture: its places to be pointed at, their numbers, and the line that is being drawn. */
export function Overlay({ width, height, masses, ...props }: { width: number; height: number } & OverlayProps) {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const { derived } = bench.view;
  const shapes = useMap(masses ? derived.mass_map : derived.map);
  const frame = useRef<SVGSVGElement>(null);
  // Before there are zones a line can still be measured.
  const [gw, gh] = shapes.width ? [shapes.width, shapes.height] : [1000, (1000 * height) / width];
  const at = (e: React.PointerEvent): Spot => {
    const r = frame.current?.getBoundingClientRect();
    const share = (p: number, from = 0, size = 1) => Math.min(1, Math.max(0, (p - from) / size));
    return { x: share(e.clientX, r?.left, r?.width), y: share(e.clientY, r?.top, r?.height) };
  };
  const { onLine, onPatch, bare, patch, straight, point } = props;
  const drawing = useDrawing({ onLine, straight, point });
  const drawn = !!onLine;
  // Whoever takes a tool up draws next: by key it is drawn here.
  useEffect(() => {
    if (drawn) frame.current?.focus({ preventScroll: true });
  }, [drawn]);
  const chosen = masses ? masses.chosen : selection.zone;
  const chosenShape = chosen === null ? undefined : shapes.of.get(chosen);
  const shown = !looking.peek && !bare;
  return (
    <svg
      ref={frame}
      className={styles.zones}
      viewBox={`0 0 ${gw} ${gh}`}
      width={width}
      height={height}
      data-drawing={!!onLine}
      role="group"
      aria-label={masses ? "Masses on the picture" : "Zones on the picture"}
      tabIndex={onLine ? 0 : undefined}
      onKeyDown={drawing.onKey}
      onDragOver={(e) => {
        if (e.dataTransfer.types.some((t) => t === "text/pigment" || t === "text/colour")) e.preventDefault();
      }}
      onDrop={(e) => {
        const zone = Number((e.target as Element).closest("[data-zone]")?.getAttribute("data-zone"));
        const [pigment, lab] = [e.dataTransfer.getData("text/pigment"), e.dataTransfer.getData("text/colour")];
        if (!zone || masses || (!pigment && !lab)) return;
        e.preventDefault();
        selection.selectZone(zone);
        bench.changes.request({
          do: "colour",
          zones: [zone],
          how: pigment ? { by: "pigment", pigment } : { by: "of", lab: JSON.parse(lab) },
          local: false,
        });
      }}
      onPointerDown={(e) => {
        if (onLine) {
          e.currentTarget.setPointerCapture(e.pointerId);
          drawing.start(at(e));
        } else if (onPatch) onPatch(at(e));
      }}
      onPointerMove={(e) => drawing.goOn(at(e))}
      onPointerUp={(e) => drawing.end(at(e))}
      onPointerCancel={drawing.leave}
    >
      {looking.isolate && !masses && <Grey path={chosenShape?.path} patch={patch} gw={gw} gh={gh} />}
      {shown && !looking.isolate && chosenShape && !onLine && !props.vivid && (
        <path
          d={`M0 0H${gw}V${gh}H0Z${chosenShape.path}`}
          fillRule="evenodd"
          className={styles.back}
          aria-hidden="true"
        />
      )}
      {shown && <Places shapes={shapes} masses={masses} quiet={!!onLine || !!onPatch} />}
      {!looking.peek && chosenShape && !onLine && (
        <g className={styles.chosen} aria-hidden="true">
          <path d={chosenShape.path} />
          <path d={chosenShape.path} />
        </g>
      )}
      {shown && <Numbers shapes={shapes} unit={gw / width} masses={masses} quiet={!!onLine} />}
      <Drawn line={drawing.line} cross={drawing.cross} gw={gw} gh={gh} />
    </svg>
  );
}

/** Every place, to be pointed at: its zone is chosen, and the place is the one meant. A place that is carried is put down. */
function Places({ shapes, masses, quiet }: { shapes: Shapes; masses: OverlayProps["masses"]; quiet: boolean }) {
  const bench = useBench();
  const selection = useSelection();
  const choose = (of: number, nth: number) => {
    if (quiet) return;
    if (masses) return masses.onChoose(of);
    if (selection.carried && selection.carried.zone !== of) {
      const { at } = selection.carried;
      selection.carry(null);
      bench.changes.give(at, of);
      return;
    }
    selection.selectZone(of);
    selection.selectPlace(nth);
  };
  return [...shapes.of].flatMap(([of, { places }]) =>
    places.map((p, i) => (
      <path
        key={`${of}-${p.x}-${p.y}`}
        d={p.path}
        fillRule="evenodd"
        className={styles.shape}
        data-zone={masses ? undefined : of}
        onClick={() => choose(of, i)}
      >
        <title>{masses ? massName(bench.view, of) : zoneName(bench.view, of)}</title>
      </path>
    )),
  );
}

export const massName = (view: ReturnType<typeof useBench>["view"], mass: number) =>
  view.piece.masses.find((m) => m.id === mass)?.name || `mass ${mass}`;

/** The number of a zone on its largest place, and on its others while it is chosen. One that gives way to another is tied to its place. */
function Numbers({
  shapes,
  unit,
  masses,
  quiet,
}: {
  shapes: Shapes;
  unit: number;
  masses: OverlayProps["masses"];
  quiet: boolean;
}) {
  const bench = useBench();
  const selection = useSelection();
  const name = (of: number) => (masses ? massName(bench.view, of) : zoneName(bench.view, of));
  const chosen = masses ? masses.chosen : selection.zone;
  const choose = (of: number) => {
    if (quiet) return;
    if (masses) masses.onChoose(of);
    else selection.selectZone(of);
  };
  const stands = useMemo(() => {
    const all = [...shapes.of];
    const spots = apart(
      all.map(([, { largest }]) => largest),
      NUMBER.rest * unit,
      shapes.width,
      shapes.height,
    );
    return new Map(all.map(([of], i) => [of, spots[i]]));
  }, [shapes, unit]);
  // Of a form only its middle bears a number, until another part of it is chosen.
  const whole = new Map(bench.view.piece.zones.map((z) => [z.id, z.form?.whole ?? z.id]));
  const numbered = ([of]: [number, unknown]) => !!masses || (whole.get(of) ?? of) === of || of === chosen;
  return [...shapes.of].filter(numbered).map(([of, { largest, places }]) => (
    <g key={of}>
      <Tie from={largest} to={stands.get(of) ?? largest} unit={unit} />
      {of === chosen &&
        places.slice(1, NUMBERED).map((p, i) => (
          <g
            key={`${p.x}-${p.y}`}
            className={styles.also}
            data-here={!masses && selection.place === i + 1}
            transform={`translate(${p.x} ${p.y}) scale(${unit})`}
            aria-hidden="true"
          >
            <circle r={8} />
            <text y={3.5} textAnchor="middle">
              {of}
            </text>
          </g>
        ))}
      <g
        role="button"
        tabIndex={0}
        aria-pressed={of === chosen}
        aria-label={`${masses ? "Mass" : "Zone"} ${of}, ${name(of)}`}
        className={styles.number}
        data-chosen={of === chosen}
        transform={`translate(${(stands.get(of) ?? largest).x} ${(stands.get(of) ?? largest).y}) scale(${unit})`}
        onClick={() => choose(of)}
        onKeyDown={(e) => {
          if (e.key === "Enter" || e.key === " ") {
            e.preventDefault();
            choose(of);
          }
        }}
      >
        <circle r={of === chosen ? NUMBER.chosen : NUMBER.rest} />
        <text y={4} textAnchor="middle">
          {of}
        </text>
      </g>
    </g>
  ));
}

/** From a place to its number, where the number does not cover the place itself. */
function Tie({ from, to, unit }: { from: Spot; to: Spot; unit: number }) {
  if (Math.hypot(to.x - from.x, to.y - from.y) < (NUMBER.rest / 2) * unit) return null;
  return (
    <g className={styles.tie} aria-hidden="true">
      <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
      <circle cx={from.x} cy={from.y} r={2 * unit} />
    </g>
  );
}

type Draw = Pick<OverlayProps, "onLine" | "straight" | "point">;

/** A line drawn by pointer, or by key: arrows move a cross, Enter sets its ends. */
function useDrawing({ onLine, straight, point }: Draw) {
  const [line, setLine] = useState<Spot[] | null>(null);
  const [cross, setCross] = useState<Spot | null>(null);
  const leave = () => setLine(null);
  const onKey = (e: React.KeyboardEvent) => {
    if (!onLine) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const now = cross ?? { x: 0.5, y: 0.5 };
    if (step) {
      const by = e.shiftKey ? 0.05 : 0.01;
      const within = (n: number) => Math.min(1, Math.max(0, n));
      const next = { x: within(now.x + step[0] * by), y: within(now.y + step[1] * by) };
      setCross(next);
      if (line) setLine([line[0], next]);
    } else if (e.key === "Enter") {
      if (point) onLine([now, now]);
      else if (line) {
        setLine(null);
        onLine([line[0], now]);
      } else setLine([now, now]);
      setCross(now);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return {
    line,
    cross: onLine ? cross : null,
    leave,
    onKey,
    start: (at: Spot) => setLine([at]),
    goOn: (at: Spot) => line && !cross && setLine(straight ? [line[0], at] : [...line, at]),
    end: (at: Spot) => {
      if (line && onLine && !cross) {
        setLine(null);
        onLine(straight ? [line[0], at] : [...line, at]);
      }
    },
  };
}

function Drawn({ line, cross, gw, gh }: { line: Spot[] | null; cross: Spot | null; gw: number; gh: number }) {
  const points = (l: Spot[]) => l.map((p) => `${p.x * gw},${p.y * gh}`).join(" ");
  const r = gw * 0.012;
  return (
    <>
      {line && (
        <g className={styles.cut} aria-hidden="true">
          <polyline points={points(line)} />
          <polyline points={points(line)} />
        </g>
      )}
      {cross && (
        <g className={styles.cross} aria-hidden="true" transform={`translate(${cross.x * gw} ${cross.y * gh})`}>
          <path d={`M${-r} 0H${r}M0 ${-r}V${r}`} />
          <path d={`M${-r} 0H${r}M0 ${-r}V${r}`} />
        </g>
      )}
    </>
  );
}

/** Everything but one zone or one patch covered with the neutral grey of the room. */
function Grey({ path, patch, gw, gh }: { path?: string; patch?: Spot | null; gw: number; gh: number }) {
  const r = gw * 0.018;
  const hole = patch
    ? `M${patch.x * gw - r} ${patch.y * gh}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
    : (path ?? "");
  return <path d={`M0 0H${gw}V${gh}H0Z${hole}`} fillRule="evenodd" className={styles.grey} aria-hidden="true" />;
}
