import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { answer, api, type Schemas } from "../../api/client";
import type { Look } from "../../bench/context";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { figure, said } from "../../room/figures";
import { Stroke } from "../stroke/Stroke";
import styles from "./ByEye.module.css";

type Answers = Schemas["EyeAnswers"];
type Row = keyof Answers;

const MATCHES: Answers = { lighter: 0, warmer: 0, stronger: 0, turned: 0 };
/** Most quarter steps that can be judged, as the server has it. */
const MOST = 16;

/** A swatch judged by eye beside the planned colour: a row of boxes for each answer, and what to do about it. */
export function ByEye({
  box,
  swatch,
  laid,
  triedFor,
  reveal = false,
  ground,
  look = "as-it-is",
  onKeep,
}: {
  box: string;
  swatch: Schemas["Swatch"];
  laid?: Schemas["LaidStep"][];
  triedFor?: Schemas["TriedFor"];
  /** Scrolls to it once it is there, as where it was just asked for. */
  reveal?: boolean;
  /** Screen colour of the ground it lies on. */
  ground: string;
  look?: Look;
  onKeep: (from: Schemas["From"]) => Promise<unknown>;
}) {
  const [answers, setAnswers] = useState<Answers>(MATCHES);
  const found = useQuery({
    queryKey: ["by-eye", box, swatch, laid, triedFor, answers],
    queryFn: () =>
      answer(
        api.POST("/api/boxes/{id}/readings/by-eye", {
          params: { path: { id: box } },
          body: { swatch, laid, tried_for: triedFor, answers },
        }),
      ),
    placeholderData: (before) => before,
  });
  const seen = found.data;
  const whole = useRef<HTMLDivElement>(null);
  const there = !!seen;
  useEffect(() => {
    if (there && reveal) whole.current?.scrollIntoView({ block: "nearest" });
  }, [there, reveal]);
  const keep = (kept: Answers) => onKeep({ by: "eye", answers: kept });
  const row = (of: Row, less: string, more: string) => (
    <EyeRow less={less} more={more} value={answers[of] ?? 0} onChange={(n) => setAnswers({ ...answers, [of]: n })} />
  );
  return (
    <div className={styles.byEye} ref={whole}>
      {seen && (
        <Stroke
          marks={[seen.against, seen.seen]}
          ground={ground}
          height={76}
          look={look}
          label="The plan on the left, your swatch as you judge it on the right"
        />
      )}
      <p>Hold your swatch beside the left half. It is …</p>
      {row("lighter", "darker", "lighter")}
      {row("warmer", "cooler", "warmer")}
      {row("stronger", "duller", "stronger")}
      {seen?.turns && row("turned", seen.turns[0] ?? "", seen.turns[1] ?? "")}
      {seen && (
        <p role="status">
          <b>{said(seen.words)}</b> {seen.correction && said(seen.correction.words)}
        </p>
      )}
      <Acts>
        <Act main disabled={!seen} onDo={() => keep(answers)}>
          Keep this trial
        </Act>
        <Act disabled={!seen} onDo={() => keep(MATCHES)}>
          It matches
        </Act>
      </Acts>
      {seen && (
        <Note>
          Your eye, give or take: {figure((seen.doubt[0] ?? 0) / 10, 1)} of a step in value,{" "}
          {figure(seen.doubt[1] ?? 0, 1)} in colour. <Link to="/drills">Drills</Link> make it finer; one trial teaches a
          little, three teach more.
        </Note>
      )}
    </div>
  );
}

/** Places of the boxes, in quarter steps. */
const PLACES = [-2, -1, 0, 1, 2];

/** One answer: five boxes from less to more. The outermost, pressed again, goes a quarter step farther; so do the arrow keys. */
function EyeRow(props: { less: string; more: string; value: number; onChange: (n: number) => void }) {
  const { less, more, value, onChange } = props;
  const at = Math.max(-2, Math.min(2, value));
  const to = (n: number) => onChange(Math.max(-MOST, Math.min(MOST, n)));
  const press = (place: number) => to(place === at && Math.abs(place) === 2 ? value + Math.sign(place) : place);
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
    if (by) to(value + by);
    else if (e.key === "Home" || e.key === "0") to(0);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div className={styles.row}>
      <span aria-hidden="true">{less}</span>
      <span aria-hidden="true">{more}</span>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`${less} or ${more}`}
        aria-valuemin={-MOST}
        aria-valuemax={MOST}
        aria-valuenow={value}
        aria-valuetext={value === 0 ? "matches" : `${quarters(value)} ${value < 0 ? less : more}`}
        className={styles.boxes}
        onKeyDown={keys}
        onClick={(e) => {
          const { left, width } = e.currentTarget.getBoundingClientRect();
          const nth = Math.floor((PLACES.length * (e.clientX - left)) / width);
          press(PLACES[Math.max(0, Math.min(PLACES.length - 1, nth))] ?? 0);
        }}
      >
        {PLACES.map((place) => (
          <span key={place} data-chosen={place === at}>
            {place === 0 ? "=" : quarters(place === at ? value : place)}
          </span>
        ))}
      </div>
    </div>
  );
}

const FRACTIONS = ["", "¼", "½", "¾"];

/** Quarter steps as a fraction without its sign. */
function quarters(n: number): string {
  const whole = Math.floor(Math.abs(n) / 4);
  return `${whole || ""}${FRACTIONS[Math.abs(n) % 4]}`;
}
