import { NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "../../../api/client";
import { useChoices } from "../../../api/useChoices";
import { capital, signed, temperatureWord, useBench, useLooking, useTargets, zoneName } from "../../../bench/context";
import { Acts, Card } from "../../../kit/Section";
import { chromaOf, hueOf, Round } from "../../../lenses/round/Round";
import { Stroke } from "../../../lenses/stroke/Stroke";
import { useGround } from "../../../lenses/stroke/useGround";
import { figure } from "../../../room/figures";
import styles from "./Colour.module.css";
import { useColour } from "./useColour";

/** A hue in the painter's hand: turned on the Round, typed, or taken from a pigment. The value of every zone stays. */
export function ColourCard() {
  const bench = useBench();
  const targets = useTargets();
  const { view } = bench;
  const { look } = useLooking();
  const ground = useGround();
  const at = useColour();
  const zones = view.derived.shapes.map((s) => ({ zone: s.zone, mark: targets(s.zone) ?? s.target }));
  const first = zones.find((z) => z.zone === at.zones[0]);
  const shape = view.derived.shapes.find((s) => s.zone === first?.zone);
  const wheel = useWheel();
  const [threaded, setThreaded] = useState(false);
  const threads = threaded ? (wheel.data?.threads ?? []) : [];
  return (
    <Card>
      <h2>
        {first ? (
          <>
            <span className="figures">{at.zones.join(", ")}</span> {capital(zoneName(view, first.zone))}
            {at.zones.length > 1 && ` and ${at.zones.length - 1} more`}
          </>
        ) : (
          "A hue for a zone"
        )}
      </h2>
      {first && shape ? (
        <>
          <Stroke
            marks={[shape.reading, first.mark]}
            ground={ground}
            height={44}
            look={look}
            label="Read, and planned"
          />
          <p>
            Value <span className="figures">{figure(first.mark.value, 1)}</span> stays. Hue{" "}
            <span className="figures">{figure(hueOf(first.mark), 0)}°</span>, chroma{" "}
            <span className="figures">{figure(chromaOf(first.mark), 0)}</span>,{" "}
            {temperatureWord(first.mark.temperature)}{" "}
            <span className="figures">{signed(first.mark.temperature, 0)}</span>.
          </p>
        </>
      ) : (
        <p>
          Choose a zone on the plan, or step through them with j and k. Then point at the Round, or drop a pigment on
          the zone.
        </p>
      )}
      <Round
        pigments={at.pigments}
        zones={zones}
        chosen={at.zones}
        ground={ground}
        scheme={view.piece.scheme ?? null}
        threads={threads}
        opposites={wheel.data?.opposites ?? []}
        onPoint={(hue, chroma) => at.colour({ by: "set", hue, chroma })}
      />
      <WheelChoice />
      {wheel.data && (
        <label className={styles.tick}>
          <input type="checkbox" checked={threaded} onChange={(e) => setThreaded(e.currentTarget.checked)} /> What greys
          what in this Box
        </label>
      )}
      {threaded && <Threads threads={threads} />}
      {first && (
        <>
          <Typed onTyped={(text) => at.colour({ by: "typed", text })} />
          <Acts>
            <button type="button" className="act" onClick={() => at.colour({ by: "as-read" })}>
              As read <kbd className="figures">o</kbd>
            </button>
            <button
              type="button"
              className="act"
              aria-pressed={at.group.includes(first.zone)}
              onClick={() => at.toggle(first.zone)}
            >
              {at.group.includes(first.zone) ? "Leave it out" : "Keep it chosen"} <kbd className="figures">x</kbd>
            </button>
            {at.group.length > 0 && (
              <button type="button" className="act" onClick={at.clear}>
                Only this one
              </button>
            )}
          </Acts>
          <label className={styles.tick}>
            <input type="checkbox" checked={at.local} onChange={(e) => at.setLocal(e.currentTarget.checked)} /> Its
            local colour, not the plan <kbd className="figures">l</kbd>
          </label>
          <p className={styles.keys}>
            <kbd className="figures">h H</kbd> hue ±10°, <kbd className="figures">b B</kbd> ±2°,{" "}
            <kbd className="figures">c C</kbd> chroma ±4, <kbd className="figures">p P</kbd> the next pigment's hue,{" "}
            <kbd className="figures">y</kbd> type a colour
          </p>
        </>
      )}
    </Card>
  );
}

/** What lies opposite, by the school, and what greys what in the Box. */
function useWheel() {
  const { view, box } = useBench();
  const { schools } = view.piece.intent;
  return useQuery({
    queryKey: ["wheel", view.id, schools, view.piece.excluded, box?.id, box?.pigments.length],
    queryFn: () => answer(api.GET("/api/pieces/{id}/wheel", { params: { path: { id: view.id } } })),
    enabled: box !== null,
    placeholderData: (old) => old,
  });
}

/** Which wheel says what lies opposite. */
function WheelChoice() {
  const { view, changes } = useBench();
  const asked = useChoices()?.schools.find((q) => q.question === "wheel");
  if (!asked) return null;
  const { intent } = view.piece;
  const { wheel: chosen = asked.usual, ...rest } = intent.schools;
  const choose = (school: string) => {
    const next = asked.answers.find((a) => a.school === school)?.school;
    if (!next) return;
    const schools = next === asked.usual ? rest : { ...intent.schools, wheel: next };
    changes.request({ do: "set-intent", intent: { ...intent, schools } });
  };
  return (
    <NativeSelect
      label="Opposites by"
      value={chosen}
      data={asked.answers.map((a) => ({ value: a.school, label: a.label }))}
      onChange={(e) => choose(e.currentTarget.value)}
    />
  );
}

/** The best opposites in the Box with the grey each pair gives, greyest first. */
function Threads({ threads }: { threads: Schemas["Thread"][] }) {
  const { box } = useBench();
  const { look } = useLooking();
  const ground = useGround();
  const name = (id: string) => box?.pigments.find((p) => p.id === id)?.name ?? id;
  return (
    <ul className={styles.threads} aria-label="What greys what">
      {threads.slice(0, 8).map((t) => (
        <li key={`${t.one} ${t.other}`}>
          <Stroke marks={[t.grey]} ground={ground} height={22} look={look} />
          <span>
            {capital(name(t.one))} and {name(t.other)}
            <small>{t.recipe}</small>
          </span>
        </li>
      ))}
    </ul>
  );
}

function Typed({ onTyped }: { onTyped: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <form
      className={styles.typed}
      onSubmit={(e) => {
        e.preventDefault();
        if (!text.trim()) return;
        onTyped(text);
        setText("");
        (document.activeElement as HTMLElement | null)?.blur();
      }}
    >
      <TextInput
        id="typed-colour"
        label="Type a colour"
        placeholder="dull blue green · #33aa66 · 60 20 -10"
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
      />
    </form>
  );
}
