import { NativeSelect } from "@mantine/core";
import { useEffect, useRef } from "react";
import type { Zone } from "../../api/client";
import { useMap } from "../../api/useMap";
import { capital, useBench, useSelection, zoneName } from "../../bench/context";
import { Acts, Section } from "../../kit/Section";
import { figure } from "../../room/figures";
import styles from "./Subject.module.css";

/** `m` makes the place a zone of its own; `g` picks it up, and puts it down in the zone that is chosen then. */
function usePlaceKeys(zone: number, at: { x: number; y: number } | undefined, places: number) {
  const { changes } = useBench();
  const { carried, carry } = useSelection();
  const now = useRef({ zone, at, places, changes, carried, carry });
  now.current = { zone, at, places, changes, carried, carry };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const t = e.target as HTMLElement;
      if (/^(TEXTAREA|SELECT)$/.test(t.tagName) || (t instanceof HTMLInputElement && t.type === "text")) return;
      if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented) return;
      const { zone, at, places, changes, carried, carry } = now.current;
      if (e.key === "g" && carried && carried.zone !== zone) {
        carry(null);
        changes.give(carried.at, zone);
      } else if (e.key === "g" && at && places > 1) carry(carried ? null : { at, zone });
      else if (e.key === "m" && at && places > 1) changes.own(at);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

/** The places of the selected zone: one of them made a zone of its own, or given to another. */
export function PlacePart({ zone }: { zone: Zone }) {
  const bench = useBench();
  const { view, changes } = bench;
  const { place, selectPlace, carried, carry } = useSelection();
  const shapes = useMap(view.derived.map);
  const places = shapes.of.get(zone.id)?.places ?? [];
  const nth = Math.min(place, Math.max(0, places.length - 1));
  const here = places[nth];
  usePlaceKeys(zone.id, here && { x: here.x / shapes.width, y: here.y / shapes.height }, places.length);
  if (!here) return <p>The brush is too large for this zone. Choose a smaller brush to see it.</p>;
  const at = { x: here.x / shapes.width, y: here.y / shapes.height };
  const others = view.piece.zones.filter((z) => z.id !== zone.id);
  const give = (to: number) => {
    carry(null);
    changes.give(at, to);
  };
  return (
    <Section title="Places" bare>
      <p>
        {places.length === 1 ? "One place" : `Place ${nth + 1} of ${places.length}`}
        <span className={styles.share}>{figure(100 * here.share, here.share < 0.01 ? 1 : 0)} % of the picture</span>
      </p>
      {places.length > 1 && (
        <>
          <Acts>
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
            <button type="button" className="act" onClick={() => changes.own(at)}>
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
          </Acts>
          {carried && (
            <p>Point at the zone that takes it, or choose it with j and k and press g; Esc leaves it here.</p>
          )}
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
    </Section>
  );
}
