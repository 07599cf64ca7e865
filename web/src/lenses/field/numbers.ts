/** Width and height of a mark in pixels. */
export const W = 30;
export const H = 15;
/** Room of one figure of a number, and of its line. */
const FIGURE = { across: 8, down: 11 };

type Spot = { x: number; y: number };
type Box = { x0: number; x1: number; y0: number; y1: number };

/** Where a number stands that another mark would cover: pixels from the middle of its own to its base line. */
export type Aside = { right: number; down: number; anchor: "start" | "middle" | "end" };

const SIDES: Aside[] = [
  { right: -W / 2 - 4, down: 4, anchor: "end" },
  { right: W / 2 + 4, down: 4, anchor: "start" },
  { right: 0, down: -H / 2 - 4, anchor: "middle" },
  { right: 0, down: H / 2 + 12, anchor: "middle" },
];

const markBox = ({ x, y }: Spot): Box => ({
  x0: x - W / 2 - 1,
  x1: x + W / 2 + 1,
  y0: y - H / 2 - 1,
  y1: y + H / 2 + 1,
});

function textBox({ x, y }: Spot, text: string, side: Aside): Box {
  const across = text.length * FIGURE.across;
  const x0 = x + side.right - (side.anchor === "end" ? across : side.anchor === "middle" ? across / 2 : 0);
  const y1 = y + side.down;
  return { x0, x1: x0 + across, y0: y1 - FIGURE.down, y1 };
}

const meet = (a: Box, b: Box) => a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;

/** For each mark, drawn one after the other: none where its number can be read on it, else the side of it that is free.
 * A mark that is shut in on every side keeps its number at its left. */
export function numbersOf(spots: Spot[], texts: string[]): (Aside | null)[] {
  const marks = spots.map(markBox);
  const onMark: Aside = { right: 0, down: 4, anchor: "middle" };
  const taken: Box[] = [];
  return spots.map((spot, i) => {
    const own = textBox(spot, texts[i], onMark);
    if (!marks.slice(i + 1).some((over) => meet(over, own))) return null;
    const free = (side: Aside) => {
      const box = textBox(spot, texts[i], side);
      return !marks.some((m, j) => j !== i && meet(m, box)) && !taken.some((t) => meet(t, box));
    };
    const side = SIDES.find(free) ?? SIDES[0];
    taken.push(textBox(spot, texts[i], side));
    return side;
  });
}
