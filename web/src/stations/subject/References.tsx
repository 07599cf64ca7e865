import type { Schemas } from "../../api/client";
import { SERVES } from "../../api/words";
import { useBench, useSelection, zoneName } from "../../bench/context";
import { Departures } from "../../kit/Departures";
import { TextField } from "../../kit/DraftFields";
import { Acts, Card } from "../../kit/Section";
import styles from "./References.module.css";

/** All references of the piece in one place, each with what it is for. */
export function ReferencesRoom() {
  const { view, changes } = useBench();
  const { reference, others } = view.piece;
  const { zone: selected } = useSelection();
  const setOther = (digest: string, to: Partial<Schemas["Other"]>) =>
    changes.request({ do: "set-others", others: others.map((o) => (o.digest === digest ? { ...o, ...to } : o)) });
  return (
    <ul className={styles.references}>
      {reference && (
        <li>
          <img src={`/api/pieces/${view.id}/pictures/${reference.digest}`} alt={reference.file_name} />
          <div>
            <b>{reference.file_name}</b>
            <span>the main one: zones are found in it</span>
            <For serves={reference.serves} onChange={(serves) => changes.request({ do: "set-serves", serves })} />
          </div>
        </li>
      )}
      {others.map((o) => (
        <li key={o.digest}>
          <img src={`/api/pieces/${view.id}/pictures/${o.digest}`} alt={o.file_name} />
          <div>
            <b>{o.file_name}</b>
            <span className="figures">{`${o.width} × ${o.height}`}</span>
            <TextField
              label="What it is for"
              kept={o.purpose}
              placeholder="the hand; how cloth folds; winter light"
              maxLength={120}
              onKeep={(purpose) => setOther(o.digest, { purpose })}
            />
            <For serves={o.serves} onChange={(serves) => setOther(o.digest, { serves })} />
            <Pins other={o} selected={selected} onPin={(pinned) => setOther(o.digest, { pinned })} />
            <Acts>
              <button type="button" className="act" onClick={() => changes.makeMain(o.digest)}>
                Make it the main one
              </button>
              <button
                type="button"
                className="act"
                onClick={() =>
                  changes.request({ do: "set-others", others: others.filter((x) => x.digest !== o.digest) })
                }
              >
                Take it away
              </button>
            </Acts>
          </div>
        </li>
      ))}
      {!reference && others.length === 0 && <li>None yet.</li>}
    </ul>
  );
}

/** Zones it is pinned to: it stands over the card while one of them is chosen. */
function Pins({
  other,
  selected,
  onPin,
}: {
  other: Schemas["Other"];
  selected: number | null;
  onPin: (zones: number[]) => void;
}) {
  const { view } = useBench();
  const { pinned } = other;
  return (
    <>
      {pinned.length > 0 && <span>Pinned to {pinned.map((z) => zoneName(view, z)).join(", ")}</span>}
      <Acts>
        {selected !== null && !pinned.includes(selected) && (
          <button type="button" className="act" onClick={() => onPin([...pinned, selected])}>
            Pin it to {zoneName(view, selected)}
          </button>
        )}
        {pinned.length > 0 && (
          <button type="button" className="act" onClick={() => onPin([])}>
            Unpin it
          </button>
        )}
      </Acts>
    </>
  );
}

function For({ serves, onChange }: { serves: Schemas["Serves"][]; onChange: (s: Schemas["Serves"][]) => void }) {
  return (
    <fieldset className={styles.serves}>
      <legend>for</legend>
      {SERVES.map((s) => (
        <label key={s.value}>
          <input
            type="checkbox"
            checked={serves.includes(s.value)}
            onChange={() =>
              onChange(serves.includes(s.value) ? serves.filter((x) => x !== s.value) : [...serves, s.value])
            }
          />
          {s.label}
        </label>
      ))}
    </fieldset>
  );
}

export function ReferencesCard() {
  const { view, changes } = useBench();
  return (
    <Card>
      <h2>References</h2>
      <p>
        Pose from one, cloth from another: keep them together, each with what it is for. Zones and values come from the
        main one. Choose a zone ( j k ) and pin a picture to it: it is there at every station while that zone is chosen.
      </p>
      {view.piece.reference && (
        <label className={styles.add}>
          Add a reference
          <input
            id="other-file"
            type="file"
            accept="image/jpeg,image/png,image/webp,image/tiff"
            onChange={(e) => {
              const file = e.currentTarget.files?.[0];
              if (file) changes.put("others", file);
              e.currentTarget.value = "";
            }}
          />
        </label>
      )}
      {view.piece.zones.length > 0 && <Departures follows={null} />}
    </Card>
  );
}
