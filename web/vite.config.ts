import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: { target: "es2022", chunkSizeWarningLimit: 900 },
  // The guide and its pictures lie beside the pages.
  server: { fs: { allow: [".."] }, proxy: { "/api": { target: "http://127.0.0.1:7436", headers: { origin: "http://127.0.0.1:7436" }, changeOrigin: true } } },
});
