import { type DragEvent, useState } from "react"

/** What a place needs to take files that are dropped on it, and whether some are being held over it. */
export function useDrop(onFiles: (files: File[]) => void) {
  const [over, setOver] = useState(false)
  const takes = {
    onDragOver: (event: DragEvent) => {
      event.preventDefault()
      setOver(true)
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      event.preventDefault()
      setOver(false)
      onFiles([...event.dataTransfer.files])
    },
  }
  return { over, takes }
}
