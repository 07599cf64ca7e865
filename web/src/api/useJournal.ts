import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNotice } from "../bench/notice";
import { answer, api, type JobView, Refused, type Schemas } from "./client";
import type { operations } from "./schema";

export type JournalSearch = NonNullable<operations["find_entries"]["parameters"]["query"]>;
export type EntryView = Schemas["EntryView"];
export type Plot = Schemas["Plot"];
export type SharedSet = Schemas["SharedSet"];

/** Entries of the journal that fit a search. What was found stays until the next answer is there. */
export const useEntries = (search: JournalSearch) =>
  useQuery({
    queryKey: ["journal", search],
    queryFn: () => answer(api.GET("/api/journal", { params: { query: search } })),
    placeholderData: keepPreviousData,
  });

/** What there is to choose from. */
export const useJournalChoices = () =>
  useQuery({ queryKey: ["journal-choices"], queryFn: () => answer(api.GET("/api/journal/choices")) });

/** What all entries together show. */
export const useLearnt = () =>
  useQuery({ queryKey: ["learnt"], queryFn: () => answer(api.GET("/api/journal/learnt")) });

/** Long work of the journal, that belongs to no one piece. */
export function useJournalWork() {
  const [job, setJob] = useState<JobView | null>(null);
  const source = useRef<EventSource | null>(null);
  const queries = useQueryClient();
  const { say } = useNotice();
  const end = useCallback(() => {
    source.current?.close();
    source.current = null;
  }, []);
  useEffect(() => end, [end]);
  const start = useCallback(
    async (call: () => Promise<JobView>) => {
      try {
        const started = await call();
        end();
        setJob(started);
        const events = new EventSource(`/api/jobs/${started.id}/events`);
        source.current = events;
        events.addEventListener("progress", (e) => setJob(JSON.parse(e.data)));
        events.addEventListener("done", (e) => {
          end();
          const ended = JSON.parse(e.data) as JobView;
          setJob(ended);
          queries.invalidateQueries({ queryKey: ["learnt"] });
          if (ended.problem) {
            say(ended.problem.detail, ended.problem.type.endsWith("cancelled") ? "done" : "problem");
          }
        });
        events.onerror = () => {
          end();
          setJob(null);
          say("Lean Swatch does not answer. Start the work again once it does.", "problem");
        };
      } catch (e) {
        say(e instanceof Refused ? e.problem.detail : String(e), "problem");
      }
    },
    [end, queries, say],
  );
  const cancel = () => job && api.DELETE("/api/jobs/{id}", { params: { path: { id: job.id } } });
  return {
    job,
    running: !!job && !job.finished,
    cancel,
    check: () => start(() => answer(api.POST("/api/keeping/check"))),
    measure: () => start(() => answer(api.POST("/api/journal/measure"))),
    oneSet: (pieces: number[], without: string[] = []) =>
      start(() => answer(api.POST("/api/journal/one-set", { body: { pieces, without } }))),
  };
}
