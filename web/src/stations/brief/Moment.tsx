import { TextInput } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { useBench } from "../../bench/context";
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
    <TextInput
      key={`${name}${occasion[name]}`}
      label={label}
      defaultValue={occasion[name]}
      maxLength={80}
      placeholder={placeholder}
      onBlur={(e) => e.currentTarget.value !== occasion[name] && set({ [name]: e.currentTarget.value })}
    />
  );
  const at = occasion.at ? (occasion.at.length > 10 ? occasion.at.slice(0, 16) : `${occasion.at}T12:00`) : "";
  return (
    <>
      <TextInput
        key={at}
        type="datetime-local"
        label="Seen at"
        defaultValue={at}
        onBlur={(e) => e.currentTarget.value !== at && set({ at: e.currentTarget.value || null })}
      />
      <div className={styles.three}>
        {words("subject", "Subject", "a lane")}
        {words("weather", "Weather", "frost")}
        {words("light", "Light", "low sun")}
      </div>
    </>
  );
}
