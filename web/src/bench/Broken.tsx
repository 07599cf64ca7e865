import { Component, type ReactNode } from "react";
import { useLocation } from "react-router";
import styles from "./Broken.module.css";

/** What stands in place of a page that broke. */
function Broken({ error }: { error: unknown }) {
  const told = error instanceof Error ? error.message : String(error);
  return (
    <main className={styles.broken} role="alert">
      <h1>This page broke</h1>
      <p>Nothing is lost: every change was saved before it was shown as done.</p>
      <p>
        <button type="button" className="act main" onClick={() => window.location.reload()}>
          Load it again
        </button>
        <a className="act" href="/">
          Back to the studio
        </a>
      </p>
      <p>If it breaks again, undo the last change from another station, and keep these words for whoever mends it:</p>
      <pre>{told}</pre>
    </main>
  );
}

class Kept extends Component<{ at: string; children: ReactNode }, { error?: unknown; at: string }> {
  state: { error?: unknown; at: string } = { at: this.props.at };

  static getDerivedStateFromError(error: unknown) {
    return { error: error ?? "Nothing was said." };
  }

  // What broke one page does not stay when another is gone to.
  static getDerivedStateFromProps(props: { at: string }, state: { at: string }) {
    return props.at === state.at ? null : { at: props.at, error: undefined };
  }

  render() {
    return this.state.error === undefined ? this.props.children : <Broken error={this.state.error} />;
  }
}

/** Keeps a page that breaks from taking the others with it. */
export function BreaksAlone({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return <Kept at={pathname}>{children}</Kept>;
}
