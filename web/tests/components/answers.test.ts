import { QueryClient, QueryObserver } from "@tanstack/react-query"
import { expect, test } from "vitest"
import { forget } from "../../src/api/answers"

test("a first answer that was on its way during an act is not taken for the one after it", async () => {
  const queries = new QueryClient()
  const answer: ((words: string) => void)[] = []
  const queryFn = () => new Promise<string>((done) => answer.push(done))
  const observer = new QueryObserver(queries, { queryKey: ["tree", "previews", 1], queryFn })
  const stop = observer.subscribe(() => {})
  expect(answer).toHaveLength(1)
  const anew = forget(queries, [["tree"]])
  answer[0]?.("from before")
  await expect.poll(() => answer.length).toBe(2)
  answer[1]?.("from after")
  await anew
  expect(observer.getCurrentResult().data).toBe("from after")
  expect(observer.getCurrentResult().error).toBeNull()
  stop()
})
