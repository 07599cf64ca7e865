import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useCallback, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { answer, api, type PieceView } from "../api/client";
import { useJob } from "../api/useJob";
import { useChanges } from "../api/usePiece";
import {
  BenchContext,
  type BenchState,
  type Look,
  type Looking,
  LookingContext,
  type Peek,
  PreviewContext,
  type Previewed,
  type Selection,
  SelectionContext,
} from "./context";

const LOOKS: Look[] = ["as-it-is", "values", "warm-cool", "squint", "neighbours"];

/** What every station has at hand. Each part changes by itself, so that only what shows it is drawn again. */
export function OnTheBench({ id, view, children }: { id: number; view: PieceView; children: ReactNode }) {
  const [preview, setPreview] = useState<Previewed>(null);
  const previewed = useMemo(() => ({ preview, setPreview }), [preview]);
  return (
    <BenchContext.Provider value={usePieceOnBench(id, view)}>
      <SelectionContext.Provider value={useSelectionKept(view)}>
        <LookingContext.Provider value={useLookingKept()}>
          <PreviewContext.Provider value={previewed}>{children}</PreviewContext.Provider>
        </LookingContext.Provider>
      </SelectionContext.Provider>
    </BenchContext.Provider>
  );
}

function usePieceOnBench(id: number, view: PieceView): BenchState {
  const changes = useChanges(id);
  const work = useJob(id);
  const { paint_box: boxId, together } = view.piece;
  const beside = together ? { second: together.second, from: together.paint_box } : {};
  const { data: box = null, isLoading: boxComes } = useQuery({
    queryKey: ["box", boxId, ...Object.values(beside)],
    queryFn: () => answer(api.GET("/api/boxes/{id}", { params: { path: { id: boxId ?? "" }, query: beside } })),
    enabled: !!boxId,
  });
  return useMemo(() => ({ view, box, boxComes, changes, work }), [view, box, boxComes, changes, work]);
}

/** What is kept in the address, and how to keep something else there. */
function useAddress() {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const put = useCallback(
    (name: string, value: string | null) => {
      // Where the window already is: a station that is still being fetched is not on the page yet, and is not to be left again.
      const { pathname, search } = window.location;
      const next = new URLSearchParams(search);
      if (value === null) next.delete(name);
      else next.set(name, value);
      navigate({ pathname, search: next.toString() }, { replace: true });
    },
    [navigate],
  );
  return { search, put };
}

function useSelectionKept(view: PieceView): Selection {
  const { search, put } = useAddress();
  const [place, selectPlace] = useState(0);
  const [massesShown, showMasses] = useState(false);
  const [carried, carry] = useState<Selection["carried"]>(null);
  const asked = Number(search.get("zone"));
  const zone = view.piece.zones.some((z) => z.id === asked) ? asked : null;
  const pigment = search.get("pigment");
  return useMemo(
    () => ({
      zone,
      selectZone: (z) => {
        selectPlace(0);
        put("zone", z === null ? null : String(z));
      },
      place,
      selectPlace,
      carried,
      carry,
      massesShown,
      showMasses,
      pigment,
      selectPigment: (p) => put("pigment", p),
    }),
    [zone, place, carried, massesShown, pigment, put],
  );
}

function useLookingKept(): Looking {
  const { search, put } = useAddress();
  const [peek, peekWith] = useState<Peek>(null);
  const look = LOOKS.find((l) => l === search.get("look")) ?? "as-it-is";
  const groups = Number(search.get("groups")) || null;
  const isolate = search.get("isolate") === "1";
  const flat = search.get("flat") === "1";
  return useMemo(
    () => ({
      look,
      setLook: (l) => put("look", l === "as-it-is" ? null : l),
      groups,
      setGroups: (g) => put("groups", g === null ? null : String(g)),
      isolate,
      setIsolate: (on) => put("isolate", on ? "1" : null),
      flat,
      setFlat: (on) => put("flat", on ? "1" : null),
      peek,
      peekWith,
    }),
    [look, groups, isolate, flat, peek, put],
  );
}
