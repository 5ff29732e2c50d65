import { defineConfig } from "vitest/config"
import { words } from "./words.ts"

// Components by themselves, without a server and without a browser: `tests/outside/test_components.py` runs them.
export default defineConfig({
  plugins: [words()],
  test: {
    include: ["tests/components/*.test.{ts,tsx}"],
    testTimeout: 60_000,
    environment: "happy-dom",
    environmentOptions: { happyDOM: { url: "http://localhost/" } },
    setupFiles: ["tests/components/setup.ts"],
  },
})
