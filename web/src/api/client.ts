import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type PieceView = Schemas["PieceView"];
export type Zone = Schemas["Zone"];
export type ZoneShape = Schemas["ZoneShape"];
export type ZoneMix = Schemas["ZoneMix"];
export type Mark = Schemas["Mark"];
export type Mix = Schemas["Mix"];
export type Finding = Schemas["Finding"];
export type Well = Schemas["Well"];
export type Request = Schemas["Request"];
export type JobView = Schemas["JobView"];
export type BoxView = Schemas["BoxView"];
export type PigmentView = Schemas["PigmentView"];
export type SetFound = Schemas["SetFound"];
export type Addition = Schemas["Addition"];
export type Problem = Schemas["Problem"];
export type StudioView = Schemas["StudioView"];
export type Study = Schemas["Study"];
export type StudyNote = Schemas["StudyNote"];
export type Preview = Schemas["Preview"];
export type StudyNumber = Schemas["StudyNumber"];
export type Srgb8 = Schemas["Srgb8"];

export const api = createClient<paths>({ baseUrl: "/" });

/** A refusal of the server in its own words. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const unreachable: Problem = {
  type: "/problems/unreachable",
  title: "The server does not answer",
  status: 0,
  detail:
    "Lean Swatch does not answer. Start it again; everything saved before is safe, and this page goes on by itself.",
};

/** The answer of a call, or the problem thrown. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let result: { data?: T; error?: unknown };
  try {
    result = await call;
  } catch {
    throw new Refused(unreachable);
  }
  if (result.error !== undefined) throw new Refused(asProblem(result.error));
  return result.data as T;
}

/** What a server says that is up but was asked something it does not know, as after an update. */
const unknown: Problem = {
  type: "/problems/not-understood",
  title: "The request was not understood",
  status: 400,
  detail: "The request was not understood and nothing was changed. Load the page anew and try again.",
};

export function asProblem(error: unknown): Problem {
  const p = error as Partial<Problem> | undefined;
  return p?.detail ? (p as Problem) : unknown;
}

export const hex = (c: Srgb8) => `rgb(${c.r} ${c.g} ${c.b})`;
