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

/** Seasons of a year. */
export const SEASONS = WORDS.seasons as Word<Schemas["Season"]>[];

/** Parts of a day, with their hours. */
export const DAY_TIMES = WORDS.day_times as Word<Schemas["DayTime"]>[];

/** What the journal keeps. */
export const ENTRY_KINDS = WORDS.entry_kinds as Word<Schemas["EntryKind"]>[];

/** How much a zone counts. */
export const IMPORTANCE = WORDS.importance as Word<Schemas["Importance"]>[];

/** What a reference is for. */
export const SERVES = WORDS.serves as Word<Schemas["Serves"]>[];

/** Planes a piece from nothing is made of. */
export const PLANE_KINDS = WORDS.plane_kinds as Word<Schemas["PlaneKind"]>[];

/** How a set is judged. */
export const MATCHING = WORDS.matching as Word<Schemas["Aim"]["matching"]>[];

/** How many panels hang together. */
export const PANELS = WORDS.panels as Word<Schemas["Panels"]>[];

/** Warm or cool, of a place in the field. */
export const SIDES = WORDS.sides as Word<Schemas["Side"]>[];

/** How a shape bulges. */
export const BULGES = WORDS.bulges as Word<Schemas["Bulge"]>[];

/** Test cards. */
export const CARD_KINDS = WORDS.card_kinds as Word<Schemas["CardKind"]>[];

/** Names of the amounts of one layer in a medium, the least first; none where a layer has no amount of its own. */
export const amounts = (medium: Schemas["Medium"]): string[] =>
  WORDS.media.find((m) => m.value === medium)?.amounts ?? [];
