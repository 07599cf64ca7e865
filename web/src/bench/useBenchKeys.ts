import { useEffect, useRef } from "react";
import { useLocation, useNavigate } from "react-router";
import { useRoom } from "../room/useRoom";
import { type Look, useBench, useLooking, useSelection } from "./context";
import { useNotice } from "./notice";
import { STATIONS } from "./stations";
import { useNudge } from "./useNudge";

/** Inputs that are turned or ticked, not typed into. */
const TURNED = ["range", "checkbox", "radio"];
const turned = (t: HTMLElement) => t instanceof HTMLInputElement && TURNED.includes(t.type);

const typing = (e: KeyboardEvent) => {
  const t = e.target as HTMLElement;
  return t.isContentEditable || (/^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName) && !turned(t));
};

/** The keys of the bench. Never while typing in a field. */
export function useBenchKeys(toggleHelp: () => void, match: () => void) {
  const bench = useBench();
  const selection = useSelection();
  const looking = useLooking();
  const navigate = useNavigate();
  const { search } = useLocation();
  const [, nextRoom] = useRoom();
  const { say } = useNotice();
  const nudge = useNudge();
  const now = useRef({ bench, selection, looking, search, nudge });
  now.current = { bench, selection, looking, search, nudge };
  const { peekWith } = looking;

  useEffect(() => {
    const toggle = (look: Look) => {
      const { looking } = now.current;
      looking.setLook(looking.look === look ? "as-it-is" : look);
    };
    const step = (by: number) => {
      const { bench, selection } = now.current;
      const ids = bench.view.piece.zones.map((z) => z.id);
      if (!ids.length) return;
      const at = selection.zone === null ? (by > 0 ? -1 : 0) : ids.indexOf(selection.zone);
      selection.selectZone(ids[(at + by + ids.length) % ids.length]);
    };
    const groups = (by: number) => {
      const { looking } = now.current;
      const next = (looking.groups ?? (by > 0 ? 2 : 13)) + by;
      looking.setGroups(next < 2 || next > 12 ? null : next);
      if (looking.look === "as-it-is" || looking.look === "warm-cool") looking.setLook("values");
    };
    const stepBack = (again: boolean) => {
      const { changes, view } = now.current.bench;
      const what = again ? view.redo : view.undo;
      if (!what) return say(`There is nothing left to ${again ? "redo" : "undo"}.`);
      (again ? changes.redo() : changes.undo()).then(
        (done) => done && say(`${again ? "Done again" : "Undone"}: ${what}.`),
      );
    };
    const colours = (by: number) => {
      const { view, changes } = now.current.bench;
      const dials = view.derived.dials;
      if (dials) changes.colours(dials.colours + by);
    };
    const brush = (by: number) => {
      const { view, changes } = now.current.bench;
      const dials = view.derived.dials;
      if (!dials) return;
      const step = (dials.largest / dials.smallest) ** (1 / 12);
      const next = Math.min(dials.largest, Math.max(dials.smallest, by > 0 ? dials.brush * step : dials.brush / step));
      if (Math.abs(next - dials.brush) > 1e-6) changes.brush(next);
    };
    const place = (by: number) => {
      const { bench, selection } = now.current;
      const places = bench.view.derived.shapes.find((s) => s.zone === selection.zone)?.places ?? 0;
      if (places > 1) selection.selectPlace((Math.min(selection.place, places - 1) + by + places) % places);
    };
    const plain: Record<string, () => void> = {
      "+": () => colours(1),
      "-": () => colours(-1),
      ">": () => brush(1),
      "<": () => brush(-1),
      ".": () => place(1),
      ",": () => place(-1),
      v: () => toggle("values"),
      w: () => toggle("warm-cool"),
      s: () => toggle("squint"),
      n: () => toggle("neighbours"),
      i: () => now.current.looking.setIsolate(!now.current.looking.isolate),
      f: () => now.current.looking.setFlat(!now.current.looking.flat),
      "[": () => groups(-1),
      "]": () => groups(1),
      j: () => step(1),
      k: () => step(-1),
      r: nextRoom,
      "?": toggleHelp,
      q: match,
      "/": () => document.getElementById("find")?.focus(),
      Escape: () => {
        const { selection, looking } = now.current;
        if (selection.carried) selection.carry(null);
        else if (looking.isolate) looking.setIsolate(false);
        else if (selection.pigment) selection.selectPigment(null);
        else selection.selectZone(null);
      },
    };
    for (const s of STATIONS) plain[s.key] = () => go(s.name);
    plain["8"] = () => go("box");
    plain["9"] = () => navigate("/journal");
    plain["0"] = () => navigate("/drills");
    const go = (name: string) => {
      const kept = new URLSearchParams([...new URLSearchParams(now.current.search)].filter(([k]) => k === "zone"));
      navigate({ pathname: `/pieces/${now.current.bench.view.id}/${name}`, search: kept.toString() });
    };
    const down = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "z" && !typing(e)) {
        e.preventDefault();
        return stepBack(e.shiftKey);
      }
      if (typing(e) || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented) return;
      if (document.querySelector("[role=dialog]") && e.key !== "?") return;
      if (e.key === " " && !(e.target as HTMLElement).closest("button, a, input, [role=button]")) {
        e.preventDefault();
        return peekWith(e.shiftKey ? "plan" : "reference");
      }
      if (e.key.startsWith("Arrow") && turned(e.target as HTMLElement)) return;
      if (e.key.startsWith("Arrow") && now.current.nudge(e.key, e.shiftKey)) return e.preventDefault();
      const act = plain[e.key];
      if (act) {
        e.preventDefault();
        act();
      }
    };
    const up = (e: KeyboardEvent) => e.key === " " && peekWith(null);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
    };
  }, [navigate, nextRoom, say, toggleHelp, match, peekWith]);
}
