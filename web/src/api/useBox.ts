import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useBench } from "../bench/context";
import { useNotice } from "../bench/notice";
import { answer, api, asProblem, type BoxView, Refused, type Schemas } from "./client";
import { pieceKey } from "./usePiece";

const words = (e: unknown) => (e instanceof Refused ? e.problem.detail : String(e));

/** Changes a Box and shows it; what is refused is said. */
export function useBoxChange() {
  const queries = useQueryClient();
  const { say } = useNotice();
  const { view } = useBench();
  return useMutation({
    mutationFn: (call: () => Promise<BoxView>) => call(),
    onSuccess: (b) => {
      queries.setQueryData(["box", b.id], b);
      queries.invalidateQueries({ queryKey: ["box", b.id] });
      queries.invalidateQueries({ queryKey: pieceKey(view.id) });
      queries.invalidateQueries({ queryKey: ["studio"] });
      queries.invalidateQueries({ queryKey: ["readings", b.id] });
    },
    onError: (e) => {
      say(words(e), "problem");
      queries.invalidateQueries({ queryKey: ["box"] });
    },
  });
}

/** The readings of a Box and what they taught; changes learn anew and say which pieces moved. */
export function useReadings(box: string | undefined) {
  const queries = useQueryClient();
  const { say } = useNotice();
  const { view } = useBench();
  const key = ["readings", box];
  const readings = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET("/api/boxes/{id}/readings", { params: { path: { id: box ?? "" } } })),
    enabled: !!box,
  });
  const change = async (call: () => Promise<Schemas["ReadingsView"]>): Promise<Schemas["ReadingsView"] | null> => {
    try {
      const now = await call();
      queries.setQueryData(key, now);
      queries.invalidateQueries({ queryKey: ["box", box] });
      queries.invalidateQueries({ queryKey: pieceKey(view.id) });
      queries.invalidateQueries({ queryKey: ["trials", view.id] });
      queries.invalidateQueries({ queryKey: ["meter"] });
      const moved = now.moved.map((m) => `${m.title}: ${m.words}`).join(" ");
      say(moved || "Read and learned. No mix of a piece moved to be seen.");
      return now;
    } catch (e) {
      say(words(e), "problem");
      queries.invalidateQueries({ queryKey: ["meter"] });
      queries.invalidateQueries({ queryKey: key });
      return null;
    }
  };
  const path = { id: box ?? "" };
  return {
    data: readings.data,
    take: (body: Schemas["NewReading"]) =>
      change(() => answer(api.POST("/api/boxes/{id}/readings", { params: { path }, body }))),
    keep: (reading: Schemas["ReadingLine"], body: Schemas["ReadingChange"]) =>
      change(() => {
        const params = { path: { ...path, reading: reading.id }, query: { seen: reading.version } };
        return answer(api.PUT("/api/boxes/{id}/readings/{reading}", { params, body }));
      }),
    remove: (reading: number) =>
      change(() =>
        answer(api.DELETE("/api/boxes/{id}/readings/{reading}", { params: { path: { ...path, reading } } })),
      ),
    /** Reads a painted test card off its photo. */
    takeCard: (which: URLSearchParams, photo: File) =>
      change(async () => {
        const r = await fetch(`/api/boxes/${encodeURIComponent(path.id)}/card?${which}`, {
          method: "PUT",
          body: photo,
        });
        const said = await r.json();
        if (!r.ok) throw new Refused(asProblem(said));
        return said as Schemas["ReadingsView"];
      }),
    /** Takes in what a photo of swatches holds. */
    takePhoto: change,
    takeFile: (file: File) =>
      change(() =>
        answer(
          api.PUT("/api/boxes/{id}/readings/file", {
            params: { path },
            body: file as unknown as number[],
            bodySerializer: (b) => b as unknown as BodyInit,
            headers: { "content-type": "application/octet-stream" },
          }),
        ),
      ),
  };
}

/** The meter, and what plays the world around it. */
export function useMeter() {
  const queries = useQueryClient();
  const { say } = useNotice();
  const meter = useQuery({ queryKey: ["meter"], queryFn: () => answer(api.GET("/api/instruments/meter")) });
  const done = async (call: () => Promise<Schemas["MeterView"]>) => {
    try {
      queries.setQueryData(["meter"], await call());
      return true;
    } catch (e) {
      say(words(e), "problem");
      queries.invalidateQueries({ queryKey: ["meter"] });
      return false;
    }
  };
  return {
    meter: meter.data,
    calibrate: () => done(() => answer(api.POST("/api/instruments/meter/calibrate"))),
    play: (body: Schemas["Table"]) => done(() => answer(api.PUT("/api/instruments/world", { body }))),
  };
}
