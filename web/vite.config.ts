import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Lists the files of the build, for the device to keep: every screen, its styles and fonts. */
const shellList: Plugin = {
  name: "shell-list",
  generateBundle(_, bundle) {
    const files = Object.keys(bundle).filter((name) => name.startsWith("assets/"));
    this.emitFile({ type: "asset", fileName: "shell.json", source: JSON.stringify(files.sort()) });
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), shellList],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0, cssMinify: true },
});
