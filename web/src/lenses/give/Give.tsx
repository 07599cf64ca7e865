import { NativeSelect } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { capital, useBench, useSelection, zoneName } from "../../bench/context";
import { useNotice } from "../../bench/notice";

/** Gives a colour to a zone: its hue and chroma, the zone keeps its value. */
export function Give({ lab }: { lab: Schemas["ChartCell"]["lab"] }) {
  const { view, changes } = useBench();
  const { zone, selectZone } = useSelection();
  const { say } = useNotice();
  const give = (to: number) => {
    selectZone(to);
    changes
      .request({ do: "colour", zones: [to], how: { by: "of", lab }, local: false })
      .then((done) => done && say(`${capital(zoneName(view, to))} has this colour now, its value kept.`));
  };
  if (!view.piece.zones.length) return null;
  return (
    <NativeSelect
      label="Give this colour to a zone, its value kept"
      value=""
      data={[
        { value: "", label: "choose a zone" },
        ...view.piece.zones.map((z) => ({
          value: String(z.id),
          label: `${z.id} ${zoneName(view, z.id)}${z.id === zone ? ", chosen" : ""}`,
        })),
      ]}
      onChange={(e) => e.currentTarget.value && give(Number(e.currentTarget.value))}
    />
  );
}
