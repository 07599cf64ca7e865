import type { Addition, SetFound } from "../../api/client";
import { figure } from "../../room/figures";
import styles from "./LeanCurve.module.css";

type Props = {
  sizes: SetFound[];
  chosen: number;
  width: number;
  height: number;
  unit: string;
  /** Opens a size; without it the curve is only looked at. */
  onChoose?: (size: SetFound) => void;
  onLook?: (size: SetFound | null) => void;
  names?: (id: string) => string;
  /** What one more pigment brought back or bought would do at the set in use. */
  more?: Addition[];
};

/** Miss against the number of pigments, a falling step line. With names, what each step brings in and leaves out is written on it. */
export function LeanCurve({ sizes, chosen, width, height, unit, onChoose, onLook, names, more }: Props) {
  if (!sizes.length) return null;
  const top = Math.max(...sizes.map((s) => s.cost)) * 1.08 || 1;
  const [foot, head, left] = [22, names ? 26 : 20, names ? 34 : 0];
  const step = (width - left) / sizes.length;
  const y = (cost: number) => head + (1 - cost / top) * (height - foot - head);
  const line = sizes
    .map((s, i) => `${i ? "L" : "M"}${left + i * step} ${y(s.cost)}L${left + (i + 1) * step} ${y(s.cost)}`)
    .join("");
  const at = sizes.findIndex((s) => s.pigments.length === chosen);
  const reach = (i: number) => (i === at ? Math.max(0, ...(more ?? []).map((a) => a.gain)) : 0);
  const next = at >= 0 ? sizes[at + 1] : undefined;
  // What is said beside a size needs room: the card says it of the one looked at.
  const roomy = names && sizes.length <= 6;
  return (
    <svg width={width} height={height} className={styles.curve} role="img" aria-label={spoken(sizes, unit)}>
      {names && (
        <g aria-hidden="true">
          <text x={0} y={head + 4} className={styles.axis}>
            cost
          </text>
          <line x1={left} x2={width} y1={height - foot} y2={height - foot} className={styles.base} />
        </g>
      )}
      {!names && next && (
        <text x={width} y={12} textAnchor="end" className={styles.axis}>
          {`one more ${unit} buys ${figure(sizes[at].cost - next.cost, 1)}`}
        </text>
      )}
      <path d={line} className={styles.line} />
      {at >= 0 && (
        <line
          x1={left + at * step}
          x2={left + (at + 1) * step}
          y1={y(sizes[at].cost)}
          y2={y(sizes[at].cost)}
          className={styles.here}
        />
      )}
      {at >= 0 &&
        names &&
        more?.map((a) => (
          <g key={a.pigment} aria-hidden="true">
            <line
              x1={left + at * step}
              x2={left + (at + 1) * step}
              y1={y(sizes[at].cost - a.gain)}
              y2={y(sizes[at].cost - a.gain)}
              className={styles.more}
            />
          </g>
        ))}
      {sizes.map((s, i) => (
        <g key={s.pigments.length}>
          <text
            x={left + (i + 0.5) * step}
            y={height - 6}
            textAnchor="middle"
            className={`figures ${i === at ? styles.on : ""}`}
            fill="currentColor"
          >
            {s.pigments.length}
            {roomy && s.near_tie_count > 0 && (
              <tspan dx={9} className={styles.ties}>{`${s.near_tie_count}${s.more_near_ties ? "+" : ""} alike`}</tspan>
            )}
            {roomy && !s.proved_optimal && s.within != null && (
              <tspan dx={9} className={styles.ties}>{`within ${Math.ceil(s.within * 100)} %`}</tspan>
            )}
          </text>
          {names && (
            <g aria-hidden="true">
              <text
                x={left + (i + 0.5) * step}
                y={y(s.cost) - 7}
                textAnchor="middle"
                className="figures"
                fill="currentColor"
              >
                {figure(s.cost, 1)}
              </text>
              <Change
                from={sizes[i - 1]}
                to={s}
                x={left + i * step + 6}
                y={y(s.cost - reach(i)) + 15}
                room={height - foot - y(s.cost - reach(i)) - 10}
                width={step - 12}
                names={names}
                more={i === at ? more : undefined}
              />
            </g>
          )}
          {onChoose && (
            <rect
              x={left + i * step}
              y={0}
              width={step}
              height={height}
              fill="transparent"
              className={styles.hit}
              onClick={() => onChoose(s)}
              onPointerEnter={() => onLook?.(s)}
              onPointerLeave={() => onLook?.(null)}
            />
          )}
        </g>
      ))}
    </svg>
  );
}

/** What enters and what leaves on this step, and what one more would bring, as far as there is room under it. */
function Change({
  from,
  to,
  x,
  y,
  room,
  width,
  names,
  more = [],
}: {
  from?: SetFound;
  to: SetFound;
  x: number;
  y: number;
  room: number;
  width: number;
  names: (id: string) => string;
  more?: Addition[];
}) {
  const enters = to.pigments.filter((p) => !from?.pigments.includes(p)).map((p) => `+ ${names(p)}`);
  const leaves = (from?.pigments ?? []).filter((p) => !to.pigments.includes(p)).map((p) => `− ${names(p)}`);
  const gains = more.map((a) => `−${figure(a.gain, 1)} ${a.source === "bought" ? "buying" : "with"} ${a.name}`);
  const lines = [...enters, ...leaves, ...gains].slice(0, Math.max(0, Math.floor(room / 14)));
  // A line longer than its step would run into the next: letters are about six pixels wide.
  const most = Math.floor(width / 6);
  return lines.map((text, i) => (
    <text key={text} x={x} y={y + i * 14} className={styles.change}>
      {text.length > most ? `${text.slice(0, most - 1)}…` : text}
    </text>
  ));
}

function spoken(sizes: SetFound[], unit: string): string {
  const steps = sizes.map((s) => `${s.pigments.length} ${unit}s cost ${figure(s.cost, 1)}`);
  return `Lean curve: ${steps.join(", ")}`;
}
