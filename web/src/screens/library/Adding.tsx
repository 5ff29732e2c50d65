import { Button, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type FormEvent, useRef, useState } from "react"
import { FILES } from "../../document/rules"
import { Folded } from "../../look/Folded"
import { Recording } from "../../look/recording/Recording"
import { type Upload, UploadList } from "../../look/UploadList"

interface Props {
  uploads: { list: Upload[]; dismiss(id: number): void }
  onFiles(files: File[]): void
  onAddress(address: string): void
  /** Puts what was recorded into the library; whether it is there. */
  onRecorded(file: File): Promise<boolean>
  /** Opens the commons; undefined where there is none. */
  onCommons?(): void
}

/** Adds files to the library: from this computer, from an address, from the commons. Tells how far they are. */
export function Adding({ uploads, onFiles, onAddress, onRecorded, onCommons }: Props) {
  const choose = useRef<HTMLInputElement>(null)
  const [address, setAddress] = useState("")
  const take = (event: FormEvent) => {
    event.preventDefault()
    if (!address.trim()) return
    onAddress(address.trim())
    setAddress("")
  }
  return (
    <Stack
      as="section"
      aria-label={t`Add to the library`}
      gap="2"
      mt="4"
      pt="4"
      borderTopWidth="1px"
      borderColor="line"
    >
      <Button size="sm" variant="outline" onClick={() => choose.current?.click()}>
        <Trans>Add files</Trans>
      </Button>
      <Text fontSize="xs" color="quiet">
        <Trans>or drop them anywhere here, or paste them.</Trans>
      </Text>
      <input
        ref={choose}
        type="file"
        hidden
        multiple
        accept={FILES.library}
        aria-label={t`Files to add to the library`}
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])])
          event.target.value = ""
        }}
      />
      <form aria-label={t`Add by address`} onSubmit={take}>
        <Field.Root>
          <Field.Label>
            <Trans>Add from an address, or by the code of a film</Trans>
          </Field.Label>
          <HStack w="full">
            <Input
              size="sm"
              value={address}
              placeholder="https://…"
              _placeholder={{ color: "quiet" }}
              bg="paper"
              borderColor="edge"
              maxLength={20000}
              onChange={(event) => setAddress(event.target.value)}
            />
            <Button type="submit" size="sm" variant="outline">
              <Trans>Add</Trans>
            </Button>
          </HStack>
        </Field.Root>
      </form>
      {onCommons && (
        <Button size="sm" variant="outline" onClick={onCommons}>
          <Trans>Look in the commons</Trans>
        </Button>
      )}
      <Folded label={t`Record sound or film`}>
        <Recording onAdd={onRecorded} />
      </Folded>
      <UploadList uploads={uploads} />
    </Stack>
  )
}
