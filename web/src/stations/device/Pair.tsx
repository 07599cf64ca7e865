import { TextInput } from "@mantine/core";
import { useEffect, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { api } from "../../api/client";
import styles from "./Device.module.css";

/** Where a device shows the code it was given. */
export function Pair() {
  const navigate = useNavigate();
  const code = useLocation().hash.slice(1);
  const [name, setName] = useState("my phone");
  const [problem, setProblem] = useState("");
  useEffect(() => {
    document.title = "Pair this device · Lean Swatch";
  }, []);
  const pair = async () => {
    try {
      const { response, error } = await api.POST("/api/pair", { body: { code, name } });
      if (response.ok) navigate("/device", { replace: true });
      else setProblem(error?.detail ?? "That did not work.");
    } catch {
      setProblem("The studio does not answer.");
    }
  };
  return (
    <main className={styles.device}>
      <h1>Pair this device</h1>
      {code ? (
        <form
          className={styles.form}
          onSubmit={(e) => {
            e.preventDefault();
            void pair();
          }}
        >
          <p>
            It will see pieces, Boxes, notes and drills, and send photos and notes. It can be sent away at any time.
          </p>
          <TextInput label="Its name" value={name} maxLength={40} onChange={(e) => setName(e.currentTarget.value)} />
          <button type="submit" className="act main">
            Pair it
          </button>
        </form>
      ) : (
        <p>
          On the machine where the studio is, open <b>Backups</b> and ask for a code. Photograph it with this device, or
          open the address below it here.
        </p>
      )}
      {problem && <p role="alert">{problem}</p>}
      {location.protocol === "http:" && (
        <p className={styles.small}>
          Nothing between this device and the studio is encrypted: the network must be one you trust.
        </p>
      )}
    </main>
  );
}
