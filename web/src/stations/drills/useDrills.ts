import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../../api/client";
import { localNow } from "../../api/useEasel";

export type Question = Schemas["DrillQuestion"];
export type AskedQuestion = Schemas["AskedQuestion"];
export type Verdict = Schemas["Verdict"];
export type Given = Schemas["Given"];
export type Drill = Schemas["Drill"];

/** Which Box questions are made from, and whether hue is left out: remembered by this browser. */
export const remembered = {
  box: () => localStorage.getItem("drill-box") || undefined,
  withoutHue: () => localStorage.getItem("drill-without-hue") === "on",
};

export const today = () => localNow().slice(0, 10);

/** How the eye stands, and what comes next. */
export function useStandings(paint_box: string | undefined, without_hue: boolean) {
  return useQuery({
    queryKey: ["drills", paint_box, without_hue],
    queryFn: () => answer(api.GET("/api/drills", { params: { query: { on: today(), paint_box, without_hue } } })),
    retry: false,
  });
}

export const asked = (paint_box: string | undefined, without_hue: boolean, drill: Drill | undefined) =>
  answer(api.GET("/api/drills/question", { params: { query: { on: today(), paint_box, without_hue, drill } } }));

export const answered = (q: AskedQuestion, given: Given) =>
  answer(
    api.POST("/api/drills/answer", {
      body: {
        drill: q.question.drill,
        size: q.question.size,
        seed: q.question.seed,
        paint_box: q.paint_box,
        on: today(),
        given,
      },
    }),
  );
