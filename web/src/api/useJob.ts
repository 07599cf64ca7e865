import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, api, type JobView, Refused, type Schemas } from "./client";
import { useLongWork } from "./useLongWork";
import { pieceKey } from "./usePiece";

/** Sends a file whose taking in is long work. */
export async function sent(address: string, file: File): Promise<JobView> {
  const response = await fetch(`${address}?file_name=${encodeURIComponent(file.name)}`, {
    method: "PUT",
    body: file,
    headers: { "content-type": "application/octet-stream" },
  });
  const body = await response.json();
  if (!response.ok) throw new Refused(body);
  return body as JobView;
}

/** Long work for a piece. */
export function useJob(pieceId: number) {
  const queries = useQueryClient();
  const end = useMemo(
    () => ({
      kept: false,
      after: () => {
        queries.invalidateQueries({ queryKey: ["ladder", pieceId] });
        queries.invalidateQueries({ queryKey: ["studio"] });
        return queries.invalidateQueries({ queryKey: pieceKey(pieceId) });
      },
    }),
    [pieceId, queries],
  );
  const { job, cancel, start } = useLongWork(end);

  const path = { id: pieceId };
  return {
    job,
    cancel,
    takeIn: (file: File) => start(() => sent(`/api/pieces/${pieceId}/reference`, file)),
    search: () => start(() => answer(api.POST("/api/pieces/{id}/search", { params: { path } }))),
    makeStudies: (kinds: Schemas["StudyKind"][]) =>
      start(() => answer(api.POST("/api/pieces/{id}/studies", { params: { path }, body: { kinds } }))),
    /** Makes a study anew with all its hues turned. */
    turnScheme: (number: number, by: number) =>
      start(() =>
        answer(
          api.POST("/api/pieces/{id}/studies/{number}/turn", { params: { path: { ...path, number } }, body: { by } }),
        ),
      ),
    /** Makes a study of several hues anew with other shares. */
    moveShares: (number: number, hues: Schemas["HueShare"][]) =>
      start(() =>
        answer(
          api.POST("/api/pieces/{id}/studies/{number}/shares", {
            params: { path: { ...path, number } },
            body: { hues },
          }),
        ),
      ),
    /** Makes a study in the colours of another piece, or of one of its studies. */
    lend: (piece: number, study: number | null) =>
      start(() => answer(api.POST("/api/pieces/{id}/studies/lent", { params: { path }, body: { piece, study } }))),
    /** Makes a study in the colours of a picture. */
    lendPicture: (file: File) => start(() => sent(`/api/pieces/${pieceId}/studies/lent`, file)),
  };
}

export type Work = ReturnType<typeof useJob>;
