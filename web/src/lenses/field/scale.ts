import type { Schemas } from "../../api/client";

export type Scale = {
  x: (temperature: number) => number;
  y: (value: number) => number;
  at: (x: number, y: number) => { value: number; temperature: number };
};

/** Where value and temperature lie in a field of this size. The neutral stands in the middle; the sides hold everything shown. */
export function scaleOf(width: number, height: number, derived: Schemas["Derived"]): Scale {
  const [left, right, top, bottom] = [34, width - 14, 20, height - 42];
  const shown = [
    ...derived.shapes.flatMap((s) => [s.target.temperature, s.reading.temperature]),
    ...derived.mixes.map((m) => m.given.temperature),
    ...derived.reach.flatMap((r) => [r.cool, r.warm]),
  ].map(Math.abs);
  // In tens, so that the scale does not creep while a mark is dragged.
  const span = Math.max(30, Math.ceil((Math.max(0, ...shown) * 1.12) / 10) * 10);
  const middle = (left + right) / 2;
  const half = (right - left) / 2;
  return {
    x: (t) => middle + (t / span) * half,
    y: (v) => bottom - (v / 10) * (bottom - top),
    at: (x, y) => ({
      value: Math.min(10, Math.max(0, ((bottom - y) / (bottom - top)) * 10)),
      temperature: Math.min(200, Math.max(-200, ((x - middle) / half) * span)),
    }),
  };
}
