import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Act } from "./Act"

/** A file on its way. */
export interface Upload {
  id: number
  name: string
  share: number
  problem: string
  /** What else there is to say of it. */
  told: string
  /** Whether it is over, and only stands here to be read. */
  done?: boolean
  /** Whether its turn has not come yet. */
  waits: boolean
  /** What may be done with the file, where that is for the author to say. */
  choices: { label: string; take(): void }[]
  cancel(): void
}

/** Whether nothing more will come of it: it is done, or refused for good. */
export const isOver = ({ problem, done, choices }: Upload) => done || (problem !== "" && choices.length === 0)

interface Props {
  uploads: { list: Upload[]; dismiss(id: number): void }
}

/** Files on their way into the library, with progress, and what could not be taken. */
export function UploadList({ uploads }: Props) {
  if (!uploads.list.length) return null
  const waiting = uploads.list.filter(({ waits }) => waits)
  return (
    <chakra.ul aria-label={t`Files being added`} listStyleType="none" pb="3">
      {uploads.list
        .filter(({ waits }) => !waits)
        .map((each) => (
          <chakra.li key={each.id} py="1">
            <HStack justifyContent="space-between" gap="2">
              <Text fontSize="sm" truncate>
                {each.name}
              </Text>
              <Button
                size="xs"
                variant="ghost"
                onClick={isOver(each) ? () => uploads.dismiss(each.id) : each.cancel}
              >
                {each.problem || each.done ? t`Dismiss` : t`Cancel`}
              </Button>
            </HStack>
            {each.problem && (
              <Text role="alert" fontSize="sm" color="wrong">
                {each.problem}
              </Text>
            )}
            {each.told && (
              <Text role="status" fontSize="sm" color={each.done ? "quiet" : "waits"}>
                {each.told}
              </Text>
            )}
            {each.choices.length > 0 ? (
              <HStack
                role="group"
                aria-label={t`What to do with ${each.name}`}
                gap="1"
                flexWrap="wrap"
                pt="1"
              >
                {each.choices.map(({ label, take }) => (
                  <Act key={label} onPress={take}>
                    {label}
                  </Act>
                ))}
              </HStack>
            ) : (
              !each.done &&
              !each.problem && (
                <chakra.progress
                  aria-label={t`Adding ${each.name}`}
                  w="full"
                  h="1.5"
                  max={1}
                  value={each.share}
                />
              )
            )}
          </chakra.li>
        ))}
      {waiting.length > 0 && (
        <chakra.li py="1">
          <HStack justifyContent="space-between" gap="2">
            <Text fontSize="sm" color="quiet">
              {plural(waiting.length, { one: "# more waits its turn", other: "# more wait their turn" })}
            </Text>
            <Button
              size="xs"
              variant="ghost"
              onClick={() => {
                for (const each of waiting) each.cancel()
              }}
            >
              {waiting.length === 1 ? t`Cancel it` : t`Cancel them`}
            </Button>
          </HStack>
        </chakra.li>
      )}
    </chakra.ul>
  )
}
