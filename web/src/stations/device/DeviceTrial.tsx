import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type PieceView, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { ByEye } from "../../lenses/trial/ByEye";

/** A mix judged by eye on a phone, held beside the swatch: what is wanted, and what to add. */
export function DeviceTrial({ view, zone }: { view: PieceView; zone: number }) {
  const [open, setOpen] = useState(false);
  const queries = useQueryClient();
  const { say, tell } = useNotice();
  const box = view.piece.paint_box;
  const key = ["device-trials", view.id, zone];
  const trials = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET("/api/pieces/{id}/trials", { params: { path: { id: view.id }, query: { zone } } })),
    enabled: open && !!box,
  });
  const next = trials.data?.next;
  if (!box) return null;
  if (!open) {
    return (
      <button type="button" className="act" onClick={() => setOpen(true)}>
        Judge this mix by eye
      </button>
    );
  }
  if (!trials.data) return <p aria-busy="true" />;
  if (!next) return <p>There is no recipe to be judged here.</p>;
  const triedFor = { piece: view.id, zone, cell: null };
  const keep = async (from: Schemas["From"]) => {
    try {
      const path = { id: box };
      await answer(
        api.POST("/api/boxes/{id}/readings", {
          params: { path },
          body: { swatch: next, laid: trials.data.next_steps, from, state: "dry", tried_for: triedFor },
        }),
      );
      say("Kept. The pigments have learned from it.");
      queries.invalidateQueries({ queryKey: key });
      queries.invalidateQueries({ queryKey: ["device-piece", view.id] });
      setOpen(false);
    } catch (e) {
      tell(e);
    }
  };
  return (
    <section aria-label="Judge this mix by eye">
      <ByEye
        box={box}
        swatch={next}
        laid={trials.data.next_steps}
        triedFor={triedFor}
        reveal
        ground={view.ground.hex}
        onKeep={keep}
      />
    </section>
  );
}
