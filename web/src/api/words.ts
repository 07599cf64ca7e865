import type { Schemas } from "./client";
import WORDS from "./words.json";

type Word<T> = { value: T; label: string };

/** Families of hue, as the core calls them. */
export const HUES = WORDS.hues as Word<Schemas["HueFamily"]>[];

/** How a piece can come out. */
export const OUTCOMES = WORDS.outcomes as Word<Schemas["Outcome"]>[];
