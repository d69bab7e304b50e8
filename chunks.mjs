import { existsSync } from "node:fs";
import { join, relative, sep } from "node:path";
import { build } from "esbuild";
import { loadsQuietly, siteAliases } from "./layers.mjs";

/** What React itself needs to wake an island: every page loads it. */
const renderer = "node_modules/@astrojs/react/dist/client.js";

/** What the bundler itself adds. */
const isGlue = /^(commonjsHelpers|vite\/preload-helper)\.js$/;

/** What takes a person from station to station without loading the bench anew: the layout asks for it. */
const isRouter = /^node_modules\/astro\/dist\/(transitions|prefetch)\//;

/**
 * What every station loads becomes one file, and not thirty: small files know nothing of each other when they are compressed, and each is a
 * request. What a phone's page needs of it is a file of its own, so that the phone is sent no more than that.
 */
export const chunks = () => ({
  name: "chunks",
  hooks: {
    "astro:build:setup": async ({ vite, target }) => {
      if (target !== "client") return;
      const frame = await neededBy([renderer, "src/views/frame/index.ts"]);
      const phone = await neededBy([renderer, "src/views/pads/PadPage.tsx"]);
      vite.build.rollupOptions.output = {
        ...vite.build.rollupOptions.output,
        onlyExplicitManualChunks: true,
        manualChunks: (id) => {
          const path = pathOf(id);
          if (isGlue.test(path)) return "ground";
          if (isRouter.test(path)) return "frame";
          if (!frame.has(path)) return undefined;
          return phone.has(path) ? "ground" : "frame";
        },
      };
    },
  },
});

/** A module's path from the project's root, without the marks of the bundler. */
const pathOf = (id) => relative(process.cwd(), id.replace(/^\0/, "").replace(/\?.*$/, "")).split(sep).join("/");

/** The modules of which something is left when these are bundled without what they load when it is asked for. */
async function neededBy(entryPoints) {
  const { metafile } = await build({
    entryPoints,
    bundle: true,
    splitting: true,
    write: false,
    metafile: true,
    outdir: "dist",
    format: "esm",
    target: "es2022",
    jsx: "automatic",
    minifySyntax: true,
    define: { "process.env.NODE_ENV": '"production"' },
    alias: siteAliases,
    external: ["astro:*"],
    plugins: [later, quietly],
    logLevel: "error",
  });
  const needed = new Set();
  const seen = new Set();
  const follow = (name) => {
    if (seen.has(name)) return;
    seen.add(name);
    const output = metafile.outputs[name];
    for (const [path, { bytesInOutput }] of Object.entries(output?.inputs ?? {}))
      if (bytesInOutput > 0) needed.add(path);
    for (const { path, kind } of output?.imports ?? []) if (kind === "import-statement") follow(path);
  };
  for (const [name, { entryPoint }] of Object.entries(metafile.outputs))
    if (entryPoint && entryPoints.includes(entryPoint)) follow(name);
  return needed;
}

/** Leaves out what is loaded later: else what only that uses of a folder would count as needed, where the folder's face is needed. */
const later = {
  name: "later",
  setup({ onResolve }) {
    onResolve({ filter: /./ }, ({ kind, path }) => (kind === "dynamic-import" ? { path, external: true } : undefined));
  },
};

/** Tells esbuild what `loadsQuietly` tells the bundler of the site. */
const quietly = {
  name: "quietly",
  setup({ onResolve }) {
    onResolve({ filter: /^(@core\/|\.)/ }, ({ path, resolveDir }) => {
      const whole = path.startsWith("@core/") ? path.replace("@core", siteAliases["@core"]) : join(resolveDir, path);
      if (!loadsQuietly(whole)) return undefined;
      const found = [`${whole}.ts`, `${whole}.json`, join(whole, "index.ts"), whole].find((one) => existsSync(one));
      return { path: found, sideEffects: false };
    });
  },
};
