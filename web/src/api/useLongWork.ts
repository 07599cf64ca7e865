import { useCallback, useEffect, useRef, useState } from "react";
import { useNotice } from "../bench/notice";
import { api, type JobView } from "./client";
import { followed } from "./following";

/** How work ends for a page: `after` brings in what came of it; what is `kept` is shown on, else the page forgets it then. */
type End = { after: (ended: JobView | null) => Promise<unknown>; kept: boolean };

/** Starts long work, follows its progress and can call it off. Leaving the page does not stop the work. `end` must stay the same from draw to draw. */
export function useLongWork(end: End) {
  const [job, setJob] = useState<JobView | null>(null);
  const stop = useRef(() => {});
  const { say, tell } = useNotice();
  const stopListening = useCallback(() => stop.current(), []);
  useEffect(() => stopListening, [stopListening]);

  const start = useCallback(
    async (call: () => Promise<JobView>) => {
      try {
        const started = await call();
        stopListening();
        setJob(started);
        const own = followed(started.id, setJob);
        stop.current = own.stop;
        const ended = await own.ended;
        if (end.kept) setJob(ended);
        if (ended.problem) {
          say(ended.problem.detail, ended.problem.type.endsWith("cancelled") ? "done" : "problem");
        }
        // The work is not over for this page until it has what came of it: a change made in between would meet a newer revision.
        await end.after(ended);
        if (!end.kept) setJob((now) => (now?.id === started.id ? null : now));
        return ended;
      } catch (e) {
        setJob(null);
        tell(e);
        await end.after(null);
      }
    },
    [end, say, stopListening, tell],
  );

  const cancel = useCallback(() => {
    if (job) api.DELETE("/api/jobs/{id}", { params: { path: { id: job.id } } });
  }, [job]);

  return { job, running: !!job && !job.finished, start, cancel };
}
