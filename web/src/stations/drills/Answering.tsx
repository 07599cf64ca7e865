import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { useMap } from "../../api/useMap";
import { usePiece } from "../../api/usePiece";
import { Act } from "../../kit/Act";
import { Acts } from "../../kit/Section";
import { figure } from "../../room/figures";
import styles from "./Drills.module.css";
import type { AskedQuestion, Given, Verdict } from "./useDrills";

type Patch = Schemas["Patch"];
type Props = { asked: AskedQuestion; verdict: Verdict | null; onGive: (g: Given) => void };

const css = (c: Schemas["Srgb8"]) => `rgb(${c.r} ${c.g} ${c.b})`;

/** One question with its way of answering: by touch, by the number keys, or by both arrows and Enter. */
export function Answering(props: Props) {
  const { question } = props.asked;
  return (
    <>
      <h2 className={styles.asks}>{question.asks}</h2>
      {question.shown.length > 0 && (
        <div className={styles.shown}>
          {question.shown.map((p, i) => (
            <Shown key={`${question.seed}-${i}-${p.label}`} patch={p} />
          ))}
        </div>
      )}
      {question.drill === "value" ? (
        <ByValue {...props} />
      ) : question.drill === "order" ? (
        <ByOrder {...props} />
      ) : question.drill === "match" ? (
        <ByParts {...props} />
      ) : question.piece ? (
        <InPicture {...props} piece={question.piece} />
      ) : (
        <ByChoice {...props} />
      )}
    </>
  );
}

function Shown({ patch }: { patch: Patch }) {
  return (
    <figure
      className={styles.patch}
      style={{ background: patch.surround ? css(patch.surround) : undefined }}
      data-in={!!patch.surround}
    >
      <i style={{ background: css(patch.colour) }} />
      {patch.label && <figcaption>{patch.label}</figcaption>}
    </figure>
  );
}

/** Calls back with the number of a key pressed, from 0. */
function useNumberKeys(most: number, onKey: (n: number) => void) {
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const n = Number(e.key) - 1;
      if (Number.isInteger(n) && n >= 0 && n < most && !(e.target instanceof HTMLInputElement)) onKey(n);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  });
}

function ByChoice({ asked: { question }, verdict, onGive }: Props) {
  const [given, setGiven] = useState<number | null>(null);
  const choose = (at: number) => {
    if (given !== null) return;
    setGiven(at);
    onGive({ by: "choice", at });
  };
  useNumberKeys(question.choices.length, choose);
  return (
    <div className={styles.choices}>
      {question.choices.map((p, i) => (
        <button
          key={`${question.seed}-${i}-${p.label}`}
          type="button"
          className={styles.choice}
          style={{ background: p.surround ? css(p.surround) : undefined }}
          data-in={!!p.surround}
          aria-label={p.label ? `${i + 1} ${p.label}` : `${i + 1}`}
          aria-pressed={given === i}
          data-right={verdict?.choice === i}
          onClick={() => choose(i)}
        >
          <i style={{ background: css(p.colour) }} />
          <span>
            {i + 1} {p.label}
          </span>
        </button>
      ))}
    </div>
  );
}

function ByValue({ verdict, onGive }: Props) {
  const [value, setValue] = useState(5);
  return (
    <div className={styles.value}>
      <label>
        <span>
          Value <b className="figures">{figure(value, 1)}</b>
        </span>
        <input
          type="range"
          min={0}
          max={10}
          step={0.25}
          value={value}
          disabled={!!verdict}
          onChange={(e) => setValue(Number(e.currentTarget.value))}
        />
      </label>
      {!verdict && (
        <Act main onDo={() => onGive({ by: "value", value })}>
          That is it
        </Act>
      )}
    </div>
  );
}

/** Patches are pressed one after the other; pressing one again takes it and all after it back. */
function ByOrder({ asked: { question }, verdict, onGive }: Props) {
  const [order, setOrder] = useState<number[]>([]);
  const press = (i: number) => {
    if (verdict) return;
    const at = order.indexOf(i);
    const next = at < 0 ? [...order, i] : order.slice(0, at);
    setOrder(next);
    if (next.length === question.choices.length) onGive({ by: "order", order: next });
  };
  useNumberKeys(question.choices.length, press);
  return (
    <div className={styles.choices}>
      {question.choices.map((p, i) => (
        <button
          key={`${question.seed}-${i}`}
          type="button"
          className={styles.choice}
          aria-label={order.includes(i) ? `${order.indexOf(i) + 1}. ` : `patch ${i + 1}`}
          aria-pressed={order.includes(i)}
          onClick={() => press(i)}
        >
          <i style={{ background: css(p.colour) }} />
          <span>{order.includes(i) ? `${order.indexOf(i) + 1}.` : `patch ${i + 1}`}</span>
        </button>
      ))}
    </div>
  );
}

function ByParts({ asked: { question, names }, verdict, onGive }: Props) {
  const [parts, setParts] = useState<number[]>(question.pigments.map(() => 1));
  const [trials, setTrials] = useState<number[][]>([]);
  const [wanted] = question.shown;
  const open = !verdict || verdict.goes_on;
  const change = (i: number, by: number) =>
    setParts((now) => now.map((n, j) => (i === j ? Math.min(20, Math.max(0, n + by)) : n)));
  const seen = verdict?.trials.length ?? 0;
  const give = () => {
    // A trial counts once its colour has come back.
    const next = [...trials.slice(0, seen), parts];
    setTrials(next);
    onGive({ by: "parts", trials: next });
  };
  return (
    <div className={styles.match}>
      {verdict && wanted && (
        <div className={styles.trials}>
          <i style={{ background: css(wanted.colour) }} />
          {verdict.trials.map((c, i) => (
            <i key={i} style={{ background: css(c) }} />
          ))}
        </div>
      )}
      {question.pigments.map((id, i) => (
        <p key={id} className={styles.part}>
          <span>{names[i]}</span>
          <Act onDo={() => change(i, -1)} disabled={!open} label={`− of ${names[i]}`}>
            −
          </Act>
          <b className="figures">{parts[i]}</b>
          <Act onDo={() => change(i, 1)} disabled={!open} label={`+ of ${names[i]}`}>
            +
          </Act>
        </p>
      ))}
      {open && (
        <Acts>
          <Act main onDo={give} disabled={parts.every((n) => n === 0)}>
            Try it
          </Act>
        </Acts>
      )}
    </div>
  );
}

/** Two places of a piece's reference, marked. */
function InPicture({ asked: { question }, verdict, onGive, piece }: Props & { piece: number }) {
  const view = usePiece(piece).data;
  const shapes = useMap(view?.derived.map ?? null);
  const [given, setGiven] = useState<number | null>(null);
  const choose = (at: number) => {
    if (given !== null) return;
    setGiven(at);
    onGive({ by: "choice", at });
  };
  useNumberKeys(2, choose);
  if (!view) return null;
  return (
    <>
      <div className={styles.picture}>
        <img src={`/api/pieces/${piece}/reference/view`} alt={`Reference of ${view.piece.brief.title}`} />
        <svg
          role="img"
          aria-label="The two places, the first with a full line, the second dashed"
          viewBox={`0 0 ${shapes.width || 1} ${shapes.height || 1}`}
          preserveAspectRatio="none"
        >
          <title>The two places</title>
          {question.zones.map((z, i) => {
            const shape = shapes.of.get(z);
            return (
              shape && (
                <g key={z}>
                  <path d={shape.largest.path} fill="none" stroke="#101010" strokeWidth={3} />
                  <path
                    d={shape.largest.path}
                    fill="none"
                    stroke="#f4f4f4"
                    strokeWidth={1.4}
                    strokeDasharray={i ? "5 4" : undefined}
                  />
                </g>
              )
            );
          })}
        </svg>
      </div>
      <Acts>
        {question.zones.map((z, i) => (
          <Act key={z} pressed={given === i} onDo={() => choose(i)}>
            {i + 1} {view.piece.zones.find((o) => o.id === z)?.name || (i ? "the dashed one" : "the one in full line")}
            {i ? ", dashed" : ", in full line"}
            {verdict?.choice === i ? " ✓" : ""}
          </Act>
        ))}
      </Acts>
    </>
  );
}
