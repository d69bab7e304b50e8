import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import { layerAliases } from "./layers.mjs";
import { offline } from "./offline.mjs";

export default defineConfig({
  output: "static",
  adapter: node({ mode: "standalone" }),
  integrations: [react(), offline()],
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    resolve: { alias: layerAliases },
    worker: { format: "es" },
    build: { target: "es2022" },
  },
});
