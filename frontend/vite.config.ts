import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** Where the server finds the screens. */
export const SCREENS = "../backend/src/weary_cedar/api/static";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: SCREENS,
    emptyOutDir: true,
    assetsInlineLimit: 0,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8642" } },
});
