import { lingui } from "@lingui/vite-plugin";
import optimizeLocales from "@react-aria/optimize-locales-plugin";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "/static/app/",
  plugins: [
    ...lingui({ macroTransform: true, failOnCompileError: true }),
    react(),
    { ...optimizeLocales.vite({ locales: ["en-US", "en-GB", "de-DE"] }), enforce: "pre" },
  ],
  build: {
    outDir: "dist/app",
    manifest: true,
    assetsInlineLimit: 0,
    sourcemap: false,
    rollupOptions: { input: "src/app/main.tsx" },
  },
});
