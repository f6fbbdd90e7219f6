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
        start_url: "/",
        display: "standalone",
        background_color: "#f5f2eb",
        theme_color: "#f5f2eb",
        icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        globIgnores: ["engine/**"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/engine/],
        // The engine is fetched by the page when the person wants it; here it is only handed out of its cache.
        runtimeCaching: [
          { urlPattern: /^https?:\/\/[^/]+\/engine\/[0-9a-f]+\//, handler: "CacheFirst", options: { cacheName: "yoshi-engine" } },
        ],
      },
    }),
  ],
  define: { __CORE_VERSION__: JSON.stringify(version) },
  worker: { format: "es" },
  build: { target: "es2022", sourcemap: false, assetsDir: "assets" },
});
