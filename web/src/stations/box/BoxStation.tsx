import { NativeSelect, Textarea, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type BoxView, Refused } from "../../api/client";
import { Station } from "../../bench/Bench";
import { capital, temperatureWord, useBench } from "../../bench/context";
import { useNotice } from "../../bench/notice";
import { mediumName, unit } from "../../bench/stations";
import { Cautions } from "../../lenses/Cautions";
import { Stroke } from "../../lenses/stroke/Stroke";
import { useGround } from "../../lenses/stroke/useGround";
import styles from "./BoxStation.module.css";

/** What is owned, lightest first, each as a stroke on the ground of the piece. */
export function BoxStation() {
  const { box } = useBench();
  return (
    <Station
      name="Box"
      surface={box ? <Owned box={box} /> : <StartBox />}
      card={box ? <BoxCard box={box} /> : <p>A Box holds all the pigments you own in one medium.</p>}
    />
  );
}

function useBoxChange() {
  const queries = useQueryClient();
  const { say } = useNotice();
  const { view } = useBench();
  return useMutation({
    mutationFn: (call: () => Promise<BoxView>) => call(),
    onSuccess: (b) => {
      queries.setQueryData(["box", b.id], b);
      queries.invalidateQueries({ queryKey: ["piece", view.id] });
      queries.invalidateQueries({ queryKey: ["studio"] });
    },
    onError: (e) => say(e instanceof Refused ? e.problem.detail : String(e), "problem"),
  });
}

function Owned({ box }: { box: BoxView }) {
  const { pigment, selectPigment } = useBench();
  const ground = useGround();
  const [find, setFind] = useState("");
  const wanted = find.trim().toLowerCase();
  const shown = box.pigments.filter(
    (p) =>
      !wanted || p.name.toLowerCase().includes(wanted) || p.colour_index.some((c) => c.toLowerCase().includes(wanted)),
  );
  return (
    <>
      <div className={styles.head}>
        <h2>
          {box.name}, {box.pigments.length} {unit(box.medium, box.pigments.length)}
        </h2>
        <TextInput
          id="find"
          aria-label="Find in the Box"
          placeholder="find ( / )"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
          size="xs"
        />
      </div>
      <ul className={styles.owned}>
        {shown.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              className={`plain ${styles.one}`}
              aria-pressed={pigment === p.id}
              onClick={() => selectPigment(pigment === p.id ? null : p.id)}
            >
              <Stroke marks={[p.mark]} ground={ground} height={30} />
              <span>
                <b>{p.name}</b>
                <span className="figures">{p.mark.value.toFixed(1)}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p>Nothing in this Box is called that.</p>}
    </>
  );
}

function BoxCard({ box }: { box: BoxView }) {
  const { pigment, selectPigment } = useBench();
  const ground = useGround();
  const change = useBoxChange();
  const p = box.pigments.find((q) => q.id === pigment);
  if (p) {
    return (
      <div className={styles.card}>
        <h2>{capital(p.name)}</h2>
        <p>
          {p.colour_index.join(" + ")} {p.provenance === "modelled" ? "· modelled, not measured" : "· as given"}
        </p>
        <Stroke marks={[p.mark]} ground={ground} height={74} label={p.name} />
        <p>
          Value <span className="figures">{p.mark.value.toFixed(1)}</span>, {temperatureWord(p.mark.temperature)}
          {p.lightfastness && <>, light-fastness {p.lightfastness}</>}
        </p>
        {p.hazard && (
          <p className={styles.caution}>
            Contains {p.hazard}: the label and safety data sheet come first; follow local rules.
          </p>
        )}
        <button
          type="button"
          className="act"
          onClick={() => {
            selectPigment(null);
            change.mutate(() =>
              answer(
                api.DELETE("/api/boxes/{id}/pigments/{pigment}", { params: { path: { id: box.id, pigment: p.id } } }),
              ),
            );
          }}
        >
          Take it out of the Box
        </button>
      </div>
    );
  }
  return (
    <div className={styles.card}>
      <h2>{box.name}</h2>
      <p>
        {capital(mediumName(box.medium))}. All colours are modelled or as given, never measured here: a swatch on your
        own ground decides.
      </p>
      <Cautions cautions={box.cautions} />
      <AddPigment box={box} />
    </div>
  );
}

function AddPigment({ box }: { box: BoxView }) {
  const library = useQuery({
    queryKey: ["library"],
    queryFn: () => answer(api.GET("/api/library")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const change = useBoxChange();
  const [shipped, setShipped] = useState("");
  const [name, setName] = useState("");
  const free = library.data?.filter((p) => !box.pigments.some((q) => q.id === p.id)) ?? [];
  return (
    <form
      className={styles.add}
      onSubmit={(e) => {
        e.preventDefault();
        if (shipped)
          change.mutate(() =>
            answer(
              api.POST("/api/boxes/{id}/pigments", {
                params: { path: { id: box.id } },
                body: { shipped, name: name || null },
              }),
            ),
          );
        setShipped("");
        setName("");
      }}
    >
      <h3>Put in another</h3>
      <NativeSelect
        aria-label="Modelled pigment"
        value={shipped}
        onChange={(e) => setShipped(e.currentTarget.value)}
        data={[
          { value: "", label: "a modelled pigment" },
          ...free.map((p) => ({ value: p.id, label: `${p.id} ${p.name}` })),
        ]}
      />
      <TextInput
        label="What is printed on yours, if you like"
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <button type="submit" className="act" disabled={!shipped}>
        Put it in
      </button>
    </form>
  );
}

function StartBox() {
  const { view, changes } = useBench();
  const { say } = useNotice();
  const [name, setName] = useState("");
  const [file, setFile] = useState("");
  const [shipped, setShipped] = useState(true);
  const start = async () => {
    try {
      const made = await answer(
        api.POST("/api/boxes", {
          body: { name, medium: view.piece.brief.medium, pigment_file: file || null, shipped },
        }),
      );
      await changes.request({ do: "use-box", paint_box: made.id });
    } catch (e) {
      say(e instanceof Refused ? e.problem.detail : String(e), "problem");
    }
  };
  return (
    <form
      className={styles.start}
      onSubmit={(e) => {
        e.preventDefault();
        start();
      }}
    >
      <h2>Start a Box of {mediumName(view.piece.brief.medium)}</h2>
      <TextInput label="Name" value={name} required maxLength={80} onChange={(e) => setName(e.currentTarget.value)} />
      <label className={styles.tick}>
        <input
          type="checkbox"
          checked={shipped && !file}
          disabled={!!file}
          onChange={(e) => setShipped(e.currentTarget.checked)}
        />
        Fill it with the 61 modelled pigments that come along; take out later what you do not own
      </label>
      <Textarea
        label="Or the text of a pigment file"
        minRows={4}
        autosize
        maxRows={10}
        value={file}
        onChange={(e) => setFile(e.currentTarget.value)}
      />
      <button type="submit" className="act main">
        Start
      </button>
    </form>
  );
}
