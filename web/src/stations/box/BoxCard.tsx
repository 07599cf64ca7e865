import { FileButton, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type BoxView } from "../../api/client";
import { useBoxChange } from "../../api/useBox";
import { capital } from "../../bench/context";
import { mediumName } from "../../bench/stations";
import { Act } from "../../kit/Act";
import { Acts, Card, Note, Section } from "../../kit/Section";
import { Cautions } from "../../lenses/Cautions";
import { ListField } from "./ListField";

/** The Box as a whole: where its colours come from, cautions, and putting in more. */
export function BoxCard({ box }: { box: BoxView }) {
  const read = box.pigments.filter((p) => p.provenance === "measured" || p.provenance === "inferred").length;
  return (
    <Card>
      <h2>{box.name}</h2>
      <p>
        {capital(mediumName(box.medium))}.{" "}
        {read
          ? `${read} of ${box.pigments.length} are learned from your own readings; the others are modelled or as given.`
          : "All colours are modelled or as given, none measured: a swatch on your own ground decides. Read a few at “readings”."}
      </p>
      <Cautions cautions={box.cautions} />
      <AddOne box={box} />
      <AddMany box={box} />
      <Inventory box={box} />
    </Card>
  );
}

function AddOne({ box }: { box: BoxView }) {
  const library = useQuery({
    queryKey: ["library"],
    queryFn: () => answer(api.GET("/api/library")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const change = useBoxChange();
  const [shipped, setShipped] = useState("");
  const [name, setName] = useState("");
  const free = library.data?.filter((p) => !box.pigments.some((q) => q.id === p.id)) ?? [];
  const path = { id: box.id };
  const put = () => {
    if (!shipped) return;
    const body = { shipped, name: name || null };
    change.mutate(() => answer(api.POST("/api/boxes/{id}/pigments", { params: { path }, body })));
    setShipped("");
    setName("");
  };
  return (
    <Section title="Put in another">
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
      <Act onDo={put} disabled={!shipped}>
        Put it in
      </Act>
    </Section>
  );
}

function AddMany({ box }: { box: BoxView }) {
  const change = useBoxChange();
  const [list, setList] = useState("");
  const put = () =>
    change.mutate(
      () => answer(api.POST("/api/boxes/{id}/list", { params: { path: { id: box.id } }, body: { list } })),
      { onSuccess: () => setList("") },
    );
  return (
    <Section title="Or a whole list">
      <ListField value={list} onChange={setList} />
      <Act onDo={put} disabled={!list.trim()}>
        Put them in
      </Act>
    </Section>
  );
}

function Inventory({ box }: { box: BoxView }) {
  const change = useBoxChange();
  const put = (file: File) =>
    change.mutate(() =>
      answer(
        api.PUT("/api/boxes/{id}/inventory", {
          params: { path: { id: box.id }, query: { seen: box.version } },
          body: file as unknown as number[],
          bodySerializer: (b) => b as unknown as BodyInit,
          headers: { "content-type": "application/octet-stream" },
        }),
      ),
    );
  return (
    <Section title="As a table">
      <Acts>
        <a href={`/api/boxes/${encodeURIComponent(box.id)}/inventory`} download="box.csv">
          Save it (CSV)
        </a>
        <FileButton onChange={(f) => f && put(f)} accept=".csv,text/csv">
          {(props) => (
            <button type="button" className="act" {...props}>
              Take one in
            </button>
          )}
        </FileButton>
      </Acts>
      <Note>A row names a shipped pigment, or gives the colour of its masstone as L, a and b.</Note>
    </Section>
  );
}
