import { Modal } from "@mantine/core";
import { lazy, Suspense, useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { PAGES } from "../guide/pages";
import styles from "./KeysHelp.module.css";

const GuideText = lazy(() => import("../guide/GuideText").then((m) => ({ default: m.GuideText })));

const KEYS: [string, string][] = [
  ["1 2 3 4 5 6 7 8", "Brief, Subject, Light, Lean set, Mixes, Studies, Piece, Box"],
  ["9 0", "the journal; drills for the eye"],
  ["v w s n", "values only, warm–cool only, squint, among its neighbours; again: the reference"],
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
  ["l h d t c g o", "at Light: light, halftone, shadow, reflected light, contact shadow, highlight, light source"],
  ["h H c C", "at Light, hue and chroma: turn the hue of the chosen zones, change its strength; b B turns a little"],
  ["p x o l y", "at Light: the next pigment's hue, keep the zone chosen, as measured, local colour, type a colour"],
  ["p a y e", "at Light: next plane, next distance, next kind of thing, the other light"],
  ["t", "at Mixes: take the simpler recipe of the zone, or the fuller one again"],
  ["q", "which of mine is this, or how do I mix it: for the chosen zone, a spot of the picture, a typed colour"],
  ["r", "background: mid grey, dark, light"],
  ["Ctrl+Z", "undo; with Shift redo"],
  ["/", "find in the Box"],
  ["Esc", "back"],
  ["?", "this help"],
];

/** What a station is for, and every key. */
export function KeysHelp({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const station = useLocation().pathname.split("/").pop();
  const page = PAGES.find(([name]) => name === station)?.[0] ?? "start";
  // A dialog gives the focus back only if it was there, closed, before it was opened; this one is fetched when it is asked for.
  const [there, setThere] = useState(false);
  useEffect(() => setThere(true), []);
  return (
    <Modal
      opened={opened && there}
      onClose={onClose}
      title="Help"
      size={1040}
      centered
      transitionProps={{ duration: 0 }}
      closeButtonProps={{ "aria-label": "Close the help" }}
    >
      <div className={styles.help}>
        <section aria-label="This station">
          {opened && (
            <Suspense fallback={<p aria-busy="true">Loading the page …</p>}>
              <GuideText page={page} inside />
            </Suspense>
          )}
          <p>
            <Link to={`/guide/${page}`}>The whole guide, with pictures</Link> ·{" "}
            <Link to="/guide/trust">How far to trust this</Link>
          </p>
        </section>
        <section aria-labelledby="keys">
          <h3 id="keys">Keys</h3>
          <dl className={styles.keys}>
            {KEYS.map(([key, what]) => (
              <div key={key}>
                <dt className="figures">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
    </Modal>
  );
}
