import { Button } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef } from "react"
import { FILES } from "../../document/rules"

/** Chooses files of this computer: pictures and documents go into the library and onto the page, texts onto the page. */
export function AddFiles({ onFiles }: { onFiles(files: File[]): void }) {
  const choose = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button size="sm" variant="outline" w="full" mb="3" onClick={() => choose.current?.click()}>
        <Trans>Add files from this computer</Trans>
      </Button>
      <input
        ref={choose}
        type="file"
        hidden
        multiple
        accept={`${FILES.library},${FILES.texts}`}
        aria-label={t`Files from this computer`}
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
    </>
  )
}
