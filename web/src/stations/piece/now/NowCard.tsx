import type { Schemas } from "../../../api/client";
import { type AtTheEasel, localNow, sameTask, type TaskLine } from "../../../api/useEasel";
import { capital, useBench, zoneName } from "../../../bench/context";
import { Act } from "../../../kit/Act";
import { Departures } from "../../../kit/Departures";
import { Acts, Card, Note, Section, Warning } from "../../../kit/Section";
import { Cautions } from "../../../lenses/Cautions";
import { said } from "../../../room/figures";
import { lasting, minutesWord, withDays } from "../lasting";
import { InHand } from "./InHand";
import { useTask } from "./useTask";

/** What to do now, what is still wet, what looks wrong and comes right, and what else wants the pigment in hand. */
export function NowCard({ at, follows }: { at: AtTheEasel; follows: Schemas["Follows"] | null }) {
  const { box } = useBench();
  const { task, isNext, choose } = useTask(at);
  return (
    <Card>
      {task ? <Task at={at} task={task} isNext={isNext} onNext={() => choose(null)} /> : <h2>All is done</h2>}
      {at.words && <Warning>{said(said(withDays(at.words)))}</Warning>}
      {!at.sessions.proved && (
        <Note>Not every order could be tried: there may be one that is done a little sooner.</Note>
      )}
      <StillWet at={at} />
      <InHand at={at} />
      <LeftOut at={at} />
      <Departures follows={follows} />
      <Cautions cautions={box?.cautions ?? []} />
    </Card>
  );
}

/** The name of the zone stands before, so that zones of one name are told apart. */
function titleOf(task: TaskLine) {
  return task.id.zone ? `${task.id.zone} · ${task.title}` : task.title;
}

function Task({ at, task, isNext, onNext }: { at: AtTheEasel; task: TaskLine; isNext: boolean; onNext: () => void }) {
  const { changes, view } = useBench();
  const did = (done: boolean) =>
    changes.request({ do: "did-task", task: task.id, done, at: done ? localNow() : null }).then((ok) => ok && onNext());
  const order = at.sessions.sessions.flatMap((s) => s.slots.map((slot) => slot.task));
  const place = order.findIndex((t) => sameTask(t, task.id));
  const [before, after] = [order[place - 1], order[place + 1]];
  const put = (first: typeof task.id, then: typeof task.id) =>
    changes.request({ do: "put-task-before", task: first, before: then });
  return (
    <>
      <div>
        <Note>
          {isNext ? (at.next_in > 0 ? `Next, in ${lasting(at.next_in)}` : "Next") : task.done ? "Done" : "Later"}
        </Note>
        <h2>{titleOf(task)}</h2>
      </div>
      <p>{task.how}</p>
      {task.gate && <Warning>{task.gate}</Warning>}
      {task.smudges && <Warning>{task.smudges}</Warning>}
      <Note>
        {minutesWord(task.minutes)} of work
        {task.drying.over > 0 && `; ${lasting(task.drying.over)} until the next layer may go over it`}
        {task.drying.lift > 0 && `; it lifts for ${lasting(task.drying.lift)}`}.
        {task.later && " No day is planned for it."}
      </Note>
      <Acts>
        {task.done ? (
          <Act onDo={() => did(false)}>Not done yet</Act>
        ) : (
          <Act main onDo={() => did(true)}>
            It is done
          </Act>
        )}
        {!task.done && before && <Act onDo={() => put(task.id, before)}>Earlier</Act>}
        {!task.done && place >= 0 && after && <Act onDo={() => put(after, task.id)}>Later</Act>}
        {!task.done && (
          <Act onDo={() => changes.request({ do: "skip-task", task: task.id, skipped: true }).then(() => onNext())}>
            Leave it out
          </Act>
        )}
        {!isNext && at.next && <Act onDo={onNext}>What is next</Act>}
      </Acts>
      <Note>Order of work: {view.derived.order.words}.</Note>
      {(view.piece.easel.orders.length > 0 || view.piece.easel.skipped.length > 0) && (
        <p>
          The order is your own.{" "}
          <button type="button" className="act" onClick={() => changes.request({ do: "usual-order" })}>
            Take the usual one
          </button>
        </p>
      )}
    </>
  );
}

function StillWet({ at }: { at: AtTheEasel }) {
  const { view } = useBench();
  if (!at.wet.length) return null;
  const line = (w: AtTheEasel["wet"][number]) => {
    const what = w.task.zone ? capital(zoneName(view, w.task.zone)) : "The sheet";
    const beside = w.beside > 0 ? `touch nothing beside it for ${lasting(w.beside)}` : "";
    const lift = w.lift > 0 ? `lifts for ${lasting(w.lift)}` : "";
    return `${what}: ${[beside, `nothing over it for ${lasting(w.over)}`, lift].filter(Boolean).join(", ")}`;
  };
  return (
    <Section title="Still wet">
      <ul>
        {at.wet.map((w) => (
          <li key={`${w.task.stage}${w.task.zone}${w.task.layer}`}>{line(w)}.</li>
        ))}
      </ul>
    </Section>
  );
}

function LeftOut({ at }: { at: AtTheEasel }) {
  if (!at.left_out.length) return null;
  return (
    <Section title="No time is left for">
      <ul>
        {at.left_out.map((l) => (
          <li key={`${l.task.stage}${l.task.zone}${l.task.layer}`}>
            {l.title}, {minutesWord(l.minutes)}: {l.costs}.
          </li>
        ))}
      </ul>
    </Section>
  );
}
