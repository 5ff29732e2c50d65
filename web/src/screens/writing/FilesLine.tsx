/** What becomes of files on their way, told in one line above the foot while the Shelf, where all of it is, is away. */
import { Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { Act } from "../../look/Act"
import { FootLine } from "../../look/FootLine"
import type { Upload } from "../../look/UploadList"

interface Props {
  list: readonly Upload[]
  isTold: boolean
  onShelf(): void
}

export function FilesLine({ list, isTold, onShelf }: Props) {
  const told = list.filter(({ problem, told, choices }) => problem || told || choices.length)
  const onTheirWay = list.filter((each) => !told.includes(each))
  const sentences = [
    onTheirWay.length > 0 &&
      plural(onTheirWay.length, { one: "# file is on its way.", other: "# files are on their way." }),
    ...(told.length > 2
      ? [t`There is something to be told of ${told.length} files.`]
      : told.map(({ name, problem, told }) => `${name}: ${problem || told || t`what is it to be?`}`)),
  ].filter((each) => each !== false)
  return (
    <>
      {/* Always there, so that a screen reader hears what is put into it. */}
      <Text role="status" srOnly>
        {isTold && sentences.join(" ")}
      </Text>
      {isTold && sentences.length > 0 && (
        <FootLine aria-label={t`Files being added`}>
          <Text flex="1 1 16rem" color={told.some(({ problem }) => problem) ? "wrong" : undefined}>
            {sentences.join(" ")}
          </Text>
          <Act onPress={onShelf}>
            <Trans>See them on the Shelf</Trans>
          </Act>
        </FootLine>
      )}
    </>
  )
}
