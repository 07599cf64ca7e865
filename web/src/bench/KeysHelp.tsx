import { Modal } from "@mantine/core";
import styles from "./KeysHelp.module.css";

const KEYS: [string, string][] = [
  ["1 2 3 4 5 6 7 8", "Brief, Subject, Light, Lean set, Mixes, Studies, Piece, Box"],
  ["9 0", "the journal; drills for the eye"],
  ["v w s n", "values only, warm–cool only, squint, as it reads among its neighbours; again: as it is"],
  ["f", "flat: plans and studies without the hand of the medium"],
  ["[ ]", "fewer or more value groups"],
  ["i", "isolate the selected zone, or a patch under the pointer"],
  ["j k", "next or previous zone"],
  [", .", "larger or smaller place of the zone"],
  ["m g", "at Subject: make the place a zone of its own; pick it up, and put it down in the zone chosen then"],
  ["+ −", "one colour more or less"],
  ["< >", "a smaller or larger brush"],
  ["arrows", "move the selected mark a tenth of a step (Shift: half)"],
  ["Space", "hold to see the reference; with Shift the plan"],
  ["l h d t c g o", "at Light: lit, halftone, in shadow, thrown back, contact, glint, own light"],
  ["h H c C", "at Light, hue and chroma: turn the hue of the chosen zones, change its strength; b B turns a little"],
  ["p x o l y", "there: the next pigment's hue, keep the zone chosen, as read, local colour, type a colour"],
  ["p a y e", "at Light: next plane, next distance, next kind of thing, the other light"],
  ["t", "at Mixes: take the simpler recipe of the zone, or the fuller one again"],
  ["r", "grey of the room: middle, dark, light"],
  ["Ctrl+Z", "undo; with Shift redo"],
  ["/", "find in the Box"],
  ["Esc", "back"],
  ["?", "this list"],
];

export function KeysHelp({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" size="md" centered transitionProps={{ duration: 0 }}>
      <dl className={styles.keys}>
        {KEYS.map(([key, what]) => (
          <div key={key}>
            <dt className="figures">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
