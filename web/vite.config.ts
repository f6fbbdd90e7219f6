import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { version } from "./package.json";

/** The styles come after the page's first picture, which has its own few lines of them: on a slow link it is not waited for. */
const stylesLast: Plugin = {
  name: "styles-last",
  transformIndexHtml: {
    order: "post",
    handler: (html) => {
      const found = html.match(/\s*<link rel="stylesheet"[^>]*>/g) ?? [];
      return found.reduce((page, link) => page.replace(link, ""), html).replace("</body>", `${found.join("")}\n  </body>`);
    },
  },
};

export default defineConfig({
  plugins: [
    react(),
    stylesLast,
    tailwindcss(),
    VitePWA({
      registerType: "autoUpdate",
      injectRegister: false,
      manifest: {
        name: "Yoshi",
        short_name: "Yoshi",
        description: "Refrigerant charge, worked out, weighed in and proven",
        id: "/",
        start_url: "/",
        display: "standalone",
        background_color: "#f5f2eb",
        theme_color: "#f5f2eb",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/icon-maskable-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
          { src: "/mark.svg", sizes: "any", type: "image/svg+xml" },
        ],
        shortcuts: [
          { name: "Quick total", url: "/quick" },
          { name: "Go on", description: "The job touched last", url: "/on" },
        ],
        share_target: {
          action: "/open",
          method: "POST",
          enctype: "multipart/form-data",
          params: { files: [{ name: "file", accept: ["application/json", ".json"] }] },
        },
        file_handlers: [{ action: "/open", accept: { "application/json": [".json"] } }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        globIgnores: ["engine/**", "shared.js"],
        importScripts: ["/shared.js"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/engine/],
        // The engine is fetched by the page when the person wants it; here it is only handed out of its cache.
        runtimeCaching: [
          {
            urlPattern: /^https?:\/\/[^/]+\/engine\/[0-9a-f]+\//,
            handler: "CacheFirst",
            options: { cacheName: "yoshi-engine", plugins: [{ cacheWillUpdate: async () => null }] }, // the page puts it there, or nobody
          },
        ],
      },
    }),
  ],
  define: { __CORE_VERSION__: JSON.stringify(version) },
  worker: { format: "es" },
  build: { target: "es2022", sourcemap: false, assetsDir: "assets" },
});
