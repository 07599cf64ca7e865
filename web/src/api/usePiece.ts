import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNotice } from "../bench/notice";
import { answer, api, asProblem, type PieceView, Refused, type Request, type Schemas } from "./client";

export const pieceKey = (id: number) => ["piece", id];

/** A piece as the server has it. Every change goes through the server, which saves it before it answers. */
export function usePiece(id: number) {
  return useQuery({
    queryKey: pieceKey(id),
    queryFn: () => answer(api.GET("/api/pieces/{id}", { params: { path: { id } } })),
    staleTime: 2_000,
  });
}

/** Sends changes one after the other, each with the revision the one before it led to. */
export function useChanges(id: number) {
  const queries = useQueryClient();
  const { say } = useNotice();
  const current = useCallback(() => queries.getQueryData<PieceView>(pieceKey(id)), [queries, id]);

  const settle = useCallback(
    (view: PieceView) => {
      queries.setQueryData(pieceKey(id), view);
      queries.invalidateQueries({ queryKey: ["studio"] });
    },
    [queries, id],
  );

  const run = useMutation({
    // One scope a piece: changes wait for each other, so that no window conflicts with itself.
    scope: { id: `piece-${id}` },
    mutationFn: (call: (base_revision: number) => Promise<PieceView>) => call(current()?.revision ?? 0),
    onSuccess: settle,
    onError: (error) => {
      say(error instanceof Refused ? error.problem.detail : String(error), "problem");
      queries.invalidateQueries({ queryKey: pieceKey(id) });
    },
  });

  const path = { id };
  /** Never rejects: what is refused has been said by then, and gives null. */
  const post = (call: (base_revision: number) => Promise<PieceView>) => run.mutateAsync(call).catch(() => null);
  return {
    current,
    busy: run.isPending,
    request: (request: Request) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/requests", { params: { path }, body: { base_revision, request } })),
      ),
    /** A request made from the piece as it is when its turn comes: changes made quickly one after the other do not undo each other. */
    requestNow: (make: (now: PieceView) => Request | null) =>
      post(async (base_revision) => {
        const now = current();
        const request = now && make(now);
        if (!now || !request) throw new Refused(asProblem(undefined));
        return answer(api.POST("/api/pieces/{id}/requests", { params: { path }, body: { base_revision, request } }));
      }),
    undo: () =>
      post((base_revision) => answer(api.POST("/api/pieces/{id}/undo", { params: { path }, body: { base_revision } }))),
    redo: () =>
      post((base_revision) => answer(api.POST("/api/pieces/{id}/redo", { params: { path }, body: { base_revision } }))),
    move: (zone: number, to: Schemas["FieldMove"]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/move", { params: { path }, body: { base_revision, zone, to } })),
      ),
    propose: (count: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/propose", { params: { path }, body: { base_revision, count } })),
      ),
    /** Turns the dial of colours. */
    colours: (count: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/colours", { params: { path }, body: { base_revision, count } })),
      ),
    /** Turns the brush, in millimetres on the piece. */
    brush: (millimetres: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/brush", { params: { path }, body: { base_revision, millimetres } })),
      ),
    /** Makes the colour at a spot a zone of its own. */
    take: (at: Schemas["Spot"]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/take", { params: { path }, body: { base_revision, at } })),
      ),
    /** Gives the place at a spot to another zone. */
    give: (at: Schemas["Spot"], to: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/places/give", { params: { path }, body: { base_revision, at, to } })),
      ),
    /** Makes the place at a spot a zone of its own. */
    own: (at: Schemas["Spot"]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/places/own", { params: { path }, body: { base_revision, at } })),
      ),
    /** Makes what lies of a zone in a mass a zone of its own. */
    partByMass: (zone: number, mass: number) =>
      post((base_revision) =>
        answer(
          api.POST("/api/pieces/{id}/zones/part-by-mass", { params: { path }, body: { base_revision, zone, mass } }),
        ),
      ),
    proposeMasses: () =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/masses/propose", { params: { path }, body: { base_revision } })),
      ),
    merge: (from: number, into: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/merge", { params: { path }, body: { base_revision, from, into } })),
      ),
    split: (zone: number, stroke: Schemas["Spot"][]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/split", { params: { path }, body: { base_revision, zone, stroke } })),
      ),
    join: (stroke: Schemas["Spot"][]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/join", { params: { path }, body: { base_revision, stroke } })),
      ),
    redraw: (zone: number, stroke: Schemas["Spot"][]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/redraw", { params: { path }, body: { base_revision, zone, stroke } })),
      ),
    fromLines: (outline: boolean) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/lines", { params: { path }, body: { base_revision, outline } })),
      ),
    /** Turns zones in the light: each is cut into its shadow side, middle and light. */
    turn: (how: Omit<Schemas["TurnZones"], "base_revision">) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/turn", { params: { path }, body: { base_revision, ...how } })),
      ),
    layFlat: (zones: number[]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/flat", { params: { path }, body: { base_revision, zones } })),
      ),
    fromPicture: () =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/zones/picture", { params: { path }, body: { base_revision } })),
      ),
    frame: (frame: { straighten: number; crop?: Schemas["Crop"] | null; fit: boolean }) =>
      post((base_revision) =>
        answer(api.PUT("/api/pieces/{id}/reference/frame", { params: { path }, body: { base_revision, ...frame } })),
      ),
    neutral: (at: Schemas["Spot"] | null, card: number | null) =>
      post((base_revision) =>
        answer(api.PUT("/api/pieces/{id}/reference/neutral", { params: { path }, body: { base_revision, at, card } })),
      ),
    chart: (count: number | null) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/chart", { params: { path }, body: { base_revision, count } })),
      ),
    makeMain: (digest: string) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/others/main", { params: { path }, body: { base_revision, digest } })),
      ),
    carry: () =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/compositions/carry", { params: { path }, body: { base_revision } })),
      ),
    wishColours: (from: number) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/wish-colours", { params: { path }, body: { base_revision, from } })),
      ),
    borrowLight: (from: Schemas["LightSource"]) =>
      post((base_revision) =>
        answer(api.POST("/api/pieces/{id}/borrow-light", { params: { path }, body: { base_revision, from } })),
      ),
    /** Anything else that answers with the piece. */
    answered: (call: () => Promise<PieceView>) => post(call),
    /** Takes in a file that belongs to the piece: the wall, another reference, a sheet of compositions. */
    put: (what: "wall" | "others" | "compositions", file: File) =>
      post(async () => {
        const response = await fetch(`/api/pieces/${id}/${what}?file_name=${encodeURIComponent(file.name)}`, {
          method: "PUT",
          body: file,
          headers: { "content-type": "application/octet-stream" },
        });
        const body = await response.json();
        if (!response.ok) throw new Refused(body);
        return body as PieceView;
      }),
  };
}

export type Changes = ReturnType<typeof useChanges>;
