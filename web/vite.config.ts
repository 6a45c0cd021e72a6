import { randomBytes } from "node:crypto";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

/** Marks the page as ours: the service worker keeps no other as the shell. */
const build = {
  name: "jubark-build",
  transformIndexHtml: () => [
    {
      tag: "meta",
      attrs: { name: "jubark-build", content: randomBytes(4).toString("hex") },
      injectTo: "head" as const,
    },
  ],
};

// Django serves the build: index.html as a template that puts the nonce in, everything else as static files.
export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    build,
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      manifest: {
        name: "Jubark",
        short_name: "Jubark",
        display: "standalone",
        start_url: "/",
        background_color: "#f3eee2",
        theme_color: "#211f18",
        icons: [{ src: "/icon.svg", sizes: "any", type: "image/svg+xml" }],
      },
      injectManifest: {
        globPatterns: ["assets/**/*.{js,css,woff2}", "icon.svg"],
        maximumFileSizeToCacheInBytes: 4_000_000,
      },
    }),
  ],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  html: { cspNonce: "{{ CSP_NONCE }}" },
  worker: { format: "es" },
  build: { target: "es2022", chunkSizeWarningLimit: 1200 },
  test: { setupFiles: ["src/testing/setup.ts"], include: ["src/**/*.test.{ts,tsx}"] },
  server: { proxy: { "/api": "http://127.0.0.1:8417" } },
});
