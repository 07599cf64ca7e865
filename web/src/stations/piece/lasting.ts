/** Minutes in the words of the easel: minutes, hours, days. */
export function lasting(minutes: number): string {
  if (minutes < 90) return `${minutes} min`;
  if (minutes < 1440) return `${Math.round(minutes / 60)} h`;
  const days = Math.round(minutes / 1440);
  return days === 1 ? "a day" : `${days} days`;
}

/** Minutes of work in hours and minutes. */
export function minutesWord(minutes: number): string {
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  return [h && `${h} h`, (m || !h) && `${m} min`].filter(Boolean).join(" ");
}

/** A day as it is said here. */
export const dayWord = (on: string, style: "long" | "medium" = "medium") =>
  new Date(`${on}T12:00`).toLocaleDateString(undefined, { dateStyle: style });

/** A day with the name of the day of the week, short. */
export const shortDay = (on: string) =>
  new Date(`${on}T12:00`).toLocaleDateString(undefined, { weekday: "short", day: "numeric", month: "short" });

/** A sentence with its days as they are said here. */
export const withDays = (text: string) => text.replace(/\d{4}-\d{2}-\d{2}/g, (on) => dayWord(on));
