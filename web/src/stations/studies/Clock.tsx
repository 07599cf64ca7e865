import { NumberInput } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { Study, StudyNote } from "../../api/client";
import { NumberField } from "../../kit/DraftFields";
import styles from "./Studies.module.css";

const now = () => Math.floor(Date.now() / 1000);

/** Minutes meant for a study, and whether a phase's end may be heard: remembered by this browser only. */
const remembered = {
  minutes: () => Number(localStorage.getItem("study-minutes")) || 20,
  heard: () => localStorage.getItem("study-bell") === "on",
};

type Keep = (change: { minutes?: number; running_since?: number | null }) => void;

/** The minutes spent painting a study, against those meant for it, phase by phase. A running clock is kept with the study: it goes on when the
 * page is closed. */
export function Clock({ study, note, onKeep }: { study: Study; note: StudyNote; onKeep: Keep }) {
  const since = study.running_since ?? null;
  const [meant, setMeant] = useState(remembered.minutes);
  const [heard, setHeard] = useState(remembered.heard);
  const [, tick] = useState(0);
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => tick((n) => n + 1), 1000);
    return () => clearInterval(timer);
  }, [since]);
  const seconds = study.minutes * 60 + (since === null ? 0 : Math.max(0, now() - since));
  const ends = note.phases.map((_, i) => note.phases.slice(0, i + 1).reduce((sum, p) => sum + p.share, 0) * meant * 60);
  const phase = ends.findIndex((end) => seconds < end);
  const last = useRef(phase);
  useEffect(() => {
    if (since !== null && heard && last.current !== phase) ring();
    last.current = phase;
  }, [phase, since, heard]);
  return (
    <section className={styles.clock} aria-label="The clock of this study">
      <h3>Minutes</h3>
      <p role="timer" aria-label="Clock of this study" className={styles.time} data-running={since !== null}>
        <span className="figures">
          {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, "0")}
        </span>{" "}
        of {meant} minutes
      </p>
      <ol className={styles.phases}>
        {note.phases.map((p, i) => (
          <li key={p.name} aria-current={i === phase && seconds > 0 ? "step" : undefined} style={{ flexGrow: p.share }}>
            <i style={{ width: `${100 * share(seconds, i ? ends[i - 1] : 0, ends[i])}%` }} />
            <span>
              {p.name} <span className="figures">{Math.round(p.share * meant)}</span>
            </span>
          </li>
        ))}
      </ol>
      <p className={styles.which}>
        {since === null ? (
          <button type="button" className="act" onClick={() => onKeep({ running_since: now() })}>
            {seconds > 0 ? "Go on" : "Start the clock"}
          </button>
        ) : (
          <button
            type="button"
            className="act"
            onClick={() => onKeep({ minutes: Math.round(seconds / 60), running_since: null })}
          >
            Pause the clock
          </button>
        )}
        <label>
          <input
            type="checkbox"
            checked={heard}
            onChange={(e) => {
              setHeard(e.currentTarget.checked);
              localStorage.setItem("study-bell", e.currentTarget.checked ? "on" : "off");
              if (e.currentTarget.checked) ring();
            }}
          />{" "}
          a bell between phases
        </label>
      </p>
      <div className={styles.pair}>
        <NumberInput
          label="Minutes it may take"
          min={1}
          max={600}
          value={meant}
          onChange={(v) => {
            const minutes = Math.max(1, Number(v) || 20);
            setMeant(minutes);
            localStorage.setItem("study-minutes", String(minutes));
          }}
        />
        {since === null && (
          <NumberField
            label="Minutes spent painting it"
            min={0}
            max={6000}
            kept={study.minutes}
            onKeep={(minutes) => onKeep({ minutes: minutes ?? 0 })}
          />
        )}
      </div>
    </section>
  );
}

const share = (at: number, from: number, to: number) => Math.min(1, Math.max(0, (at - from) / Math.max(1, to - from)));

/** One soft tone. */
function ring() {
  const audio = new AudioContext();
  const [tone, loudness] = [audio.createOscillator(), audio.createGain()];
  tone.frequency.value = 528;
  loudness.gain.setValueAtTime(0.2, audio.currentTime);
  loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 1.2);
  tone.connect(loudness).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 1.2);
  tone.onended = () => audio.close();
}
