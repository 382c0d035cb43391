/** What the device keeps of the answers that a person has read, for when there is no signal. */
const ANSWERS = "answers";

/** Forgets it: whoever signs in or out, on this device somebody else may be next. */
export async function forgetAnswers(): Promise<void> {
  if ("caches" in window) await caches.delete(ANSWERS);
}
