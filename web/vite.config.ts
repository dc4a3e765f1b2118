import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// The program serves what is built here; while developing, vite asks it for the API.
export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { outDir: "dist/app", emptyOutDir: true, target: "es2022", assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
