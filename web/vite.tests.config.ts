import { defineConfig } from "vite"
import { words } from "./words.ts"

// Bundles what the tests run in Node.js: npx vite build --config vite.tests.config.ts --outDir FOLDER
export default defineConfig({
  plugins: [words()],
  build: {
    ssr: true,
    target: "node20",
    emptyOutDir: true,
    rollupOptions: { input: ["tests/random_editing.ts", "tests/pictures.ts", "tests/anchors.ts"] },
  },
  ssr: { noExternal: true },
})
