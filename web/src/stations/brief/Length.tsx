import { NumberInput } from "@mantine/core";
import type { Schemas } from "../../api/client";
import { inMm, shown, unitWord } from "../../bench/lengths";
import { typedNumber } from "../../room/figures";

/** A length typed in the units of the piece; kept when the field is left. */
export function Length({
  label,
  mm,
  units,
  least = 0,
  most,
  onKeep,
}: {
  label: string;
  mm: number;
  units: Schemas["Units"];
  least?: number;
  most: number;
  onKeep: (mm: number) => void;
}) {
  const now = shown(mm, units);
  return (
    <NumberInput
      key={`${now}${units}`}
      label={`${label}, ${unitWord(units)}`}
      defaultValue={now}
      min={shown(least, units)}
      max={shown(most, units)}
      decimalScale={1}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      onBlur={(e) => {
        const n = typedNumber(e.currentTarget.value);
        const next = inMm(n, units);
        if (e.currentTarget.value !== "" && n !== now && next >= least - 1e-6 && next <= most + 1e-6) onKeep(next);
      }}
    />
  );
}
