import { type Look, useLooking } from "../../bench/context";
import styles from "./Looks.module.css";

const LOOKS: { look: Look; key: string; label: string }[] = [
  { look: "as-it-is", key: "·", label: "as it is" },
  { look: "values", key: "v", label: "values" },
  { look: "warm-cool", key: "w", label: "warm–cool" },
  { look: "squint", key: "s", label: "squint" },
  { look: "neighbours", key: "n", label: "neighbours" },
];

/** Ways to see the picture, and how many value groups. */
export function Looks() {
  const { look, setLook, isolate, setIsolate, groups, setGroups } = useLooking();
  const grouped = look === "values" || look === "squint";
  return (
    <div className={styles.looks} role="toolbar" aria-label="Ways to see the picture">
      {LOOKS.map((l) => (
        <button
          key={l.look}
          type="button"
          className="plain"
          aria-pressed={look === l.look}
          onClick={() => setLook(l.look)}
        >
          <kbd className="figures">{l.key}</kbd> {l.label}
        </button>
      ))}
      <button type="button" className="plain" aria-pressed={isolate} onClick={() => setIsolate(!isolate)}>
        <kbd className="figures">i</kbd> isolate
      </button>
      <span className={styles.gap} />
      {grouped && (
        <Stepper
          label="groups"
          value={groups ?? (look === "squint" ? 4 : null)}
          onLess={() => setGroups(less(groups))}
          onMore={() => setGroups(more(groups))}
        />
      )}
    </div>
  );
}

const less = (g: number | null) => (g === null ? 12 : g <= 2 ? null : g - 1);
const more = (g: number | null) => (g === null ? 2 : g >= 12 ? null : g + 1);

function Stepper({
  label,
  value,
  onLess,
  onMore,
}: {
  label: string;
  value: number | null;
  onLess: () => void;
  onMore: () => void;
}) {
  return (
    <span className={styles.stepper} role="group" aria-label={label}>
      {label}
      <button type="button" className="plain" onClick={onLess} aria-label={`Fewer ${label}`}>
        −
      </button>
      <output className="figures">{value ?? "all"}</output>
      <button type="button" className="plain" onClick={onMore} aria-label={`More ${label}`}>
        +
      </button>
    </span>
  );
}
