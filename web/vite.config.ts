import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

// At the ramp there may be no network: the program itself is kept in the browser, and of
// what it asks who one is and a trip's checklists. The network comes first where there is one.
const offline = VitePWA({
  injectRegister: false, // src/main.tsx registers it once the page stands
  manifest: false,
  registerType: "autoUpdate",
  workbox: {
    globPatterns: ["**/*.{js,css,html,woff2}"],
    globIgnores: ["**/*cyrillic*", "**/*greek*", "**/*vietnamese*"],
    navigateFallback: "index.html",
    navigateFallbackDenylist: [/^\/(api|healthz|readyz|metrics)/],
    skipWaiting: true,
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    runtimeCaching: [
      {
        urlPattern: /\/api\/(session|crews\/[^/]+\/trips\/[^/]+\/lists)$/,
        handler: "NetworkFirst",
        method: "GET",
        options: {
          cacheName: "ergasia-lists",
          networkTimeoutSeconds: 6,
          expiration: { maxEntries: 30, maxAgeSeconds: 14 * 24 * 3600 },
          cacheableResponse: { statuses: [200] },
        },
      },
    ],
  },
});

// The program serves what is built here; while developing, vite asks it for the API.
export default defineConfig({
  plugins: [react(), tailwindcss(), offline],
  build: { outDir: "dist/app", emptyOutDir: true, target: "es2022", assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
