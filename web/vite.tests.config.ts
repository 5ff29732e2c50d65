import { defineConfig } from "vite"

// Bundles what the tests run in Node.js: npx vite build --config vite.tests.config.ts --outDir FOLDER
export default defineConfig({
  build: { ssr: "tests/random_editing.ts", target: "node20", emptyOutDir: true },
  ssr: { noExternal: true },
})
