import { NativeSelect, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useChoices } from "../../api/useChoices";
import { HUES, KEYS } from "../../api/words";
import { useBench } from "../../bench/context";
import { NumberField } from "../../kit/DraftFields";
import { Card } from "../../kit/Section";
import { figure } from "../../room/figures";
import styles from "./Brief.module.css";

type Mood = Schemas["Mood"];
const CONTRASTS = [
  { value: "-1", label: "very soft contrast" },
  { value: "-0.5", label: "soft contrast" },
  { value: "0", label: "contrast as it is" },
  { value: "0.5", label: "strong contrast" },
  { value: "1", label: "very strong contrast" },
];

/** Mood words with what each does, the schools, and the rules of the game. */
export function RulesRoom() {
  const { view, changes } = useBench();
  const { intent } = view.piece;
  const choices = useChoices();
  const set = (change: Partial<Schemas["Intent"]>) =>
    changes.requestNow((v) => ({ do: "set-intent", intent: { ...v.piece.intent, ...change } }));
  const games = intent.games;
  const setGames = (change: Partial<Schemas["Games"]>) => set({ games: { ...games, ...change } });
  return (
    <div className={styles.rules}>
      <h2>Mood</h2>
      <Moods moods={intent.moods} shipped={choices?.moods ?? []} onChange={(moods) => set({ moods })} />
      <h2>Rules of the game</h2>
      <div>
        <NativeSelect
          label="Pigments"
          value={games.most_pigments ?? ""}
          data={[
            { value: "", label: "as many as it takes" },
            ...[1, 2, 3, 4, 5, 6].map((n) => ({ value: String(n), label: `${n} at most` })),
          ]}
          onChange={(e) => setGames({ most_pigments: Number(e.currentTarget.value) || null })}
        />
      </div>
      <NumberField
        label="Nothing below value (empty: no limit)"
        kept={games.nothing_below ?? null}
        mayBeEmpty
        min={0}
        max={8}
        step={0.5}
        decimalScale={1}
        onKeep={(nothing_below) => setGames({ nothing_below })}
      />
      <NumberField
        label="Minutes it may take (empty: no limit)"
        kept={intent.minutes ?? null}
        mayBeEmpty
        min={1}
        max={60000}
        allowDecimal={false}
        onKeep={(minutes) => set({ minutes })}
      />
      <fieldset className={styles.checks} style={{ border: 0, padding: 0, margin: 0 }}>
        <legend className="field-label">Only these hues, and greys</legend>
        {HUES.map(({ value: h, label }) => (
          <label key={h}>
            <input
              type="checkbox"
              checked={games.only_hues.includes(h)}
              onChange={() =>
                setGames({
                  only_hues: games.only_hues.includes(h)
                    ? games.only_hues.filter((x) => x !== h)
                    : [...games.only_hues, h],
                })
              }
            />
            {label}
          </label>
        ))}
        <label>
          <input type="checkbox" checked={games.no_black} onChange={() => setGames({ no_black: !games.no_black })} />
          no black
        </label>
      </fieldset>
      <h2>Schools</h2>
      {choices?.schools.map((q) => {
        const chosen = intent.schools[q.question] ?? q.usual;
        return (
          <div key={q.question} className={styles.question}>
            <NativeSelect
              label={q.title}
              value={chosen}
              data={q.answers.map((a) => ({
                value: a.school,
                label: a.school === q.usual ? `${a.label} (usual)` : a.label,
              }))}
              onChange={(e) => {
                const { [q.question]: _, ...rest } = intent.schools;
                const next = e.currentTarget.value as Schemas["School"];
                set({ schools: next === q.usual ? rest : { ...rest, [q.question]: next } });
              }}
            />
            <p>{q.answers.find((a) => a.school === chosen)?.reason}</p>
          </div>
        );
      })}
    </div>
  );
}

function Moods({ moods, shipped, onChange }: { moods: Mood[]; shipped: Mood[]; onChange: (m: Mood[]) => void }) {
  const [own, setOwn] = useState("");
  const change = (i: number, next: Partial<Mood>) => onChange(moods.map((m, n) => (n === i ? { ...m, ...next } : m)));
  const has = (word: string) => moods.some((m) => m.word === word);
  return (
    <>
      <p className={styles.moods}>
        {shipped.map((m) => (
          <button
            key={m.word}
            type="button"
            className="act"
            aria-pressed={has(m.word)}
            disabled={!has(m.word) && moods.length >= 3}
            onClick={() => onChange(has(m.word) ? moods.filter((x) => x.word !== m.word) : [...moods, m])}
          >
            {m.word}
          </button>
        ))}
      </p>
      {moods.map((m, i) => (
        <div key={m.word} className={styles.mood} role="group" aria-label={`What ${m.word} does`}>
          <b>{m.word}</b>
          <NativeSelect
            aria-label="Scheme"
            value={m.scheme ?? ""}
            data={[
              { value: "", label: "any scheme" },
              { value: "neighbours", label: "analogous" },
              { value: "opposites", label: "complementary" },
              { value: "one-hue", label: "monochromatic" },
              { value: "split-opposite", label: "split complementary" },
              { value: "three", label: "triadic" },
              { value: "square", label: "tetradic (square)" },
              { value: "rectangle", label: "tetradic (rectangle)" },
              { value: "slide", label: "gradient" },
            ]}
            onChange={(e) => change(i, { scheme: (e.currentTarget.value || null) as Mood["scheme"] })}
          />
          <NativeSelect
            aria-label="Key"
            value={m.key ?? ""}
            data={[{ value: "", label: "any key" }, ...KEYS.map((k) => ({ value: k.value, label: `${k.label} key` }))]}
            onChange={(e) => change(i, { key: (e.currentTarget.value || null) as Mood["key"] })}
          />
          <NativeSelect
            aria-label="Contrast"
            value={String(m.contrast)}
            data={CONTRASTS}
            onChange={(e) => change(i, { contrast: Number(e.currentTarget.value) })}
          />
          <button type="button" className="act" onClick={() => onChange(moods.filter((_, n) => n !== i))}>
            leave out
          </button>
        </div>
      ))}
      {moods.length < 3 && (
        <form
          className={styles.moods}
          onSubmit={(e) => {
            e.preventDefault();
            const word = own.trim();
            if (word && !has(word)) onChange([...moods, { word, scheme: null, key: null, contrast: 0 }]);
            setOwn("");
          }}
        >
          <TextInput
            aria-label="A word of your own"
            placeholder="a word of your own"
            value={own}
            maxLength={40}
            onChange={(e) => setOwn(e.currentTarget.value)}
          />
          <button type="submit" className="act">
            add it
          </button>
        </form>
      )}
    </>
  );
}

/** What the rules come to, in words. */
export function RulesCard() {
  const { view } = useBench();
  const { moods, games, minutes, schools } = view.piece.intent;
  const asked = useChoices()?.schools ?? [];
  // An answer kept from another medium may be the usual one of this.
  const differing = asked.filter((q) => schools[q.question] && schools[q.question] !== q.usual).length;
  const said = [
    games.most_pigments && `A set has ${games.most_pigments} pigments at most.`,
    games.nothing_below && `Every target below ${figure(games.nothing_below, 1)} is lifted to it.`,
    games.no_black && "Black pigments stay in the Box.",
    games.only_hues.length > 0 && `Only ${games.only_hues.join(", ").replaceAll("-", " ")} and greys are searched.`,
    minutes && `${minutes} minutes for all of it, on every printed sheet.`,
  ].filter(Boolean);
  return (
    <Card>
      <h2>What this asks for</h2>
      {moods.length > 0 && (
        <p>
          {moods.map((m) => m.word).join(", ")}: the key is offered when values are mapped at Light, the scheme comes
          first among the studies.
        </p>
      )}
      {said.map((s) => (
        <p key={String(s)}>{s}</p>
      ))}
      {moods.length === 0 && said.length === 0 && <p>Nothing yet. All of this can stay empty.</p>}
      <p>
        {differing
          ? `${differing === 1 ? "1 answer differs" : `${differing} answers differ`} from the usual ones of this medium.`
          : "The schools are the usual ones of this medium."}{" "}
        Findings speak from the chosen school; targets from the rules, the ground offered, the studies' opposites and
        the order of work follow it. How colour is laid is obeyed where a wash can be mixed first; the rest of it is for
        the hand.
      </p>
    </Card>
  );
}
