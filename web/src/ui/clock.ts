/** The moment, by the server's clock where this device's is wrong (or where a demo's day is fixed). */
let offsetMs = 0;
const TOLERATED_MS = 60_000;

export function setClock(serverNow: string): void {
  const ahead = Date.parse(serverNow) - Date.now();
  offsetMs = Math.abs(ahead) > TOLERATED_MS ? ahead : 0;
}

export function moment(): string {
  return new Date(Date.now() + offsetMs).toISOString();
}

/** When something was done, as it is recorded now: never later than now, even if the clock was set in between. */
export function notAfterNow(taken: string | null): string {
  const now = moment();
  return taken === null || taken > now ? now : taken;
}
