import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNotice } from "../bench/notice";
import { answer, api, type JobView, Refused, type Schemas } from "./client";
import { pieceKey } from "./usePiece";

/** Sends a file whose taking in is long work. */
async function sent(address: string, file: File): Promise<JobView> {
  const response = await fetch(`${address}?file_name=${encodeURIComponent(file.name)}`, {
    method: "PUT",
    body: file,
    headers: { "content-type": "application/octet-stream" },
  });
  const body = await response.json();
  if (!response.ok) throw new Refused(body);
  return body as JobView;
}

/** Starts long work for a piece, follows its progress and can call it off. Leaving the page does not stop the work. */
export function useJob(pieceId: number) {
  const [job, setJob] = useState<JobView | null>(null);
  const source = useRef<EventSource | null>(null);
  const queries = useQueryClient();
  const { say } = useNotice();

  const stopListening = useCallback(() => {
    source.current?.close();
    source.current = null;
  }, []);
  useEffect(() => stopListening, [stopListening]);

  const follow = useCallback(
    (id: number) => {
      stopListening();
      const events = new EventSource(`/api/jobs/${id}/events`);
      source.current = events;
      const read = (e: MessageEvent<string>) => JSON.parse(e.data) as JobView;
      events.addEventListener("progress", (e) => setJob(read(e)));
      events.addEventListener("done", (e) => {
        stopListening();
        const ended = read(e);
        // The work is not over for this page until it has what came of it: a change made in between would meet a newer revision.
        queries.invalidateQueries({ queryKey: pieceKey(pieceId) }).then(() => {
          setJob((now) => (now?.id === id ? null : now));
        });
        queries.invalidateQueries({ queryKey: ["ladder", pieceId] });
        queries.invalidateQueries({ queryKey: ["studio"] });
        if (ended.problem) {
          say(ended.problem.detail, ended.problem.type.endsWith("cancelled") ? "done" : "problem");
        }
      });
      events.onerror = () => {
        stopListening();
        setJob(null);
        queries.invalidateQueries({ queryKey: pieceKey(pieceId) });
      };
    },
    [pieceId, queries, say, stopListening],
  );

  const start = useCallback(
    async (call: () => Promise<JobView>) => {
      try {
        const started = await call();
        setJob(started);
        follow(started.id);
      } catch (e) {
        say(e instanceof Refused ? e.problem.detail : String(e), "problem");
      }
    },
    [follow, say],
  );

  const cancel = useCallback(() => {
    if (job) api.DELETE("/api/jobs/{id}", { params: { path: { id: job.id } } });
  }, [job]);

  const path = { id: pieceId };
  return {
    job,
    cancel,
    takeIn: (file: File) => start(() => sent(`/api/pieces/${pieceId}/reference`, file)),
    search: () => start(() => answer(api.POST("/api/pieces/{id}/search", { params: { path } }))),
    makeStudies: (kinds: Schemas["StudyKind"][]) =>
      start(() => answer(api.POST("/api/pieces/{id}/studies", { params: { path }, body: { kinds } }))),
    /** Makes a study of several hues anew with other shares. */
    moveShares: (number: number, hues: Schemas["HueShare"][]) =>
      start(() =>
        answer(
          api.POST("/api/pieces/{id}/studies/{number}/shares", {
            params: { path: { ...path, number } },
            body: { hues },
          }),
        ),
      ),
    /** Makes a study in the colours of another piece, or of one of its studies. */
    lend: (piece: number, study: number | null) =>
      start(() => answer(api.POST("/api/pieces/{id}/studies/lent", { params: { path }, body: { piece, study } }))),
    /** Makes a study in the colours of a picture. */
    lendPicture: (file: File) => start(() => sent(`/api/pieces/${pieceId}/studies/lent`, file)),
  };
}

export type Work = ReturnType<typeof useJob>;
