import { NativeSelect, NumberInput, Textarea, TextInput } from "@mantine/core";
import { type ReactNode, useState } from "react";
import { Act } from "../Act";
import { Hint } from "../Hint";
import { Acts, Card, Facts, Note, Section, Warning } from "../Section";
import { Tick } from "../Tick";
import styles from "./KitPage.module.css";

const ROOMS = ["dark", "middle", "light"];

/** Every part of the kit in the three rooms, side by side: for whoever builds a station. Not in the released pages. */
export function KitPage() {
  return (
    <main className={styles.kit}>
      <h1>The kit in three rooms</h1>
      <div className={styles.rooms}>
        {ROOMS.map((room) => (
          <section key={room} data-room={room} className={styles.room} aria-label={room}>
            <h2>{room}</h2>
            <Parts />
          </section>
        ))}
      </div>
    </main>
  );
}

const nothing = () => {};

function Parts() {
  const [on, turn] = useState(true);
  return (
    <Card>
      <Part name="Act">
        <Acts>
          <Act main onDo={nothing}>
            main
          </Act>
          <Act onDo={nothing}>usual</Act>
          <Act onDo={nothing} pressed>
            pressed
          </Act>
          <Act onDo={nothing} disabled>
            disabled
          </Act>
        </Acts>
      </Part>
      <Part name="Tick">
        <Tick on={on} onTick={turn}>
          something that is so
        </Tick>
        <Tick on={false} onTick={nothing} disabled>
          and cannot be changed
        </Tick>
      </Part>
      <Part name="Hint">
        <Hint says="More of what it stands on">
          <button type="button" className="plain">
            point here
          </button>
        </Hint>
      </Part>
      <Part name="Section, Facts, Note, Warning">
        <Section title="A part of a card">
          <Facts
            of={[
              ["Value", "4.2"],
              ["Temperature", "warm, 12"],
            ]}
          />
          <Note>A remark in small letters.</Note>
          <Warning>Something to look out for.</Warning>
        </Section>
      </Part>
      <Part name="Fields">
        <TextInput label="A line of words" defaultValue="shed, first frost" />
        <NumberInput label="A number" defaultValue={8} />
        <NativeSelect label="One of a few" data={["soft pastel", "oil"]} />
        <Textarea label="Several lines" placeholder="empty" minRows={2} />
      </Part>
      <Part name="Figures and long work">
        <p className="figures">4.2 · 118 × 84</p>
        <progress max={1} value={0.4} aria-label="Forty in a hundred" />
      </Part>
    </Card>
  );
}

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className={styles.part}>
      <p className={styles.name}>{name}</p>
      {children}
    </div>
  );
}
