import type { Schemas } from "../../api/client";
import { inMm, shown, unitWord } from "../../bench/lengths";
import { NumberField } from "../../kit/DraftFields";

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
    <NumberField
      label={`${label}, ${unitWord(units)}`}
      kept={now}
      min={shown(least, units)}
      max={shown(most, units)}
      decimalScale={1}
      onKeep={(next) => next !== null && onKeep(inMm(next, units))}
    />
  );
}
