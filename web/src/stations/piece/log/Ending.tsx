import { NativeSelect, Textarea } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { localNow } from "../../../api/useEasel";
import { OUTCOMES } from "../../../api/words";
import { useBench } from "../../../bench/context";
import { Act } from "../../../kit/Act";
import { Acts, Note, Section } from "../../../kit/Section";
import { dayWord } from "../lasting";

type Outcome = Schemas["Outcome"];

/** How the piece came out: it goes to the journal with what was learnt. */
export function EndingPart() {
  const { view, changes } = useBench();
  const { ending } = view.piece.easel;
  const [outcome, setOutcome] = useState<Outcome>(ending?.outcome ?? "as-hoped");
  const [words, setWords] = useState(ending?.words ?? "");
  const set = (next: Schemas["Ending"] | null) =>
    changes.requestNow((v) => ({ do: "set-easel", easel: { ...v.piece.easel, ending: next } }));
  if (ending) {
    return (
      <Section title="Finished">
        <p>
          {dayWord(ending.on, "long")}, it came out {OUTCOMES.find((o) => o.value === ending.outcome)?.label}.
        </p>
        {ending.words && <p>{ending.words}</p>}
        <Acts>
          <Act onDo={() => set(null)}>Work on it again</Act>
        </Acts>
      </Section>
    );
  }
  return (
    <Section title="Finished?">
      <NativeSelect
        label="It came out"
        value={outcome}
        data={OUTCOMES}
        onChange={(e) => setOutcome(e.currentTarget.value as Outcome)}
      />
      <Textarea
        label="What was learnt"
        value={words}
        maxLength={300}
        autosize
        minRows={2}
        onChange={(e) => setWords(e.currentTarget.value)}
      />
      <Acts>
        <Act onDo={() => set({ on: localNow().slice(0, 10), outcome, words: words.trim() })}>It is finished</Act>
      </Acts>
      <Note>It goes to the journal under today, and can be worked on again.</Note>
    </Section>
  );
}
