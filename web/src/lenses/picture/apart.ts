type Spot = { x: number; y: number };

/** Rounds of pushing; a crowd that has not come apart by then is as well apart as its frame allows. */
const ROUNDS = 40;

/** Middles of round labels, each moved no further than it must so that none lies over another and all stay in the frame.
 * All lengths in one unit. */
export function apart(spots: Spot[], radius: number, width: number, height: number): Spot[] {
  const at = spots.map((s) => ({ ...s }));
  for (let round = 0; round < ROUNDS; round++) {
    let still = true;
    for (let i = 0; i < at.length; i++) {
      for (let j = i + 1; j < at.length; j++) {
        const [dx, dy] = [at[j].x - at[i].x, at[j].y - at[i].y];
        const far = Math.hypot(dx, dy);
        if (far >= 2 * radius) continue;
        still = false;
        // Two on one spot part sideways.
        const [ux, uy] = far > 0 ? [dx / far, dy / far] : [1, 0];
        const push = (2 * radius - far) / 2 + 0.01 * radius;
        at[i].x -= ux * push;
        at[i].y -= uy * push;
        at[j].x += ux * push;
        at[j].y += uy * push;
      }
    }
    for (const s of at) {
      s.x = Math.min(width - radius, Math.max(radius, s.x));
      s.y = Math.min(height - radius, Math.max(radius, s.y));
    }
    if (still) break;
  }
  return at;
}
