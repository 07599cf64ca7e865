import { TextInput } from "@mantine/core";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Finding } from "../api/client";
import { said } from "../room/figures";
import { useBench } from "./context";
import styles from "./Findings.module.css";

/** One finding: what, why, which school, what would help, and how to answer it. */
export function FindingNote({ finding }: { finding: Finding }) {
  const { changes } = useBench();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const dismiss = () => changes.request({ do: "dismiss", dismissal: { finding: finding.key, reason } });
  return (
    <section className={styles.finding} aria-label={finding.title}>
      <h3>{finding.title}</h3>
      <p>
        {said(finding.why)} <i>School: {finding.school}.</i>
      </p>
      {!finding.suggestion && finding.help && <p>{said(finding.help)}</p>}
      {asking ? (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            dismiss();
          }}
        >
          <TextInput
            label="Why it stays (kept with the piece)"
            value={reason}
            onChange={(e) => setReason(e.currentTarget.value)}
            maxLength={200}
            data-autofocus
          />
          <button type="submit" className="act">
            Dismiss
          </button>
        </form>
      ) : (
        <p className={styles.acts}>
          {finding.suggestion && (
            <button
              type="button"
              className="act"
              onClick={() => finding.suggestion && changes.request(finding.suggestion)}
            >
              {said(finding.help)}
            </button>
          )}
          {finding.also.map((other) => (
            <button key={other.help} type="button" className="act" onClick={() => changes.request(other.request)}>
              {said(other.help)}
            </button>
          ))}
          <button type="button" className="act" onClick={() => setAsking(true)}>
            Dismiss
          </button>
        </p>
      )}
    </section>
  );
}

/** All findings of the piece, in the card. */
export function FindingsList() {
  const { view, changes } = useBench();
  const [, setSearch] = useSearchParams();
  const close = () =>
    setSearch((old) => {
      const next = new URLSearchParams(old);
      next.delete("findings");
      return next;
    });
  const answered = view.piece.dismissed.length;
  return (
    <div>
      <h2 className={styles.title}>Findings</h2>
      <p>Advice, never a lock.</p>
      {view.derived.findings.map((f) => (
        <FindingNote key={f.key} finding={f} />
      ))}
      {!view.derived.findings.length && <p className={styles.none}>No findings on this plan.</p>}
      <p className={styles.acts}>
        {answered > 0 && (
          <button type="button" className="act" onClick={() => changes.request({ do: "bring-back-findings" })}>
            Bring back {answered} answered
          </button>
        )}
        <button type="button" className="act" onClick={close}>
          Close
        </button>
      </p>
    </div>
  );
}
