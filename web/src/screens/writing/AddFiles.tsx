import { Box, Button } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef } from "react"
import { FILES } from "../../document/rules"
import { Folded } from "../../look/Folded"
import { Recording } from "../../look/recording/Recording"

interface Props {
  onFiles(files: File[]): void
  /** Puts what was recorded into the library and at the caret; whether it is there. */
  onRecorded(file: File): Promise<boolean>
}

/** Chooses files of this computer: pictures and documents go into the library and onto the page, texts onto the page. */
export function AddFiles({ onFiles, onRecorded }: Props) {
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
      <Box mb="3">
        <Folded label={t`Record sound or film`}>
          <Recording onAdd={onRecorded} />
        </Folded>
      </Box>
    </>
  )
}
