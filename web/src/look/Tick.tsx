import { chakra } from "@chakra-ui/react"
import { type ReactNode, useEffect, useState } from "react"

interface Props {
  checked: boolean
  /** Gives (a promise of) false where it could not be done. */
  onChange(checked: boolean): unknown
  children: ReactNode
}

/** A box to be ticked. It answers at once; what the server says comes after. */
export function Tick({ checked, onChange, children }: Props) {
  const [said, setSaid] = useState(checked)
  useEffect(() => setSaid(checked), [checked])
  const change = async (wanted: boolean) => {
    setSaid(wanted)
    if ((await onChange(wanted)) === false) setSaid(!wanted)
  }
  return (
    <chakra.label display="flex" gap="2" alignItems="baseline" fontSize="sm">
      <input type="checkbox" checked={said} onChange={(event) => void change(event.target.checked)} />
      {children}
    </chakra.label>
  )
}
