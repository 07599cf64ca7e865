import { useEffect, useState } from "react";
import type { Schemas } from "../../../api/client";
import { useBench, useSelection } from "../../../bench/context";

/** Turns and changes by key: hue in degrees, chroma. */
const TURN = 10;
const FINE = 2;
const STRONGER = 4;

/** The zones that are coloured together, what a colour does to them, and the keys for it. */
export function useColour() {
  const bench = useBench();
  const { view, changes, box } = bench;
  const { zone } = useSelection();
  const [group, setGroup] = useState<number[]>([]);
  const [local, setLocal] = useState(false);
  const [tried, setTried] = useState(-1);
  const there = group.filter((g) => view.piece.zones.some((z) => z.id === g));
  const zones = [...new Set([...(zone === null ? [] : [zone]), ...there])];
  const colour = (how: Schemas["Colouring"], of = zones) => {
    if (of.length) changes.request({ do: "colour", zones: of, how, local });
  };
  const toggle = (z: number) => setGroup((g) => (g.includes(z) ? g.filter((x) => x !== z) : [...g, z]));
  const pigments = (box?.pigments ?? []).filter((p) => !p.white);
  const nextPigment = (by: number) => {
    if (!pigments.length) return;
    const next = (tried + by + pigments.length) % pigments.length;
    setTried(next);
    colour({ by: "pigment", pigment: pigments[next].id });
  };
  const keys: Record<string, () => void> = {
    h: () => colour({ by: "turn", hue: TURN, chroma: 0 }),
    H: () => colour({ by: "turn", hue: -TURN, chroma: 0 }),
    b: () => colour({ by: "turn", hue: FINE, chroma: 0 }),
    B: () => colour({ by: "turn", hue: -FINE, chroma: 0 }),
    c: () => colour({ by: "turn", hue: 0, chroma: STRONGER }),
    C: () => colour({ by: "turn", hue: 0, chroma: -STRONGER }),
    p: () => nextPigment(1),
    P: () => nextPigment(-1),
    o: () => colour({ by: "as-read" }),
    l: () => setLocal((on) => !on),
    x: () => zone !== null && toggle(zone),
    y: () => document.getElementById("typed-colour")?.focus(),
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const t = e.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName) || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented)
        return;
      if (document.querySelector("[role=dialog]")) return;
      const act = keys[e.key];
      if (!act) return;
      e.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });
  return { zones, group: there, toggle, clear: () => setGroup([]), colour, local, setLocal, pigments };
}
