import { NativeSelect } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api } from "../../api/client";
import type { EntryView } from "../../api/useJournal";
import { OUTCOMES } from "../../api/words";
import { useNotice } from "../../bench/notice";
import { mediumName } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Card, Facts, Note, Section } from "../../kit/Section";
import { useStudio } from "../../lenses/stroke/useGround";
import { figure } from "../../room/figures";
import { dayWord, minutesWord } from "../piece/lasting";
import { CARRIED } from "./ColourWell";
import styles from "./Journal.module.css";
import { css, Shown } from "./Tile";

type Ask = (change: Record<string, string | null>) => void;

/** One entry in full: what was said of it, what is in it, and what can be done with it. */
export function EntryCard({
  of,
  picked,
  onPick,
  onAsk,
}: {
  of: EntryView;
  picked: boolean;
  onPick?: () => void;
  onAsk: Ask;
}) {
  const { entry } = of;
  const { occasion } = entry;
  const seen = [occasion.at && when(occasion.at), occasion.weather, occasion.light].filter(Boolean).join(", ");
  return (
    <Card>
      <h2>{entry.of}</h2>
      <div className={styles.large}>
        <Shown of={of} />
      </div>
      {of.painted && <Note>planned on the left, painted on the right</Note>}
      <p>
        {entry.title}, {dayWord(entry.on, "long")}
      </p>
      {entry.words && <p className={styles.words}>{entry.words}</p>}
      <Facts
        of={[
          ["Seen", seen],
          ["Subject", occasion.subject],
          ["In", entry.medium ? mediumName(entry.medium) : ""],
          ["On", entry.ground],
          ["Came out", OUTCOMES.find((o) => o.value === entry.outcome)?.label ?? ""],
          ["Took", entry.minutes ? minutesWord(entry.minutes) : ""],
          ["Off by", entry.miss !== null && entry.miss !== undefined ? `${figure(entry.miss, 1)} (CIEDE2000)` : ""],
        ]}
      />
      {of.colours.length > 0 && (
        <Section title="Colours">
          <div className={styles.colours}>
            {of.colours.map((c, i) => {
              const lab = `${c.lab.l.toFixed(1)},${c.lab.a.toFixed(1)},${c.lab.b.toFixed(1)}`;
              return (
                <button
                  key={`${i}-${lab}`}
                  type="button"
                  draggable
                  style={{ background: css(c.srgb) }}
                  aria-label={`Find colours like number ${i + 1}: ${lab}`}
                  title="Find its like"
                  onDragStart={(e) => e.dataTransfer.setData(CARRIED, lab)}
                  onClick={() => onAsk({ colour: lab })}
                />
              );
            })}
          </div>
        </Section>
      )}
      {entry.pigments.length > 0 && (
        <Section title={entry.kind === "trial" || entry.kind === "reading" ? "Made of" : "Its set"}>
          <ul className={styles.pigments}>
            {entry.pigments.map((p) => (
              <li key={p.pigment}>
                <button type="button" className="plain" onClick={() => onAsk({ pigment: p.pigment })}>
                  {p.name}
                </button>
                {p.share !== null && p.share !== undefined && (
                  <span className="figures">{Math.round(p.share * 100)} %</span>
                )}
              </li>
            ))}
          </ul>
        </Section>
      )}
      <Doing of={of} picked={picked} onPick={onPick} />
    </Card>
  );
}

const when = (at: string) =>
  at.length > 10
    ? new Date(at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })
    : dayWord(at, "medium");

/** What can be done with an entry: go there, begin a piece from it, lend its set, set it aside. */
function Doing({ of, picked, onPick }: { of: EntryView; picked: boolean; onPick?: () => void }) {
  const { entry, source } = of;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotice();
  if (source.kind === "note") return <Link to={`/field/${source.id}`}>Open the note</Link>;
  if (source.kind === "reading") return null;
  const id = source.id;
  const begin = () =>
    answer(
      api.POST("/api/pieces/{id}/studies/{number}/piece", { params: { path: { id, number: entry.number } } }),
    ).then((next) => {
      queries.invalidateQueries({ queryKey: ["studio"] });
      navigate(`/pieces/${next.id}/subject`);
    }, tell);
  const study = entry.kind === "study" ? entry.number : null;
  return (
    <>
      <Acts>
        {entry.kind === "study" && (
          <Act main onDo={begin}>
            Begin a piece from it
          </Act>
        )}
        {onPick && (
          <Act pressed={picked} onDo={onPick}>
            {picked ? "Set aside ✓" : "Set aside"}
          </Act>
        )}
      </Acts>
      {(entry.kind === "study" || entry.kind === "piece" || entry.kind === "set") && (
        <Lending piece={id} study={study} medium={entry.medium} />
      )}
      <Link to={`/pieces/${id}/${entry.kind === "study" ? "studies" : "piece"}`}>Open the piece</Link>
    </>
  );
}

function Lending({ piece, study, medium }: { piece: number; study: number | null; medium?: string | null }) {
  const studio = useStudio();
  const { say, tell } = useNotice();
  const queries = useQueryClient();
  const [to, setTo] = useState("");
  const others = studio.data?.pieces.filter((p) => p.medium === medium && p.id !== piece && !p.ended) ?? [];
  if (!others.length) return null;
  const lend = (id: number, title: string) =>
    answer(api.POST("/api/pieces/{id}/lent-set", { params: { path: { id } }, body: { piece, study } })).then(
      () => {
        queries.invalidateQueries({ queryKey: ["piece", id] });
        say(`"${title}" uses this set now. It can be undone there.`);
      },
      (e) => tell(e),
    );
  const chosen = others.find((p) => String(p.id) === to);
  return (
    <div className={styles.lending}>
      <NativeSelect
        size="xs"
        label="Lend its set to"
        value={to}
        data={[
          { value: "", label: "a piece in work" },
          ...others.map((p) => ({ value: String(p.id), label: p.title })),
        ]}
        onChange={(e) => setTo(e.currentTarget.value)}
      />
      {chosen && <Act onDo={() => lend(chosen.id, chosen.title)}>Lend it</Act>}
    </div>
  );
}
