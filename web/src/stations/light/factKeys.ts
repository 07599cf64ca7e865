import type { Schemas } from "../../api/client";
import { DISTANCES, KINDS, PLANES, ROLES, type Word } from "../../api/words";

/** The key that gives a zone its part in the light. */
export const ROLE_KEYS: Record<Schemas["Role"], string> = {
  lit: "l",
  halftone: "h",
  shadow: "d",
  reflected: "t",
  contact: "c",
  highlight: "g",
  "self-luminous": "o",
};

/** What is said of a zone after a key of the light station, or nothing for another key. A list ends with nothing said. */
export function factsAfter(facts: Schemas["Facts"], key: string): Schemas["Facts"] | null {
  const role = ROLES.find((r) => ROLE_KEYS[r.value] === key)?.value;
  if (role) return { ...facts, role: facts.role === role ? null : role };
  if (key === "p") return { ...facts, plane: after(PLANES, facts.plane) };
  if (key === "a") return { ...facts, distance: after(DISTANCES, facts.distance) };
  if (key === "y") return { ...facts, kind: after(KINDS, facts.kind) };
  if (key === "e") return { ...facts, light: facts.light === "first" ? "second" : "first" };
  return null;
}

/** The one after this in a list, with nothing after the last. */
function after<T extends string>(list: Word<T>[], now: T | null | undefined): T | null {
  return list[list.findIndex((w) => w.value === now) + 1]?.value ?? null;
}
