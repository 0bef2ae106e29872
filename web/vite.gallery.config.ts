import { defineConfig, mergeConfig } from "vite";
import app from "./vite.config.ts";

/** Every part of the interface in every state, for who builds it; never served to a class. */
export default mergeConfig(
  app,
  defineConfig({
    root: "gallery",
    base: "./",
    publicDir: false,
    resolve: { alias: { "/src": new URL("src", import.meta.url).pathname } }, // the root is another one
    build: { outDir: "../../.run/gallery", emptyOutDir: true, manifest: false, rollupOptions: { input: "gallery/index.html" } },
  }),
);
