import { FileButton } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { answer, api } from "../../api/client";
import { useStudioWork } from "../../api/useJournal";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import { Acts, Facts, Note, Section, Warning } from "../../kit/Section";
import { figure } from "../../room/figures";
import { Devices } from "./Devices";
import styles from "./Keeping.module.css";

const megabytes = (bytes: number) => `${figure(bytes / 1e6, 1)} MB`;

/** Where everything lies, and how it is kept: backups, the archive, the check. */
export function Keeping() {
  const queries = useQueryClient();
  const { say, tell } = useNotice();
  const keeping = useQuery({ queryKey: ["keeping"], queryFn: () => answer(api.GET("/api/keeping")) }).data;
  const work = useStudioWork();
  const [leftOut, setLeftOut] = useState<string[]>([]);
  useEffect(() => {
    document.title = "Backups · Lean Swatch";
  }, []);
  const backUp = () =>
    answer(api.POST("/api/keeping/backup")).then((now) => {
      queries.setQueryData(["keeping"], now);
      say("Today's backup is there.");
    }, tell);
  const readArchive = async (file: File | null) => {
    if (!file) return;
    const response = await fetch("/api/archive", { method: "PUT", body: file });
    const body = await response.json();
    if (!response.ok) return say(body.detail, "problem");
    queries.invalidateQueries();
    setLeftOut(body.left_out);
    if (body.left_out.length)
      return say("The archive was read, but not all of it is here: what is missing is named below.", "problem");
    say("The archive was read. Everything in it is here.");
  };
  if (!keeping) return null;
  const checked = work.job?.checked;
  const missing = leftOut.length ? leftOut : keeping.left_out;
  return (
    <main className={styles.keeping}>
      <header>
        <h1>Backups</h1>
        <p>
          <Link to="/">The studio</Link>
        </p>
      </header>
      <Facts
        of={[
          ["Data file", keeping.data ?? "in memory only: nothing of it stays"],
          ["Size", keeping.data ? megabytes(keeping.bytes) : ""],
        ]}
      />
      <Section level={2} title="Backups">
        {keeping.not_backed_up && <Warning>No backup was made. {keeping.not_backed_up}</Warning>}
        <Note>One a day by itself, and one before a later version changes the file; the last {keeping.kept} stay.</Note>
        {keeping.backups.length > 0 && (
          <ul>
            {keeping.backups.map((b) => (
              <li key={b.file}>
                {b.file} <span className="figures">{megabytes(b.bytes)}</span>
              </li>
            ))}
          </ul>
        )}
        <Acts>
          <Act onDo={backUp}>Back up now</Act>
        </Acts>
        <Note>
          To go back to one, stop the program and type: <code className="figures">lean-swatch restore BACKUP</code>.
          What was there is kept.
        </Note>
      </Section>
      <Section level={2} title="Archive">
        <Note>
          Everything with its pictures as one JSON text that other programs can read, and that comes back bit for bit.
        </Note>
        <Acts>
          <a className="act" href="/api/archive" download>
            Save the archive
          </a>
          {keeping.empty && (
            <FileButton accept="application/json" onChange={readArchive}>
              {(props) => (
                <button type="button" className="act" {...props}>
                  Read an archive
                </button>
              )}
            </FileButton>
          )}
        </Acts>
        {!keeping.empty && (
          <Note>
            An archive is read into an empty studio only:{" "}
            <code className="figures">lean-swatch import ARCHIVE --data NEW-FILE</code>.
          </Note>
        )}
      </Section>
      {(missing.length > 0 || keeping.damaged_files.length > 0) && (
        <Section level={2} title="What is damaged or missing">
          {missing.map((m) => (
            <Warning key={m}>{m}</Warning>
          ))}
          {keeping.damaged_files.length > 0 && (
            <>
              <Note>
                Damaged data files are kept as they were. Nothing deletes them; remove one by hand once you miss
                nothing.
              </Note>
              <ul>
                {keeping.damaged_files.map((b) => (
                  <li key={b.file}>
                    {b.file} <span className="figures">{megabytes(b.bytes)}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </Section>
      )}
      <Devices />
      <Section level={2} title="Check the data file">
        <Acts>
          {work.running ? (
            <>
              <progress max={1} value={work.job?.share ?? 0} aria-label="Checking everything" />
              <Act onDo={work.cancel}>Stop</Act>
            </>
          ) : (
            <Act onDo={work.check}>Run a full check</Act>
          )}
        </Acts>
        {checked && (
          <p role="status">
            {checked.records} records, {checked.pictures} pictures and {checked.maps} maps were read:{" "}
            {checked.problems.length ? `${checked.problems.length} are not sound.` : "all of it is sound."}
          </p>
        )}
        {checked?.problems.map((p) => (
          <Warning key={p}>{p}</Warning>
        ))}
      </Section>
    </main>
  );
}
