import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import { layerAliases } from "./layers.mjs";
import { offline } from "./offline.mjs";
import { serving } from "./serving.mjs";

export default defineConfig({
  output: "static",
  adapter: node({ mode: "middleware" }),
  integrations: [react(), offline(), serving()],
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    resolve: { alias: layerAliases },
    worker: { format: "es" },
    build: { target: "es2022" },
  },
});
