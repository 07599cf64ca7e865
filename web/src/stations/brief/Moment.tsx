import type { Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
import { TextField } from "../../kit/DraftFields";
import styles from "./Brief.module.css";

type Occasion = Schemas["Occasion"];

/** When and in what light and weather the subject was seen: what the journal finds it by, years later. */
export function Moment() {
  const { view, changes } = useBench();
  const { occasion } = view.piece.intent;
  const set = (change: Partial<Occasion>) =>
    changes.requestNow((v) => ({
      do: "set-intent",
      intent: { ...v.piece.intent, occasion: { ...v.piece.intent.occasion, ...change } },
    }));
  const words = (name: "subject" | "weather" | "light", label: string, placeholder: string) => (
    <TextField
      label={label}
      kept={occasion[name]}
      maxLength={80}
      placeholder={placeholder}
      onKeep={(next) => set({ [name]: next })}
    />
  );
  const at = occasion.at ? (occasion.at.length > 10 ? occasion.at.slice(0, 16) : `${occasion.at}T12:00`) : "";
  return (
    <>
      <TextField type="datetime-local" label="Seen at" kept={at} onKeep={(next) => set({ at: next || null })} />
      <div className={styles.three}>
        {words("subject", "Subject", "a lane")}
        {words("weather", "Weather", "frost")}
        {words("light", "Light", "low sun")}
      </div>
    </>
  );
}
