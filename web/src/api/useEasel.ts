import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useBench } from "../bench/context";
import { answer, api, type Schemas } from "./client";

export type AtTheEasel = Schemas["AtTheEasel"];
export type TaskLine = Schemas["TaskLine"];
export type TaskId = Schemas["TaskId"];
export type Stage = Schemas["Stage"];

const two = (n: number) => String(n).padStart(2, "0");

/** This device's own time, as `2025-01-18T19:40`. */
export function localNow(): string {
  const d = new Date();
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`;
}

/** The time to the minute; it goes on by itself. */
export function useNow(): string {
  const [now, setNow] = useState(localNow);
  useEffect(() => {
    const timer = setInterval(() => setNow(localNow()), 10_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** What there is to do on this piece, and how it stands. What was shown stays until the next is there. */
export function useEasel() {
  const { view } = useBench();
  const now = useNow();
  return useQuery({
    queryKey: ["easel", view.id, view.revision, now],
    queryFn: () => answer(api.GET("/api/pieces/{id}/easel", { params: { path: { id: view.id }, query: { now } } })),
    placeholderData: (before) => before,
  });
}

/** One name for a task in lists and addresses. */
export const keyOf = (t: TaskId) => `${t.stage}.${t.zone ?? 0}.${t.layer}`;

export const sameTask = (a: TaskId | null | undefined, b: TaskId | null | undefined) =>
  !!a && !!b && keyOf(a) === keyOf(b);
