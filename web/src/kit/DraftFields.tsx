import {
  NumberInput,
  type NumberInputProps,
  Textarea,
  type TextareaProps,
  TextInput,
  type TextInputProps,
} from "@mantine/core";
import { typedNumber } from "../room/figures";
import { useDraft } from "./useDraft";

type Kept<T> = { kept: T; onKeep: (next: T) => unknown };
type Owned = "value" | "defaultValue" | "onChange" | "onBlur";

/** A line of words that is kept when the field is left. */
export function TextField({ kept, onKeep, ...props }: Kept<string> & Omit<TextInputProps, Owned>) {
  const { shown, edit, leave } = useDraft(kept, onKeep);
  return <TextInput {...props} value={shown} onChange={(e) => edit(e.currentTarget.value)} onBlur={leave} />;
}

/** Several lines of words that are kept when the field is left. */
export function TextAreaField({ kept, onKeep, ...props }: Kept<string> & Omit<TextareaProps, Owned>) {
  const { shown, edit, leave } = useDraft(kept, onKeep);
  return <Textarea {...props} value={shown} onChange={(e) => edit(e.currentTarget.value)} onBlur={leave} />;
}

/** A number that is kept when the field is left. One outside its range is not kept, and an empty field only where it may be empty. */
export function NumberField({
  kept,
  onKeep,
  mayBeEmpty = false,
  ...props
}: Kept<number | null> & { mayBeEmpty?: boolean; min: number; max: number } & Omit<NumberInputProps, Owned>) {
  const { shown, edit, leave } = useDraft<number | string>(kept ?? "", (draft) => {
    const next = draft === "" ? null : typedNumber(String(draft));
    const fits = next === null ? mayBeEmpty : next >= props.min && next <= props.max;
    return fits && next !== kept ? onKeep(next) : undefined;
  });
  return (
    <NumberInput
      {...props}
      value={shown}
      onChange={edit}
      onBlur={leave}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      clampBehavior="none"
    />
  );
}
