import { QueryClient, QueryObserver } from "@tanstack/react-query"
import { expect, test } from "vitest"
import { forget, lookAgain } from "../../src/api/answers"

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

test("looking again never breaks off what takes longer to come than one waits before looking again", async () => {
  const queries = new QueryClient()
  let asked = 0
  let answer: (words: string) => void = () => {}
  const queryFn = () => {
    asked += 1
    return new Promise<string>((done) => {
      answer = done
    })
  }
  const observer = new QueryObserver(queries, { queryKey: ["library", 1], queryFn })
  const stop = observer.subscribe(() => {})
  answer("first")
  await expect.poll(() => observer.getCurrentResult().data).toBe("first")
  for (let times = 0; times < 3; times++) {
    lookAgain(queries, [["library"]])
    await Promise.resolve()
  }
  expect(asked).toBe(2)
  answer("second")
  await expect.poll(() => observer.getCurrentResult().data).toBe("second")
  stop()
})
