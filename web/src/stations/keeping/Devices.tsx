import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "../../api/client";
import { useNotice } from "../../bench/notice";
import { Act } from "../../kit/Act";
import { Acts, Note, Section, Warning } from "../../kit/Section";
import styles from "./Keeping.module.css";

/** Phones and tablets: which were paired, and the code that pairs another. */
export function Devices() {
  const queries = useQueryClient();
  const { say, tell } = useNotice();
  const devices = useQuery({
    queryKey: ["devices"],
    queryFn: () => answer(api.GET("/api/devices")),
    refetchInterval: 5000,
  }).data;
  const [code, setCode] = useState<{ shown: Schemas["PairingCode"]; known: number } | null>(null);
  if (!devices) return null;
  const ask = () =>
    answer(api.POST("/api/devices/code")).then((shown) => setCode({ shown, known: devices.devices.length }), tell);
  const sendAway = (id: number) =>
    api.DELETE("/api/devices/{id}", { params: { path: { id } } }).then(() => {
      queries.invalidateQueries({ queryKey: ["devices"] });
      say("It was sent away. What it carries opens nothing any more.");
    }, tell);
  // A code is used up by the device it pairs.
  const open = code && devices.devices.length <= code.known ? code.shown : null;
  return (
    <Section level={2} title="Phone and tablet at the easel">
      {devices.address ? (
        <p>
          Paired devices come to <b className="figures">{devices.address}</b>. They see pieces at their stage, Boxes,
          field notes and drills, and send photos and notes.
        </p>
      ) : (
        <p>
          Nothing is shared. Start the program with <code>lean-swatch serve --share</code> and this page pairs a phone
          or tablet by a picture of a code.
        </p>
      )}
      {devices.address && !devices.encrypted && (
        <Warning>
          What goes to and fro is not encrypted, and cannot be kept for use without a connection: share on a network you
          trust, or start with certificate files.
        </Warning>
      )}
      {devices.address && (
        <Acts>
          <Act onDo={ask}>{open ? "Another code" : "Pair a device"}</Act>
        </Acts>
      )}
      {open && (
        <div className={styles.code}>
          <img src={`data:image/svg+xml;utf8,${encodeURIComponent(open.drawn)}`} alt="Code to be photographed" />
          <p>
            Photograph it with the device, or open this address there:
            <br />
            <span className="figures">{open.url}</span>
            <br />
            It is good once, for {open.minutes} minutes.
          </p>
        </div>
      )}
      {devices.devices.map((d) => (
        <div key={d.id} className={styles.device}>
          <span>
            <b>{d.name}</b>, paired {new Date(d.paired).toLocaleDateString()}, last here{" "}
            {new Date(d.seen).toLocaleString(undefined, { dateStyle: "short", timeStyle: "short" })}
          </span>
          <Act onDo={() => sendAway(d.id)}>Send away</Act>
        </div>
      ))}
      {devices.address && devices.devices.length === 0 && <Note>No device is paired.</Note>}
    </Section>
  );
}
