import photo from "./example/photo.jpg";
import plan from "./example/plan.jpg";
import study from "./example/study.jpg";
import values from "./example/values.jpg";
import styles from "./Studio.module.css";

const STEPS: [src: string, title: string, words: string][] = [
  [photo, "A picture", "Drop a photo or a line drawing. Its colours and values are measured at once."],
  [values, "Values first", "A few honest greys show where it is light and where it is dark."],
  [plan, "Few pigments", "From what you own: the smallest set that will do, and a recipe for every zone."],
  [study, "Small studies", "Other colours at the same values, painted in your medium, to print and try."],
];

/** What the program does with a picture, in four pictures of the demo studio: for whoever has none here yet. */
export function ExampleRun() {
  return (
    <ol className={styles.example} aria-label="An example">
      {STEPS.map(([src, title, words]) => (
        <li key={title}>
          <img src={src} alt="" width={440} height={330} />
          <b>{title}</b>
          <span>{words}</span>
        </li>
      ))}
    </ol>
  );
}
