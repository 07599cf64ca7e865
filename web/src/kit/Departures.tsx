import { Textarea, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useBench, useSelection, useTargets, zoneName } from "../bench/context";
import { Act } from "./Act";
import { Acts, Note, Section } from "./Section";

type Change = Schemas["DepartureKind"];

/** Where the painting went its own way: said here with the reason, and what has to be asked again. */
export function Departures({ follows }: { follows: Schemas["Follows"] | null }) {
  const { view, changes } = useBench();
  const { departures } = view.piece.easel;
  const [open, setOpen] = useState(false);
  return (
    <Section title="Departures">
      {departures.map((d, at) => (
        <div key={`${at} ${said(d.change, view)}`}>
          {said(d.change, view)}
          {d.reason && <Note>{d.reason}</Note>}
          <Act
            onDo={() => changes.request({ do: "take-back-departure", at })}
            label={`Take back: ${said(d.change, view)}`}
          >
            Take back
          </Act>
        </div>
      ))}
      {follows && (
        <ul>
          {[
            ...follows.asked,
            follows.fit,
            ...follows.raised.map((r) => `New: ${r}`),
            ...follows.settled.map((r) => `Settled: ${r}`),
          ]
            .filter(Boolean)
            .map((line) => (
              <li key={line}>{line}</li>
            ))}
        </ul>
      )}
      {open ? <NewDeparture onClose={() => setOpen(false)} /> : <Act onDo={() => setOpen(true)}>Record a change</Act>}
    </Section>
  );
}

function said(change: Change, view: Parameters<typeof zoneName>[0]): string {
  switch (change.was) {
    case "left-out":
      return `${zoneName(view, change.zone)} left out`;
    case "moved":
      return `${zoneName(view, change.zone)} moved`;
    default:
      return `${change.name} added`;
  }
}

const WAYS = [
  ["left-out", "left out"],
  ["moved", "moved"],
  ["added", "added"],
] as const;

/** A departure in the making: of the chosen zone, or something new in its colour. */
function NewDeparture({ onClose }: { onClose: () => void }) {
  const bench = useBench();
  const targets = useTargets();
  const { view, changes } = bench;
  const { zone } = useSelection();
  const [way, setWay] = useState<(typeof WAYS)[number][0]>("left-out");
  const [reason, setReason] = useState("");
  const [name, setName] = useState("");
  const [by, setBy] = useState({ right: 0, down: 0 });
  const target = zone === null ? undefined : targets(zone);
  const change = (): Change | null => {
    if (way === "added") {
      if (!target || !name.trim()) return null;
      return {
        was: "added",
        name,
        at: { x: 0.5 + by.right, y: 0.5 + by.down },
        size: { across: 0.1, down: 0.1 },
        lab: target.lab,
      };
    }
    if (zone === null) return null;
    return way === "moved" ? { was: "moved", zone, ...by } : { was: "left-out", zone };
  };
  const made = change();
  const push = (right: number, down: number) =>
    setBy((b) => ({
      right: Math.max(-0.45, Math.min(0.45, b.right + right)),
      down: Math.max(-0.45, Math.min(0.45, b.down + down)),
    }));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (made) changes.request({ do: "depart", departure: { change: made, reason } }).then((ok) => ok && onClose());
      }}
    >
      <Acts>
        {WAYS.map(([w, label]) => (
          <Act key={w} pressed={way === w} onDo={() => setWay(w)}>
            {label}
          </Act>
        ))}
      </Acts>
      {zone === null ? (
        <Note>Choose {way === "added" ? "a zone whose colour it has" : "the zone"} on the picture.</Note>
      ) : (
        <Note>
          {way === "added" ? `In the colour of ${zoneName(view, zone)}.` : `${zoneName(view, zone)} is meant.`}
        </Note>
      )}
      {way === "added" && (
        <TextInput
          label="What was added"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.currentTarget.value)}
        />
      )}
      {way !== "left-out" && (
        <Acts>
          <Act onDo={() => push(-0.05, 0)}>to the left</Act>
          <Act onDo={() => push(0.05, 0)}>to the right</Act>
          <Act onDo={() => push(0, -0.05)}>up</Act>
          <Act onDo={() => push(0, 0.05)}>down</Act>
          <Note>
            {Math.round(by.right * 100)} % to the right, {Math.round(by.down * 100)} % down
            {way === "added" ? " of the middle" : ""}.
          </Note>
        </Acts>
      )}
      <Textarea
        label="Why"
        value={reason}
        maxLength={300}
        autosize
        minRows={1}
        onChange={(e) => setReason(e.currentTarget.value)}
      />
      <Acts>
        <Act main submit disabled={!made}>
          Keep it
        </Act>
        <Act onDo={onClose}>Never mind</Act>
      </Acts>
    </form>
  );
}
