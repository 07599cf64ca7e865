import { Act } from "./Act";
import { Acts, Warning } from "./Section";

/** Says that another window changed what is edited here. What was typed stays until the painter takes in the newest state. */
export function Elsewhere({ what, onTake }: { what: string; onTake: () => void }) {
  return (
    <>
      <Warning>This {what} was changed in another window. What you typed here is not saved.</Warning>
      <Acts>
        <Act onDo={onTake}>Show it as it is now</Act>
      </Acts>
    </>
  );
}
