import type { Schemas } from "../../api/client";

type Words<T extends string> = { value: T; label: string; key?: string }[];

export const ROLES: Words<Schemas["Role"]> = [
  { value: "lit", label: "lit", key: "l" },
  { value: "halftone", label: "halftone", key: "h" },
  { value: "shadow", label: "in shadow", key: "d" },
  { value: "reflected", label: "light thrown back", key: "t" },
  { value: "contact", label: "contact", key: "c" },
  { value: "highlight", label: "glint", key: "g" },
  { value: "self-luminous", label: "gives light itself", key: "o" },
];
export const PLANES: Words<Schemas["Plane"]> = [
  { value: "sky", label: "sky" },
  { value: "flat", label: "flat" },
  { value: "slanted", label: "slanted" },
  { value: "upright", label: "upright" },
];
export const DISTANCES: Words<Schemas["Distance"]> = [
  { value: "near", label: "near" },
  { value: "middle", label: "middle" },
  { value: "far", label: "far" },
];
export const KINDS: Words<Schemas["Kind"]> = [
  { value: "water", label: "water" },
  { value: "white", label: "a white thing" },
  { value: "dark", label: "a dark thing" },
  { value: "skin", label: "skin" },
  { value: "foliage", label: "leaves or grass" },
  { value: "fur", label: "hair, fur or feathers" },
  { value: "metal", label: "metal" },
  { value: "cloth", label: "cloth" },
  { value: "fruit", label: "fruit or flowers" },
];
export const TINTS: Words<Schemas["Tint"]> = [
  { value: "warm", label: "warm" },
  { value: "cool", label: "cool" },
  { value: "neutral", label: "neither" },
];
export const FROM: Words<Schemas["LampFrom"]> = [
  { value: "left", label: "the left" },
  { value: "right", label: "the right" },
  { value: "above", label: "above" },
  { value: "below", label: "below" },
  { value: "front", label: "the front" },
  { value: "behind", label: "behind" },
];
export const EXCEPTIONS: Words<Schemas["Exception"]> = [
  { value: "far-glow", label: "a glow far off" },
  { value: "snow", label: "snow or frost" },
  { value: "low-sun", label: "a low sun" },
  { value: "night", label: "night" },
  { value: "backlight", label: "light from behind" },
];
export const KEYS: Words<Schemas["Key"]> = [
  { value: "as-read", label: "as read" },
  { value: "full", label: "full" },
  { value: "high", label: "high" },
  { value: "low", label: "low" },
];

/** The one after this in a list, with nothing after the last. */
export function nextOf<T extends string>(list: Words<T>, now: T | null | undefined): T | null {
  const at = list.findIndex((w) => w.value === now);
  return list[at + 1]?.value ?? null;
}

export const wordOf = <T extends string>(list: Words<T>, value: T | null | undefined) =>
  list.find((w) => w.value === value)?.label;
