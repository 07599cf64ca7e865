import type { PigmentView } from "../api/client";

/** Where the numbers of a pigment come from, in a word; nothing of what is only modelled, which is said of the whole Box. */
export function known(p: PigmentView): string {
  const from = { modelled: "", given: "as given", measured: "measured", inferred: "inferred" }[p.provenance];
  const away = p.owned.used_up ? "used up" : p.owned.lent_to ? "lent" : "";
  return [from, away].filter(Boolean).join(", ");
}

/** The same in a sentence. */
export function knownWords(p: PigmentView): string {
  const doubt = p.doubt == null ? "" : `, give or take ${p.doubt.toFixed(1)}`;
  return {
    modelled: "Modelled, not measured.",
    given: "As given in a pigment file.",
    measured: `Measured: learned from spectra of your own${doubt}.`,
    inferred: `Inferred from colours alone${doubt}: its spectrum is one of many, and says nothing about other lamps.`,
  }[p.provenance];
}
