import { Box, Button, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { type ReactNode, useEffect, useState } from "react"
import { ask, client, type Part } from "../../api/client"
import type { Saver } from "../../editor/saver"
import { type PageText, textOf, toEditor } from "../../editor/schema"
import type { Sheet } from "../../editor/sheet"
import { Act } from "../../look/Act"

interface Props {
  sheet: Sheet
  saver: Saver
  onClose(): void
}

type Side = "mine" | "theirs" | "both"
type Fact = "title" | "description"

const NAMES: Record<Side, string> = { mine: "Mine", theirs: "Theirs", both: "Both" }

/** A refused save: this text and the newer one, part by part. What only one side changed is chosen already. */
export function Choosing({ sheet, saver, onClose }: Props) {
  const { state } = saver.get()
  const newer = state.kind === "conflict" ? state.newer : null
  const [parts, setParts] = useState<Part[]>([])
  const [chosen, setChosen] = useState<Side[]>([])
  const [facts, setFacts] = useState<Record<Fact, Side>>({ title: "mine", description: "mine" })
  const [problem, setProblem] = useState("")
  const mine = textOf(sheet.state.doc)

  useEffect(() => {
    if (!newer) return
    const body = {
      base: textOf(saver.lastSaved).document,
      mine: textOf(sheet.state.doc).document,
      theirs: newer.document,
    }
    ask(client.POST("/api/compare", { body })).then(
      ({ parts: found }) => {
        setParts(found)
        setChosen(found.map(({ proposed }) => proposed ?? "mine"))
      },
      (error) => setProblem((error as Error).message),
    )
  }, [sheet, saver, newer])

  if (!newer)
    return (
      <Text fontSize="sm" pt="2">
        There is nothing to choose: the text is saved.
      </Text>
    )
  const take = () => {
    const content = parts.flatMap((part, index) => {
      const side = chosen[index] ?? "mine"
      return side === "both" ? [...part.theirs, ...part.mine] : part[side]
    })
    const text = {
      title: facts.title === "theirs" ? newer.title : mine.title,
      description: facts.description === "theirs" ? newer.description : mine.description,
      document: {
        ...mine.document,
        content: content.length ? content : [{ type: "paragraph" }],
      },
    }
    saver.settle(toEditor(text as unknown as PageText))
    onClose()
  }
  const differing = (["title", "description"] as const).filter((name) => mine[name] !== newer[name])
  return (
    <Stack gap="4" pt="1">
      <Heading as="h2" size="md" fontWeight="600" fontFamily="body">
        Mine or theirs
      </Heading>
      <Text fontSize="sm">
        {newer.saved_by} saved this page while you were writing. Choose for each part; the rest is the same in
        both texts. Undo brings your own text back.
      </Text>
      {problem && (
        <Text role="alert" fontSize="sm" color="wrong">
          {problem}
        </Text>
      )}
      {differing.map((name) => (
        <Pair
          key={name}
          label={name === "title" ? "The title" : "The description"}
          mine={<Text fontSize="sm">{mine[name] || "(none)"}</Text>}
          theirs={<Text fontSize="sm">{newer[name] || "(none)"}</Text>}
          sides={["mine", "theirs"]}
          side={facts[name]}
          onSide={(side) => setFacts({ ...facts, [name]: side })}
        />
      ))}
      {parts.map(
        (part, index) =>
          part.proposed && (
            <Pair
              // biome-ignore lint/suspicious/noArrayIndexKey: the list is made once and never reordered
              key={index}
              label={part.proposed === "both" ? "Both of you changed this" : "Only one of you changed this"}
              mine={<Blocks html={part.mine_html} />}
              theirs={<Blocks html={part.theirs_html} />}
              sides={["mine", "theirs", "both"]}
              side={chosen[index] ?? "mine"}
              onSide={(side) => setChosen(chosen.map((each, at) => (at === index ? side : each)))}
            />
          ),
      )}
      <HStack gap="1">
        <Button size="sm" onClick={take} disabled={!parts.length}>
          Go on with what is chosen
        </Button>
        <Button size="sm" variant="outline" onClick={onClose}>
          Not yet
        </Button>
      </HStack>
    </Stack>
  )
}

interface PairProps {
  label: string
  mine: ReactNode
  theirs: ReactNode
  sides: Side[]
  side: Side
  onSide(side: Side): void
}

function Pair({ label, mine, theirs, sides, side, onSide }: PairProps) {
  return (
    <Stack as="section" aria-label={label} gap="2" borderTopWidth="1px" borderColor="line" pt="2">
      <Text fontSize="sm" fontWeight="600">
        {label}
      </Text>
      {(["mine", "theirs"] as const).map((each) => (
        <Box
          key={each}
          borderLeft="3px solid"
          borderColor={side === each || side === "both" ? "press.solid" : "line"}
          pl="2"
        >
          <Text fontSize="xs" color="quiet">
            {NAMES[each]}
          </Text>
          {each === "mine" ? mine : theirs}
        </Box>
      ))}
      <HStack gap="1" role="group" aria-label={`${label}: keep`}>
        {sides.map((each) => (
          <Act key={each} pressed={side === each} onPress={() => onSide(each)}>
            {NAMES[each]}
          </Act>
        ))}
      </HStack>
    </Stack>
  )
}

/** Some blocks of a text, as the server renders them. */
function Blocks({ html }: { html: string }) {
  if (!html)
    return (
      <Text fontSize="sm" color="quiet">
        (nothing)
      </Text>
    )
  return (
    <Box
      fontSize="sm"
      maxH="14rem"
      overflowY="auto"
      tabIndex={0}
      role="group"
      aria-label="Text"
      css={{
        "& img": { maxWidth: "8rem", height: "auto" },
        "& p": { margin: "0 0 0.4em" },
        "& h2, & h3": { fontWeight: 600 },
        "& ul, & ol": { paddingLeft: "1.2em", listStyle: "revert" },
      }}
      // The server's own writer makes this HTML; nothing of it was typed as HTML.
      // biome-ignore lint/security/noDangerouslySetInnerHtml: see above
      dangerouslySetInnerHTML={{ __html: html }}
    />
  )
}
