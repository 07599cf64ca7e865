import { useQuery } from "@tanstack/react-query";
import { answer, api, Refused } from "../../api/client";
import type { Spot } from "../../bench/context";
import { signed, temperatureWord, useBench, useLooking } from "../../bench/context";
import { Card } from "../../kit/Section";
import { Stroke } from "../../lenses/stroke/Stroke";
import { figure, said } from "../../room/figures";
import styles from "./Subject.module.css";

type Props = { from: Spot; to: Spot; onDone: () => void };
const query = ({ from, to }: Props) => ({ x: from.x, y: from.y, to_x: to.x, to_y: to.y });

/** Values along a line, drawn as a curve. */
export function LineCard(props: Props) {
  const { view } = useBench();
  const found = useQuery({
    queryKey: ["line", view.id, view.revision, props.from, props.to],
    queryFn: () =>
      answer(api.GET("/api/pieces/{id}/reference/line", { params: { path: { id: view.id }, query: query(props) } })),
    retry: false,
  });
  const p = found.data;
  const [w, h] = [234, 150];
  const y = (v: number) => 8 + (1 - v / 10) * (h - 16);
  return (
    <Card>
      <h2>Along the line</h2>
      {found.error instanceof Refused && <p role="alert">{found.error.problem.detail}</p>}
      {p && (
        <>
          <svg
            width={w}
            height={h}
            className={styles.profile}
            role="img"
            aria-label={`From ${figure(p.values[0], 1)} to ${figure(p.values[p.values.length - 1], 1)}, between ${figure(p.darkest, 1)} and ${figure(p.lightest, 1)}`}
          >
            {[0, 2, 4, 6, 8, 10].map((v) => (
              <g key={v}>
                <line x1={22} x2={w} y1={y(v)} y2={y(v)} />
                <text x={16} y={y(v) + 4} textAnchor="end" className="figures" fill="currentColor">
                  {v}
                </text>
              </g>
            ))}
            <polyline
              points={p.values.map((v, i) => `${24 + (i / (p.values.length - 1)) * (w - 26)},${y(v)}`).join(" ")}
            />
          </svg>
          <p>
            Between <span className="figures">{figure(p.darkest, 1)}</span> and{" "}
            <span className="figures">{figure(p.lightest, 1)}</span>; the strongest edge lies{" "}
            <span className="figures">{Math.round(p.edge * 100)} %</span> along.
          </p>
        </>
      )}
      <button type="button" className="act" onClick={props.onDone}>
        Done
      </button>
    </Card>
  );
}

/** Two patches in one stroke, split and touching, on grey. */
export function ComparedCard(props: Props) {
  const { view } = useBench();
  const { look } = useLooking();
  const found = useQuery({
    queryKey: ["compare", view.id, view.revision, props.from, props.to],
    queryFn: () =>
      answer(api.GET("/api/pieces/{id}/reference/compare", { params: { path: { id: view.id }, query: query(props) } })),
    retry: false,
  });
  const c = found.data;
  return (
    <Card>
      <h2>Two patches</h2>
      {found.error instanceof Refused && <p role="alert">{found.error.problem.detail}</p>}
      {c && (
        <>
          <Stroke marks={[c.one, c.other]} ground="#868686" height={96} look={look} label="The two patches on grey" />
          <p>
            <b>{said(c.sentence)}</b>
          </p>
          <dl className={styles.readings}>
            <dt>value</dt>
            <dd className="figures">
              {figure(c.one.value, 1)} and {figure(c.other.value, 1)}
            </dd>
            <dt>temperature</dt>
            <dd>
              {temperatureWord(c.one.temperature)} and {temperatureWord(c.other.temperature)}{" "}
              <span className="figures">{signed(c.warmer, 0)}</span>
            </dd>
            <dt>apart</dt>
            <dd className="figures">{figure(c.difference, 1)}</dd>
          </dl>
        </>
      )}
      <button type="button" className="act" onClick={props.onDone}>
        Done
      </button>
    </Card>
  );
}
