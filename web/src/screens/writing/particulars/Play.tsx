import { Button } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"
import { useState } from "react"
import { PLAY } from "../../../editor/kinds/drawn"
import type { ShownProps } from "./parts"

/** Has it move on the sheet as it will for readers, until something else is selected. */
export function Play({ sheet, position }: Pick<ShownProps, "sheet" | "position">) {
  const [playing, setPlaying] = useState(false)
  const press = () => {
    const dom = sheet.view.nodeDOM(position)
    if (!dom) return
    dom.dispatchEvent(new CustomEvent(PLAY, { detail: !playing }))
    setPlaying(!playing)
  }
  return (
    <Button size="xs" variant="outline" alignSelf="flex-start" onClick={press}>
      {playing ? <Trans>Stop</Trans> : <Trans>Play on the sheet</Trans>}
    </Button>
  )
}
