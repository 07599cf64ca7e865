import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import { useStudioWork } from "../../api/useJournal";
import { Act } from "../../kit/Act";
import { Acts, Note, Section } from "../../kit/Section";
import { SharedSets } from "./SharedSets";
import type { PickedSet } from "./usePicked";

const PAPERS = [
  { value: "a4", label: "A4" },
  { value: "a5", label: "A5" },
  { value: "a3", label: "A3" },
  { value: "letter", label: "Letter" },
];

/** What was set aside: printed as a booklet, or served by one set. Nothing is shown while nothing is. */
export function Picked({ picked }: { picked: PickedSet }) {
  const [paper, setPaper] = useState("a4");
  const work = useStudioWork();
  if (!picked.all.length) return null;
  const studies = picked.all.filter((p) => p.study !== null);
  const pieces = [...new Set(picked.all.map((p) => p.piece))];
  const booklet = `/api/journal/booklet.pdf?page=${paper}&of=${studies.map((s) => `${s.piece}:${s.study}`).join(",")}`;
  return (
    <Section title="Set aside">
      <ul>
        {picked.all.map((p) => (
          <li key={`${p.piece}-${p.study}`}>
            {p.title}
            {p.study !== null && `, study ${p.study}`}
          </li>
        ))}
      </ul>
      {studies.length > 0 && (
        <>
          <NativeSelect
            size="xs"
            label="Paper of the booklet"
            value={paper}
            data={PAPERS}
            onChange={(e) => setPaper(e.currentTarget.value)}
          />
          <a className="act" href={booklet} target="_blank" rel="noreferrer">
            Booklet of {studies.length} {studies.length === 1 ? "study" : "studies"} (PDF)
          </a>
        </>
      )}
      <Acts>
        <Act onDo={() => work.oneSet(pieces)} disabled={work.running}>
          One set for {pieces.length === 1 ? "this piece" : `these ${pieces.length} pieces`}
        </Act>
        <Act onDo={picked.none}>Put all back</Act>
      </Acts>
      {work.running && (
        <>
          <progress max={1} value={work.job?.share ?? 0} aria-label="Looking for one set" />
          <Act onDo={work.cancel}>Stop</Act>
        </>
      )}
      {work.job?.finished && !work.job.problem && <SharedSets of={work.job.shared} />}
      {pieces.length === 1 && <Note>Set more aside to find one set for a journey or a series.</Note>}
    </Section>
  );
}
