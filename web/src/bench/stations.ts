import type { PieceView, Schemas } from "../api/client";
import WORDS from "../api/words.json";
import { shown } from "./lengths";

export type StationName = "brief" | "subject" | "light" | "lean-set" | "mixes" | "studies" | "piece" | "box";

/** Stations in the order of work, the key that opens each, and what each knows or lacks. */
export const STATIONS: {
  name: StationName;
  label: string;
  key: string;
  /** In few words what it knows; `owned` is nothing while the Box is on its way. */
  knows: (v: PieceView, owned: number | null) => string;
}[] = [
  { name: "brief", label: "Brief", key: "1", knows: (v) => size(v) },
  {
    name: "subject",
    label: "Subject",
    key: "2",
    knows: (v) => (v.piece.zones.length ? `${v.piece.zones.length} zones` : "no picture yet"),
  },
  {
    name: "light",
    label: "Light",
    key: "3",
    knows: (v) => lightWords(v),
  },
  {
    name: "lean-set",
    label: "Lean set",
    key: "4",
    knows: (v, owned) => {
      const n = v.piece.chosen.pigments.length;
      if (!n) return "not searched";
      const stale = v.piece.search && v.piece.search.basis !== v.derived.basis;
      const taken = owned === null ? `${n}` : `${n} of ${owned}`;
      return stale ? `${taken}, plan moved on` : taken;
    },
  },
  {
    name: "mixes",
    label: "Mixes",
    key: "5",
    knows: (v) => {
      const { mixes } = v.derived;
      return mixes.length ? `${mixes.filter((m) => m.reached).length} of ${mixes.length} reached` : "no set yet";
    },
  },
  {
    name: "studies",
    label: "Studies",
    key: "6",
    knows: (v) => {
      const n = v.piece.studies.length;
      if (!n) return "none made";
      return v.piece.chosen_study ? `${n} made, ${v.piece.chosen_study} chosen` : `${n} made`;
    },
  },
  {
    name: "piece",
    label: "Piece",
    key: "7",
    knows: (v) => {
      const n = v.piece.sessions.length;
      return n ? `${n} ${n === 1 ? "session" : "sessions"}` : "not begun";
    },
  },
];

function lightWords(v: PieceView): string {
  const { falling } = v.piece.lighting;
  if (falling.kind === "unnamed") return "no light yet";
  if (falling.kind === "flat") return "flat";
  const n = v.derived.findings.length;
  return `${falling.kind === "two" ? "two lights" : `${falling.first.tint}, one`}${n ? `, ${n} ${n === 1 ? "finding" : "findings"}` : ""}`;
}

function size(v: PieceView): string {
  const { width, height } = v.piece.brief.size;
  const { units } = v.piece.intent;
  return `${shown(width, units)} × ${shown(height, units)} ${units === "cm" ? "cm" : "in"}`;
}

const MEDIA = WORDS.media as { value: Schemas["Medium"]; label: string; unit: string }[];
const of = (medium: Schemas["Medium"]) => MEDIA.find((m) => m.value === medium);

export const media = MEDIA.map(({ value, label }) => ({ value, label }));
export const unit = (medium: Schemas["Medium"], n: number) => (of(medium)?.unit ?? medium) + (n === 1 ? "" : "s");
export const mediumName = (medium: Schemas["Medium"]) => of(medium)?.label ?? medium;
