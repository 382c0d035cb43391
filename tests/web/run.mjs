// Bundles modules of the front end and answers calls, a line each: {module, calls: [[name, ...arguments]]} in, results out.
// What calls by themselves cannot show is a script that is given the module: {module, script} in, what it returns out.
import { createRequire } from "node:module";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { pathToFileURL } from "node:url";

const [web] = process.argv.slice(2);
const { rolldown } = await import(pathToFileURL(createRequire(join(web, "package.json")).resolve("rolldown")).href);
const loaded = new Map();
const AsyncFunction = (async () => {}).constructor;

async function load(module) {
  const bundle = await rolldown({ input: join(web, "src", module), resolve: { alias: { "@": join(web, "src") } }, logLevel: "silent" });
  const { output } = await bundle.generate({ format: "esm" });
  await bundle.close();
  return import(`data:text/javascript;base64,${Buffer.from(output[0].code).toString("base64")}`);
}

for await (const line of createInterface({ input: process.stdin })) {
  const { module, calls, script } = JSON.parse(line);
  if (!loaded.has(module)) loaded.set(module, await load(module));
  const found = loaded.get(module);
  if (script !== undefined) {
    console.log(JSON.stringify((await new AsyncFunction("module", script)(found)) ?? null));
    continue;
  }
  console.log(JSON.stringify(calls.map(([name, ...given]) => found[name](...given) ?? null)));
}
