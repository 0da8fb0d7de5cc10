import tailwindcss from "@tailwindcss/vite";
import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vitest/config";

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [tailwindcss(), svelte()],
  resolve: {
    alias: { $lib: new URL("./src/lib", import.meta.url).pathname },
    // components are mounted in their tests, not rendered on a server
    ...(process.env["VITEST"] ? { conditions: ["browser"] } : {}),
  },
  build: { target: "es2022", assetsInlineLimit: 0, modulePreload: { polyfill: false }, chunkSizeWarningLimit: 900 },
  server: {
    host: "127.0.0.1",
    port: 5173,
    strictPort: true,
    // changeOrigin: false keeps the Host header, or Django's CSRF origin check answers 403
    proxy: { "/api": { target: "http://127.0.0.1:8000", changeOrigin: false } },
  },
  test: { include: ["src/**/*.test.ts"], setupFiles: ["src/mounted.ts"] },
}));
