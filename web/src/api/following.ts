import type { JobView } from "./client";

/** Listens to long work until it ends; `stop` only stops listening. Rejects when nobody answers. */
export function followed(id: number, onProgress: (job: JobView) => void = () => {}) {
  const events = new EventSource(`/api/jobs/${id}/events`);
  const read = (e: MessageEvent<string>) => JSON.parse(e.data) as JobView;
  events.addEventListener("progress", (e) => onProgress(read(e)));
  const ended = new Promise<JobView>((done, fail) => {
    events.addEventListener("done", (e) => {
      events.close();
      done(read(e));
    });
    events.onerror = () => {
      events.close();
      fail(new Error("Lean Swatch does not answer. Start the work again once it does."));
    };
  });
  return { ended, stop: () => events.close() };
}
