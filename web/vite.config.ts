import { basename, resolve } from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

const backend = process.env.PINE_LADDER_BACKEND ?? "http://127.0.0.1:8000";

/** In development as when served: a wall has a page of its own. */
const wallPage: Plugin = {
  name: "wall-page",
  configureServer(server) {
    server.middlewares.use((request, _answer, next) => {
      if (request.url?.startsWith("/wall/")) request.url = "/wall.html";
      next();
    });
  },
};

/** Styles come beside the scripts, not before them: the shell of the page is seen without. */
const shellFirst: Plugin = {
  name: "shell-first",
  transformIndexHtml: {
    order: "post",
    handler: (html, page) =>
      page.path.endsWith("/index.html")
        ? html.replaceAll('<link rel="stylesheet"', '<link rel="preload" as="style"')
        : html,
  },
};

export default defineConfig({
  // Addresses count from the page's base, which the server says: it may be under a path of its host.
  base: "./",
  plugins: [
    react(),
    wallPage,
    shellFirst,
    VitePWA({
      // A new version waits until the last page of the old one is closed: nothing goes missing
      // under a page that is open.
      registerType: "prompt",
      injectRegister: null,
      manifest: {
        name: "Pine Ladder",
        short_name: "Pine Ladder",
        description: "Write, time, run, score and compare the sessions of a gym.",
        start_url: "./",
        display: "standalone",
        background_color: "#f7f5ef",
        theme_color: "#12261f",
        icons: [{ src: "icon.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: "index.html",
        navigateFallbackDenylist: [/\/api\//, /\/wall\//],
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) =>
              request.mode === "navigate" && /\/wall\//.test(url.pathname),
            handler: "NetworkFirst",
          },
        ],
      },
    }),
  ],
  // A class is called by its component, in the page as in the source.
  css: {
    modules: {
      localsConvention: "camelCaseOnly",
      generateScopedName: (name, file) => `${basename(file).split(".")[0]}_${name}`,
    },
  },
  build: {
    outDir: process.env.PINE_LADDER_DIST ?? "dist",
    manifest: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      input: {
        index: resolve(import.meta.dirname, "index.html"),
        wall: resolve(import.meta.dirname, "wall.html"),
      },
    },
  },
  // The page keeps its own host: who signs in from another is refused.
  server: { proxy: { "/api": { target: backend, changeOrigin: false } } },
});
