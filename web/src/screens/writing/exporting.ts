import { t } from "@lingui/core/macro"
import { takeFile } from "../../api/client"
import type { Saver } from "../../editor/saver"

/** Export what is saved; whatever is on the sheet is saved first. Gives a sentence where that could not be. */
export async function exportPage(page: number, saver: Saver | null, ending: string): Promise<string> {
  await saver?.flush()
  if (saver?.get().state.kind !== "saved") return t`The text is not saved yet, so it cannot be exported.`
  try {
    await takeFile(`/api/pages/${page}/export/${ending}`)
    return ""
  } catch (error) {
    return (error as Error).message
  }
}
