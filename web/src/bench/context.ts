import { createContext, useContext } from "react";
import type { BoxView, Mark, PieceView, Preview, Schemas, ZoneMix } from "../api/client";
import type { Work } from "../api/useJob";
import type { Changes } from "../api/usePiece";
import { figure } from "../room/figures";

export type Spot = Schemas["Spot"];
export type Look = "as-it-is" | "values" | "warm-cool" | "squint" | "neighbours";

/** What is looked at for as long as a key is held. */
export type Peek = "reference" | "plan" | null;

/** The piece on the bench, and how it is changed. */
export type BenchState = {
  view: PieceView;
  box: BoxView | null;
  /** Whether the Box is on its way: it is not yet known what is in it. */
  boxComes: boolean;
  changes: Changes;
  work: Work;
};

/** What of the piece is meant. */
export type Selection = {
  /** Selected zone, kept in the URL. */
  zone: number | null;
  selectZone: (zone: number | null) => void;
  /** Place of the selected zone that is meant, by its number from the largest down. */
  place: number;
  selectPlace: (place: number) => void;
  /** A place that was picked up: the next zone chosen takes it. */
  carried: { at: Spot; zone: number } | null;
  carry: (place: { at: Spot; zone: number } | null) => void;
  /** The field shows masses instead of zones. */
  massesShown: boolean;
  showMasses: (on: boolean) => void;
  /** Pigment looked at in the card, kept in the URL. */
  pigment: string | null;
  selectPigment: (id: string | null) => void;
};

/** How pictures, plans and marks are looked at. */
export type Looking = {
  look: Look;
  setLook: (look: Look) => void;
  groups: number | null;
  setGroups: (groups: number | null) => void;
  isolate: boolean;
  setIsolate: (on: boolean) => void;
  /** Plans and studies are shown flat, without the hand of the medium. */
  flat: boolean;
  setFlat: (on: boolean) => void;
  /** Held down: the reference, or the plan, is shown over whatever is on the surface. */
  peek: Peek;
  peekWith: (on: Peek) => void;
};

/** What would follow from the drag going on. */
export type Previewed = { zone: number; data: Preview } | null;

export const BenchContext = createContext<BenchState | null>(null);
export const SelectionContext = createContext<Selection | null>(null);
export const LookingContext = createContext<Looking | null>(null);

function there<T>(found: T | null): T {
  if (!found) throw new Error("a station is shown outside the bench");
  return found;
}

export const useBench = () => there(useContext(BenchContext));
export const useSelection = () => there(useContext(SelectionContext));
export const useLooking = () => there(useContext(LookingContext));

/** It changes many times a second while a mark is dragged: only what shows it is drawn again. */
export const PreviewContext = createContext<{ preview: Previewed; setPreview: (p: Previewed) => void }>({
  preview: null,
  setPreview: () => {},
});

export const usePreview = () => useContext(PreviewContext);

/** The mix of a zone, as it is or as the drag going on would make it. */
export function useMixOf(zone: number | null): ZoneMix | undefined {
  const { view } = useBench();
  const { preview } = usePreview();
  const mixes = preview?.data.mixes ?? view.derived.mixes;
  return mixes.find((m) => m.zone === zone);
}

/** The recipes of a zone in words, as they are or as the drag going on would make them. */
export function useToldOf(zone: number | null): Schemas["MixInWords"] | undefined {
  const { view } = useBench();
  const { preview } = usePreview();
  return (preview?.data.told ?? view.derived.told).find((t) => t.zone === zone);
}

/** The target of every zone, as it is or as the drag going on would make it. */
export function useTargets(): (zone: number) => Mark | undefined {
  const { view } = useBench();
  const { preview } = usePreview();
  return (zone) =>
    preview?.zone === zone ? preview.data.target : view.derived.shapes.find((s) => s.zone === zone)?.target;
}

export function zoneName(view: PieceView, zone: number): string {
  return view.piece.zones.find((z) => z.id === zone)?.name || `zone ${zone}`;
}

export const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** Small numbers in words. */
export const numberWord = (n: number) =>
  ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"][n] ??
  String(n);

/** Whether this screen shows more than the usual gamut. */
const wide = matchMedia("(color-gamut: p3)").matches && CSS.supports("color", "color(display-p3 0 0 0)");

/** A mark's colour in one of the ways of looking. */
export function seen(mark: Mark, look: Look): string {
  const c =
    look === "values" || look === "squint" ? mark.values_only : look === "warm-cool" ? mark.warm_cool : mark.screen;
  if (wide && mark.wide && c === mark.screen) return `color(display-p3 ${mark.wide.r} ${mark.wide.g} ${mark.wide.b})`;
  return `rgb(${c.r} ${c.g} ${c.b})`;
}

/** Whether this screen can show a mark's colour. */
export const shownHere = (mark: Mark) => mark.screen.in_gamut || (wide && !!mark.wide?.in_gamut);

export const signed = (n: number, digits: number) => {
  const text = figure(Math.abs(n), digits);
  return Number(n.toFixed(digits)) === 0 ? text : `${n > 0 ? "+" : "−"}${text}`;
};

export function temperatureWord(t: number): string {
  if (Math.abs(t) < 3) return "neutral here";
  const side = t > 0 ? "warm" : "cool";
  return Math.abs(t) < 10 ? `a touch ${side}` : side;
}
