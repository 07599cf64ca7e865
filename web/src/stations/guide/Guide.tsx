import { useEffect } from "react";
import { Link, NavLink, useParams } from "react-router";
import { GuideText } from "../../guide/GuideText";
import { PAGES } from "../../guide/pages";
import styles from "./Guide.module.css";

/** The user's guide, a page a station. */
export function Guide() {
  const { page } = useParams();
  const [name, , title] = PAGES.find(([n]) => n === page) ?? PAGES[0];
  useEffect(() => {
    document.title = `${title} · Guide · Lean Swatch`;
  }, [title]);
  return (
    <div className={styles.guide}>
      <nav aria-label="Pages of the guide" className={styles.pages}>
        <Link to="/">Studio</Link>
        <ul>
          {PAGES.map(([n, , words]) => (
            <li key={n}>
              <NavLink to={`/guide/${n}`}>{words}</NavLink>
            </li>
          ))}
        </ul>
      </nav>
      <main className={styles.page} key={name}>
        <GuideText page={name} />
      </main>
    </div>
  );
}
