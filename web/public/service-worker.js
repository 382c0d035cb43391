/*
 * Keeps the application on the device, so that it opens and moves between its screens without signal: the page, every
 * screen and its styles as they were built, and the answers that this person has read. What is written never passes
 * here: it waits in the queue of the page. Answers are forgotten when somebody signs in or out.
 */
const SHELL = "shell-";
const ANSWERS = "answers";
const MOST_ANSWERS = 400;
const PATIENCE_MS = 4000;

/** The files of the build, as the build has listed them; their names change with what is in them. */
async function built() {
  const response = await fetch("/shell.json", { cache: "no-store" });
  if (!response.ok) throw new Error("the list of files was not answered");
  const files = await response.json();
  const seen = await crypto.subtle.digest("SHA-256", new TextEncoder().encode(files.join()));
  const version = [...new Uint8Array(seen)].slice(0, 8).map((byte) => byte.toString(16).padStart(2, "0"));
  return { name: SHELL + version.join(""), files };
}

async function keepShell() {
  const { name, files } = await built();
  const shell = await caches.open(name);
  await shell.addAll(["/", ...files.map((file) => `/${file}`)]);
}

/** One build before the present one stays: a page that was opened with it still finds its screens. */
async function dropOldShells() {
  const names = (await caches.keys()).filter((name) => name.startsWith(SHELL));
  await Promise.all(names.slice(0, -2).map((name) => caches.delete(name)));
}

self.addEventListener("install", (event) => event.waitUntil(keepShell().then(() => self.skipWaiting())));
self.addEventListener("activate", (event) => event.waitUntil(dropOldShells().then(() => self.clients.claim())));

const late = () => new Promise((_, reject) => setTimeout(() => reject(new Error("no answer in time")), PATIENCE_MS));

/** The page: fresh where there is signal, else as it was kept; the address decides which screen it shows. */
async function page(request) {
  try {
    return await Promise.race([fetch(request), late()]);
  } catch (error) {
    const kept = await caches.match("/");
    if (kept) return kept;
    throw error;
  }
}

/** A file of the build never changes under its name. */
const file = async (request) => (await caches.match(request)) ?? fetch(request);

async function keepAnswer(request, response) {
  const answers = await caches.open(ANSWERS);
  await answers.put(request, response);
  const kept = await answers.keys();
  await Promise.all(kept.slice(0, Math.max(0, kept.length - MOST_ANSWERS)).map((one) => answers.delete(one)));
}

/** The question with the tag of the answer that is kept: where that is still so, the server sends nothing again. */
function unlessKept(request, kept) {
  const tag = kept?.headers.get("etag");
  if (!tag) return request;
  const headers = new Headers(request.headers);
  headers.set("if-none-match", tag);
  return new Request(request, { headers });
}

/** What was read, maps included: fresh where there is signal, else as it was answered last, marked as such. */
async function answer(event) {
  const { request } = event;
  const kept = await (await caches.open(ANSWERS)).match(request);
  try {
    const response = await fetch(unlessKept(request, kept));
    if (kept && response.status === 304) return kept;
    if (response.ok && /\bjson\b/.test(response.headers.get("content-type") ?? ""))
      event.waitUntil(keepAnswer(request, response.clone()));
    return response;
  } catch (error) {
    if (!kept) throw error;
    const headers = new Headers(kept.headers);
    headers.set("x-kept", "yes");
    return new Response(kept.body, { status: kept.status, headers });
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(page(request));
  else if (url.pathname.startsWith("/assets/")) event.respondWith(file(request));
  else event.respondWith(answer(event));
});
