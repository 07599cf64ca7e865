import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, api, type Schemas } from "./client";
import type { operations } from "./schema";
import { useLongWork } from "./useLongWork";

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
    // While the journal is still being made more comes in.
    refetchInterval: (query) => (query.state.data?.left ? 1000 : false),
  });

/** What there is to choose from. */
export const useJournalChoices = () =>
  useQuery({ queryKey: ["journal-choices"], queryFn: () => answer(api.GET("/api/journal/choices")) });

/** What all entries together show. */
export const useLearnt = () =>
  useQuery({ queryKey: ["learnt"], queryFn: () => answer(api.GET("/api/journal/learnt")) });

/** Long work that belongs to no one piece. */
export function useStudioWork() {
  const queries = useQueryClient();
  const end = useMemo(
    () => ({ kept: true, after: () => queries.invalidateQueries({ queryKey: ["learnt"] }) }),
    [queries],
  );
  const { job, running, cancel, start } = useLongWork(end);
  return {
    job,
    running,
    cancel,
    check: () => start(() => answer(api.POST("/api/keeping/check"))),
    measure: () => start(() => answer(api.POST("/api/journal/measure"))),
    oneSet: (pieces: number[], without: string[] = []) =>
      start(() => answer(api.POST("/api/journal/one-set", { body: { pieces, without } }))),
    /** Opens the demo studio; the work leads to its address. */
    visitDemo: () => start(() => answer(api.POST("/api/demo"))),
  };
}
