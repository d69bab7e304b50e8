import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import { layerAliases } from "./layers.mjs";
import { offline } from "./offline.mjs";
import { serving } from "./serving.mjs";

/** Loading a module of core does nothing but define what it gives: so a page gets of a folder only what it uses, and none of the packages behind the rest. */
const rollupOptions = { treeshake: { moduleSideEffects: (id) => !/\/src\/core\//.test(id) } };

export default defineConfig({
  output: "static",
  adapter: node({ mode: "middleware" }),
  integrations: [react(), offline(), serving()],
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    resolve: { alias: layerAliases },
    worker: { format: "es", rollupOptions },
    build: { target: "es2022", rollupOptions },
  },
});
