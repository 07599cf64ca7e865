import { NativeSelect, TextInput } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { useJournalChoices } from "../../api/useJournal";
import { DAY_TIMES, ENTRY_KINDS, OUTCOMES, SEASONS } from "../../api/words";
import { media } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Note } from "../../kit/Section";
import { Tick } from "../../kit/Tick";
import { ColourWell } from "./ColourWell";
import styles from "./Journal.module.css";

type Asked = Record<string, string>;
type Ask = (change: Record<string, string | null>) => void;

/** Mean values a picture may have, dark to light, half a step each way. */
const VALUES = ["2", "3", "4", "5", "6", "7", "8"].map((v) => ({ value: v, label: `about ${v}` }));

/** What is looked for: words, a colour, and what the painter remembers of the day. */
export function Looking({ asked, kinds, onAsk }: { asked: Asked; kinds: string; onAsk: Ask }) {
  const choices = useJournalChoices().data;
  const of = (texts: string[] | undefined) => (texts ?? []).map((t) => ({ value: t, label: t }));
  const select = (name: string, label: string, data: { value: string; label: string }[]) =>
    (data.length > 0 || asked[name]) && (
      <NativeSelect
        size="xs"
        className={styles.choice}
        label={label}
        value={asked[name] ?? ""}
        data={[{ value: "", label: "any" }, ...data]}
        onChange={(e) => onAsk({ [name]: e.currentTarget.value || null })}
      />
    );
  const wanted = kinds.split(",");
  const turn = (kind: string, on: boolean) => {
    const next = ENTRY_KINDS.map((k) => k.value as string).filter((k) => (k === kind ? on : wanted.includes(k)));
    if (next.length) onAsk({ kinds: next.join(",") });
  };
  const filtered = Object.keys(asked).length > 0;
  return (
    <>
      <Words said={asked.words ?? ""} onSay={(words) => onAsk({ words })} />
      <ColourWell colour={asked.colour ?? null} onColour={(colour) => onAsk({ colour })} />
      {select("season", "Season", SEASONS)}
      {select("day_time", "Hour", DAY_TIMES)}
      {select("weather", "Weather", of(choices?.weather))}
      {select("light", "Light", of(choices?.light))}
      {select("subject", "Subject", of(choices?.subject))}
      {select("medium", "Medium", media)}
      {select("ground", "Ground", of(choices?.ground))}
      {select("scheme", "Scheme", of(choices?.scheme))}
      {select(
        "pigment",
        "Pigment",
        (choices?.pigment ?? []).map((p) => ({ value: p.id, label: p.name })),
      )}
      {select("value", "Mean value", VALUES)}
      {select("outcome", "Came out", OUTCOMES)}
      <fieldset>
        <legend>Show</legend>
        {ENTRY_KINDS.map(({ value: kind, label }) => {
          const n = choices?.kinds.find((k) => k.kind === kind)?.count ?? 0;
          return (
            (n > 0 || wanted.includes(kind)) && (
              <Tick key={kind} on={wanted.includes(kind)} onTick={(on) => turn(kind, on)}>
                {label} <span className="figures">{n}</span>
              </Tick>
            )
          );
        })}
      </fieldset>
      <Southern />
      {filtered && (
        <Acts>
          <Act onDo={() => onAsk(Object.fromEntries(Object.keys(asked).map((k) => [k, null])))}>Look for nothing</Act>
        </Acts>
      )}
    </>
  );
}

/** Words are asked for once the painter stops typing for a moment; `/` leads here. */
function Words({ said, onSay }: { said: string; onSay: (words: string | null) => void }) {
  const [words, setWords] = useState(said);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => setWords(said), [said]);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key !== "/" || e.target instanceof HTMLInputElement) return;
      e.preventDefault();
      field.current?.focus();
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  useEffect(() => {
    if (words === said) return;
    const timer = setTimeout(() => onSay(words || null), 250);
    return () => clearTimeout(timer);
  }, [words, said, onSay]);
  return (
    <TextInput
      ref={field}
      size="xs"
      label="Words"
      type="search"
      value={words}
      maxLength={300}
      placeholder="poplars, mist, too dark"
      onChange={(e) => setWords(e.currentTarget.value)}
    />
  );
}

function Southern() {
  const [on, setOn] = useState(localStorage.getItem("southern") === "yes");
  return (
    <>
      <Tick
        on={on}
        onTick={(now) => {
          localStorage.setItem("southern", now ? "yes" : "no");
          setOn(now);
        }}
      >
        south of the equator
      </Tick>
      {on && <Note>Seasons are swapped from the next search on.</Note>}
    </>
  );
}
