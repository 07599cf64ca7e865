import type { Plot } from "../../api/useJournal";
import { Note } from "../../kit/Section";
import { figure, said } from "../../room/figures";
import styles from "./Journal.module.css";

/** Height of a row and the room for its name, in pixels of the drawing. */
const ROW = 20;
const NAME = 150;
const WIDE = 440;
/** Rows shown at once; the figures below have them all. */
const MOST = 16;

/** A plot: bars from nought, each with its doubt, and what it is seen beside as a line; its figures stand in a table under it. */
export function PlotFigure({ of }: { of: Plot }) {
  const marks = of.marks.slice(0, MOST);
  const ends = marks.flatMap((m) => [m.y + (m.doubt ?? 0), m.y - (m.doubt ?? 0), m.beside ?? 0, 0]);
  const [low, high] = [Math.min(...ends, 0), Math.max(...ends, 0)];
  const across = (y: number) => NAME + ((y - low) / (high - low || 1)) * (WIDE - NAME - 44);
  return (
    <figure className={styles.plot}>
      <figcaption>
        <h2>{of.title}</h2>
        <p>{said(of.says)}</p>
      </figcaption>
      {marks.length > 0 && (
        <svg
          viewBox={`0 0 ${WIDE} ${marks.length * ROW + 6}`}
          role="img"
          aria-label={`${of.measures}: ${marks.map((m) => `${m.label} ${figure(m.y, 1)}`).join(", ")}`}
        >
          {marks.map((m, i) => {
            const y = i * ROW + ROW / 2 + 3;
            const [from, to] = [across(Math.min(0, m.y)), across(Math.max(0, m.y))];
            return (
              <g key={m.label}>
                <text x={NAME - 10} y={y + 4} textAnchor="end">
                  {m.label}
                </text>
                <rect x={from} y={y - 5} width={Math.max(to - from, 1)} height={10} className={styles.bar} />
                {m.doubt !== null && m.doubt !== undefined && (
                  <path d={`M${across(m.y - m.doubt)} ${y}H${across(m.y + m.doubt)}`} className={styles.doubt} />
                )}
                {m.beside !== null && m.beside !== undefined && (
                  <path d={`M${across(m.beside)} ${y - 8}V${y + 8}`} className={styles.beside} />
                )}
                <text
                  x={across(Math.max(m.y + (m.doubt ?? 0), m.beside ?? 0, 0)) + 6}
                  y={y + 4}
                  className={styles.number}
                >
                  {Number.isInteger(m.y) ? m.y : figure(m.y, m.y > 20 ? 0 : 1)}
                </text>
              </g>
            );
          })}
          <path d={`M${across(0)} 0V${marks.length * ROW + 6}`} className={styles.nought} />
        </svg>
      )}
      {of.marks.length > 0 && (
        <details>
          <summary>
            Figures: {of.measures}
            {of.beside && `, ${of.beside} as a line`}
          </summary>
          <table>
            <thead>
              <tr>
                <th scope="col">of</th>
                <th scope="col">{of.measures}</th>
                {of.beside && <th scope="col">{of.beside}</th>}
                <th scope="col">give or take</th>
                <th scope="col">cases</th>
              </tr>
            </thead>
            <tbody>
              {of.marks.map((m) => (
                <tr key={m.label}>
                  <th scope="row">{m.label}</th>
                  <td>{figure(m.y, 2)}</td>
                  {of.beside && <td>{m.beside != null && figure(m.beside, 0)}</td>}
                  <td>{m.doubt != null && figure(m.doubt, 2)}</td>
                  <td>{m.cases}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <a className="act" href={`/api/journal/plots/${of.key}.csv`} download>
            Save as CSV
          </a>
        </details>
      )}
      {of.marks.length > MOST && (
        <Note>
          The first {MOST} of {of.marks.length}.
        </Note>
      )}
    </figure>
  );
}
