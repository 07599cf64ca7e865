import { NativeSelect } from "@mantine/core";
import type { Zone } from "../../api/client";
import { useMap } from "../../api/useMap";
import { capital, useBench, zoneName } from "../../bench/context";
import styles from "./Subject.module.css";

/** The places of the selected zone: one of them made a zone of its own, or given to another. */
export function PlacePart({ zone }: { zone: Zone }) {
  const bench = useBench();
  const { view, changes, place, selectPlace, carried, carry } = bench;
  const shapes = useMap(view.outlook.map);
  const places = shapes.of.get(zone.id)?.places ?? [];
  const nth = Math.min(place, Math.max(0, places.length - 1));
  const here = places[nth];
  if (!here) return <p>At this brush it has no place: a smaller brush shows it.</p>;
  const at = { x: here.x / shapes.width, y: here.y / shapes.height };
  const others = view.piece.zones.filter((z) => z.id !== zone.id);
  const give = (to: number) => {
    carry(null);
    changes.give(at, to).catch(() => {});
  };
  return (
    <section className={styles.part} aria-label="Places">
      <p>
        {places.length === 1 ? "One place" : `Place ${nth + 1} of ${places.length}`}
        <span className={styles.share}>{(100 * here.share).toFixed(here.share < 0.01 ? 1 : 0)} % of the picture</span>
      </p>
      {places.length > 1 && (
        <>
          <p className={styles.acts}>
            <button
              type="button"
              className="act"
              onClick={() => selectPlace((nth + places.length - 1) % places.length)}
            >
              larger
            </button>
            <button type="button" className="act" onClick={() => selectPlace((nth + 1) % places.length)}>
              smaller
            </button>
            <button type="button" className="act" onClick={() => changes.own(at).catch(() => {})}>
              a zone of its own
            </button>
            <button
              type="button"
              className="act"
              aria-pressed={!!carried}
              onClick={() => carry(carried ? null : { at, zone: zone.id })}
            >
              {carried ? "leave it" : "pick it up"}
            </button>
          </p>
          {carried && <p>Point at the zone that takes it; Esc leaves it here.</p>}
          <NativeSelect
            label="Give it to"
            value=""
            data={[
              { value: "", label: "another zone" },
              ...others.map((z) => ({ value: String(z.id), label: `${z.id} ${capital(zoneName(view, z.id))}` })),
            ]}
            onChange={(e) => e.currentTarget.value && give(Number(e.currentTarget.value))}
          />
        </>
      )}
    </section>
  );
}
