import { Textarea } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { answer, api } from "../../api/client";
import { Note, Warning } from "../../kit/Section";

/** Pigments typed or pasted as a list; what it is taken for is said while it is typed. */
export function ListField({ value, onChange }: { value: string; onChange: (list: string) => void }) {
  const [list] = useDebouncedValue(value, 250);
  const understood = useQuery({
    queryKey: ["list", list],
    queryFn: () => answer(api.POST("/api/lists", { body: { list } })),
    enabled: !!list.trim(),
    retry: false,
    placeholderData: (old) => old,
  });
  const entries = list.trim() ? (understood.data ?? []) : [];
  const unknown = entries.filter((e) => !e.pigment);
  return (
    <div>
      <Textarea
        label="Colour Index names or plain names, parted by commas"
        placeholder="PB29, PY43, burnt sienna"
        autosize
        minRows={2}
        maxRows={8}
        value={value}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
      {entries.length > unknown.length && (
        <Note>
          {entries
            .filter((e) => e.pigment)
            .map((e) => e.words)
            .join(", ")}
        </Note>
      )}
      {unknown.map((e) => (
        <Warning key={e.typed}>
          “{e.typed}”: {e.words}
        </Warning>
      ))}
    </div>
  );
}
