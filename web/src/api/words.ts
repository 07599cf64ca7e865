import type { Schemas } from "./client";
import WORDS from "./words.json";

export type Word<T> = { value: T; label: string };

/** Families of hue, as the core calls them. */
export const HUES = WORDS.hues as Word<Schemas["HueFamily"]>[];

/** How a piece can come out. */
export const OUTCOMES = WORDS.outcomes as Word<Schemas["Outcome"]>[];

/** Parts a zone can play in the light, and the family each belongs to. */
export const ROLES = WORDS.roles as (Word<Schemas["Role"]> & { family: "lit" | "shadow" | null })[];

/** How a zone faces the sky. */
export const PLANES = WORDS.planes as Word<Schemas["Plane"]>[];

/** How far off a zone is. */
export const DISTANCES = WORDS.distances as Word<Schemas["Distance"]>[];

/** What a zone is, where that matters for its colour. */
export const KINDS = WORDS.kinds as Word<Schemas["Kind"]>[];

/** Warm or cool, of a lamp. */
export const TINTS = WORDS.tints as Word<Schemas["Tint"]>[];

/** Where a lamp stands. */
export const LAMPS_FROM = WORDS.lamps_from as Word<Schemas["LampFrom"]>[];

/** What breaks the usual order of planes and distance. */
export const EXCEPTIONS = WORDS.exceptions as Word<Schemas["Exception"]>[];

/** Which part of the reachable range a piece lives in. */
export const KEYS = WORDS.keys as Word<Schemas["Key"]>[];
