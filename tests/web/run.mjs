// Bundles one module of the front end and answers calls: reads {module, calls: [[name, ...arguments]]}, prints their results.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

const [web] = process.argv.slice(2);
const { rolldown } = await import(pathToFileURL(createRequire(join(web, "package.json")).resolve("rolldown")).href);
const { module, calls } = JSON.parse(readFileSync(0, "utf8"));
const bundle = await rolldown({ input: join(web, "src", module), resolve: { alias: { "@": join(web, "src") } }, logLevel: "silent" });
const { output } = await bundle.generate({ format: "esm" });
await bundle.close();
const found = await import(`data:text/javascript;base64,${Buffer.from(output[0].code).toString("base64")}`);
console.log(JSON.stringify(calls.map(([name, ...given]) => found[name](...given) ?? null)));
