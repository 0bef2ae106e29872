import { defineConfig, mergeConfig } from "vite";
import app from "./vite.config.ts";

/** Every part of the interface in every state, for who builds it; never served to a class. */
export default mergeConfig(
  app,
  defineConfig({
    root: "gallery",
    base: "./",
    publicDir: false,
    build: { outDir: "../../.run/gallery", emptyOutDir: true, manifest: false, rollupOptions: { input: "gallery/index.html" } },
  }),
);
