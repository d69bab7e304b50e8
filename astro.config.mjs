import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import { chunks } from "./chunks.mjs";
import { loadsQuietly, siteAliases } from "./layers.mjs";
import { offline } from "./offline.mjs";
import { serving } from "./serving.mjs";

const rollupOptions = { treeshake: { moduleSideEffects: (id) => !loadsQuietly(id) } };

export default defineConfig({
  output: "static",
  adapter: node({ mode: "middleware" }),
  integrations: [react(), chunks(), offline(), serving()],
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    resolve: { alias: siteAliases },
    worker: { format: "es", rollupOptions },
    build: { target: "es2022", rollupOptions },
  },
});
