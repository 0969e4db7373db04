import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The page of a pocket file: one script and one style, fonts inside; the server fills in the sheets. */
export default defineConfig({
  plugins: [react(), tailwindcss()],
  define: { "process.env.NODE_ENV": '"production"' },
  publicDir: false,
  build: {
    outDir: "../backend/src/weary_cedar/formats/page",
    emptyOutDir: true,
    assetsInlineLimit: Number.MAX_SAFE_INTEGER,
    lib: {
      entry: "src/pocket/main.tsx",
      formats: ["iife"],
      name: "pocket",
      fileName: () => "pocket.js",
      cssFileName: "pocket",
    },
  },
});
