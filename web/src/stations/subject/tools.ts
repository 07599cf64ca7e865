/** What a line drawn on the picture does. */
export type Tool = "join" | "part" | "redraw" | "line" | "compare" | "neutral" | "crop" | "take" | "shadow";

export const HINTS: Record<Tool, string> = {
  join: "Draw from one zone across the border into another: they become one. Esc leaves them.",
  part: "Draw a line across the zone, as bent as you like. Esc leaves it whole.",
  redraw: "Start in the zone and bulge out, or start outside and cut in. Esc leaves the border.",
  line: "Drag a line to read the values along it. Esc puts it away.",
  compare: "Drag from one patch to the other to compare them. Esc puts it away.",
  neutral: "Drag a little on something you know to be neutral grey. Esc leaves the light as it is.",
  shadow: "Draw where the shadow begins, from edge to edge of the shape. Esc leaves it to the light.",
  take: "Point at a colour: it becomes a zone of its own, wherever it lies. Esc leaves it.",
  crop: "Drag from corner to corner of the part to look at. Esc leaves it whole.",
};

/** Tools whose line is drawn straight, from end to end. */
export const STRAIGHT: Tool[] = ["line", "compare", "neutral", "crop", "take"];
