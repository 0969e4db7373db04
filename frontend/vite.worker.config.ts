import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { defineConfig } from "vite";
import { SCREENS } from "./vite.config.ts";

/** Everything that was built before: hashed names stay as they are, the page itself has a revision. */
const index = createHash("sha256")
  .update(readFileSync(`${SCREENS}/index.html`))
  .digest("hex");
const files = readdirSync(`${SCREENS}/assets`)
  .filter((name) => !name.endsWith(".png"))
  .map((name) => ({ url: `/assets/${name}`, revision: null }));

/** The worker that keeps screens and sheets on the device while the server is away. */
export default defineConfig({
  define: {
    FILES: JSON.stringify([{ url: "/index.html", revision: index }, ...files]),
    "process.env.NODE_ENV": '"production"',
  },
  publicDir: false,
  build: {
    outDir: SCREENS,
    emptyOutDir: false,
    lib: { entry: "worker/worker.ts", formats: ["iife"], name: "worker", fileName: () => "worker.js" },
  },
});
