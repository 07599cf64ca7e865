import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";
import styles from "./notice.module.css";

type Kind = "done" | "problem";
type Notice = { text: string; kind: Kind; n: number };

const Context = createContext<{
  notice: Notice | null;
  say: (text: string, kind?: Kind) => void;
  /** Says what went wrong, in the words of whoever refused. */
  tell: (problem: unknown) => void;
  hush: () => void;
}>({
  notice: null,
  say: () => {},
  tell: () => {},
  hush: () => {},
});

export const useNotice = () => useContext(Context);

/** One calm line at a time: what was done or undone, or what was wrong and what to do. */
export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const say = useCallback(
    (text: string, kind: Kind = "done") => setNotice((old) => ({ text, kind, n: (old?.n ?? 0) + 1 })),
    [],
  );
  const tell = useCallback((e: unknown) => say(e instanceof Error ? e.message : String(e), "problem"), [say]);
  const hush = useCallback(() => setNotice(null), []);
  // What was done is gone after a while; a problem stays until it is read.
  useEffect(() => {
    if (notice?.kind !== "done") return;
    const timer = setTimeout(hush, 6000);
    return () => clearTimeout(timer);
  }, [notice, hush]);
  const value = useMemo(() => ({ notice, say, tell, hush }), [notice, say, tell, hush]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export function NoticeLine() {
  const { notice, hush } = useNotice();
  return (
    <div className={styles.place} role={notice?.kind === "problem" ? "alert" : "status"} data-notice={notice?.kind}>
      {notice && (
        <div className={styles.line} data-kind={notice.kind}>
          {notice.kind === "problem" && (
            <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
              <path d="M7 1 13 13H1Z" fill="none" stroke="currentColor" strokeWidth="1.6" />
              <path d="M7 5.2v4M7 10.4v1.2" stroke="currentColor" strokeWidth="1.6" />
            </svg>
          )}
          <span>{notice.text}</span>
          <button type="button" className="plain" onClick={hush} aria-label="Close this line">
            ×
          </button>
        </div>
      )}
    </div>
  );
}
