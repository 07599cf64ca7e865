import type { Schemas } from "../../api/client";

/** Grounds offered for each medium, the usual one first. */
export const GROUNDS_OF: Record<Schemas["Medium"], string[]> = {
  "soft-pastel": ["sanded-warm-grey", "sanded-umber", "laid-cool-grey", "paper-white"],
  oil: ["panel-white", "panel-ochre", "panel-grey"],
};
