import { NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api, Refused, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { media, mediumName } from "../../bench/stations";
import { Acts } from "../../kit/Section";
import { useStudio } from "../../lenses/stroke/useGround";
import { paperHere } from "../../room/paper";
import { type Room, useRoom } from "../../room/useRoom";
import { dayWord, shortDay } from "../piece/lasting";
import { DemoProgress } from "./DemoProgress";
import { Due } from "./Due";
import { Ended } from "./Ended";
import { ExampleRun } from "./ExampleRun";
import { FirstDrop } from "./FirstDrop";
import { PlayedReadings } from "./PlayedReadings";
import styles from "./Studio.module.css";
import { VisitDemo } from "./VisitDemo";

/** The door: pieces to go on with, and a new one. */
export function Studio() {
  const studio = useStudio();
  const [room, nextRoom] = useRoom();
  const [ended, setEnded] = useState<Schemas["Ended"] | null>(null);
  const { tell } = useNotice();
  useEffect(() => {
    document.title = "Lean Swatch";
  }, []);
  const quit = () => answer(api.POST("/api/quit")).then(setEnded, tell);
  if (ended) return <Ended data={ended.data} />;
  return (
    <main className={styles.studio}>
      <header className={styles.bar}>
        <h1>Lean Swatch</h1>
        <nav aria-label="The studio">
          <Link to="/journal">Journal</Link>
          <Link to="/match">Match a colour</Link>
          <Link to="/drills">Drills</Link>
          <Link to="/field">Field notes</Link>
          <Link to="/keeping">Backups</Link>
          <Link to="/guide/start">Guide</Link>
          <button type="button" className="plain" onClick={nextRoom}>
            Background: {GREYS[room]}
          </button>
          {studio.data?.can_quit && (
            <button type="button" className="plain" onClick={quit}>
              Quit
            </button>
          )}
        </nav>
      </header>
      <section aria-label="Pieces" className={styles.pieces}>
        {studio.data?.home && (
          <p className={styles.visiting}>
            <span>This is the demo studio. Nothing done here touches your own.</span>
            <a className="act main" href={studio.data.home}>
              Back to my studio
            </a>
          </p>
        )}
        <DemoProgress />
        {studio.data?.troubles.map((t) => (
          <p key={t} className={styles.damaged} role="alert">
            {t} <Link to="/keeping">Backups</Link>
          </p>
        ))}
        <PlayedReadings of={studio.data?.played ?? []} />
        {studio.data?.earlier_data && (
          <p className={styles.visiting}>
            <span>
              Your data file was made by an earlier version and is up to date now. A copy as it was is kept:{" "}
              {studio.data.earlier_data}
            </span>
          </p>
        )}
        <h2 className="out-of-sight">Pieces</h2>
        {studio.isError && (
          <p role="alert">
            {studio.error instanceof Refused ? studio.error.problem.detail : "The server does not answer."}
          </p>
        )}
        {studio.data?.pieces.length === 0 && (
          <>
            <p>Nothing here yet. Drop a picture under “A new piece”: the next step is always shown.</p>
            {studio.data.demo && <VisitDemo main />}
            <ExampleRun />
          </>
        )}
        <PieceList of={studio.data?.pieces.filter((p) => !p.ended) ?? []} strips />
        <Finished of={studio.data?.pieces.filter((p) => p.ended) ?? []} />
        {studio.data?.damaged.map((d) => (
          <DamagedRecord key={`${d.what}${d.id}`} record={d} />
        ))}
      </section>
      <aside className={styles.rail}>
        <NewPiece />
        <Due />
        {studio.data?.demo && studio.data.pieces.length > 0 && <VisitDemo />}
      </aside>
    </main>
  );
}

type Line = Schemas["PieceLine"];
type Medium = Schemas["Medium"];

/** Pieces, in strips of what there is of each: the reference, the plan, two studies. */
function PieceList({ of, strips = false }: { of: Line[]; strips?: boolean }) {
  return (
    <ul className={strips ? styles.strips : styles.list}>
      {of.map((p) => (
        <li key={p.id}>
          <Link to={`/pieces/${p.id}/${p.studies ? "studies" : "subject"}`}>
            <span className={styles.title}>
              <b>{p.title}</b>
              <span>
                {mediumName(p.medium)} · {p.zones ? `${p.zones} zones` : "no picture yet"}
                {p.studies ? ` · ${p.studies} studies` : ""}
                {p.due ? ` · due ${shortDay(p.due)}` : ""} ·{" "}
                {p.ended ? dayWord(p.ended, "long") : new Date(p.changed).toLocaleDateString(undefined, LONG)}
              </span>
            </span>
            <span className={styles.strip}>
              {p.has_reference && <Shown src={`/api/pieces/${p.id}/reference/view`} of="reference" />}
              {strips && p.zones > 0 && <Shown src={`/api/pieces/${p.id}/planned/view?of=${p.changed}`} of="plan" />}
              {strips &&
                [1, 2]
                  .slice(0, p.studies)
                  .map((n) => (
                    <Shown
                      key={n}
                      src={`/api/pieces/${p.id}/painted?study=${n}&width=320&of=${p.changed}`}
                      of={`study ${n}`}
                    />
                  ))}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function Shown({ src, of }: { src: string; of: string }) {
  return (
    <span>
      <img src={src} alt="" loading="lazy" />
      <small>{of}</small>
    </span>
  );
}

const LONG: Intl.DateTimeFormatOptions = { day: "numeric", month: "long", year: "numeric" };
/** The name of the grey of each room. */
const GREYS: Record<Room, string> = { middle: "mid grey", dark: "dark grey", light: "light grey" };
/** Finished pieces shown at once; the journal has them all. */
const LATEST = 4;

/** What came out lately, the newest first. */
function Finished({ of }: { of: Line[] }) {
  if (!of.length) return null;
  const latest = [...of].sort((a, b) => (b.ended ?? "").localeCompare(a.ended ?? "")).slice(0, LATEST);
  return (
    <section aria-label="Finished" className={styles.finished}>
      <h2>Finished</h2>
      <PieceList of={latest} />
      {of.length > LATEST && (
        <p>
          <Link to="/journal">{of.length - LATEST} more are in the journal</Link>
        </p>
      )}
    </section>
  );
}

const NAMES: Record<Schemas["RecordKind"], string> = {
  piece: "piece",
  box: "Box",
  "field-note": "field note",
  reading: "reading",
  ground: "ground",
  answer: "answer of a drill",
  device: "paired device",
};

/** A record that cannot be read: saved as it is, then put aside. The rest of the studio goes on. */
function DamagedRecord({ record }: { record: Schemas["DamagedLine"] }) {
  const queries = useQueryClient();
  const { tell } = useNotice();
  const path = { what: record.what, id: record.id };
  const name = NAMES[record.what];
  const putAside = () =>
    answer(api.DELETE("/api/damaged/{what}/{id}", { params: { path } }))
      .then(() => queries.invalidateQueries({ queryKey: ["studio"] }))
      .catch((e) => tell(e));
  return (
    <section className={styles.damaged} aria-label="A damaged record">
      <p>
        The {name} with the number {record.id} cannot be read ({record.why}). The rest of the studio goes on. Save its
        record before you put it aside: it stays in the data file either way.
      </p>
      <Acts>
        <a
          className="act"
          href={`/api/damaged/${record.what}/${record.id}`}
          download={`${record.what}-${record.id}.json`}
        >
          Save its record
        </a>
        <button type="button" className="act" onClick={putAside}>
          Put it aside
        </button>
      </Acts>
    </section>
  );
}

function NewPiece() {
  const [title, setTitle] = useState("");
  const [medium, setMedium] = useState(() => (localStorage.getItem("medium") as Medium | null) ?? "soft-pastel");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { tell } = useNotice();
  const ground = useStudio().data?.grounds.find((g) => g.suits.includes(medium))?.id;
  const make = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/pieces", {
          body: {
            brief: { title, medium, ground: ground ?? "", size: { width: 400, height: 300 } },
            page: paperHere(),
          },
        }),
      ),
    onSuccess: (piece) => {
      queries.invalidateQueries({ queryKey: ["studio"] });
      navigate(`/pieces/${piece.id}/subject`);
    },
    onError: (e) => tell(e),
  });
  return (
    <section aria-label="A new piece" className={styles.first}>
      <h2>A new piece</h2>
      <NativeSelect
        label="Medium"
        value={medium}
        onChange={(e) => {
          localStorage.setItem("medium", e.currentTarget.value);
          setMedium(e.currentTarget.value as Medium);
        }}
        data={media}
      />
      <FirstDrop medium={medium} ground={ground} />
      <form
        onSubmit={(e) => {
          e.preventDefault();
          make.mutate();
        }}
      >
        <TextInput
          label="Or begin without a picture: its title"
          value={title}
          onChange={(e) => setTitle(e.currentTarget.value)}
          maxLength={80}
          required
          id="new-title"
        />
        <button type="submit" className="act" disabled={make.isPending || !ground}>
          Start
        </button>
      </form>
      <p className={styles.hint}>
        Ground, size and Box can be chosen in its brief. Everything saves itself on this machine.
      </p>
    </section>
  );
}
