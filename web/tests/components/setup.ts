import "../spoken"
import { vi } from "vitest"

// Before the interface takes hold of it, so that each test answers for the server (`answerWith`).
vi.stubGlobal("fetch", vi.fn())
