import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

const backend = process.env.PINE_LADDER_BACKEND ?? "http://127.0.0.1:8000";

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: process.env.PINE_LADDER_DIST ?? "dist",
    manifest: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
  },
  server: { proxy: { "/api": backend } },
});
