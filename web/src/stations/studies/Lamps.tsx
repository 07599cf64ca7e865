import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answer, api, type Mark, type Study } from "../../api/client";
import { capital, useBench } from "../../bench/context";
import styles from "./Studies.module.css";

/** A study as other lamps than daylight show it. */
export function useLamps(study: Study | null) {
  const { view } = useBench();
  return useQuery({
    queryKey: ["lamps", view.id, study?.number, study?.mixes],
    queryFn: () =>
      answer(
        api.GET("/api/pieces/{id}/studies/{number}/lamps", {
          params: { path: { id: view.id, number: study?.number ?? 0 } },
        }),
      ),
    enabled: study !== null,
  });
}

/** The lamp a study is looked at under, kept in the address; `null` is daylight. */
export function useLamp(study: Study | null) {
  const [search, setSearch] = useSearchParams();
  const lamps = useLamps(study).data ?? [];
  const lamp = lamps.find((l) => l.lamp === search.get("lamp")) ?? null;
  const setLamp = (name: string | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (name) next.set("lamp", name);
        else next.delete("lamp");
        return next;
      },
      { replace: true },
    );
  const marks = lamp && new Map<number, Mark>(lamp.zones.map((z) => [z.zone, z.mark]));
  return { lamps, lamp, setLamp, marks };
}

/** Which lamp, and what changes under it. */
export function Lamps({ study }: { study: Study }) {
  const { lamps, lamp, setLamp } = useLamp(study);
  if (!lamps.length) return null;
  return (
    <section className={styles.lamps} aria-label="Under another lamp">
      <fieldset className={styles.which}>
        <legend>Seen by</legend>
        {[null, ...lamps].map((l) => (
          <label key={l?.lamp ?? "daylight"}>
            <input type="radio" name="lamp" checked={lamp === l} onChange={() => setLamp(l?.lamp ?? null)} />{" "}
            {l?.lamp ?? "daylight"}
          </label>
        ))}
      </fieldset>
      {lamp && (
        <p className={styles.small}>
          {lamp.changes.length
            ? `${capital(lamp.changes.slice(0, 3).join(" "))}${lamp.changes.length > 3 ? ` And ${lamp.changes.length - 3} more.` : ""}`
            : "Nothing in it changes enough to be seen."}{" "}
          From modelled spectra.
        </p>
      )}
    </section>
  );
}
