import type { Mix, Schemas } from "../../api/client";

type Part = Schemas["Part"];

/** What goes without saying of a layer where there is little room: a full crisp stroke, one coat. */
const USUAL = ["full", "crisp", "one coat"];

/** A recipe on one line: whole parts, or its layers, first laid first. */
export function recipeLine(mix: Mix, name: (id: string) => string): string {
  const part = (p: Part) => (p.touch ? `a touch of ${name(p.pigment)}` : `${p.parts} ${name(p.pigment)}`);
  const mixed = (of: Part[]) => of.map(part).join(" : ");
  if (!mix.parts.length) return "bare ground";
  if (mix.layers?.length) {
    return mix.layers
      .map((l) => {
        if (!l.of.length) return l.how;
        const what = l.of.length === 1 ? name(l.of[0].pigment) : mixed(l.of);
        const told = l.how.split(", ").filter((h) => !USUAL.includes(h));
        return told.length ? `${what}, ${told.join(" ").replace("rubbed in", "rubbed")}` : what;
      })
      .join(" > ");
  }
  if (mix.heaps?.length) return mix.heaps.map((h) => heapLine(h, name)).join(", of that ");
  return mix.parts.length === 1 ? `${name(mix.parts[0].pigment)} alone` : mixed(mix.parts);
}

/** From so many parts to one a thing is let down rather than mixed in parts. */
const LET_DOWN = 4;

/** One heap, "ultramarine 1:16 in white"; what is taken of the heap before stands first, as a bare number. */
export function heapLine({ of_last, with: of }: Schemas["Heap"], name: (id: string) => string): string {
  const [a, b] = of;
  if (of_last === 1 && of.length === 1 && a.parts >= LET_DOWN) return `1:${a.parts} in ${name(a.pigment)}`;
  if (of_last === 0 && of.length === 2 && Math.min(a.parts, b.parts) === 1 && Math.max(a.parts, b.parts) >= LET_DOWN) {
    const [strong, into] = a.parts === 1 ? [a, b] : [b, a];
    return `${name(strong.pigment)} 1:${into.parts} in ${name(into.pigment)}`;
  }
  return [...(of_last ? [`${of_last}`] : []), ...of.map((p) => `${p.parts} ${name(p.pigment)}`)].join(" : ");
}

/** What stands over a recipe. */
export function recipeHead(mix: Mix): string {
  if (!mix.parts.length) return "Bare";
  const layers = mix.layers?.reduce((n, l) => n + l.times, 0) ?? 0;
  if (layers) return layers === 1 ? "In one layer" : `In ${layers} layers`;
  if (mix.heaps?.length) return `In ${mix.heaps.length} heaps`;
  if (mix.parts.length === 1) return "Alone";
  return `In ${mix.parts.reduce((n, p) => n + (p.touch ? 0 : p.parts), 0)} parts`;
}
