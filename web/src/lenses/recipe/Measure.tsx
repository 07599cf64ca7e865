import { useSyncExternalStore } from "react";
import type { Schemas } from "../../api/client";
import { figure, said } from "../../room/figures";
import styles from "./Recipe.module.css";

const KEPT = "lean-swatch-measure";
const watchers = new Set<() => void>();

const inMillilitres = () => localStorage.getItem(KEPT) === "ml";

function turn() {
  localStorage.setItem(KEPT, inMillilitres() ? "nuts" : "ml");
  for (const w of watchers) w();
}

function watch(again: () => void) {
  watchers.add(again);
  return () => watchers.delete(again);
}

/** How much paint, in peas and nuts or in millilitres, whichever the painter turned to last; all amounts turn together. */
export function Measure({ amount }: { amount: Schemas["Amount"] }) {
  const ml = useSyncExternalStore(watch, inMillilitres);
  return (
    <button type="button" className={styles.measure} title={ml ? "in peas and nuts" : "in millilitres"} onClick={turn}>
      {ml ? <span className="figures">{figure(amount.millilitres, 1)} ml</span> : said(amount.words)}
    </button>
  );
}
