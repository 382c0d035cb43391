import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { marked, type Token } from "marked";
import { defineConfig, type Plugin } from "vite";

/** Lists the files of the build, for the device to keep: every screen, its styles and fonts. */
const shellList: Plugin = {
  name: "shell-list",
  generateBundle(_, bundle) {
    const files = Object.keys(bundle).filter((name) => name.startsWith("assets/"));
    this.emitFile({ type: "asset", fileName: "shell.json", source: JSON.stringify(files.sort()) });
  },
};

/** A heading as an address: "Rate and interval" is #rate-and-interval. */
const slug = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/\(.*?\)/g, "")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/**
 * A method note of `docs/methods/`, imported as `NAME.md?note`: its title and its sections as HTML. Lines that name the
 * code are for those who read it.
 */
const methodNotes: Plugin = {
  name: "method-notes",
  async load(id) {
    if (!id.endsWith(".md?note")) return null;
    const file = id.slice(0, -"?note".length);
    this.addWatchFile(file);
    const sections: { id: string; heading: string; tokens: Token[] }[] = [{ id: "", heading: "", tokens: [] }];
    let title = basename(file, ".md");
    for (const token of marked.lexer(await readFile(file, "utf-8"))) {
      if (token.type === "heading" && token.depth === 1) title = String(token.text);
      else if (token.type === "heading" && token.depth === 2) {
        const heading = String(token.text).replace(/\s*\(`.*?\)$/, "");
        sections.push({ id: slug(heading), heading, tokens: [] });
      } else if (!token.raw.startsWith("Code:")) sections.at(-1)?.tokens.push(token);
    }
    const asHtml = sections.map(({ tokens, ...section }) => ({ ...section, html: marked.parser(tokens) }));
    const note = { title, sections: asHtml.filter((section) => section.html.trim() !== "") };
    return `export default ${JSON.stringify(note)};`;
  },
};

export default defineConfig({
  plugins: [methodNotes, react(), tailwindcss(), shellList],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0, cssMinify: true },
});
