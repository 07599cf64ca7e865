import type { Schemas } from "../../api/client";
import { useMeter } from "../../api/useBox";
import { Act } from "../../kit/Act";
import { Acts, Note, Section, Warning } from "../../kit/Section";
import { Tick } from "../../kit/Tick";

/** The colour meter and the table it stands on: the swatch is laid under its head, then read. */
export function Meter({
  box,
  swatch,
  wet,
  onRead,
}: {
  box: string;
  /** What would be laid under the head. */
  swatch: Schemas["Swatch"] | null;
  wet: boolean;
  onRead: () => Promise<unknown>;
}) {
  const { meter, calibrate, play } = useMeter();
  if (!meter) return null;
  const { tile, unplugged, busy } = { tile: meter.tile, unplugged: !meter.plugged, busy: meter.busy };
  const table = (change: Partial<Schemas["Table"]>) =>
    play({ tile, unplugged, busy, under: swatch && { paint_box: box, swatch, wet }, ...change });
  const read = async () => {
    if (await table({ tile: false })) await onRead();
  };
  return (
    <Section title="Colour meter, simulated">
      {meter.first ? <Warning>{meter.first}</Warning> : null}
      <Acts>
        <Act
          onDo={() => table({ tile: true }).then((laid) => laid && calibrate())}
          main={!!meter.first && meter.plugged}
        >
          Calibrate on the white tile
        </Act>
        <Act onDo={read} main={!meter.first} disabled={!swatch || !!meter.first}>
          Read the swatch
        </Act>
      </Acts>
      <Note>
        {meter.warm_in > 0 ? `Warm in ${meter.warm_in} seconds; until then it drifts. ` : ""}
        {meter.calibrated_for > 0 ? `Calibrated for ${meter.calibrated_for} readings more.` : ""}
      </Note>
      <details>
        <summary>Simulation controls</summary>
        <Tick on={unplugged} onTick={(on) => table({ unplugged: on })}>
          the cable is out
        </Tick>
        <Tick on={busy} onTick={(on) => table({ busy: on })}>
          another program holds it
        </Tick>
        <Note>
          Swatches are painted with pigments a quarter off their models, as yours may be: the same ones every time.
        </Note>
      </details>
    </Section>
  );
}
