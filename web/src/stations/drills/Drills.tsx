import { NativeSelect } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { Refused } from "../../api/client";
import { Act } from "../../kit/Act";
import { Acts, Note, Warning } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { useStudio } from "../../lenses/stroke/useGround";
import { said } from "../../room/figures";
import { Answering } from "./Answering";
import styles from "./Drills.module.css";
import {
  type AskedQuestion,
  answered,
  asked,
  type Drill,
  type Given,
  remembered,
  useStandings,
  type Verdict,
} from "./useDrills";

/** Seconds of one go: short. */
const GO = 120;

type Go = { until: number; drill: Drill | undefined; right: number; asked: number };

/** Drills for the eye: two minutes from one's own Box and pieces, for one hand or the keyboard. */
export function Drills() {
  const [box, setBox] = useState(remembered.box);
  const [withoutHue, setWithoutHue] = useState(remembered.withoutHue);
  const [go, setGo] = useState<Go | null>(null);
  const studio = useStudio();
  const standings = useStandings(box, withoutHue);
  useEffect(() => {
    document.title = "Drills · Lean Swatch";
  }, []);
  const boxes = studio.data?.boxes ?? [];
  const next = standings.data?.standings.find((s) => s.drill === standings.data?.next);
  return (
    <main className={styles.drills}>
      <header>
        <h1>Drills</h1>
        <p>
          <Link to="/">The studio</Link>
        </p>
      </header>
      {standings.error instanceof Refused && <Warning>{standings.error.problem.detail}</Warning>}
      {go ? (
        <Running box={box} withoutHue={withoutHue} go={go} setGo={setGo} />
      ) : (
        <>
          {next && (
            <Acts>
              <Act main onDo={() => setGo({ until: Date.now() + GO * 1000, drill: undefined, right: 0, asked: 0 })}>
                Two minutes, beginning with: {next.name.toLowerCase()}
              </Act>
            </Acts>
          )}
          <ul className={styles.standings}>
            {standings.data?.standings.map((s) => (
              <li key={s.drill}>
                <h2>{s.name}</h2>
                <p>{said(s.words)}</p>
                <Acts>
                  <Act
                    onDo={() => setGo({ until: Date.now() + GO * 1000, drill: s.drill, right: 0, asked: 0 })}
                    label={`Do this one: ${s.name}`}
                  >
                    Do this one
                  </Act>
                  <Note>
                    {s.due_in > 0
                      ? `comes again in ${s.due_in} ${s.due_in === 1 ? "day" : "days"}`
                      : "its time has come"}
                    {s.without_hue && " · without hue"}
                  </Note>
                </Acts>
              </li>
            ))}
          </ul>
          <div className={styles.settings}>
            {boxes.length > 1 && (
              <NativeSelect
                label="From the Box"
                value={box ?? boxes[0]?.id}
                data={boxes.map((b) => ({ value: b.id, label: b.name }))}
                onChange={(e) => {
                  localStorage.setItem("drill-box", e.currentTarget.value);
                  setBox(e.currentTarget.value);
                }}
              />
            )}
            <Tick
              on={withoutHue}
              onTick={(on) => {
                localStorage.setItem("drill-without-hue", on ? "on" : "off");
                setWithoutHue(on);
              }}
            >
              only drills without hue
            </Tick>
            <Note>
              How fine the eye is comes from a staircase: each answer moves the next question to where it teaches most.
              Each result shows its uncertainty. Screens differ: try on paper what you learn here.
            </Note>
          </div>
        </>
      )}
    </main>
  );
}

/** Questions one after the other until the time is up; the last one may be finished. */
function Running({
  box,
  withoutHue,
  go,
  setGo,
}: {
  box: string | undefined;
  withoutHue: boolean;
  go: Go;
  setGo: (g: Go | null) => void;
}) {
  const queries = useQueryClient();
  const [question, setQuestion] = useState<AskedQuestion | null>(null);
  const [verdict, setVerdict] = useState<Verdict | null>(null);
  const [problem, setProblem] = useState("");
  const [left, setLeft] = useState(GO);
  const onItsWay = useRef(false);
  const tell = useCallback((e: unknown) => setProblem(e instanceof Refused ? e.problem.detail : String(e)), []);
  const fetchNext = useCallback(() => {
    setVerdict(null);
    setQuestion(null);
    asked(box, withoutHue, go.drill).then(setQuestion).catch(tell);
  }, [box, withoutHue, go.drill, tell]);
  useEffect(fetchNext, [fetchNext]);
  useEffect(() => {
    const timer = setInterval(() => setLeft(Math.max(0, Math.round((go.until - Date.now()) / 1000))), 500);
    return () => clearInterval(timer);
  }, [go.until]);
  const end = () => {
    queries.invalidateQueries({ queryKey: ["drills"] });
    setGo(null);
  };
  const give = (given: Given) => {
    // An answer pressed twice is one answer.
    if (!question || onItsWay.current || (verdict && !verdict.goes_on)) return;
    onItsWay.current = true;
    answered(question, given)
      .then((v) => {
        setVerdict(v);
        if (!v.goes_on) setGo({ ...go, asked: go.asked + 1, right: go.right + Number(v.right) });
      })
      .catch(tell)
      .finally(() => {
        onItsWay.current = false;
      });
  };
  const goOn = () => (left > 0 ? fetchNext() : end());
  const done = !!verdict && !verdict.goes_on;
  useEffect(() => {
    if (!done) return;
    const key = (e: KeyboardEvent) => {
      if (e.key === "Enter" && (e.target as HTMLElement).tagName !== "BUTTON") goOn();
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  });
  return (
    <section className={styles.running} aria-label="A drill">
      <p className={styles.clock} role="timer">
        <span className="figures">
          {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")}
        </span>
        {go.asked > 0 && ` · ${go.right} of ${go.asked} right`}
      </p>
      {problem && <Warning>{problem}</Warning>}
      {question && (
        <Answering
          key={`${question.question.drill}${question.question.seed}`}
          asked={question}
          verdict={verdict}
          onGive={give}
        />
      )}
      <p className={styles.verdict} aria-live="polite">
        {verdict && `${verdict.right ? "✓ " : verdict.goes_on ? "" : "✕ "}${said(verdict.words)}`}
      </p>
      <Acts>
        {done && (
          <Act main onDo={goOn}>
            {left > 0 ? "Next" : "See how it stands"}
          </Act>
        )}
        <Act onDo={end}>Stop</Act>
      </Acts>
    </section>
  );
}
